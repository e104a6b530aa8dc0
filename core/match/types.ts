// What is seen in a photograph, and what is a photograph's camera?
// Space: picture pixels from the top left corner, y down, the first pixel's middle at (0.5, 0.5); world metres, Z up.

import type { Brown, Pose } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'

export type PicturePlace = readonly [x: number, y: number]
export interface Segment {
  readonly a: PicturePlace
  readonly b: PicturePlace
}
/** A line of the photograph whose world direction is known: two ends, or more places along it where it is curved by the lens. */
export interface PhotoLine {
  /** Unit length; which of its two ways does not matter. */
  readonly direction: Vec3
  readonly points: readonly PicturePlace[]
}
/** A place of the world and where it is in the photograph. */
export interface PhotoPair {
  readonly world: Vec3
  readonly image: PicturePlace
}
export interface PhotoView {
  readonly lines: readonly PhotoLine[]
  readonly pairs: readonly PhotoPair[]
}

/** A lens on a photograph's pixels; distortion about the principal point on x / f, y / f, y down. */
export interface PhotoLens {
  readonly focalPx: number
  readonly principal: PicturePlace
  readonly distortion: Omit<Brown, 'kind'>
}
export const NO_DISTORTION: PhotoLens['distortion'] = { k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }

/** How an unknown is treated: held at its start, solved, or solved near its start, known to one sigma (pixels, degrees, metres). */
export type Treatment = 'fixed' | 'free' | { readonly sd: number }
export const LENS_UNKNOWNS = ['focalPx', 'principalX', 'principalY', 'k1', 'k2', 'p1', 'p2', 'k3'] as const
export const POSE_UNKNOWNS = ['bearingDeg', 'tiltDeg', 'rollDeg', 'stationX', 'stationY', 'stationZ'] as const
export type LensUnknown = (typeof LENS_UNKNOWNS)[number]
export type PoseUnknown = (typeof POSE_UNKNOWNS)[number]
export type Unknown = LensUnknown | PoseUnknown
/** What is not named is fixed in the lens and free in the pose. */
export type Treatments = Readonly<Partial<Record<Unknown, Treatment>>>

/** A camera that is being solved: one lens, a pose for each photograph that it took. */
export interface Estimate {
  readonly lens: PhotoLens
  readonly poses: readonly Pose[]
}
