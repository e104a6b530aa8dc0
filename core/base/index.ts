// Door of core/base: results, angles, units, repeatable randomness.
export { ok, refused, requireNumber, type Result } from './result.ts'
export {
  RAD_PER_DEG,
  DEG_PER_RAD,
  sinDeg,
  cosDeg,
  atan2Deg,
  asinDeg,
  wrapBearingDeg,
  bearingDifferenceDeg,
} from './angles.ts'
export { seededRandom, halton } from './rng.ts'
export {
  articled,
  parseQuantity,
  formatLength,
  formatWithSigma,
  lengthSuffix,
  type LengthUnit,
  type QuantityKind,
} from './units.ts'
export { likelierUnit, type LikelierUnit } from './outliers.ts'
export { AppError, ERRORS, isErrorCode, isPassing, type ErrorCode, type ErrorEntry } from './errors.ts'
export { failureData, opened, type Outcome } from './outcome.ts'
