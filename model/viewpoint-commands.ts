// Commands on the lists: viewpoints, left behind, locks, the project itself. All are edits.
import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import { stepOf } from './trail.ts'
import type { Command } from './command-types.ts'
import type { ModelCommand } from './models.ts'
import { pickParts, type PartName } from './parts.ts'
import { findViewpoint, keepingPlan, withoutViewpoint, withSources } from './recalled.ts'
import type { PhotoCommand } from './photos.ts'
import type { ReelCommand } from './reels.ts'
import type { SetCommand } from './set-commands.ts'
import { NAME_LIMIT, type ProjectDocument, type Viewpoint } from './schema.ts'

export type ListCommand = Exclude<
  Command,
  | ModelCommand
  | SetCommand
  | PhotoCommand
  | ReelCommand
  | { type: 'moveCamera' | 'trailTo' | 'passed' | 'recall' | 'takeBack' | 'putBack' | 'setPart' }
>
type Changed = Result<Applied, CommandReason>

const unknownViewpoint = () => refused('unknown-viewpoint', 'This viewpoint no longer exists.')
const lockedViewpoint = (v: Viewpoint) => refused('locked', `“${v.name}” is locked. Unlock it first to change it.`)
const noPart = () => refused('nothing', 'Tick at least one part to keep.')
const noName = () => refused('empty-name', 'Give the viewpoint a name.')

export function applyListCommand(doc: ProjectDocument, command: ListCommand): Changed {
  switch (command.type) {
    case 'keep':
      return keep(doc, command.viewpointId, command.parts)
    case 'keepChanged':
      return keepChanged(doc, command.parts)
    case 'keepAsNew':
      return keepAsNew(doc, command)
    case 'renameViewpoint': {
      const name = command.name.trim()
      return name ? mapViewpoint(doc, command.viewpointId, (v) => ({ ...v, name })) : noName()
    }
    case 'deleteViewpoint': {
      const vp = findViewpoint(doc, command.viewpointId)
      if (!vp) return unknownViewpoint()
      if (vp.locked) return lockedViewpoint(vp)
      return edited({ ...withoutViewpoint(doc, vp), viewpoints: doc.viewpoints.filter((v) => v !== vp) })
    }
    case 'duplicateViewpoint':
      return duplicate(doc, command.viewpointId, command.id)
    case 'orderViewpoints':
      return order(doc, command.ids)
    case 'lockViewpoint':
      return mapViewpoint(doc, command.viewpointId, (v) => ({ ...v, locked: command.locked }))
    case 'lockPart': {
      const rest = doc.locked.filter((p) => p !== command.part)
      return edited({ ...doc, locked: command.locked ? [...rest, command.part] : rest })
    }
    case 'dropLeftBehind':
      return edited({ ...doc, leftBehind: doc.leftBehind.filter((l) => l.id !== command.leftBehindId) })
    case 'setProject':
      if (command.changes.name !== undefined && !command.changes.name.trim())
        return refused('empty-name', 'Give the project a name.')
      return edited({ ...doc, ...command.changes })
  }
}

function mapViewpoint(doc: ProjectDocument, id: string, change: (v: Viewpoint) => Viewpoint): Changed {
  if (!findViewpoint(doc, id)) return unknownViewpoint()
  return edited({ ...doc, viewpoints: doc.viewpoints.map((v) => (v.id === id ? change(v) : v)) })
}

/** Writes the working Setup's parts into a viewpoint, which is where they come from then. */
function written(doc: ProjectDocument, vp: Viewpoint, parts: readonly PartName[]): ProjectDocument {
  const kept = { ...vp, parts: { ...vp.parts, ...pickParts(doc.working, parts) } }
  return withSources({ ...doc, viewpoints: doc.viewpoints.map((v) => (v.id === vp.id ? kept : v)) }, parts, vp.id)
}

function keep(doc: ProjectDocument, id: string, parts: readonly PartName[]): Changed {
  const vp = findViewpoint(doc, id)
  if (!vp) return unknownViewpoint()
  if (vp.locked) return lockedViewpoint(vp)
  return parts.length === 0 ? noPart() : edited(marked(written(doc, vp, parts)))
}

function keepChanged(doc: ProjectDocument, parts: readonly PartName[]): Changed {
  const plan = keepingPlan(doc, parts)
  if (parts.length === 0) return noPart()
  if (plan.size === 0) return refused('unknown-viewpoint', 'No viewpoint was recalled: keep it as a new one.')
  const locked = [...plan.keys()].find((v) => v.locked)
  if (locked) return lockedViewpoint(locked)
  let next = doc
  for (const [vp, own] of plan) next = written(next, vp, own)
  return edited(marked({ ...next, recalledId: doc.recalledId ?? next.recalledId }))
}

function keepAsNew(doc: ProjectDocument, command: Extract<Command, { type: 'keepAsNew' }>): Changed {
  if (command.parts.length === 0) return noPart()
  const name = command.name.trim()
  if (!name) return noName()
  if (findViewpoint(doc, command.id)) return refused('order', 'There is a viewpoint of this id already.')
  const vp: Viewpoint = { id: command.id, name, locked: false, parts: pickParts(doc.working, command.parts) }
  const at = doc.viewpoints.findIndex((v) => v.id === doc.recalledId)
  const viewpoints = [...doc.viewpoints]
  viewpoints.splice(at < 0 ? viewpoints.length : at + 1, 0, vp)
  return edited(marked(withSources({ ...doc, viewpoints }, command.parts, vp.id)))
}

function duplicate(doc: ProjectDocument, from: string, id: string): Changed {
  const at = doc.viewpoints.findIndex((v) => v.id === from)
  const vp = doc.viewpoints[at]
  if (!vp) return unknownViewpoint()
  if (findViewpoint(doc, id)) return refused('order', 'There is a viewpoint of this id already.')
  const viewpoints = [...doc.viewpoints]
  const name = `${vp.name.slice(0, NAME_LIMIT - 4)} (2)`
  viewpoints.splice(at + 1, 0, { ...vp, id, name, locked: false })
  return edited({ ...doc, viewpoints })
}

function order(doc: ProjectDocument, ids: readonly string[]): Changed {
  const byId = new Map(doc.viewpoints.map((v) => [v.id, v]))
  const viewpoints = ids.flatMap((id) => byId.get(id) ?? [])
  if (viewpoints.length !== doc.viewpoints.length || new Set(ids).size !== ids.length)
    return refused('order', 'The order does not name every viewpoint once.')
  return edited({ ...doc, viewpoints })
}

/** The present trail step remembers where its parts now come from. */
function marked(doc: ProjectDocument): ProjectDocument {
  const steps = doc.trail.steps.map((s, i) => (i === doc.trail.at ? { ...s, ...comesFrom(doc) } : s))
  return { ...doc, trail: { ...doc.trail, steps } }
}
function comesFrom(doc: ProjectDocument) {
  const { recalledId, sources } = stepOf(doc, '')
  return { recalledId, sources }
}
