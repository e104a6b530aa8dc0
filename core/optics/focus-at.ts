// How far away is what is focused on?
// Model: the depth along the axis, for the plane of focus is parallel to the sensor, of a shifted lens too. Space: world metres.
import { axesOf, type Pose } from '../camera/index.ts'
import { dot, sub, type Vec3 } from '../math/index.ts'

/** Metres along the axis; below nought behind the camera. */
export const depthOf = (pose: Pose, point: Vec3): number => dot(axesOf(pose).forward, sub(point, pose.station))
