// Object ids that changed with a newer file, in everything that names objects.
import type { KeptParts, Setup } from './parts.ts'
import type { ShotPart } from './reel-schemas.ts'
import type { ObjectSet, ProjectDocument } from './schema.ts'

/** Object ids, old to new. */
export type Renames = Readonly<Record<string, string>>

/** The setup (or kept parts) with object ids changed; what names none of them keeps its identity. */
function renamedIn<T extends KeptParts | Setup>(parts: T, renamed: Renames): T {
  let next = parts
  const { visible, stand, focus } = parts
  if (visible?.hidden.some((id) => renamed[id] !== undefined))
    next = { ...next, visible: { ...visible, hidden: renamedNames(visible.hidden, renamed) } }
  if (stand?.aim.kind === 'object' && renamed[stand.aim.nodeId] !== undefined)
    next = { ...next, stand: { ...stand, aim: { ...stand.aim, nodeId: renamed[stand.aim.nodeId]! } } }
  if (focus?.mode.kind === 'object' && renamed[focus.mode.nodeId] !== undefined)
    next = { ...next, focus: { ...focus, mode: { ...focus.mode, nodeId: renamed[focus.mode.nodeId]! } } }
  return next
}

/** The list with `change` applied; the very same list when nothing in it changed. */
export function mapped<T>(list: T[], change: (item: T) => T): T[] {
  const next = list.map(change)
  return next.every((item, i) => item === list[i]) ? list : next
}

export function withRenamed(doc: ProjectDocument, renamed: Renames): ProjectDocument {
  if (Object.keys(renamed).length === 0) return doc
  const steps = mapped(doc.trail.steps, (s) => {
    if (s.stand.aim.kind !== 'object' || renamed[s.stand.aim.nodeId] === undefined) return s
    return { ...s, stand: { ...s.stand, aim: { ...s.stand.aim, nodeId: renamed[s.stand.aim.nodeId]! } } }
  })
  return {
    ...doc,
    working: renamedIn(doc.working, renamed),
    settled: doc.settled && renamedIn(doc.settled, renamed),
    viewpoints: mapped(doc.viewpoints, (v) => {
      const parts = renamedIn(v.parts, renamed)
      return parts === v.parts ? v : { ...v, parts }
    }),
    leftBehind: mapped(doc.leftBehind, (l) => {
      const setup = renamedIn(l.setup, renamed)
      return setup === l.setup ? l : { ...l, setup }
    }),
    trail: steps === doc.trail.steps ? doc.trail : { ...doc.trail, steps },
    ...(doc.people && { people: renamedNames(doc.people, renamed) }),
    ...(doc.objectStates && { objectStates: mapped(doc.objectStates, (s) => renamed[s.objectId] === undefined ? s : { ...s, objectId: renamed[s.objectId]! }) }), // prettier-ignore
    ...(doc.shots && { shots: mapped(doc.shots, (s) => renamedShot(s, renamed)) }),
    ...(doc.objectSets && { objectSets: mapped(doc.objectSets, (s) => renamedSet(s, renamed)) }),
  }
}
function renamedShot(shot: ShotPart, renamed: Renames): ShotPart {
  const watch = shot.watchId === undefined ? undefined : renamed[shot.watchId]
  const next = watch === undefined ? shot : { ...shot, watchId: watch }
  const at = next.kind === 'travel' && next.gaze.kind === 'object' ? renamed[next.gaze.objectId] : undefined
  return at === undefined || next.kind !== 'travel' ? next : { ...next, gaze: { kind: 'object', objectId: at } }
}
function renamedSet(set: ObjectSet, renamed: Renames): ObjectSet {
  const objects = renamedNames(set.objects, renamed)
  return objects === set.objects ? set : { ...set, objects }
}
function renamedNames(names: string[], renamed: Renames): string[] {
  if (!names.some((id) => renamed[id] !== undefined)) return names
  return [...new Set(names.map((id) => renamed[id] ?? id))]
}

/** The way back of renames. */
export const reversed = (renamed: Renames): Renames =>
  Object.fromEntries(Object.entries(renamed).map(([from, to]) => [to, from]))
