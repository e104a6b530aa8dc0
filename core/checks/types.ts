// What does the frame check look at, and what does it say?
// Model: a finding is plain data: a number against a limit, why it matters, what to show and, where there is one, the mended parts.

import type { AimCentre, Camera, Frame, Lens, Stand } from '../camera/index.ts'
import type { Box, Vec3 } from '../math/index.ts'
import type { Limits } from './limits.ts'
import type { Cut, Shown, Sight } from '../section/index.ts'

/** The parts of a Setup that the check reads. */
export interface CheckSetup {
  readonly stand: Stand
  readonly lens: Lens
  readonly frame: Frame
  readonly shown: Shown
  /** What the lens blurs; left out where all is sharp. */
  readonly lensFocus?: FocusLook
  /** The project's own limits. */
  readonly limits?: Limits | undefined
}
/** A lens that blurs, and why it is not focused where it was meant to be. */
export interface FocusLook {
  /** Along the axis, metres. */
  readonly distanceM: number
  readonly fNumber: number
  /** Largest disc that counts as sharp, mm on the sensor. */
  readonly cocMm: number
  readonly trouble: 'gone' | 'behind' | 'no-aim' | 'nothing' | null
  /** What is followed. */
  readonly objectId?: string | undefined
}

export interface SceneHit {
  readonly point: Vec3
  /** Unit, as the triangle is wound: along the ray where its back is met. */
  readonly normal: Vec3
  readonly distanceM: number
  readonly nodeId: string
  readonly nodeName: string
}
/** A large level face. */
export interface LevelFace {
  readonly nodeId: string
  readonly nodeName: string
  readonly heightM: number
  readonly areaM2: number
  /** Its extent in plan. */
  readonly min: readonly [number, number]
  readonly max: readonly [number, number]
}
export interface Subject {
  readonly id: string
  readonly name: string
  readonly box: Box
}
/** A thing that is shown. */
export interface CheckObject {
  readonly id: string
  readonly name: string
  readonly box: Box
  /** Walls, floors, roofs, structure, glazing: what things stand in. */
  readonly isBuilding: boolean
  readonly isPerson: boolean
}
/** What the check may ask of the model; hidden objects are left out of all of it. */
export interface CheckScene {
  /** Bounds of what is shown; null when nothing is. */
  readonly box: Box | null
  readonly kind: 'room' | 'product'
  /** The project's own eye height. */
  readonly eyeHeightM: number
  /** Floor below the station; null over the void. */
  readonly floorM: number | null
  readonly subject: Subject | null
  readonly objects: readonly CheckObject[]
  readonly levelFaces: readonly LevelFace[]
  /** Large upright planes. */
  readonly walls: readonly { readonly name: string; readonly point: Vec3; readonly normal: Vec3 }[]
  /** What a cut lays open, m2; null for one that is not there. */
  laidOpenM2(cutId: string): number | null
  readonly centreOf: AimCentre
  /** An object that is shown. */
  objectOf(id: string): Subject | null
  /** First surface along a sight line that is shown; glass counts only with `clearToo`. */
  first(sight: Sight, clearToo?: boolean): SceneHit | null
  /** Opaque objects met before the one named (or one below it), without those that stand in or on it; null when the sight line misses it. */
  before(sight: Sight, nodeId: string): readonly { readonly id: string; readonly name: string }[] | null
}

export type FindingId =
  | 'leaning-verticals'
  | 'almost-level'
  | 'almost-square'
  | 'inside-object'
  | 'eye-height'
  | 'nothing-in-view'
  | 'subject-hidden'
  | 'edge-on-face'
  | 'almost-centred'
  | 'cut-misses'
  | 'cut-grazes'
  | 'far-inside'
  | 'subject-cut'
  | 'plan-converges'
  | 'focus-lost'
  | 'subject-soft'
  | 'focused-soft'
  | 'no-blur'
  | 'soft-foreground'
  | 'past-hyperfocal'
  | 'clipped'
  | 'just-cropped'
  | 'touches-edge'
  | 'off-guide'
  | 'stretched'
  | 'past-shift'
  | 'too-wide'
  | 'depth-untold'
  | 'edge-on-level'
export type Severity = 'problem' | 'warning' | 'note'

/** What the picture highlights. */
export interface Show {
  readonly nodeIds?: readonly string[]
  readonly lines?: readonly (readonly [Vec3, Vec3])[]
  readonly points?: readonly Vec3[]
}
/** The mended parts; `hide` adds to what is hidden. */
export interface Mend {
  readonly label: string
  readonly stand?: Stand
  readonly lens?: Lens
  readonly hide?: readonly string[]
  /** Near and far cut are switched off. */
  readonly cutsOff?: boolean
  /** The far cut is switched off. */
  readonly farOff?: boolean
  /** In the place of the cut with its id. */
  readonly cut?: Cut
  /** Exposure compensation on by so much. */
  readonly brighterEv?: number
  /** Off, or focused on the aim, an object or at a distance. */
  readonly focus?: 'off' | 'aim' | { readonly nodeId: string } | { readonly distanceM: number }
}
export interface Finding {
  readonly id: FindingId
  readonly severity: Severity
  readonly value: number
  /** The bound that the value passes. */
  readonly limit: number
  readonly unit: 'deg' | '%' | 'm' | 'm2' | 'px' | 'mm' | 'ratio'
  /** What is found, with its number. */
  readonly message: string
  /** Why it matters. */
  readonly reason: string
  readonly show: Show
  readonly mend?: Mend
}

/** What one look at the picture gives to all checks. */
export interface Look {
  readonly setup: CheckSetup
  readonly scene: CheckScene
  readonly camera: Camera
  /** First surfaces along a grid of picture rays from the near cut on; null where nothing is met. */
  readonly grid: readonly (SceneHit | null)[]
  /** The first surface of the grid's i-th ray that is not glass. */
  readonly behindGlass: (i: number) => SceneHit | null
  /** The point aimed at, or the middle of what is seen, for mends that keep a subject in its place. */
  readonly keep: Vec3
}
export type Check = (look: Look) => readonly Finding[]
