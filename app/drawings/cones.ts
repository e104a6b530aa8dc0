// The camera's cone as a strip sees it: the rays through the middles of two opposite picture edges.
import { rayThrough, type Camera } from '#core/camera'
import type { Vec3 } from '#core/math'

export interface ConeEdge {
  readonly x: number
  readonly y: number
  /** Unit direction on the strip. */
  readonly dx: number
  readonly dy: number
}
export interface Cone {
  readonly edges: readonly [ConeEdge, ConeEdge]
  readonly fill: string
  readonly lines: string
}
type ToPx = (p: Vec3) => { x: number; y: number }

/** Null where the picture has no edge rays (panoramas) or one looks straight along the strip's own direction. */
export function coneOf(camera: Camera, across: 'left-right' | 'top-bottom', toPx: ToPx, lengthPx: number): Cone | null {
  const { widthPx: w, heightPx: h } = camera.frame
  const ends = across === 'left-right' ? [[0, h / 2], [w, h / 2]] : [[w / 2, 0], [w / 2, h]] // prettier-ignore
  const edges = ends.map(([x, y]) => {
    const ray = rayThrough(camera, x!, y!)
    if (!ray) return null
    const from = toPx(ray.origin)
    const to = toPx([0, 1, 2].map((i) => ray.origin[i]! + ray.direction[i]!) as unknown as Vec3)
    const length = Math.hypot(to.x - from.x, to.y - from.y)
    if (length < 1e-6) return null
    return { x: from.x, y: from.y, dx: (to.x - from.x) / length, dy: (to.y - from.y) / length }
  })
  const [a, b] = edges
  if (!a || !b) return null
  const end = (e: ConeEdge): string => `${e.x + e.dx * lengthPx} ${e.y + e.dy * lengthPx}`
  return {
    edges: [a, b],
    fill: `M${a.x} ${a.y}L${end(a)}L${end(b)}L${b.x} ${b.y}Z`,
    lines: `M${end(a)}L${a.x} ${a.y}M${b.x} ${b.y}L${end(b)}`,
  }
}
/** Far enough to leave any strip. */
export const FAR_PX = 4000
