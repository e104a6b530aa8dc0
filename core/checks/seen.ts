// Which things does the picture show?
// Model: what the check's rays met; a thing is met with whatever lies below it.
import type { CheckObject, Look } from './types.ts'

/** Whether an object found by a ray is the thing, or a part of it. */
export const isOf = ({ id }: CheckObject, nodeId: string): boolean => nodeId === id || nodeId.startsWith(`${id}/`)

/** The things that a ray of the grid meets, in the scene's order. */
export function seenObjects({ scene, grid }: Look): readonly CheckObject[] {
  const met = new Set(grid.flatMap((h) => (h ? [h.nodeId] : [])))
  // a lookup for most, and a walk through what was met for things with parts
  return scene.objects.filter((o) => met.has(o.id) || (o.isPerson && [...met].some((id) => isOf(o, id))))
}
