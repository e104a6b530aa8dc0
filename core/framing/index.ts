// Door of core/framing: straightening, fitting, measured views, measuring and snapping.
// straightening
export { levelKeepingCentre, tiltKeepingCentre, type LevelOptions, type LevelReason } from './level.ts'
export { convergence, type Convergence, type ConvergenceOptions } from './convergence.ts'
export {
  bearingSquareTo,
  centreOn,
  horizonThrough,
  squareUp,
  type CentreReason,
  type HorizonReason,
  type SquareOptions,
  type SquareReason,
} from './square.ts'
export { turnedKeepingCentre, type TurnReason } from './turned.ts'
// moves of a stand by numbers
export {
  aimMoved,
  aligned,
  firstStandBefore,
  frontBearingDeg,
  isProduct,
  offsetAhead,
  rolledBy,
  standAtSide,
  stepAlong,
  type Axes,
  type BoxSide,
} from './stands.ts'
export { staffFor, staffMarks, type StaffMark } from './staff.ts'
// size and distance
export { frameHolding } from './frame-holding.ts'
export { lensOfWindow, windowOf, type Window } from './window.ts'
export { fitPoints } from './fit.ts'
export type { FitBy, FitOptions, FitReason, Sides } from './fit-types.ts'
export { holdSize, toParallel, toPerspective, type SizeReason } from './size.ts'
export {
  backedBy,
  depthBehindWall,
  distanceForWidthM,
  nearCutBehind,
  type StandBackReason,
  type WallFace,
} from './stand-back.ts'
// parallel views of Plan and Side
export {
  parallelCamera,
  parallelFit,
  roundLength,
  type ParallelFit,
  type ViewDirection,
  type ViewSize,
} from './parallel-view.ts'
// measured views
export {
  axonometricFromAngles,
  drawnAxes,
  measuredDirection,
  measuredLens,
  scaleOfWidth,
  STANDARD_SCALES,
  widthAtScaleM,
  type DrawnAxis,
  type MeasuredView,
  type Quarter,
} from './measured-views.ts'
export { holdsAll, measuredCamera, measuredStand, type MeasuredTarget } from './measured-camera.ts'
// measuring and snapping
export { focalOfEdge } from './edge-focal.ts'
export { lensOfEnd, pictureWindow, shiftPerMetre, type Across, type PictureWindow } from './picture-window.ts'
export { distancesBetween, type Measurement } from './distances.ts'
export { roundStepM, snapBearing, snapTo, turnedInPlan, type Snapped, type SnapLine } from './snap.ts'
export { poseRound, standOver, standRound } from './round.ts'
export { MOST_ASPECT, reframed, type KeptInView } from './reframe.ts'
export { ACTION_SAFE, GOLDEN, guidePieces, metreGrid, TITLE_SAFE, type GuidePiece } from './guides.ts'
export { cropBox, cropMoved, leftOut, type CropBox } from './crops.ts'
