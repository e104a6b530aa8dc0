// What is each part of the working Setup compared with, and which differ?
// Model: recall is remembered part by part. A part that a viewpoint set is compared with what that viewpoint keeps of it; one that
// none set, with what it was when something was recalled or kept for the first time. So camera, visibility and light may come from
// three viewpoints, and a change to any of them is known until it is kept, put back or left.

import {
  getPart,
  keptNames,
  PARTS,
  sameJson,
  withPart,
  type KeptParts,
  type PartName,
  type PartValue,
  type Setup,
} from './parts.ts'
import type { ProjectDocument, Sources, Viewpoint } from './schema.ts'

export const findViewpoint = (
  doc: Pick<ProjectDocument, 'viewpoints'>,
  id: string | null | undefined,
): Viewpoint | undefined => (id ? doc.viewpoints.find((v) => v.id === id) : undefined)

/** The viewpoint that set a part last, if it still keeps it. */
export function sourceOf(doc: ProjectDocument, part: PartName): Viewpoint | undefined {
  const vp = findViewpoint(doc, doc.sources[part])
  return vp && vp.parts[part] !== undefined ? vp : undefined
}

/** What a part is compared with; undefined before anything was recalled or kept. */
export function referenceOf<P extends PartName>(doc: ProjectDocument, part: P): PartValue<P> | undefined {
  const vp = sourceOf(doc, part)
  if (vp) return vp.parts[part] as PartValue<P>
  return doc.settled ? getPart(doc.settled, part) : undefined
}

/** The parts in which the working Setup differs from what they are compared with. */
export function changedParts(doc: ProjectDocument, working: Setup = doc.working): PartName[] {
  return PARTS.filter((p) => {
    const reference = referenceOf(doc, p)
    return reference !== undefined && !sameJson(getPart(working, p), reference)
  })
}

/** Changed parts by the viewpoint they would be kept in: the one that set them, else the one last recalled. */
export function keepingPlan(doc: ProjectDocument, parts: readonly PartName[]): Map<Viewpoint, PartName[]> {
  const plan = new Map<Viewpoint, PartName[]>()
  const last = findViewpoint(doc, doc.recalledId)
  for (const p of parts) {
    const vp = sourceOf(doc, p) ?? last
    if (vp) plan.set(vp, [...(plan.get(vp) ?? []), p])
  }
  return plan
}

/** What the changed parts would be put back to. */
export const putBackParts = (doc: ProjectDocument, parts: readonly PartName[]): KeptParts =>
  Object.fromEntries(
    parts.flatMap((p) => {
      const reference = referenceOf(doc, p)
      return reference === undefined ? [] : [[p, reference]]
    }),
  ) as KeptParts

/** Whether putting `next` over the working Setup would lose something that is kept nowhere. */
export function wouldLose(doc: ProjectDocument, next: KeptParts): boolean {
  const overwritten = keptNames(next).filter((p) => !sameJson(getPart(doc.working, p), next[p]))
  if (overwritten.length === 0) return false
  if (doc.settled) return changedParts(doc).some((p) => overwritten.includes(p))
  // nothing was recalled yet: a framing that was moved to and that no viewpoint keeps
  if (doc.trail.steps.length === 1) return false
  return !doc.viewpoints.some(
    (v) => v.parts.stand && keptNames(v.parts).every((p) => sameJson(getPart(doc.working, p), v.parts[p])),
  )
}

/** The document with these parts known to come from a viewpoint. */
export function withSources(doc: ProjectDocument, parts: readonly PartName[], id: string): ProjectDocument {
  const sources: Sources = { ...doc.sources }
  for (const p of parts) sources[p] = id
  return { ...doc, sources, recalledId: id, settled: doc.settled ?? doc.working }
}

/**
 * A viewpoint goes: its parts are compared with what it kept of them from now on. Their sources still name it: an undo brings both
 * back together.
 */
export function withoutViewpoint(doc: ProjectDocument, vp: Viewpoint): ProjectDocument {
  const before = doc.settled
  if (!before) return doc
  let settled = before
  for (const p of PARTS) {
    const kept = doc.sources[p] === vp.id ? vp.parts[p] : undefined
    if (kept !== undefined && !sameJson(getPart(settled, p), kept)) settled = withPart(settled, p, kept as never)
  }
  return settled === before ? doc : { ...doc, settled }
}
