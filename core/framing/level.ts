// How is a tilted camera made level without the subject leaving its place in the picture?
// Model: the sight line to the picture's centre, (cross, rise, -f) in camera space, is turned into the levelled axes at the
// same bearing; where it pierces the levelled sensor lies the new shift. Space: camera -> levelled camera, sensor mm.
// Source: handbook-2; iso5456-4.

import { ok, refused, type Result } from '../base/index.ts'
import { axesOf, type Camera } from '../camera/index.ts'
import { addScaled, dot, scale } from '../math/index.ts'

export type LevelReason = 'not-perspective' | 'looks-away' | 'out-of-reach'
export interface LevelOptions {
  /** Keep the widths of the subject instead of the focal length. */
  readonly keepSize?: boolean
}

/** A rise beyond this many sensor heights is refused. */
const MOST_SENSOR_HEIGHTS = 10

/**
 * The level camera (tilt and roll 0, same station and bearing) whose picture has the same centre. Focal length stays, or with
 * `keepSize` shortens so that widths at the centre stay (heights of upright things grow by 1/cos of the tilt).
 * Refused for other projections, when the centre's ray does not go forward, or when the rise needed is out of reach.
 */
export function levelKeepingCentre(camera: Camera, options: LevelOptions = {}): Result<Camera, LevelReason> {
  const { pose, lens } = camera
  if (lens.projection.kind !== 'perspective')
    return refused(
      'not-perspective',
      'Only a perspective camera can trade tilt for rise; set tilt and roll to zero instead.',
    )
  const from = axesOf(pose)
  const to = axesOf({ bearingDeg: pose.bearingDeg, tiltDeg: 0, rollDeg: 0 })
  const centre = addScaled(addScaled(scale(from.right, lens.crossMm), from.up, lens.riseMm), from.forward, lens.focalMm)
  const x = dot(centre, to.right)
  const y = dot(centre, to.up)
  const z = dot(centre, to.forward)
  if (z <= 1e-9 * lens.focalMm)
    return refused(
      'looks-away',
      'The picture’s centre does not lie ahead of a level camera at this bearing; tilt back first.',
    )
  const focalMm = options.keepSize ? z : lens.focalMm
  const riseMm = (focalMm * y) / z
  const crossMm = (focalMm * x) / z
  if (Math.abs(riseMm) > MOST_SENSOR_HEIGHTS * lens.sensorMm.height)
    return refused('out-of-reach', `Levelling would need ${riseMm.toFixed(0)} mm of rise; tilt back first.`)
  return ok({
    ...camera,
    pose: { ...pose, tiltDeg: 0, rollDeg: 0 },
    lens: { ...lens, focalMm, riseMm: riseMm || 0, crossMm: crossMm || 0 },
  })
}
