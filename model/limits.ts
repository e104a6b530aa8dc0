// Where do gestures end?
// Model: what a drag, a wheel or pasted numbers ask for is held within what the schema takes, where it arises; nothing else changes.

import { wrapBearingDeg } from '#core/base'
import { widthOfView, withWidthOfView, type Frame, type Lens, type Stand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { WORLD_LIMIT_M } from '#core/placing'
import type { CameraChanges } from './command-types.ts'
import { FOCAL_LIMITS_MM, FRAME_LIMIT_PX, SHIFT_LIMIT_MM, WIDTH_LIMITS_M } from './part-schemas.ts'

const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v))
const place = (p: Vec3): Vec3 =>
  p.every((v) => Math.abs(v) <= WORLD_LIMIT_M)
    ? p
    : (p.map((v) => held(v, -WORLD_LIMIT_M, WORLD_LIMIT_M)) as unknown as Vec3)
/** Angles keep their turns up to two; beyond they begin anew. */
const angle = (deg: number): number => (Math.abs(deg) <= 720 ? deg : wrapBearingDeg(deg))

function limitedStand(s: Stand): Stand {
  const { aim } = s
  const station = place(s.station)
  const rollDeg = angle(s.rollDeg)
  const next: Stand['aim'] =
    aim.kind === 'direction'
      ? { ...aim, bearingDeg: angle(aim.bearingDeg), tiltDeg: held(aim.tiltDeg, -90, 90) }
      : aim.kind === 'point'
        ? { ...aim, point: place(aim.point), topBearingDeg: angle(aim.topBearingDeg) }
        : { ...aim, offset: place(aim.offset), topBearingDeg: angle(aim.topBearingDeg) }
  return { station, aim: next, rollDeg }
}
function limitedLens(l: Lens): Lens {
  const widthM = widthOfView(l)
  return {
    ...(widthM === null ? l : withWidthOfView(l, held(widthM, ...WIDTH_LIMITS_M))),
    focalMm: held(l.focalMm, ...FOCAL_LIMITS_MM),
    riseMm: held(l.riseMm, -SHIFT_LIMIT_MM, SHIFT_LIMIT_MM),
    crossMm: held(l.crossMm, -SHIFT_LIMIT_MM, SHIFT_LIMIT_MM),
  }
}
const limitedFrame = (f: Frame): Frame => ({
  ...f,
  widthPx: held(f.widthPx, 16, FRAME_LIMIT_PX),
  heightPx: held(f.heightPx, 16, FRAME_LIMIT_PX),
})

/** The same changes within the limits of the schema; numbers that are none stay, for the command to refuse. */
export function limitedCamera({ stand, lens, frame }: CameraChanges): CameraChanges {
  return {
    ...(stand ? { stand: limitedStand(stand) } : {}),
    ...(lens ? { lens: limitedLens(lens) } : {}),
    ...(frame ? { frame: limitedFrame(frame) } : {}),
  }
}
