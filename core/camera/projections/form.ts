// What has a projection to answer?
// Model: one object a form, in both directions, told apart by what it is (central, onto a plane, shiftable, with a lens), never by its
// name: what asks for one of these goes on working when a form is added. Space: camera space (x right, y up, looks along -z),
// metres, to picture pixels. Source: handbook-0, 3 and 4.

import type { Vec3 } from '../../math/index.ts'
import type { FieldOfView } from '../lens.ts'
import type { Camera, Frame, Lens, Matrix16, PicturePoint, Projection } from '../types.ts'

/** A camera whose projection is of this form. */
export type CameraOf<P extends Projection> = Camera & { readonly lens: { readonly projection: P } }
export type LensOf<P extends Projection> = Lens & { readonly projection: P }

/** A ray in camera space; its direction has any length above nought. */
export interface CameraRay {
  /** In the station's plane: x right, y up. Nought for central forms. */
  readonly from: readonly [number, number]
  readonly direction: Vec3
}
export interface Depths {
  readonly nearM: number
  readonly farM: number
}

export interface Form<P extends Projection = Projection> {
  readonly kind: P['kind']
  /** As the interface calls it. */
  readonly name: string
  /** All rays leave the station: what is farther is smaller, and nothing behind is seen twice. */
  readonly isCentral: boolean
  /** Onto a plane: what is straight in the world is straight in the picture, unless a lens distorts. */
  readonly isPlane: boolean
  /** Which of the two move the picture over the sensor. */
  readonly shifts: { readonly rise: boolean; readonly cross: boolean }
  /** Focal length and sensor decide what is seen; such a picture has blur, vignetting and distortion. */
  readonly hasLens: boolean
  /** Where a point of camera space falls, its depth in metres along the axis (panoramic: along the ray); null where nowhere. */
  project(camera: CameraOf<P>, point: Vec3): PicturePoint | null
  /** The ray through a picture point; null where there is none. */
  unproject(camera: CameraOf<P>, xPx: number, yPx: number): CameraRay | null
  /** Angles of view without shift, degrees; nought where rays are parallel. */
  fieldOfView(lens: LensOf<P>, frame: Frame): FieldOfView
  /** From camera space to OpenGL clip space, column-major; null where no matrix can say it. A lens's distortion is not in it. */
  readonly clip: ((camera: CameraOf<P>, depths: Depths) => Matrix16) | null
  /** Width of view in metres where it is the same at all depths; null in central forms. */
  widthM(projection: P): number | null
  /** The same form with another width of view; central forms as they are. */
  withWidthM(projection: P, widthM: number): P
  /** How far a point moves over the picture for each metre of depth, metres right and up. */
  shear(projection: P): { readonly x: number; readonly y: number }
  /** Radius of the circle outside of which there is no picture, pixels; null where the picture fills its frame. */
  circlePx(frame: Frame): number | null
  /** Degrees that a drag of one pixel turns the camera by. */
  turnPerPx(camera: CameraOf<P>): number
}

const NO_SHEAR = { x: 0, y: 0 } as const
/** What all central forms have in common. */
export const CENTRAL = {
  isCentral: true,
  widthM: () => null,
  shear: () => NO_SHEAR,
  circlePx: (): number | null => null,
} as const
/** And the panoramic ones among them: no plane, no lens, no matrix. */
export const PANORAMIC = {
  ...CENTRAL,
  isPlane: false,
  hasLens: false,
  clip: null,
} as const
