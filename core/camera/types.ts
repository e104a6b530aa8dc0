// What is a camera made of?
// Space: world metres, Z up, +Y north; sensor lengths in millimetres, x right and y up as in the upright picture; picture
// pixels from the top left, x right, y down.

import type { Vec3 } from '../math/index.ts'

/** Direction of view. Bearing clockwise from +Y, tilt up positive, roll clockwise positive as the photographer sees it. */
export interface Pose {
  readonly station: Vec3
  readonly bearingDeg: number
  readonly tiltDeg: number
  readonly rollDeg: number
}

export type FisheyeMapping = 'equidistant' | 'equisolid' | 'stereographic'

export type Projection =
  | { readonly kind: 'perspective' }
  | { readonly kind: 'parallel'; readonly widthM: number }
  | { readonly kind: 'oblique'; readonly widthM: number; readonly angleDeg: number; readonly receding: number }
  | { readonly kind: 'equirectangular' }
  | { readonly kind: 'cylindrical'; readonly horizontalDeg: number }
  | { readonly kind: 'fisheye'; readonly mapping: FisheyeMapping; readonly coverageDeg: number }

/** Radial and tangential distortion on x / f, y / f from the principal point, y down; see distortion.ts. */
export interface Brown {
  readonly kind: 'brown'
  readonly k1: number
  readonly k2: number
  readonly k3: number
  readonly p1: number
  readonly p2: number
}

/** How the frame's shape lies on the sensor; see `usedSensor`. */
export type SensorUse = 'acrossWidth' | 'acrossHeight' | 'covers' | 'inside'

export interface Lens {
  readonly projection: Projection
  readonly focalMm: number
  readonly sensorMm: { readonly width: number; readonly height: number }
  readonly sensorUse: SensorUse
  /** Positive shows more of what is above. */
  readonly riseMm: number
  /** Positive shows more of what is to the right. */
  readonly crossMm: number
  /** How it bends straight lines; only where focal length and sensor make the picture. */
  readonly distortion: Brown | null
}

export interface Frame {
  readonly widthPx: number
  readonly heightPx: number
  readonly densityPpi: number
  readonly guides: readonly Guide[]
  /** Guides are drawn into finished pictures too. */
  readonly guidesInPicture?: boolean | undefined
  /** What is to stay free of the subject, as shares of width and height from each side; `fold`: a strip in the middle. */
  readonly mask?: FrameMask | undefined
  /** Other shapes that the same framing is to serve. */
  readonly crops?: readonly FrameCrop[] | undefined
}
export interface FrameMask {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
  readonly fold: number
}
export interface FrameCrop {
  readonly id: string
  /** Shape: so wide to so high. */
  readonly width: number
  readonly height: number
  /** Where it lies in the room that it has, -1..1 from the left and from the top. */
  readonly x: number
  readonly y: number
}
export type GuideKind =
  'thirds' | 'golden' | 'diagonals' | 'triangles' | 'centre' | 'action' | 'title' | 'fields' | 'metres'
export type GuideColour = 'white' | 'black' | 'yellow' | 'red' | 'blue'
export interface Guide {
  readonly kind: GuideKind
  readonly colour: GuideColour
  /** How much it covers, 0.05..1. */
  readonly strength: number
  /** Of `fields`: so many. */
  readonly across?: number | undefined
  readonly down?: number | undefined
  /** Of `metres`: where the grid lies, and how far apart its lines are. */
  readonly plane?: { readonly point: Vec3; readonly normal: Vec3 } | undefined
  readonly stepM?: number | undefined
}

export interface Camera {
  readonly pose: Pose
  readonly lens: Lens
  readonly frame: Frame
}

/** Where the camera looks; `topBearingDeg` is the direction of the picture's top edge when the sight line is vertical. */
export type Aim =
  | { readonly kind: 'direction'; readonly bearingDeg: number; readonly tiltDeg: number }
  | { readonly kind: 'point'; readonly point: Vec3; readonly topBearingDeg: number }
  | {
      readonly kind: 'object'
      readonly nodeId: string
      readonly offset: Vec3
      readonly topBearingDeg: number
      /** Where that point was when the object went (with its model, or by a newer file): looked at as long as it is gone. */
      readonly lastPoint?: Vec3 | undefined
    }

export interface Stand {
  readonly station: Vec3
  readonly aim: Aim
  readonly rollDeg: number
}

export type Matrix16 = readonly number[]
export type PicturePoint = { readonly xPx: number; readonly yPx: number; readonly depthM: number }
export type Ray = { readonly origin: Vec3; readonly direction: Vec3 }
