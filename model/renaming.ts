// Object ids that changed with a newer file, in everything that names objects.
import type { KeptParts, Setup } from './parts.ts'
import type { ProjectDocument } from './schema.ts'

/** The setup (or kept parts) with object ids changed; what names none of them keeps its identity. */
function renamedIn<T extends KeptParts | Setup>(parts: T, renamed: Readonly<Record<string, string>>): T {
  let next = parts
  const { visible, stand, focus } = parts
  if (visible?.hidden.some((id) => renamed[id] !== undefined))
    next = { ...next, visible: { ...visible, hidden: [...new Set(visible.hidden.map((id) => renamed[id] ?? id))] } }
  if (stand?.aim.kind === 'object' && renamed[stand.aim.nodeId] !== undefined)
    next = { ...next, stand: { ...stand, aim: { ...stand.aim, nodeId: renamed[stand.aim.nodeId]! } } }
  if (focus?.mode.kind === 'object' && renamed[focus.mode.nodeId] !== undefined)
    next = { ...next, focus: { ...focus, mode: { ...focus.mode, nodeId: renamed[focus.mode.nodeId]! } } }
  return next
}

/** The list with `change` applied; the very same list when nothing in it changed. */
function mapped<T>(list: T[], change: (item: T) => T): T[] {
  const next = list.map(change)
  return next.every((item, i) => item === list[i]) ? list : next
}

export function withRenamed(doc: ProjectDocument, renamed: Readonly<Record<string, string>>): ProjectDocument {
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
  }
}

/** The ids that differ between two forms of one document, from those of `from` to those of `to`: read off what both name alike. */
export function renamesBetween(from: ProjectDocument, to: ProjectDocument): Readonly<Record<string, string>> {
  const found: Record<string, string> = {}
  const pair = (a: Setup['stand'] | undefined, b: Setup['stand'] | undefined): void => {
    if (a?.aim.kind === 'object' && b?.aim.kind === 'object' && a.aim.nodeId !== b.aim.nodeId)
      found[a.aim.nodeId] = b.aim.nodeId
  }
  pair(from.working.stand, to.working.stand)
  from.trail.steps.forEach((s, i) => pair(s.stand, to.trail.steps[i]?.stand))
  from.viewpoints.forEach((v, i) => pair(v.parts.stand, to.viewpoints[i]?.parts.stand))
  from.leftBehind.forEach((l, i) => pair(l.setup.stand, to.leftBehind[i]?.setup.stand))
  return found
}
