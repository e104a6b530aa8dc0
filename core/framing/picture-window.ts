// Where does the picture lie in the room at a depth, seen from above or from the side, and which lens has it end where it is dragged to?
// Model: the middles of two opposite edges at a depth along the axis; on the line between them, and on the lens's own axis, places are
// metres from that axis. A lens that distorts is followed exactly: an edge at e metres lies at distort(e / depth) focal lengths on the
// sensor. Space: world metres, sensor millimetres. Source: handbook-1 and 5.

import {
  axesOf,
  distort,
  imageCircleLimitMm,
  isPerspective,
  rayThrough,
  usedSensor,
  widthOfView,
  type Camera,
} from '../camera/index.ts'
import { addScaled, dot, sub, type Vec3 } from '../math/index.ts'

export type Across = 'right' | 'up'
export interface PictureWindow {
  /** Left and right end, or lower and upper. */
  readonly ends: readonly [Vec3, Vec3]
  readonly middle: Vec3
  /** Unit vector along it, to the right or up. */
  readonly along: Vec3
  /** Metres of the ends from the lens's axis along it. */
  readonly fromAxisM: readonly [number, number]
  /** Ends of the image circle that shift lenses have; null without a lens. */
  readonly circle: readonly [Vec3, Vec3] | null
}

/** The picture across or up at a depth along the axis (metres, above nought in perspective); null where it has no straight edges. */
export function pictureWindow(camera: Camera, across: Across, depthM: number): PictureWindow | null {
  const { widthPx: w, heightPx: h } = camera.frame
  const { forward, right, up } = axesOf(camera.pose)
  const { station } = camera.pose
  const along = across === 'right' ? right : up
  const ends = (across === 'right' ? [[0, h / 2], [w, h / 2]] : [[w / 2, h], [w / 2, 0]]).map(([x, y]) => {
    const ray = rayThrough(camera, x!, y!)
    const ahead = ray ? dot(ray.direction, forward) : 0
    return ray && ahead > 1e-6 ? addScaled(ray.origin, ray.direction, (depthM - dot(sub(ray.origin, station), forward)) / ahead) : null
  }) // prettier-ignore
  const [a, b] = ends
  if (!a || !b) return null
  const from = (p: Vec3): number => dot(sub(p, station), along)
  const axis = addScaled(station, forward, depthM)
  const half = isPerspective(camera) ? ((imageCircleLimitMm(camera.lens) / 2) * depthM) / camera.lens.focalMm : null
  return {
    ends: [a, b],
    middle: addScaled(a, sub(b, a), 0.5),
    along,
    fromAxisM: [from(a), from(b)],
    circle: half === null ? null : [addScaled(axis, along, -half), addScaled(axis, along, half)],
  }
}

/** Millimetres of rise or cross that move the picture by a metre at a depth. */
export function shiftPerMetre({ lens, frame }: Pick<Camera, 'lens' | 'frame'>, depthM: number): number {
  const widthM = widthOfView(lens)
  return widthM === null ? lens.focalMm / depthM : usedSensor(lens, frame).widthMm / widthM
}

/**
 * What an end dragged to `atM` metres from the axis asks of the lens: a focal length, or in parallel pictures a width of view. Null where
 * no lens has it there: at the axis or beyond it, or past a fold.
 */
export function lensOfEnd(
  { lens, frame }: Pick<Camera, 'lens' | 'frame'>,
  across: Across,
  end: 0 | 1,
  atM: number,
  depthM: number,
): { readonly focalMm: number } | { readonly widthM: number } | null {
  const { widthMm, heightMm } = usedSensor(lens, frame)
  const side = end === 0 ? -1 : 1
  const mm = across === 'right' ? (side * widthMm) / 2 + lens.crossMm : (side * heightMm) / 2 + lens.riseMm
  const widthM = widthOfView(lens)
  if (widthM !== null) {
    const wanted = (widthMm * atM) / mm
    return Number.isFinite(wanted) && wanted > 0 ? { widthM: wanted } : null
  }
  if (!isPerspective(lens) || !(depthM > 0)) return null
  const t = atM / depthM
  const d = lens.distortion
  const bent = !d ? t : across === 'right' ? distort(d, t, 0)?.[0] : negated(distort(d, 0, -t)?.[1])
  const focalMm = bent === undefined ? NaN : mm / bent
  return Number.isFinite(focalMm) && focalMm > 0 ? { focalMm } : null
}
const negated = (v: number | undefined): number | undefined => (v === undefined ? undefined : -v)
