// Door of core/camera: pose, lens, projections in both directions.
export type {
  Aim,
  Brown,
  Camera,
  FisheyeMapping,
  Frame,
  FrameCrop,
  FrameMask,
  Guide,
  GuideColour,
  GuideKind,
  Lens,
  Matrix16,
  PicturePoint,
  Pose,
  Projection,
  Ray,
  SensorUse,
  Stand,
} from './types.ts'
// pose and stand
export {
  aimConverted,
  aimPointOf,
  anglesOf,
  axesOf,
  cameraFromWorld,
  directionOf,
  poseOfStand,
  rightOf,
  standAs,
  standMoved,
  standTurnedTo,
  tiltOf,
  toCamera,
  topOf,
  topTowards,
  type AimCentre,
  type Axes,
} from './pose.ts'
export { sameView } from './same.ts'
// lens and sensor
export { focalForAngle, FOCAL_RANGE_MM, PRIMES_MM, usedSensor, type FieldOfView, type UsedSensor } from './lens.ts'
export {
  equivalentOf,
  focalOfAngle,
  focalOfEquivalent,
  focalOfExtent,
  heightAtDepthM,
  sensorOf,
  SENSORS,
  USUAL_SHIFT,
  type AngleKind,
  type Equivalent,
  type Sensor,
} from './lens-numbers.ts'
export { imageCircleLimitMm, imageCircleMm, isPastShift } from './image-circle.ts'
export { distort, distortInto, foldOf, undistort, undistortInto, type Fold } from './distortion.ts'
export { cornerDistortion, foldInPicture, sagittaPx, withCornerDistortion } from './distortion-strength.ts'
// projections
export { viewsOf, type Resampling, type Views } from './projections/views.ts'
export {
  formOf,
  isParallel,
  isPerspective,
  isStraight,
  shearOf,
  widthOfView,
  withWidthOfView,
  type Form,
} from './projections/registry.ts'
export { principalPointPx } from './principal.ts'
export { clipFromCamera, fieldOfView, metresPerPx, projectPoint, rayThrough, widthAtDepthM } from './project.ts'
// moving the camera
export { dolly, focalHoldingSize, orbit, slide, turnInPlace, type DragOptions, type Framing } from './navigate.ts'
export { heldOnPlan, heldOnSide, isNearUpright, levelWith, standFromPlan, standFromSide } from './drawn-stand.ts'
export { frameCorners, frameOutline } from './frame-corners.ts'
export { horizonLine, projectSegment, type PicturePlace } from './segment.ts'
export { magnified, widened } from './widened.ts'
export { onSensor, throughSensor } from './on-sensor.ts'
