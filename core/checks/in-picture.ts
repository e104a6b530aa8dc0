// Where an object's box lies in the picture, as a convex polygon, and how much of it the frame takes.
import { projectPoint, type Camera } from '../camera/index.ts'
import { boxCorners, type Box } from '../math/index.ts'

type Px = readonly [number, number]

/** The outline of a box's corners in the picture; null where one of them has no picture. */
export function outlineOf(camera: Camera, box: Box): readonly Px[] | null {
  const at = boxCorners(box).map((c) => projectPoint(camera, c))
  if (at.some((p) => p === null)) return null
  return hull(at.map((p): Px => [p!.xPx, p!.yPx]))
}
/** Convex hull, counterclockwise in a picture whose y runs down (Andrew's monotone chain). */
function hull(points: readonly Px[]): readonly Px[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  const half = (list: readonly Px[]): Px[] => {
    const chain: Px[] = []
    for (const p of list) {
      while (chain.length > 1 && turn(chain.at(-2)!, chain.at(-1)!, p) <= 0) chain.pop()
      chain.push(p)
    }
    return chain.slice(0, -1)
  }
  return [...half(sorted), ...half([...sorted].reverse())]
}
const turn = (a: Px, b: Px, c: Px): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

export function areaOf(polygon: readonly Px[]): number {
  let sum = 0
  polygon.forEach(([x, y], i) => {
    const [u, v] = polygon[(i + 1) % polygon.length]!
    sum += x * v - u * y
  })
  return Math.abs(sum) / 2
}

/** The part of a convex polygon within the frame (Sutherland and Hodgman). */
export function clippedToFrame(polygon: readonly Px[], { widthPx: w, heightPx: h }: Camera['frame']): readonly Px[] {
  const sides: readonly ((p: Px) => number)[] = [(p) => p[0], (p) => w - p[0], (p) => p[1], (p) => h - p[1]]
  return sides.reduce<readonly Px[]>(
    (list, inside) =>
      list.flatMap((p, i) => {
        const q = list[(i + 1) % list.length]!
        const [a, b] = [inside(p), inside(q)]
        const t = a / (a - b)
        const cut: Px = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]
        return [...(a >= 0 ? [p] : []), ...(a >= 0 !== b >= 0 ? [cut] : [])]
      }),
    polygon,
  )
}
export interface Extent {
  readonly x0: number
  readonly x1: number
  readonly y0: number
  readonly y1: number
}
export const extentOf = (polygon: readonly Px[]): Extent => ({
  x0: Math.min(...polygon.map((p) => p[0])),
  x1: Math.max(...polygon.map((p) => p[0])),
  y0: Math.min(...polygon.map((p) => p[1])),
  y1: Math.max(...polygon.map((p) => p[1])),
})
