// What does the page ask of the stage, and what comes back?
// Every picture is asked for by the core's own camera; sizes are in pixels of the bitmap wanted.

import type { ObjectMoved } from '#core/reel'
import type { Camera } from '#core/camera'
import type { ApertureShape, Clipped, Tones } from '#core/optics'
import type { Box, Vec3 } from '#core/math'
import type { PlacedModel } from '#core/placing'
import type { LightVolume, SceneFacts, Soup } from '#mesh'
import type { ClassesByHand, Shown } from '#core/section'
import type { PartValue, StagePart } from '#model'

/** What a lens blurs: focused at a depth along its axis, through an aperture. */
export interface Blur {
  readonly focusM: number
  readonly fNumber: number
  readonly shape: ApertureShape
  /** Brightness of bright points, times what they have; 1 keeps the energy. Left out, 1. */
  readonly highlights?: number
}

/** Bright points that are drawn as the aperture's shape: how many, and the widths of their discs in pixels of the frame. */
export interface PointsTold {
  readonly count: number
  readonly leastPx: number
  readonly midPx: number
  readonly mostPx: number
}

/** A photograph that fills the frame behind the model. */
export interface BehindPhoto {
  readonly sha256: string
  /** Height of a ground that takes the model's shadow, metres; none where left out. */
  readonly groundM?: number
  /** Of the model over it, 0..1; 1 where left out. */
  readonly opacity?: number
  /** Where it stands before the model: polygons in shares of its width and height, and how soft their edges are, as a share of its width. */
  readonly masks: readonly {
    readonly points: readonly (readonly [number, number])[]
    readonly soft: number
  }[]
}

/** What a picture shows besides the camera: what is shown, and the parts that the registry hands to the stage. */
export type Appearance = { readonly shown: Shown } & { readonly [P in StagePart]: PartValue<P> } & {
  /** Exposed by what a meter reads from the surfaces in the picture instead of by its EV. */
  readonly metered?: boolean
  /** One plain tone for all surfaces, for working quickly. */
  readonly clay?: boolean
  /** Marks what is clipped, bright and dark, for looking at the exposure. */
  readonly clipping?: boolean
  /** Outlines what lies between two depths along the axis, metres: the sharp zone. */
  readonly zone?: { readonly nearM: number; readonly farM: number }
  /** What the lens blurs; left out, all is sharp. */
  readonly blur?: Blur
  /** The colour table that the finish names, as the document keeps it. */
  readonly table?: { readonly size: number; readonly data: string }
  /** The photograph that the backdrop names; left out where it is none, or gone. */
  readonly photo?: BehindPhoto
  /** Classes of materials set by hand: how their cut faces are hatched. */
  readonly classes?: ClassesByHand
}

/** A moment within the time that a shutter is open. */
export interface OpenMoment {
  readonly camera: Camera
  /** Things that do not stand as their file has them. */
  readonly moved: readonly ObjectMoved[]
}
export interface PictureRequest {
  readonly camera: Camera
  readonly widthPx: number
  readonly heightPx: number
  readonly appearance: Appearance
  /** Moving: one cheap pass at a size that keeps up. At rest: full size, refined up to `samples`. */
  readonly moving: boolean
  readonly samples: number
  /** At rest: what the samples see while the shutter is open, one after the other and again from the first; left out, all see the camera. */
  readonly open?: readonly OpenMoment[]
  /** At rest: one cheap frame first (told as sample 0), before all other work. */
  readonly quickFirst?: boolean
  /** The picture shows so much more than the frame on every side, as a part of the frame; what is metered and counted is the frame. */
  readonly pastFrame?: number
  /** Pictures of different places refine side by side; `picture` when left out. */
  readonly place?: 'picture' | 'outside'
}

/** Some objects, seen through whatever stands before them, on clear ground: their outline, as ghosts with their creases,
 * or the same drawn as a sign on paper, without the light line that sets ghosts off from a picture. */
export interface OutlineRequest {
  readonly camera: Camera
  readonly widthPx: number
  readonly heightPx: number
  readonly ids: readonly string[]
  readonly style: 'outline' | 'ghosts' | 'drawn'
  readonly shown: Shown
  /** sRGB, 0..1. */
  readonly colour: readonly [number, number, number]
  /** A newer request of the same key takes the place of an older one; the style, where left out. */
  readonly key?: string
}

export interface PictureFrame {
  readonly bitmap: ImageBitmap
  readonly sample: number
  readonly samples: number
  /** Milliseconds the drawing took. */
  readonly tookMs: number
  /** The EV that it was exposed by, before compensation. */
  readonly ev100: number
  /** How much of it is at its ends. */
  readonly clipped: Clipped
  /** How its tones are spread; of a finished one. */
  readonly tones?: Tones
  /** Its bright points; null where there are none, or nothing is blurred. */
  readonly points?: PointsTold | null
}

/** A parallel base image for Plan and Side, cut open: what lies on the removed side of the plane is gone. */
export interface DrawingRequest {
  readonly key: 'plan' | 'side'
  readonly camera: Camera
  readonly widthPx: number
  readonly heightPx: number
  readonly shown: Shown
  readonly cut: { readonly point: Vec3; readonly normal: Vec3 } | null
  readonly night: boolean
}

export interface StillRequest {
  readonly camera: Camera
  readonly appearance: Appearance
  readonly samples: number
  /** Drawn over the finished picture, in its pixels. */
  readonly lines?: readonly StillLine[]
}
export interface StillLine {
  readonly places: readonly (readonly [x: number, y: number])[]
  /** A CSS colour. */
  readonly ink: string
  readonly strength: number
  readonly widthPx: number
}

export interface StageModel {
  readonly placed: PlacedModel
  readonly sha256: string
  /** The GLB; null when the stage has this content under this key already. */
  readonly bytes: Uint8Array | Blob | null
}
export interface Loaded {
  readonly facts: SceneFacts
  readonly soup: Soup
  /** Number of the scene: the cut faces of the geometry that has it are this one's. */
  readonly scene: number
}

export interface StageContract {
  /**
   * Shows exactly these models, placed; answers with quick facts (bounds of turned objects are somewhat wide). AppError
   * `model-unreadable` when a file cannot be used; the old scene then stays. Facts that are exactly known already can be handed in (`exact`).
   */
  load(models: readonly StageModel[], exact?: SceneFacts | null): Promise<SceneFacts>
  /** All triangles of what is shown, and the exact facts. AppError `model-unreadable` when a position is not a number. */
  soup(): Promise<Loaded>
  /** The way to the geometry, which is asked for cut faces. */
  connect(port: MessagePort): void
  /** Takes over baked light and draws the surroundings that smooth things mirror, as they look under `appearance`. */
  setLight(volume: LightVolume, appearance: Appearance): Promise<void>
  /** Frames arrive one by one; resolves true when the last came, false when a newer request took its place. */
  picture(request: PictureRequest, onFrame: (frame: PictureFrame) => void): Promise<boolean>
  /** Ends the refining of a place that is no longer shown. */
  stopPicture(place: 'picture' | 'outside'): void
  /** What the GL holds: for watching that nothing is left behind. */
  held(): Promise<{ readonly geometries: number; readonly textures: number; readonly programs: number }>
  /** Null when a newer request for the same strip took its place. */
  drawing(request: DrawingRequest): Promise<ImageBitmap | null>
  /** Null when a newer request of its style took its place. */
  outline(request: OutlineRequest): Promise<ImageBitmap | null>
  thumbnail(key: string, request: PictureRequest): Promise<ImageBitmap | null>
  /** A finished PNG at the frame's full size with its density; null when cancelled. */
  still(request: StillRequest, onProgress: (done: number) => void): Promise<Blob | null>
  cancelStill(): void
  /** Light at a place of the picture (shares of its width and height from the top left): mean linear RGB of a few pixels, cd/m2; null where nothing is. */
  spot(request: PictureRequest, place: readonly [number, number]): Promise<readonly [number, number, number] | null>
  /** EV100 that a meter would choose for this picture (mean of the middle, reflected light). */
  meter(request: PictureRequest): Promise<number>
  dispose(): void
}

export type { Box }
