// How does a rotation change, and what do bearing, tilt and roll change of it?
// Model: nine numbers, row by row, from the world to the camera's x right, y **down**, z forward; small turns are vectors in camera
// space, applied from the left. Source: handbook-0 (angles); rotations by Rodrigues' formula.

import { axesOf, anglesOf, type Pose } from '../camera/index.ts'
import { atan2Deg, RAD_PER_DEG } from '../base/index.ts'
import { dot, type Vec3 } from '../math/index.ts'

export type Rotation = Float64Array
type Angles = Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'>

export function rotationOf(angles: Angles): Rotation {
  const { right, up, forward } = axesOf(angles)
  return Float64Array.of(...right, -up[0], -up[1], -up[2], ...forward)
}

/** Within this of straight up or down bearing and roll are one: roll is nought there. */
const VERTICAL = 1e-9
export function anglesOfRotation(r: Rotation): Angles {
  const forward: Vec3 = [r[6]!, r[7]!, r[8]!]
  const right: Vec3 = [r[0]!, r[1]!, r[2]!]
  if (Math.hypot(forward[0], forward[1]) < VERTICAL) {
    // the picture's top edge tells (its bottom edge, looking up)
    const s = forward[2] < 0 ? 1 : -1
    const bearingDeg = (atan2Deg(-s * r[3]!, -s * r[4]!) + 360) % 360
    return { bearingDeg, tiltDeg: 90 * Math.sign(forward[2]), rollDeg: 0 }
  }
  const a = anglesOf(forward, 0)!
  // near the vertical the door's function keeps a bearing: here it is needed
  const bearingDeg = (atan2Deg(forward[0], forward[1]) + 360) % 360
  const level = axesOf({ bearingDeg, tiltDeg: a.tiltDeg, rollDeg: 0 })
  return { bearingDeg, tiltDeg: a.tiltDeg, rollDeg: atan2Deg(-dot(right, level.up), dot(right, level.right)) }
}

/** Camera-space turns of the world, radians a radian, by bearing, tilt and roll: three columns. */
export function turnsOfAngles({ rollDeg }: Angles, r: Rotation): readonly [Vec3, Vec3, Vec3] {
  const [c, s] = [Math.cos(rollDeg * RAD_PER_DEG), Math.sin(rollDeg * RAD_PER_DEG)]
  return [
    [r[2]!, r[5]!, r[8]!],
    [-c, s, 0],
    [0, 0, -1],
  ]
}

/** The rotation turned further by a small vector in camera space, by its length in radians. */
export function turned(r: Rotation, w: Vec3): Rotation {
  const angle = Math.hypot(...w)
  if (angle === 0) return r
  const [x, y, z] = [w[0] / angle, w[1] / angle, w[2] / angle]
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const t = 1 - c
  // prettier-ignore
  const m = [
    c + x * x * t, x * y * t - z * s, x * z * t + y * s,
    y * x * t + z * s, c + y * y * t, y * z * t - x * s,
    z * x * t - y * s, z * y * t + x * s, c + z * z * t,
  ]
  const out = new Float64Array(9)
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++)
      out[3 * i + j] = m[3 * i]! * r[j]! + m[3 * i + 1]! * r[3 + j]! + m[3 * i + 2]! * r[6 + j]!
  return out
}

/** A world direction in camera space. */
export const rotate = (r: Rotation, [x, y, z]: Vec3): Vec3 => [
  r[0]! * x + r[1]! * y + r[2]! * z,
  r[3]! * x + r[4]! * y + r[5]! * z,
  r[6]! * x + r[7]! * y + r[8]! * z,
]
/** A direction in camera space as one of the world. */
export const rotateBack = (r: Rotation, [x, y, z]: Vec3): Vec3 => [
  r[0]! * x + r[3]! * y + r[6]! * z,
  r[1]! * x + r[4]! * y + r[7]! * z,
  r[2]! * x + r[5]! * y + r[8]! * z,
]
