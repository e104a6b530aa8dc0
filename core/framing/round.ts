// Where does the camera stand when it goes round a thing that keeps its place in the picture?
// Model: camera and thing are one rigid body turned about the thing: what the thing is in the camera's own axes stays the very same, so
// its place, size and depth in the picture do, shifted lens or parallel projection alike. Space: world metres, camera axes right, up,
// back. Derived; checked by property tests. Rejected: a station on a sphere looking at the thing, which moves it to the middle.

import { wrapBearingDeg } from '../base/index.ts'
import { axesOf, poseOfStand, standAs, toCamera, type AimCentre, type Pose, type Stand } from '../camera/index.ts'
import { addScaled, type Vec3 } from '../math/index.ts'

/** The pose with another bearing and tilt (degrees, tilt -90 to 90) in which `pivot` has the same camera coordinates. */
export function poseRound(pose: Pose, pivot: Vec3, bearingDeg: number, tiltDeg: number): Pose {
  const [x, y, z] = toCamera(pose, pivot)
  const turned: Pose = {
    ...pose,
    bearingDeg: wrapBearingDeg(bearingDeg),
    tiltDeg: Math.min(90, Math.max(-90, tiltDeg)),
  }
  const { right, up, forward } = axesOf(turned)
  const station = addScaled(addScaled(addScaled(pivot, right, -x), up, -y), forward, z)
  return { ...turned, station }
}

/** The same of a stand; its aim keeps its form as `standAs` says. */
export function standRound(s: Stand, pivot: Vec3, bearingDeg: number, tiltDeg: number, centreOf?: AimCentre): Stand {
  return standAs(s, poseRound(poseOfStand(s, centreOf), pivot, bearingDeg, tiltDeg), centreOf)
}

/** Straight above a point at a height over it, metres, looking down; the picture's top lies where the bearing points. */
export function standOver(point: Vec3, heightM: number, topBearingDeg: number): Stand {
  const station: Vec3 = [point[0], point[1], point[2] + heightM]
  return { station, aim: { kind: 'point', point, topBearingDeg: wrapBearingDeg(topBearingDeg) }, rollDeg: 0 }
}
