// How does a project change?
// Model: `applyCommand(document, command)` is the one door. Changes of stand, lens and frame are steps of the trail, all others
// are edits for undo; a recall or a put-back can be both. Ids and times come in with the command: this layer has no clock.

import { ok, refused, type Result } from '#core/base'
import {
  getPart,
  isCameraPart,
  keptNames,
  mergeParts,
  PARTS,
  pickParts,
  sameJson,
  withPart,
  type EditPart,
  type PartName,
  type PartValue,
} from './parts.ts'
import { applyModelCommand, type ModelCommand } from './models.ts'
import type { KeptParts, LeftBehind, ProjectDocument, Setup, TrailStep, Viewpoint } from './schema.ts'

export interface CameraChanges {
  readonly stand?: Setup['stand'] | undefined
  readonly lens?: Setup['lens'] | undefined
  readonly frame?: Setup['frame'] | undefined
}
/** What a left-behind entry is stamped with, should this command leave a framing. */
export interface Stamp {
  readonly id: string
  readonly at: string
}

export type Command =
  // camera moves: the trail
  | { type: 'moveCamera'; changes: CameraChanges; label: string }
  | { type: 'trailTo'; at: number }
  // recall and put back: the trail, and edits where other parts change
  | { type: 'recall'; viewpointId: string; only?: readonly PartName[]; stamp: Stamp }
  | { type: 'takeBack'; leftBehindId: string; stamp: Stamp }
  | { type: 'putBack'; parts: readonly PartName[] }
  // edits
  | { type: 'setPart'; part: EditPart; value: PartValue<EditPart> }
  | { type: 'keep'; viewpointId: string; parts: readonly PartName[] }
  | { type: 'keepAsNew'; id: string; name: string; parts: readonly PartName[] }
  | { type: 'renameViewpoint'; viewpointId: string; name: string }
  | { type: 'deleteViewpoint'; viewpointId: string }
  | { type: 'duplicateViewpoint'; viewpointId: string; id: string }
  | { type: 'orderViewpoints'; ids: readonly string[] }
  | { type: 'lockViewpoint'; viewpointId: string; locked: boolean }
  | { type: 'lockPart'; part: PartName; locked: boolean }
  | { type: 'dropLeftBehind'; leftBehindId: string }
  | {
      type: 'setProject'
      changes: Partial<Pick<ProjectDocument, 'name' | 'unit' | 'subject' | 'eyeHeightM' | 'planCutM'>>
    }
  | ModelCommand

export interface Applied {
  readonly document: ProjectDocument
  /** Whether undo should remember the document before. */
  readonly edit: boolean
  /** Parts that a lock kept as they were. */
  readonly held: readonly PartName[]
}
export type CommandReason =
  'unknown-model' | 'same-key' | 'unknown-viewpoint' | 'unknown-framing' | 'locked' | 'nothing' | 'empty-name' | 'order'

/** Longest trail kept; the oldest steps go first. */
export const TRAIL_LIMIT = 200
export const LEFT_BEHIND_LIMIT = 40

const stepOf = (setup: Setup, recalledId: string | null, label: string): TrailStep => ({
  stand: setup.stand,
  lens: setup.lens,
  frame: setup.frame,
  recalledId,
  label,
})

/** The trail with a new step after the present one; what lay ahead is dropped, as in a browser. */
function stepped(doc: ProjectDocument, working: Setup, recalledId: string | null, label: string): ProjectDocument {
  const before = doc.trail.steps.slice(0, doc.trail.at + 1)
  const steps = [...before, stepOf(working, recalledId, label)].slice(-TRAIL_LIMIT)
  return { ...doc, working, recalledId, trail: { steps, at: steps.length - 1 } }
}

export const findViewpoint = (doc: ProjectDocument, id: string | null): Viewpoint | undefined =>
  doc.viewpoints.find((v) => v.id === id)

/** The kept parts in which the working Setup differs from the viewpoint last recalled. */
export function changedParts(doc: ProjectDocument, working: Setup = doc.working): PartName[] {
  const vp = findViewpoint(doc, doc.recalledId)
  if (!vp) return []
  return keptNames(vp.parts).filter((p) => !sameJson(getPart(working, p), vp.parts[p]))
}

/** Whether leaving the working Setup would lose a framing that is kept nowhere. */
export function hasUnkept(doc: ProjectDocument): boolean {
  if (findViewpoint(doc, doc.recalledId)) return changedParts(doc).length > 0
  if (doc.trail.steps.length === 1) return false
  return !doc.viewpoints.some((v) => v.parts.stand && mergeParts(doc.working, v.parts) === doc.working)
}

/** Puts the whole working Setup on the left-behind list when it has changes that no viewpoint keeps. */
function leaving(doc: ProjectDocument, stamp: Stamp): ProjectDocument {
  if (!hasUnkept(doc)) return doc
  const entry: LeftBehind = {
    id: stamp.id,
    at: stamp.at,
    setup: doc.working,
    fromId: doc.recalledId,
    fromName: findViewpoint(doc, doc.recalledId)?.name ?? null,
  }
  const rest = doc.leftBehind.filter((l) => !sameJson(l.setup, doc.working))
  return { ...doc, leftBehind: [entry, ...rest].slice(0, LEFT_BEHIND_LIMIT) }
}

/** Merges kept parts into the working Setup, locks respected, as one step of the trail. */
function adopt(
  doc: ProjectDocument,
  parts: KeptParts,
  names: readonly PartName[],
  recalledId: string | null,
  label: string,
): Applied {
  const held = names.filter((p) => doc.locked.includes(p) && !sameJson(getPart(doc.working, p), parts[p]))
  const working = mergeParts(
    doc.working,
    parts,
    names.filter((p) => !held.includes(p)),
  )
  const edit = PARTS.some((p) => !isCameraPart(p) && getPart(working, p) !== getPart(doc.working, p))
  return { document: stepped(doc, working, recalledId, label), edit, held }
}

const edited = (document: ProjectDocument): Result<Applied, CommandReason> => ok({ document, edit: true, held: [] })

function mapViewpoint(
  doc: ProjectDocument,
  id: string,
  change: (v: Viewpoint) => Viewpoint,
): Result<Applied, CommandReason> {
  if (!findViewpoint(doc, id)) return unknownViewpoint()
  return edited({ ...doc, viewpoints: doc.viewpoints.map((v) => (v.id === id ? change(v) : v)) })
}
const unknownViewpoint = () => refused('unknown-viewpoint', 'This viewpoint no longer exists.')
const lockedViewpoint = (v: Viewpoint) => refused('locked', `“${v.name}” is locked. Unlock it first to change it.`)

/** The changed document, or why nothing changed. Parts not named by the command keep their identity. */
export function applyCommand(doc: ProjectDocument, command: Command): Result<Applied, CommandReason> {
  switch (command.type) {
    case 'moveCamera':
      return moveCamera(doc, command.changes, command.label)
    case 'trailTo':
      return trailTo(doc, command.at)
    case 'recall': {
      const vp = findViewpoint(doc, command.viewpointId)
      if (!vp) return unknownViewpoint()
      const names = keptNames(vp.parts).filter((p) => !command.only || command.only.includes(p))
      return ok(adopt(leaving(doc, command.stamp), vp.parts, names, vp.id, vp.name))
    }
    case 'takeBack': {
      const left = doc.leftBehind.find((l) => l.id === command.leftBehindId)
      if (!left) return refused('unknown-framing', 'This framing is no longer in the list.')
      const parted = leaving(doc, command.stamp)
      const rest = { ...parted, leftBehind: parted.leftBehind.filter((l) => l.id !== left.id) }
      const from = findViewpoint(doc, left.fromId) ? left.fromId : null
      return ok(
        adopt(
          rest,
          pickParts(left.setup, PARTS),
          PARTS,
          from,
          `Taken back: ${left.fromName ?? 'framing'}`.slice(0, 120),
        ),
      )
    }
    case 'putBack': {
      const vp = findViewpoint(doc, doc.recalledId)
      if (!vp) return unknownViewpoint()
      const names = changedParts(doc).filter((p) => command.parts.includes(p))
      if (names.length === 0) return refused('nothing', 'Nothing differs from the viewpoint.')
      return ok(adopt(doc, vp.parts, names, vp.id, `Back to ${vp.name}`.slice(0, 120)))
    }
    case 'setPart':
      if (doc.locked.includes(command.part)) return refused('locked', 'This part is locked. Unlock it to change it.')
      return edited({ ...doc, working: withPart(doc.working, command.part, command.value) })
    default:
      return applyListCommand(doc, command)
  }
}

type ListCommand = Exclude<Command, { type: 'moveCamera' | 'trailTo' | 'recall' | 'takeBack' | 'putBack' | 'setPart' }>

/** Commands on the lists: viewpoints, left behind, locks, the project itself. All are edits. */
function applyListCommand(doc: ProjectDocument, command: ListCommand): Result<Applied, CommandReason> {
  switch (command.type) {
    case 'keep': {
      const vp = findViewpoint(doc, command.viewpointId)
      if (!vp) return unknownViewpoint()
      if (vp.locked) return lockedViewpoint(vp)
      if (command.parts.length === 0) return refused('nothing', 'Tick at least one part to keep.')
      const parts = { ...vp.parts, ...pickParts(doc.working, command.parts) }
      const kept = mapViewpoint(doc, vp.id, (v) => ({ ...v, parts }))
      return kept.ok ? edited(marked({ ...kept.value.document, recalledId: vp.id })) : kept
    }
    case 'keepAsNew': {
      if (command.parts.length === 0) return refused('nothing', 'Tick at least one part to keep.')
      const name = command.name.trim()
      if (!name) return refused('empty-name', 'Give the viewpoint a name.')
      const vp: Viewpoint = { id: command.id, name, locked: false, parts: pickParts(doc.working, command.parts) }
      const at = doc.viewpoints.findIndex((v) => v.id === doc.recalledId)
      const viewpoints = [...doc.viewpoints]
      viewpoints.splice(at < 0 ? viewpoints.length : at + 1, 0, vp)
      return edited(marked({ ...doc, viewpoints, recalledId: vp.id }))
    }
    case 'renameViewpoint': {
      const name = command.name.trim()
      if (!name) return refused('empty-name', 'Give the viewpoint a name.')
      return mapViewpoint(doc, command.viewpointId, (v) => ({ ...v, name }))
    }
    case 'deleteViewpoint': {
      const vp = findViewpoint(doc, command.viewpointId)
      if (!vp) return unknownViewpoint()
      if (vp.locked) return lockedViewpoint(vp)
      return edited({ ...doc, viewpoints: doc.viewpoints.filter((v) => v !== vp) })
    }
    case 'duplicateViewpoint': {
      const at = doc.viewpoints.findIndex((v) => v.id === command.viewpointId)
      const vp = doc.viewpoints[at]
      if (!vp) return unknownViewpoint()
      const viewpoints = [...doc.viewpoints]
      viewpoints.splice(at + 1, 0, { ...vp, id: command.id, name: `${vp.name} (2)`.slice(0, 200), locked: false })
      return edited({ ...doc, viewpoints })
    }
    case 'orderViewpoints': {
      const byId = new Map(doc.viewpoints.map((v) => [v.id, v]))
      const viewpoints = command.ids.flatMap((id) => byId.get(id) ?? [])
      if (viewpoints.length !== doc.viewpoints.length || new Set(command.ids).size !== command.ids.length)
        return refused('order', 'The order does not name every viewpoint once.')
      return edited({ ...doc, viewpoints })
    }
    case 'lockViewpoint':
      return mapViewpoint(doc, command.viewpointId, (v) => ({ ...v, locked: command.locked }))
    case 'lockPart': {
      const rest = doc.locked.filter((p) => p !== command.part)
      return edited({ ...doc, locked: command.locked ? [...rest, command.part] : rest })
    }
    case 'dropLeftBehind':
      return edited({ ...doc, leftBehind: doc.leftBehind.filter((l) => l.id !== command.leftBehindId) })
    case 'setProject': {
      if (command.changes.name !== undefined && !command.changes.name.trim())
        return refused('empty-name', 'Give the project a name.')
      return edited({ ...doc, ...command.changes })
    }
    case 'addModel':
    case 'removeModel':
    case 'placeModel':
    case 'moveObject':
    case 'replaceModel':
      return applyModelCommand(doc, command)
  }
}

/** The present trail step remembers which viewpoint it now belongs to. */
function marked(doc: ProjectDocument): ProjectDocument {
  const steps = doc.trail.steps.map((s, i) => (i === doc.trail.at ? { ...s, recalledId: doc.recalledId } : s))
  return { ...doc, trail: { ...doc.trail, steps } }
}

function moveCamera(doc: ProjectDocument, changes: CameraChanges, label: string): Result<Applied, CommandReason> {
  const names = (['stand', 'lens', 'frame'] as const).filter(
    (p) => changes[p] !== undefined && !sameJson(changes[p], doc.working[p]),
  )
  if (names.length === 0) return refused('nothing', 'The camera is already there.')
  const held = names.filter((p) => doc.locked.includes(p))
  if (held.length > 0)
    return refused(
      'locked',
      `${held.map(partLabel).join(' and ')} ${held.length > 1 ? 'are' : 'is'} locked. Unlock to change.`,
    )
  const working = { ...doc.working, ...Object.fromEntries(names.map((p) => [p, changes[p]])) } as Setup
  return ok({ document: stepped(doc, working, doc.recalledId, label), edit: false, held: [] })
}

function trailTo(doc: ProjectDocument, at: number): Result<Applied, CommandReason> {
  const step = doc.trail.steps[at]
  if (!step || at === doc.trail.at) return refused('nothing', 'The trail ends here.')
  const held = (['stand', 'lens', 'frame'] as const).filter(
    (p) => doc.locked.includes(p) && !sameJson(doc.working[p], step[p]),
  )
  const { stand, lens, frame } = step
  const free = (['stand', 'lens', 'frame'] as const).filter((p) => !held.includes(p))
  const working = mergeParts(doc.working, { stand, lens, frame }, free)
  return ok({
    document: { ...doc, working, recalledId: step.recalledId, trail: { ...doc.trail, at } },
    edit: false,
    held,
  })
}

export const partLabel = (p: PartName): string => {
  const short = p.replace('look.', '')
  return short.charAt(0).toUpperCase() + short.slice(1)
}
