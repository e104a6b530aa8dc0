// From a photograph's match to what is solved, and from what was found to a Setup's camera.
import {
  directionOf,
  isPerspective,
  poseOfStand,
  principalPointPx,
  type Camera,
  type Frame,
  type Lens,
  type Stand,
} from '#core/camera'
import { pairsOfLength, type Estimate, type PhotoAsked, type PhotoLens, type Treatments } from '#core/match'
import type { Vec3 } from '#core/math'
import { newLens } from '../parts.ts'
import type { Bundle, Photo, PhotoMatchPart } from '../photo-schemas.ts'

/** Unit direction of a bundle's lines in the world. */
export const bundleDirection = (b: Pick<Bundle, 'bearingDeg' | 'tiltDeg'>): Vec3 => directionOf(b.bearingDeg, b.tiltDeg)

/** The usual three: into the picture, across it, upright. */
export const usualBundles = (ids: readonly [string, string, string]): Bundle[] => [
  { id: ids[0], name: 'Into', bearingDeg: 0, tiltDeg: 0 },
  { id: ids[1], name: 'Across', bearingDeg: 90, tiltDeg: 0 },
  { id: ids[2], name: 'Upright', bearingDeg: 0, tiltDeg: 90 },
]

/** A photograph's match before anything is drawn: a moderate wide angle, near what its tags say where they say it. */
export function newMatch(o: {
  readonly widthPx: number
  readonly heightPx: number
  readonly bundleIds: readonly [string, string, string]
  readonly focal?: { readonly focalPx: number; readonly sdPx: number } | undefined
}): PhotoMatchPart {
  return {
    bundles: usualBundles(o.bundleIds),
    lines: [],
    pairs: [],
    treatments: { focalPx: o.focal ? { sd: o.focal.sdPx } : 'free' },
    start: {
      focalPx: o.focal?.focalPx ?? 0.75 * Math.max(o.widthPx, o.heightPx),
      principal: [o.widthPx / 2, o.heightPx / 2],
      distortion: { k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 },
    },
  }
}

/** What a match asks of `solvePhoto`; a length or an eye height become pairs. Lines of no two places are left out. */
export function askedOf({ match: m, widthPx, heightPx }: Pick<Photo, 'match' | 'widthPx' | 'heightPx'>): PhotoAsked {
  const directions = new Map(m.bundles.map((b) => [b.id, bundleDirection(b)]))
  const lines = m.lines.map((l) => ({ direction: directions.get(l.bundleId)!, points: l.points }))
  const pairs = m.pairs.map(({ world, image }) => ({ world, image }))
  const { scale } = m
  const treatments: { -readonly [K in keyof Treatments]: Treatments[K] } = { ...m.treatments }
  let pose = m.start.pose
  if (scale?.kind === 'length') {
    const { from, to, at, lengthM, bundleId } = scale
    pairs.push(...pairsOfLength({ from, to, place: at, direction: directions.get(bundleId)!, lengthM }))
  } else if (scale?.kind === 'eye') {
    pairs.push({ world: scale.at, image: scale.foot })
    treatments.stationZ = 'fixed'
    const [x, y] = pose?.station ?? [0, 0]
    pose = { bearingDeg: 0, tiltDeg: 0, rollDeg: 0, ...pose, station: [x, y, scale.at[2] + scale.heightM] }
  }
  return {
    imageWidth: widthPx,
    imageHeight: heightPx,
    lines,
    pairs,
    treatments,
    start: { lens: m.start, ...(pose && { pose }) },
    ...(m.robust && { robust: true }),
  }
}

export type SolvedCamera = NonNullable<PhotoMatchPart['solved']>
export function solvedOf({ lens, poses }: Estimate): SolvedCamera {
  const { station, bearingDeg, tiltDeg, rollDeg } = poses[0]!
  return { focalPx: lens.focalPx, principal: lens.principal, distortion: lens.distortion, station, bearingDeg, tiltDeg, rollDeg } // prettier-ignore
}
export function estimateOf(s: SolvedCamera): Estimate {
  const lens: PhotoLens = { focalPx: s.focalPx, principal: s.principal, distortion: s.distortion }
  return { lens, poses: [{ station: s.station, bearingDeg: s.bearingDeg, tiltDeg: s.tiltDeg, rollDeg: s.rollDeg }] }
}

/** What a camera that is at hand would be of this photograph; null where its frame is of another shape, or it is no perspective. */
export function estimateOfCamera(
  { widthPx, heightPx }: Pick<Photo, 'widthPx' | 'heightPx'>,
  camera: Camera,
): Estimate | null {
  // prettier-ignore
  const { pose, lens, frame } = camera
  if (!isPerspective(lens) || Math.abs(frame.widthPx / frame.heightPx / (widthPx / heightPx) - 1) > 0.002) return null
  const k = widthPx / frame.widthPx
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const { k1, k2, k3, p1, p2 } = lens.distortion ?? { k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }
  return {
    lens: { focalPx: lens.focalMm * pxPerMm * k, principal: [xPx * k, yPx * k], distortion: { k1, k2, k3, p1, p2 } },
    poses: [pose],
  }
}

/** Sensors are told by their longer side: 36 mm stand for it, so that focal lengths read as equivalents by width. */
const LONG_MM = 36
/** Frames have whole even sizes that the schema takes: larger photographs are framed smaller. */
const LARGEST_PX = 16_384

/** Stand, lens and frame that see what the photograph's camera saw; guides and density are kept. */
export function setupFound(
  { widthPx, heightPx }: Pick<Photo, 'widthPx' | 'heightPx'>,
  s: SolvedCamera,
  kept: Frame,
): { readonly stand: Stand; readonly lens: Lens; readonly frame: Frame } {
  const mmPerPx = LONG_MM / Math.max(widthPx, heightPx)
  const { k1, k2, k3, p1, p2 } = s.distortion
  const isBent = [k1, k2, k3, p1, p2].some((k) => k !== 0)
  const k = Math.min(1, LARGEST_PX / Math.max(widthPx, heightPx))
  return {
    stand: {
      station: s.station,
      aim: { kind: 'direction', bearingDeg: s.bearingDeg, tiltDeg: s.tiltDeg },
      rollDeg: s.rollDeg,
    },
    lens: {
      ...newLens('room'),
      focalMm: s.focalPx * mmPerPx,
      sensorMm: { width: widthPx * mmPerPx, height: heightPx * mmPerPx },
      sensorUse: 'acrossWidth',
      // the middle of the lens lies lower in a picture that shows more of what is above
      riseMm: (s.principal[1] - heightPx / 2) * mmPerPx,
      crossMm: (widthPx / 2 - s.principal[0]) * mmPerPx,
      distortion: isBent ? { kind: 'brown', k1, k2, k3, p1, p2 } : null,
    },
    frame: {
      ...kept,
      widthPx: Math.max(16, Math.round(widthPx * k)),
      heightPx: Math.max(16, Math.round(heightPx * k)),
    },
  }
}
/** The same as a camera. */
export function cameraFound(photo: Pick<Photo, 'widthPx' | 'heightPx'>, s: SolvedCamera): Camera {
  const { stand, lens, frame } = setupFound(photo, s, { widthPx: 16, heightPx: 16, densityPpi: 300, guides: [] })
  return { pose: poseOfStand(stand, () => null), lens, frame }
}
