// A small house drawn by the core's own projections: what a measured view shows, before it is chosen.
import { projectPoint, rayThrough, type Camera } from '#core/camera'
import { fitPoints, measuredDirection, type MeasuredView } from '#core/framing'
import type { Vec3 } from '#core/math'

const H: readonly Vec3[] = [
  [-1, -0.8, 0], [1, -0.8, 0], [1, 0.8, 0], [-1, 0.8, 0],
  [-1, -0.8, 1], [1, -0.8, 1], [1, 0.8, 1], [-1, 0.8, 1],
  [-1, 0, 1.6], [1, 0, 1.6],
] // prettier-ignore
/** Faces of the convex house, counterclockwise from outside, with a tone each; and its door, upon the south face. */
const FACES: readonly { readonly at: readonly number[]; readonly tone: number }[] = [
  { at: [0, 1, 5, 4], tone: 0.55 },
  { at: [2, 3, 7, 6], tone: 0.55 },
  { at: [1, 2, 6, 9, 5], tone: 0.3 },
  { at: [3, 0, 4, 8, 7], tone: 0.3 },
  { at: [4, 5, 9, 8], tone: 0.08 },
  { at: [6, 7, 8, 9], tone: 0.14 },
  { at: [0, 3, 2, 1], tone: 0.75 },
]
const DOOR: readonly Vec3[] = [[0.15, -0.8, 0], [0.55, -0.8, 0], [0.55, -0.8, 0.7], [0.15, -0.8, 0.7]] // prettier-ignore

export interface DiagramFace {
  readonly d: string
  readonly tone: number
}

/** Visible faces as paths in a square of `sizePx`. */
export function diagramOf(view: MeasuredView, sizePx: number): DiagramFace[] {
  const { pose, projection } = measuredDirection(view, 0)
  const camera: Camera = {
    pose: { ...pose, station: [0, 0, 0.6] },
    lens: {
      projection: projection(4),
      focalMm: 50,
      sensorMm: { width: 36, height: 36 },
      sensorUse: 'acrossWidth',
      riseMm: 0,
      crossMm: 0,
      distortion: null,
    },
    frame: { widthPx: sizePx, heightPx: sizePx, densityPpi: 96, guides: 'none' },
  }
  const r = fitPoints(camera, H, { margin: 0.06 })
  const fitted = r.ok ? r.value : camera
  const along = rayThrough(fitted, 0, 0)!.direction
  const path = (points: readonly Vec3[]): string =>
    `M${points
      .map((p) => projectPoint(fitted, p)!)
      .map((p) => `${p.xPx.toFixed(1)} ${p.yPx.toFixed(1)}`)
      .join('L')}Z`
  const faces = FACES.flatMap(({ at, tone }) => {
    const points = at.map((k) => H[k]!)
    const [a, b, c] = points as [Vec3, Vec3, Vec3]
    const [u, v] = [b.map((x, k) => x - a[k]!), c.map((x, k) => x - a[k]!)]
    const n = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!]
    const facing = n[0]! * along[0] + n[1]! * along[1] + n[2]! * along[2]
    return facing < -1e-9 ? [{ d: path(points), tone }] : []
  })
  const southSeen = -along[1] < -1e-9
  return southSeen ? [...faces, { d: path(DOOR), tone: 0.95 }] : faces
}
