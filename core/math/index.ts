// Door of core/math: vectors, boxes and moves.
export {
  affineAbout,
  affineDirection,
  affineInverse,
  affineOf,
  affinePoint,
  affineProduct,
  affineVolume,
  UNMOVED,
  type Affine,
} from './affine.ts'
export { add, sub, scale, addScaled, dot, cross, length, distance, normalize, type Vec3 } from './vec.ts'
export { boxCentre, boxSize, boxCorners, joinBoxes, type Box } from './box.ts'
