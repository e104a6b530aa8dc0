// How does a project change?
// Model: `applyCommand(document, command)` is the one door. Changes of stand, lens and frame are steps of the trail, all others
// are edits for undo; a recall or a put-back can be both. Ids and times come in with the command: this layer has no clock. What a
// command writes is checked by the schema of the parts it touched: nothing enters that could not be saved.

import { refused, type Result } from '#core/base'
import type { Applied, CommandReason } from './applied.ts'
import { moveCamera, passedThrough, putBack, recall, setPart, takeBack, trailTo } from './camera-commands.ts'
import type { Command } from './command-types.ts'
import { applyModelCommand } from './models.ts'
import type { ProjectDocument } from './schema.ts'
import { applySetCommand } from './set-commands.ts'
import { applyPhotoCommand } from './photos.ts'
import { applyReelCommand } from './reels.ts'
import { firstFault } from './validate.ts'
import { applyListCommand } from './viewpoint-commands.ts'

/** The changed document, or why nothing changed. Parts not named by the command keep their identity. */
export function applyCommand(doc: ProjectDocument, command: Command): Result<Applied, CommandReason> {
  const r = carriedOut(doc, command)
  if (!r.ok) return r
  const fault = firstFault(doc, r.value.document)
  return fault === null ? r : refused('out-of-range', fault)
}

function carriedOut(doc: ProjectDocument, command: Command): Result<Applied, CommandReason> {
  switch (command.type) {
    case 'moveCamera':
      return moveCamera(doc, command)
    case 'trailTo':
      return trailTo(doc, command.at, command.looked)
    case 'recall':
      return recall(doc, command)
    case 'takeBack':
      return takeBack(doc, command)
    case 'putBack':
      return putBack(doc, command)
    case 'passed':
      return passedThrough(doc, command)
    case 'setPart':
      return setPart(doc, command.part, command.value)
    case 'addModel':
    case 'removeModel':
    case 'placeModel':
    case 'moveObject':
    case 'replaceModel':
      return applyModelCommand(doc, command)
    case 'addSet':
    case 'changeSet':
    case 'deleteSet':
      return applySetCommand(doc, command)
    case 'addPhoto':
    case 'removePhoto':
    case 'changePhoto':
      return applyPhotoCommand(doc, command)
    case 'putReels':
    case 'removeShot':
    case 'removeReel':
    case 'putObjectState':
    case 'removeObjectState':
      return applyReelCommand(doc, command)
    default:
      return applyListCommand(doc, command)
  }
}
