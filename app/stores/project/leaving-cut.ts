// The near cut of standing back belongs to its framing: a viewpoint that keeps no cut offers to leave it.
import { findViewpoint, type Command, type ProjectDocument, type Setup } from '#model'

/** The cut part with its near cut off, whoever made it. */
export function withoutNearCut(cut: Setup['cut']): Setup['cut'] {
  const { madeBy: _, ...near } = cut.near
  return { ...cut, near: { ...near, on: false } }
}

/** What is said after a recall that left the cut of standing back on, where the viewpoint keeps none; null otherwise. */
export function cutLeftOn(doc: ProjectDocument, command: Command): string | null {
  if (command.type !== 'recall') return null
  const vp = findViewpoint(doc, command.viewpointId)
  if (!vp || vp.parts.cut || !doc.working.cut.near.on || !doc.working.cut.near.madeBy) return null
  return `“${vp.name}” keeps no cut: the near cut of standing back still holds.`
}
