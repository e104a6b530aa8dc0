// What is a reel made of?
// Model: shots, each a camera over its own time, put in order with cuts or dissolves. Everything a shot needs is in it: viewpoints and objects
// that the document names are worked out before. Space: world metres, degrees, seconds.
import type { Lens, Pose } from '../camera/index.ts'
import type { Vec3 } from '../math/index.ts'
import type { KeyCurve } from './curves.ts'
import type { Key } from './ease.ts'
import type { ObjectMotion, ObjectMoved, ObjectPlace } from './objects.ts'

/** What is taken at one moment. */
export interface Take {
  readonly pose: Pose
  readonly lens: Lens
  /** Distance of what is sharp along the axis; null: all of it is. */
  readonly focusM: number | null
  readonly fNumber: number
  /** Exposure at ISO 100, compensation included. */
  readonly ev: number
  /** Things that do not stand as their file has them. */
  readonly moved?: readonly ObjectMoved[]
}
/** A take that looks at something: how far away that is. */
export interface View extends Take {
  readonly awayM: number
}

/** A shot over its own time. */
export interface Filmed {
  readonly durationS: number
  /** At a moment of the shot; before and after it its first and last one. */
  at(timeS: number): Take
}

export interface HoldShot {
  readonly kind: 'hold'
  readonly view: View
  readonly durationS: number
  /** So much nearer at the end, as a share of the distance: -0.5..0.5. */
  readonly creep: number
}
export interface PushShot {
  readonly kind: 'push'
  readonly from: View
  readonly to: View
  readonly durationS: number
  /** Least jerk, or an even pace with soft ends. */
  readonly ease: 'soft' | 'even'
  /** The lens zooms so that what is looked at keeps its size. */
  readonly holdsSize: boolean
}
export interface TravelStop {
  /** Of the eye. */
  readonly station: Vec3
  readonly holdS: number
  /** Where it looks from there; null: as the way goes. */
  readonly look: { readonly bearingDeg: number; readonly tiltDeg: number } | null
  /** From the stop to where the way leads on, and as far back to where it comes from: its direction there, and how long it keeps it, metres. */
  readonly tangentM?: Vec3 | undefined
  /** Passed on the way to the next one: it follows the floor. */
  readonly via?: readonly Vec3[] | undefined
}
export type Gaze =
  /** Where one will be after some metres. */
  | { readonly kind: 'along'; readonly aheadM: number; readonly tiltDeg: number }
  | { readonly kind: 'point'; readonly point: Vec3 }
  /** Each stop's own look, turning over between them. */
  | { readonly kind: 'stops' }
export interface TravelShot {
  readonly kind: 'travel'
  /** Lens, focus and exposure of all of it. */
  readonly view: Take
  readonly stops: readonly TravelStop[]
  readonly isClosed: boolean
  /** Goes the other way round. */
  readonly isReversed?: boolean
  /** Where on a closed way it begins and ends, as a share of it: 0..1. */
  readonly startShare?: number
  /** Radius of its corners, metres; left out or nought: it passes all stops, as smoothly as they allow. */
  readonly cornerM?: number
  /** Wanted, of each leg. */
  readonly speedsMps: readonly number[]
  readonly gaze: Gaze
}
export interface TurntableShot {
  readonly kind: 'turntable'
  /** Where it begins. */
  readonly view: View
  readonly pivot: Vec3
  /** Times round; of `swing`, there and back. */
  readonly turns: number
  readonly direction: 1 | -1
  readonly durationS: number
  /** Even for a loop without a seam; from rest to rest; there and back with soft reversals. */
  readonly pace: 'loop' | 'soft' | 'swing'
  /** These things turn about the pivot, the other way, while camera and light stand; left out: the camera goes round. */
  readonly spins?: readonly string[]
  /** Factors of distance and focal length, and metres of height, along the time; none: as it begins. */
  readonly distance: readonly Key[]
  readonly focal: readonly Key[]
  readonly heightM: readonly Key[]
}
export type ShotKeys = { readonly [C in KeyCurve]?: readonly Key[] }
/** A place that is looked at at a moment, by its share of the shot's time. */
export interface AimKey {
  readonly at: number
  readonly point: Vec3
}
/** What any shot may have besides: curves over its time, and things that move. */
export interface Beside {
  readonly keys?: ShotKeys
  readonly objects?: readonly ObjectMotion[]
  /** Things that stand elsewhere all the while. */
  readonly placed?: readonly ObjectPlace[]
  /** Looks along a line of its own, by time: smoothly from place to place, resting at both ends. Comes before what is watched. */
  readonly aim?: readonly AimKey[]
  /** Keeps looking at an object, wherever it is: its id, and its middle as its file has it. */
  readonly watch?: { readonly objectId: string; readonly centre: Vec3 }
}
export type Shot = (HoldShot | PushShot | TravelShot | TurntableShot) & Beside

export interface ReelCut {
  readonly shot: Shot
  /** Of the shot's own time, seconds; left out: all of it. */
  readonly fromS?: number
  readonly toS?: number
  /** Dissolves into the next one for so long. */
  readonly dissolveS: number
}
