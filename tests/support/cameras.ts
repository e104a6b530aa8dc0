// Cameras for tests: plain ones with single changes, and arbitrary ones for property tests.
import fc from 'fast-check'
import type { Camera, Frame, Lens, Pose, Projection } from '#core/camera'
import { ALL_SHOWN, type Shown } from '#core/section'

/** Everything shown but these objects. */
export const hiding = (...hidden: string[]): Shown => ({ ...ALL_SHOWN, hidden })

export const lensOf = (changes: Partial<Lens> = {}): Lens => ({
  projection: { kind: 'perspective' },
  focalMm: 24,
  sensorMm: { width: 36, height: 24 },
  sensorUse: 'acrossWidth',
  riseMm: 0,
  crossMm: 0,
  distortion: null,
  ...changes,
})
export const frameOf = (widthPx: number, heightPx: number): Frame => ({
  widthPx,
  heightPx,
  densityPpi: 300,
  guides: [],
})
export const poseAt = (changes: Partial<Pose> = {}): Pose => ({
  station: [0, 0, 0],
  bearingDeg: 0,
  tiltDeg: 0,
  rollDeg: 0,
  ...changes,
})
export const cameraOf = (
  pose: Partial<Pose> = {},
  lens: Partial<Lens> = {},
  size: [number, number] = [1800, 1200],
): Camera => ({
  pose: poseAt(pose),
  lens: lensOf(lens),
  frame: frameOf(...size),
})

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true, noDefaultInfinity: true })
export const anyPoint = fc.tuple(real(-50, 50), real(-50, 50), real(-50, 50))
export const anyPose = fc.record({
  station: anyPoint,
  bearingDeg: real(0, 360),
  tiltDeg: real(-90, 90),
  rollDeg: real(-180, 180),
})
export const anyProjection: fc.Arbitrary<Projection> = fc.oneof(
  fc.constant({ kind: 'perspective' } as const),
  fc.record({ kind: fc.constant('parallel' as const), widthM: real(0.1, 100) }),
  fc.record({
    kind: fc.constant('oblique' as const),
    widthM: real(0.1, 100),
    angleDeg: real(0, 360),
    receding: real(0.3, 1),
  }),
  fc.constant({ kind: 'equirectangular' } as const),
  fc.record({ kind: fc.constant('cylindrical' as const), horizontalDeg: real(30, 300) }),
  fc.record({
    kind: fc.constant('fisheye' as const),
    mapping: fc.constantFrom('equidistant' as const, 'equisolid' as const, 'stereographic' as const),
    coverageDeg: real(60, 200),
  }),
)
export const anyLens = (projection: fc.Arbitrary<Projection> = anyProjection): fc.Arbitrary<Lens> =>
  fc.record({
    projection,
    focalMm: real(10, 200),
    sensorMm: fc.constantFrom({ width: 36, height: 24 }, { width: 24, height: 36 }, { width: 23.5, height: 15.6 }),
    sensorUse: fc.constantFrom('acrossWidth' as const, 'acrossHeight' as const, 'covers' as const, 'inside' as const),
    riseMm: real(-12, 12),
    crossMm: real(-12, 12),
    distortion: fc.constant(null),
  })
export const anyFrame: fc.Arbitrary<Frame> = fc
  .tuple(fc.integer({ min: 16, max: 6000 }), fc.integer({ min: 16, max: 6000 }))
  .map(([w, h]) => frameOf(w, h))
export const anyCamera = (projection?: fc.Arbitrary<Projection>): fc.Arbitrary<Camera> =>
  fc.record({ pose: anyPose, lens: anyLens(projection), frame: anyFrame })

/** Column-major 4x4 times a point; returns the dehomogenised point and w. */
export function transform(m: readonly number[], p: readonly number[]): { point: [number, number, number]; w: number } {
  const r = [0, 1, 2, 3].map((i) => m[i]! * p[0]! + m[4 + i]! * p[1]! + m[8 + i]! * p[2]! + m[12 + i]!)
  return { point: [r[0]! / r[3]!, r[1]! / r[3]!, r[2]! / r[3]!], w: r[3]! }
}
