// The near cut of standing back belongs to its framing: a viewpoint that keeps no cut offers to leave it.
import { findViewpoint, type Command, type ProjectDocument, type Setup } from '#model'

/** The cut part with its near cut off, whoever made it. */
export function withoutNearCut(cut: Setup['cut']): Setup['cut'] {
  const { madeBy: _, ...near } = cut.near
  return { ...cut, near: { ...near, on: false } }
}

/** The cut part with all of its cuts off. */
export const withoutCuts = (cut: Setup['cut']): Setup['cut'] => ({
  ...withoutNearCut(cut),
  far: { ...cut.far, on: false },
  cuts: cut.cuts.map((c) => (c.on ? { ...c, on: false } : c)),
})

/** What is left on after a recall of a viewpoint that keeps no cut: what is said, and the cut part without it; null otherwise. */
export function cutLeftOn(
  doc: ProjectDocument,
  command: Command,
): { readonly text: string; readonly without: Setup['cut'] } | null {
  if (command.type !== 'recall') return null
  const vp = findViewpoint(doc, command.viewpointId)
  const { cut } = doc.working
  if (!vp || vp.parts.cut || cut.allOff) return null
  if (cut.near.on && cut.near.madeBy) {
    const text = `“${vp.name}” keeps no cut: the near cut of standing back still holds.`
    return { text, without: withoutNearCut(cut) }
  }
  // cuts that came with another viewpoint are its own
  const from = findViewpoint(doc, doc.sources.cut ?? null)
  if (!from || !cut.cuts.some((c) => c.on)) return null
  return { text: `“${vp.name}” keeps no cut: those of “${from.name}” still hold.`, without: withoutCuts(cut) }
}
