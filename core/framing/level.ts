// How is a tilted camera made level without the subject leaving its place in the picture, and how is that undone?
// Model: see turned.ts. Levelling turns tilt and roll into rise and cross; the reverse turns the camera until the picture's centre
// lies on the axis. Space: camera -> turned camera, sensor mm. Source: handbook-2; iso5456-4.

import { ok, refused, type Result } from '../base/index.ts'
import { anglesOf, type Camera, isPerspective } from '../camera/index.ts'
import { centreDirection, turnedKeepingCentre, type TurnReason } from './turned.ts'

export type LevelReason = TurnReason | 'not-perspective' | 'no-shift'
export interface LevelOptions {
  /** Keep the widths of the subject instead of the focal length. */
  readonly keepSize?: boolean
}

/**
 * The level camera (tilt and roll 0, same station and bearing) whose picture has the same centre. Focal length stays, or with
 * `keepSize` shortens so that widths at the centre stay (heights of upright things grow by 1/cos of the tilt).
 * Refused for other projections, when the centre's ray does not go forward, or when the rise needed is out of reach.
 */
export function levelKeepingCentre(camera: Camera, options: LevelOptions = {}): Result<Camera, LevelReason> {
  if (!isPerspective(camera))
    return refused(
      'not-perspective',
      'Only a perspective camera can trade tilt for rise; set tilt and roll to zero instead.',
    )
  return turnedKeepingCentre(
    camera,
    { bearingDeg: camera.pose.bearingDeg, tiltDeg: 0, rollDeg: 0 },
    options.keepSize ?? false,
  )
}

/**
 * The reverse of levelling: rise and cross become tilt and bearing, the picture's centre stays and lies on the axis. Roll stays as
 * it is. With `keepSize` the focal length grows to what the centre's ray had. Refused for other projections and without a shift.
 */
export function tiltKeepingCentre(camera: Camera, options: LevelOptions = {}): Result<Camera, LevelReason> {
  const { lens, pose } = camera
  if (!isPerspective(lens))
    return refused('not-perspective', 'Only a perspective camera can trade rise and cross for tilt and bearing.')
  if (lens.riseMm === 0 && lens.crossMm === 0)
    return refused('no-shift', 'The lens has no rise or cross to turn into tilt.')
  const angles = anglesOf(centreDirection(camera), pose.bearingDeg)!
  const turned = turnedKeepingCentre(camera, { ...angles, rollDeg: pose.rollDeg }, options.keepSize ?? false)
  if (!turned.ok) return turned
  // exactly on the axis but for rounding; straight up or down the bearing is kept and a little shift with it
  const rest = (mm: number): number => (Math.abs(mm) < 1e-9 * lens.focalMm ? 0 : mm)
  const { riseMm, crossMm } = turned.value.lens
  return ok({ ...turned.value, lens: { ...turned.value.lens, riseMm: rest(riseMm), crossMm: rest(crossMm) } })
}
