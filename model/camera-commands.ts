// Commands on the working Setup: moving, the trail, recalling, putting back.
import { ok, refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import type { CameraChanges, Command, Stamp } from './command-types.ts'
import {
  CAMERA_PARTS,
  getPart,
  isCameraPart,
  keptNames,
  mergeParts,
  PART_TABLE,
  partLabel,
  PARTS,
  pickParts,
  sameJson,
  withPart,
  type EditPart,
  type KeptParts,
  type PartName,
  type PartValue,
  type Setup,
} from './parts.ts'
import { findViewpoint, changedParts, putBackParts, sourceOf, wouldLose } from './recalled.ts'
import { LABEL_LIMIT, type LeftBehind, type ProjectDocument, type Sources, type TrailStep } from './schema.ts'

/** Longest trail kept; the oldest steps go first. */
export const TRAIL_LIMIT = 200
export const LEFT_BEHIND_LIMIT = 40

const only = (sources: Sources, parts: readonly PartName[]): Sources =>
  Object.fromEntries(parts.flatMap((p) => (sources[p] === undefined ? [] : [[p, sources[p]]]))) as Sources

/** What a step of the trail remembers of a document. */
export const stepOf = (doc: ProjectDocument, label: string): TrailStep => ({
  stand: doc.working.stand,
  lens: doc.working.lens,
  frame: doc.working.frame,
  recalledId: doc.recalledId,
  sources: only(doc.sources, CAMERA_PARTS),
  label: label.slice(0, LABEL_LIMIT),
})

/**
 * The document with a new step after the present one; what lay ahead is dropped, as in a browser. A step that `joins` takes the place
 * of the trail's last where that has its label.
 */
function stepped(doc: ProjectDocument, label: string, joins = false): ProjectDocument {
  const { steps: all, at } = doc.trail
  const joined = joins && at > 0 && at === all.length - 1 && all[at]!.label === label
  const before = all.slice(0, joined ? at : at + 1)
  const steps = [...before, stepOf(doc, label)].slice(-TRAIL_LIMIT)
  return { ...doc, trail: { steps, at: steps.length - 1 } }
}

/** Puts the whole working Setup on the left-behind list when `next` would lose something that no viewpoint keeps. */
function leaving(doc: ProjectDocument, next: KeptParts, stamp: Stamp): ProjectDocument {
  if (!wouldLose(doc, next)) return doc
  const from = sourceOf(doc, 'stand') ?? findViewpoint(doc, doc.recalledId)
  const entry: LeftBehind = {
    id: stamp.id,
    at: stamp.at,
    setup: doc.working,
    fromId: from?.id ?? null,
    fromName: from?.name ?? null,
  }
  const rest = doc.leftBehind.filter((l) => !sameJson(l.setup, doc.working))
  return { ...doc, leftBehind: [entry, ...rest].slice(0, LEFT_BEHIND_LIMIT) }
}

interface Adopted {
  readonly document: ProjectDocument
  readonly edit: boolean
  readonly held: PartName[]
  readonly taken: PartName[]
}
/** Merges parts into the working Setup, locks respected. */
function adopted(doc: ProjectDocument, parts: KeptParts): Adopted {
  const names = keptNames(parts)
  const held = names.filter((p) => doc.locked.includes(p) && !sameJson(getPart(doc.working, p), parts[p]))
  const taken = names.filter((p) => !held.includes(p))
  const working = mergeParts(doc.working, parts, taken)
  const edit = PARTS.some((p) => !isCameraPart(p) && getPart(working, p) !== getPart(doc.working, p))
  return { document: working === doc.working ? doc : { ...doc, working }, edit, held, taken }
}

const unknownViewpoint = () => refused('unknown-viewpoint', 'This viewpoint no longer exists.')

export function recall(
  doc: ProjectDocument,
  command: Extract<Command, { type: 'recall' }>,
): Result<Applied, CommandReason> {
  const vp = findViewpoint(doc, command.viewpointId)
  if (!vp) return unknownViewpoint()
  const parts = Object.fromEntries(
    keptNames(vp.parts).flatMap((p) => (command.only && !command.only.includes(p) ? [] : [[p, vp.parts[p]]])),
  ) as KeptParts
  const { document, edit, held, taken } = adopted(leaving(doc, parts, command.stamp), parts)
  const sources: Sources = { ...document.sources }
  for (const p of taken) sources[p] = vp.id
  const settled = document.settled ?? document.working
  return ok({ document: stepped({ ...document, sources, settled, recalledId: vp.id }, vp.name), edit, held })
}

export function takeBack(
  doc: ProjectDocument,
  command: Extract<Command, { type: 'takeBack' }>,
): Result<Applied, CommandReason> {
  const left = doc.leftBehind.find((l) => l.id === command.leftBehindId)
  if (!left) return refused('unknown-framing', 'This framing is no longer in the list.')
  const parts = pickParts(left.setup, PARTS)
  const parted = leaving(doc, parts, command.stamp)
  const rest = { ...parted, leftBehind: parted.leftBehind.filter((l) => l.id !== left.id) }
  const { document, edit, held, taken } = adopted(rest, parts)
  // it is a changed form of what it was left from
  const from = findViewpoint(doc, left.fromId)
  const sources: Sources = { ...document.sources }
  for (const p of taken)
    if (from && from.parts[p] !== undefined) sources[p] = from.id
    else delete sources[p]
  const label = `Taken back: ${left.fromName ?? 'framing'}`
  return ok({ document: stepped({ ...document, sources, recalledId: from?.id ?? null }, label), edit, held })
}

export function putBack(doc: ProjectDocument, parts: readonly PartName[]): Result<Applied, CommandReason> {
  const names = changedParts(doc).filter((p) => parts.includes(p))
  if (names.length === 0) return refused('nothing', 'Nothing differs from the viewpoint.')
  const { document, edit, held } = adopted(doc, putBackParts(doc, names))
  const name = (sourceOf(doc, names[0]!) ?? findViewpoint(doc, doc.recalledId))?.name
  return ok({ document: stepped(document, `Back to ${name ?? 'what was settled'}`), edit, held })
}

export function setPart(
  doc: ProjectDocument,
  part: EditPart,
  value: PartValue<EditPart>,
): Result<Applied, CommandReason> {
  if (!(part in PART_TABLE) || isCameraPart(part)) return refused('out-of-range', 'There is no such part.')
  if (doc.locked.includes(part)) return refused('locked', 'This part is locked. Unlock it to change it.')
  return edited({ ...doc, working: withPart(doc.working, part, value) })
}

export function moveCamera(
  doc: ProjectDocument,
  changes: CameraChanges,
  label: string,
  joins = false,
): Result<Applied, CommandReason> {
  const names = CAMERA_PARTS.filter((p) => changes[p] !== undefined && !sameJson(changes[p], doc.working[p]))
  if (names.length === 0) return refused('nothing', 'The camera is already there.')
  const held = names.filter((p) => doc.locked.includes(p))
  if (held.length > 0)
    return refused(
      'locked',
      `${held.map(partLabel).join(' and ')} ${held.length > 1 ? 'are' : 'is'} locked. Unlock to change.`,
    )
  const working = { ...doc.working, ...Object.fromEntries(names.map((p) => [p, changes[p]])) } as Setup
  return ok({ document: stepped({ ...doc, working }, label, joins), edit: false, held: [] })
}

export function trailTo(doc: ProjectDocument, at: number): Result<Applied, CommandReason> {
  const step = doc.trail.steps[at]
  if (!step || at === doc.trail.at) return refused('nothing', 'The trail ends here.')
  const held = CAMERA_PARTS.filter((p) => doc.locked.includes(p) && !sameJson(doc.working[p], step[p]))
  const { stand, lens, frame } = step
  const unlocked = CAMERA_PARTS.filter((p) => !held.includes(p))
  const working = mergeParts(doc.working, { stand, lens, frame }, unlocked)
  const others = PARTS.filter((p) => !(unlocked as readonly PartName[]).includes(p))
  const sources: Sources = { ...only(doc.sources, others), ...only(step.sources, unlocked) }
  return ok({
    document: { ...doc, working, sources, recalledId: step.recalledId, trail: { ...doc.trail, at } },
    edit: false,
    held,
  })
}
