// How does a drag, a wheel step or a click move the camera?
// Model: the picture's content follows the pointer. Turning changes the direction of view only; orbiting keeps the distance to
// the pivot; sliding keeps the grabbed point under the pointer; a dolly step scales the distance to a point. With the level
// kept, up/down drags move rise and wheels go forward horizontally. Space: world metres, picture pixels. Source: handbook-11.

import { add, addScaled, length, scale, sub, type Vec3 } from '../math/index.ts'
import { principalPointPx } from './principal.ts'
import { metresPerPx } from './project.ts'
import { formOf, widthOfView, withWidthOfView } from './projections/registry.ts'
import { turnHolding } from './turn.ts'
import { aimPointOf, axesOf, poseOfStand, standAs, standMoved, standTurnedTo, type AimCentre } from './pose.ts'
import type { Camera, Lens, Stand } from './types.ts'

export interface Framing {
  readonly stand: Stand
  readonly lens: Lens
}
export interface DragOptions {
  /** Up/down drags move rise instead of tilt. */
  readonly holdLevel: boolean
  /** Sideways drags move cross instead of the bearing. */
  readonly holdSquare: boolean
  readonly centreOf?: AimCentre | undefined
  /** Where the drag began, picture pixels: what lies there stays under the pointer. Left out, small angles are taken for the turn. */
  readonly grabbedPx?: readonly [number, number] | undefined
}
/** Steepest tilt that turning and orbiting reach. */
const STEEPEST_DEG = 90

const clampTilt = (deg: number): number => Math.min(STEEPEST_DEG, Math.max(-STEEPEST_DEG, deg))

/** Shift that keeps what was grabbed under the pointer. */
function shifted(camera: Camera, lens: Lens, dxPx: number, dyPx: number, options: DragOptions): Lens {
  const { pxPerMm } = principalPointPx(camera)
  return {
    ...lens,
    crossMm: options.holdSquare ? lens.crossMm - dxPx / pxPerMm : lens.crossMm,
    riseMm: options.holdLevel ? lens.riseMm + dyPx / pxPerMm : lens.riseMm,
  }
}

/** The direction of view turned by a drag of (dx, dy) pixels; the station stays. Other forms turn as they say. */
export function turnInPlace(camera: Camera, from: Framing, dxPx: number, dyPx: number, options: DragOptions): Framing {
  const pose = poseOfStand(from.stand, options.centreOf)
  const form = formOf(camera)
  if (options.grabbedPx && form.isCentral && form.isPlane && !options.holdSquare && (dxPx !== 0 || dyPx !== 0)) {
    const [x, y] = options.grabbedPx
    const start: Camera = { ...camera, pose, lens: from.lens }
    // with the level kept the place up and down is the rise's
    const held = turnHolding(start, [x, y], [x + dxPx, options.holdLevel ? y : y + dyPx], options.holdLevel)
    if (held) {
      const stand = standTurnedTo(from.stand, held.bearingDeg, held.tiltDeg, options.centreOf)
      return { stand, lens: shifted(camera, from.lens, dxPx, dyPx, options) }
    }
  }
  const k = form.turnPerPx(camera)
  const bearing = options.holdSquare ? pose.bearingDeg : pose.bearingDeg - dxPx * k
  const tilt = options.holdLevel ? pose.tiltDeg : clampTilt(pose.tiltDeg + dyPx * k)
  const same = bearing === pose.bearingDeg && tilt === pose.tiltDeg
  const stand = same ? from.stand : standTurnedTo(from.stand, bearing, tilt, options.centreOf)
  return { stand, lens: shifted(camera, from.lens, dxPx, dyPx, options) }
}

/** The station carried round a pivot by a drag; the picture's full width is half a turn. The distance to the pivot stays. */
export function orbit(
  camera: Camera,
  from: Framing,
  pivot: Vec3,
  dxPx: number,
  dyPx: number,
  options: DragOptions,
): Framing {
  const pose = poseOfStand(from.stand, options.centreOf)
  const k = 180 / camera.frame.widthPx
  const turn = options.holdSquare ? 0 : -dxPx * k
  const tilt = options.holdLevel ? pose.tiltDeg : clampTilt(pose.tiltDeg - dyPx * k)
  const before = axesOf(pose)
  const after = axesOf({ bearingDeg: pose.bearingDeg + turn, tiltDeg: tilt, rollDeg: pose.rollDeg })
  // the pivot keeps its place in camera space
  const carry = (p: Vec3): Vec3 => {
    const d = sub(p, pivot)
    const local: Vec3 = [0, 1, 2].map((i) =>
      [before.right, before.up, before.forward][i]!.reduce((s, v, j) => s + v * d[j]!, 0),
    ) as unknown as Vec3
    return add(pivot, addScaled(addScaled(scale(after.right, local[0]), after.up, local[1]), after.forward, local[2]))
  }
  const station = carry(from.stand.station)
  const aim = aimPointOf(from.stand.aim, options.centreOf)
  // round the object aimed at it stays the aim
  if (from.stand.aim.kind === 'object' && aim && length(sub(aim, pivot)) < 1e-9) {
    const turned = { station, bearingDeg: pose.bearingDeg + turn, tiltDeg: tilt, rollDeg: pose.rollDeg }
    const stand = standAs(from.stand, turned, options.centreOf)
    return { stand, lens: shifted(camera, from.lens, 0, dyPx, { ...options, holdSquare: false }) }
  }
  const away = aim ? length(sub(aim, from.stand.station)) : 1
  const stand =
    from.stand.aim.kind === 'direction'
      ? standTurnedTo({ ...from.stand, station }, pose.bearingDeg + turn, tilt)
      : standTurnedTo(
          {
            ...from.stand,
            station,
            aim: { kind: 'point', point: addScaled(station, before.forward, away), topBearingDeg: pose.bearingDeg },
          },
          pose.bearingDeg + turn,
          tilt,
        )
  return { stand, lens: shifted(camera, from.lens, 0, dyPx, { ...options, holdSquare: false }) }
}

/** The station moved along the picture so that a point at `depthM` follows the pointer; the aim comes along. */
export function slide(
  camera: Camera,
  from: Framing,
  depthM: number,
  dxPx: number,
  dyPx: number,
  options: Pick<DragOptions, 'centreOf'> = {},
): Framing {
  const { right, up } = axesOf(camera.pose)
  const mPerPx = metresPerPx(camera, Math.max(depthM, 1e-6))
  const by = addScaled(scale(right, -dxPx * mPerPx), up, dyPx * mPerPx)
  return { stand: standMoved(from.stand, by, false, options.centreOf), lens: from.lens }
}

/**
 * The station moved towards (factor < 1) or away from a point; the aim comes along. With the level kept, height stays and the way
 * goes forward horizontally. A parallel picture changes its width instead.
 */
export function dolly(from: Framing, towards: Vec3, factor: number, options: DragOptions): Framing {
  const widthM = widthOfView(from.lens)
  if (widthM !== null) return { stand: from.stand, lens: withWidthOfView(from.lens, widthM * factor) }
  const way = sub(towards, from.stand.station)
  const by = scale(options.holdLevel ? [way[0], way[1], 0] : way, 1 - factor)
  return { stand: standMoved(from.stand, by, false, options.centreOf), lens: from.lens }
}

/** Another focal length with the subject's size held: the station moves along the axis by depth (1 - f'/f). Source: handbook-1. */
export function focalHoldingSize(from: Framing, depthM: number, focalMm: number, centreOf?: AimCentre): Framing {
  const { forward } = axesOf(poseOfStand(from.stand, centreOf))
  const by = scale(forward, depthM * (1 - focalMm / from.lens.focalMm))
  const moved = standMoved(from.stand, by, from.stand.aim.kind === 'point', centreOf)
  return { stand: moved, lens: { ...from.lens, focalMm } }
}
