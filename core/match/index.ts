// Door of core/match: the camera of a photograph from lines and points, with its error bars.
export { lineArrows, matchBundles, matchLines, type LineMatch, type LinesAsked } from './lines.ts'
export { lengthAlong, placeOnPlane, sightOf, sunOfShadow, type LengthTold } from './measure.ts'
export type { Covariance } from './spread.ts'
export { matchPoints, type PointMatch, type PointsAsked } from './points.ts'
export {
  leaveOneOut,
  rmsUnder,
  solvePhoto,
  pairsOfLength,
  type LeftOut,
  type PhotoAsked,
  type PhotoMatch,
} from './photo.ts'
export { matchViews, type ViewsAsked, type ViewsMatch } from './views.ts'
export { LENS_UNKNOWNS, POSE_UNKNOWNS } from './types.ts'
export type { MatchReason } from './refusals.ts'
export type {
  Estimate,
  PhotoLens,
  PhotoLine,
  PhotoPair,
  PhotoView,
  PicturePlace,
  Segment,
  Treatment,
  Treatments,
  Unknown,
} from './types.ts'
