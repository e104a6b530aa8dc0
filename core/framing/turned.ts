// How is a camera turned another way without the picture's centre leaving its place?
// Model: the sight line to the picture's centre, (cross, rise, -f) in camera space, is written in the turned axes; where it pierces
// the turned sensor, through a lens that may distort, lies the new shift. Space: camera -> turned camera, sensor mm. Source: handbook-2; iso5456-4.

import { ok, refused, type Result } from '../base/index.ts'
import { axesOf, type Camera, onSensor, type Pose, throughSensor } from '../camera/index.ts'
import { addScaled, dot, scale, type Vec3 } from '../math/index.ts'

export type TurnReason = 'looks-away' | 'out-of-reach'
/** A shift beyond this many sensor heights (rise) or widths (cross) is refused. */
const MOST_SENSORS = 10

/** World direction through the picture's centre, as long as the focal length where nothing is shifted. */
export function centreDirection({ pose, lens }: Camera): Vec3 {
  const { right, up, forward } = axesOf(pose)
  const f = lens.focalMm
  const [x, y] = throughSensor(lens, lens.crossMm, lens.riseMm) ?? [lens.crossMm / f, lens.riseMm / f]
  return addScaled(addScaled(scale(right, f * x), up, f * y), forward, f)
}

/**
 * The perspective camera turned to other angles at the same station, the picture's centre kept by rise and cross; with `keepSize`
 * the focal length changes so that widths at the centre stay. Refused when the centre's ray would not go forward, or when the
 * shift is out of reach.
 */
export function turnedKeepingCentre(
  camera: Camera,
  to: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'>,
  keepSize = false,
): Result<Camera, TurnReason> {
  const { pose, lens } = camera
  const axes = axesOf(to)
  const centre = centreDirection(camera)
  const x = dot(centre, axes.right)
  const y = dot(centre, axes.up)
  const z = dot(centre, axes.forward)
  if (z <= 1e-9 * lens.focalMm)
    return refused(
      'looks-away',
      'The picture’s centre would not lie ahead of the turned camera; turn towards it first.',
    )
  const focalMm = keepSize ? z : lens.focalMm
  const place = onSensor({ ...lens, focalMm }, x / z, y / z)
  if (!place) return refused('out-of-reach', 'This lens folds its picture before it sees so far off its axis.')
  const [crossMm, riseMm] = place
  if (Math.abs(riseMm) > MOST_SENSORS * lens.sensorMm.height)
    return refused('out-of-reach', `It would need ${riseMm.toFixed(0)} mm of rise; tilt back first.`)
  if (Math.abs(crossMm) > MOST_SENSORS * lens.sensorMm.width)
    return refused('out-of-reach', `It would need ${crossMm.toFixed(0)} mm of cross; turn nearer to it first.`)
  return ok({
    ...camera,
    pose: { ...pose, ...to },
    lens: { ...lens, focalMm, riseMm: riseMm || 0, crossMm: crossMm || 0 },
  })
}
