// Which cut face does a ray meet first?
// Model: each face's plane is crossed once; the crossing counts where it lies in the face. Space: metres of the scene.

import type { Ray } from '#core/camera'
import { addScaled, dot, sub } from '#core/math'
import { isInside, onAxes, type Contour } from '#core/section'
import type { CutFace } from './cut-faces.ts'
import type { Hit } from './types.ts'

/** The nearest face met from the removed side within `farM`; `nameOf` gives the objects' names. Linear in the faces' corners. */
export function faceHit(
  faces: readonly CutFace[],
  { origin, direction }: Ray,
  farM: number,
  nameOf: (id: string) => string,
): Hit | null {
  let best: Hit | null = null
  for (const f of faces) {
    const { normal } = f.axes
    const rate = dot(normal, direction)
    // seen from behind there is the solid itself
    if (rate >= 0) continue
    const distanceM = dot(normal, sub(f.axes.origin, origin)) / rate
    if (!(distanceM >= 0) || distanceM >= (best?.distanceM ?? farM)) continue
    const point = addScaled(origin, direction, distanceM)
    const [x, y] = onAxes(f.axes, point)
    if (!f.polygons.some((p) => holds(p.outer, x, y) && !p.holes.some((h) => holds(h, x, y)))) continue
    best = { point, normal, distanceM, nodeId: f.nodeId, nodeName: nameOf(f.nodeId) }
  }
  return best
}
const boxes = new WeakMap<Contour, readonly [number, number, number, number]>()
/** Whether a point lies within; most lie outside the box, which is made once. */
function holds(c: Contour, x: number, y: number): boolean {
  let box = boxes.get(c)
  if (!box) {
    const found: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
    for (let i = 0; i < c.length; i += 2) {
      found[0] = Math.min(found[0], c[i]!)
      found[1] = Math.min(found[1], c[i + 1]!)
      found[2] = Math.max(found[2], c[i]!)
      found[3] = Math.max(found[3], c[i + 1]!)
    }
    boxes.set(c, (box = found))
  }
  return x >= box[0] && x <= box[2] && y >= box[1] && y <= box[3] && isInside(c, x, y)
}
