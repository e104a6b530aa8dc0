// Commands on the working Setup: moving, the trail, recalling, putting back.
import { ok, refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import type { CameraChanges, Command } from './command-types.ts'
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
import type { LeftBehind, ProjectDocument, Sources } from './schema.ts'
import { only, passed, stepped, trailAt, withLeft, type Stamp, type Stepping } from './trail.ts'

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
  return withLeft(doc, [entry])
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
  const document_ = stepped({ ...document, sources, settled, recalledId: vp.id }, vp.name, command)
  return ok({ document: document_, edit, held })
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
  return ok({ document: stepped({ ...document, sources, recalledId: from?.id ?? null }, label, command), edit, held })
}

export function putBack(
  doc: ProjectDocument,
  { parts, ...how }: Extract<Command, { type: 'putBack' }>,
): Result<Applied, CommandReason> {
  const names = changedParts(doc).filter((p) => parts.includes(p))
  if (names.length === 0) return refused('nothing', 'Nothing differs from the viewpoint.')
  const { document, edit, held } = adopted(doc, putBackParts(doc, names))
  const name = (sourceOf(doc, names[0]!) ?? findViewpoint(doc, doc.recalledId))?.name
  return ok({ document: stepped(document, `Back to ${name ?? 'what was settled'}`, how), edit, held })
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
  { changes, label, ...how }: { changes: CameraChanges; label: string } & Stepping,
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
  return ok({ document: stepped({ ...doc, working }, label, how), edit: false, held: [] })
}

export function trailTo(doc: ProjectDocument, at: number, looked?: boolean): Result<Applied, CommandReason> {
  const step = doc.trail.steps[at]
  if (!step || at === doc.trail.at) return refused('nothing', 'The trail ends here.')
  const held = CAMERA_PARTS.filter((p) => doc.locked.includes(p) && !sameJson(doc.working[p], step[p]))
  const { stand, lens, frame } = step
  const unlocked = CAMERA_PARTS.filter((p) => !held.includes(p))
  const working = mergeParts(doc.working, { stand, lens, frame }, unlocked)
  const others = PARTS.filter((p) => !(unlocked as readonly PartName[]).includes(p))
  const sources: Sources = { ...only(doc.sources, others), ...only(step.sources, unlocked) }
  return ok({
    document: { ...doc, working, sources, recalledId: step.recalledId, trail: trailAt(doc, at, looked) },
    edit: false,
    held,
  })
}

/** A framing that was only passed through stays reachable in the trail's list. */
export const passedThrough = (
  doc: ProjectDocument,
  { camera, label }: Extract<Command, { type: 'passed' }>,
): Result<Applied, CommandReason> => ok({ document: passed(doc, camera, label), edit: false, held: [] })
