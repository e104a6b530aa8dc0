// The one list of projections. Nothing outside this folder asks which one it is.
import type { Camera, Lens, Projection } from '../types.ts'
import { FISHEYE } from './fisheye.ts'
import type { CameraOf, Form } from './form.ts'
import { CYLINDRICAL, EQUIRECTANGULAR } from './panoramic.ts'
import { OBLIQUE, PARALLEL } from './parallel.ts'
import { PERSPECTIVE } from './perspective.ts'

const FORMS: { readonly [K in Projection['kind']]: Form<Extract<Projection, { kind: K }>> } = {
  perspective: PERSPECTIVE,
  parallel: PARALLEL,
  oblique: OBLIQUE,
  equirectangular: EQUIRECTANGULAR,
  cylindrical: CYLINDRICAL,
  fisheye: FISHEYE,
}

/** The form of a projection, of a lens's or of a camera's. */
export function formOf(of: Projection | Pick<Lens, 'projection'> | Pick<Camera, 'lens'>): Form {
  const projection = 'kind' in of ? of : 'lens' in of ? of.lens.projection : of.projection
  // each form is only ever handed cameras of its own kind: they are found by it
  return FORMS[projection.kind] as unknown as Form
}
export type { CameraOf, Form }

/** Width of view in metres where it is the same at all depths; null in central projections. */
export const widthOfView = (lens: Pick<Lens, 'projection'>): number | null => formOf(lens).widthM(lens.projection)

/** The lens with another width of view in metres, above nought; a central one as it is. */
export const withWidthOfView = <L extends Pick<Lens, 'projection'>>(lens: L, widthM: number): L => ({
  ...lens,
  projection: formOf(lens).withWidthM(lens.projection, widthM),
})
/** How far a point moves over the picture for each metre of depth, metres right and up: nought but in slanting projections. */
export const shearOf = (lens: Pick<Lens, 'projection'>): { readonly x: number; readonly y: number } =>
  formOf(lens).shear(lens.projection)
/** A central projection onto a plane: it has vanishing points, and a lens that can be long or short. */
export const isPerspective = (of: Pick<Lens, 'projection'> | Pick<Camera, 'lens'>): boolean => formOf(of).hasLens
/** Parallel rays: nothing gets smaller with its distance. */
export const isParallel = (of: Pick<Lens, 'projection'> | Pick<Camera, 'lens'>): boolean => !formOf(of).isCentral
/** What is straight in the world is straight in the picture. */
export const isStraight = (lens: Pick<Lens, 'projection' | 'distortion'>): boolean =>
  formOf(lens).isPlane && !(formOf(lens).hasLens && lens.distortion)
