// Door of core/math: vectors and boxes.
export { add, sub, scale, addScaled, dot, cross, length, distance, normalize, type Vec3 } from './vec.ts'
export { boxCentre, boxSize, boxCorners, joinBoxes, type Box } from './box.ts'
