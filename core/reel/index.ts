// Door of core/reel: shots, what they show at a moment, and reels of them.
export {
  comfortOf,
  COMFORT_LIMITS,
  type ComfortAsked,
  type ComfortFinding,
  type ComfortKind,
  type ComfortLimits,
  type Through,
} from './comfort.ts'
export {
  clipTime,
  playedAt,
  posed,
  trackAt,
  type ClipNode,
  type ClipPath,
  type ClipPlay,
  type ClipRepeat,
  type ClipTrack,
  type ModelClip,
} from './clips.ts'
export { KEY_CURVES, type KeyCurve } from './curves.ts'
export { evenly, leastJerk, throughKeys, unwound, type Key } from './ease.ts'
export { fitStep, judged, type FitAsked, type FitReel } from './fit.ts'
export {
  movedPoint,
  movesOf,
  placeAt,
  placeBetween,
  shiftedMoved,
  type ObjectAffine,
  type ObjectMotion,
  type ObjectMoved,
  type ObjectPlace,
} from './objects.ts'
export { motionOf, stationAt, type Motion } from './motion.ts'
export { framesOf, RATES, reelOf, type Placed, type Reel, type Seen } from './reel.ts'
export { acrossOf, reportOf, type BesideWay, type ReelReport, type ReportAsked, type StillRun } from './report.ts'
export { filmed, pushShare, type ShotReason } from './shots.ts'
export { parseTime, TIME_UNITS, timecode, timeSuffix, timeText, type TimeUnit } from './times.ts'
export { travelled, WALK_LIMITS, type Travelled } from './travel.ts'
export { FLOOR_STEP_M, onFloor, type FloorAsked } from './profile.ts'
export { leftByCorner, wayOf, type Way, type WayAsked } from './way.ts'
export type {
  AimKey,
  Beside,
  Filmed,
  ShotKeys,
  Gaze,
  HoldShot,
  PushShot,
  ReelCut,
  Shot,
  Take,
  TravelShot,
  TravelStop,
  TurntableShot,
  View,
} from './types.ts'
