// What the page asks of the worker that holds a photograph, and of the one that solves its camera.
import type { Outcome, Result } from '#core/base'
import type { LeftOut, MatchReason, PhotoAsked, PhotoLens, PhotoMatch } from '#core/match'
import type { FocalTold, RefinedEdge } from '#core/photo'
import type { PhotoType } from '#formats/photo'

export interface OpenedPhoto {
  readonly type: PhotoType
  readonly sha256: string
  /** Of the upright photograph. */
  readonly widthPx: number
  readonly heightPx: number
  /** What its tags tell of the focal length; null where nothing. */
  readonly focal: FocalTold | null
  /** Why they tell nothing, in a sentence; empty where they do. */
  readonly untold: string
  readonly camera: string
}
/** Edges found, four numbers each (x and y of both ends, pixels of the full photograph), the longest first. */
export interface FoundEdges {
  readonly ends: Float64Array
  readonly bundles: readonly {
    readonly kind: 'up' | 'level'
    /** Places in the list of edges. */
    readonly members: readonly number[]
    readonly supportPx: number
  }[]
  readonly tookMs: number
}
export interface PhotoDoor {
  /** Decodes a file, turned upright, and reads its tags; AppError `photo-unreadable` with what is wrong. */
  open(file: Blob): Promise<Outcome<OpenedPhoto>>
  /** The photograph no larger than so many pixels on its longer side. */
  preview(longestPx: number): Promise<ImageBitmap | null>
  /** A part of it, drawn to so many pixels; what lies outside is clear. */
  part(x: number, y: number, width: number, height: number, toWidth: number, toHeight: number): Promise<ImageBitmap | null> // prettier-ignore
  /** Straight edges, found at about three megapixels and refined at full size, and bundles of them. */
  edges(): Promise<FoundEdges>
  /** A segment moved onto the edge near it; null where there is none. */
  refine(a: readonly [number, number], b: readonly [number, number], reachPx: number): Promise<RefinedEdge | null>
  /** The photograph as a lens without distortion would have taken it, about the same middle and focal length; a PNG. */
  straightened(lens: PhotoLens): Promise<Blob | null>
}
export interface MatchDoor {
  solve(asked: PhotoAsked): Promise<Result<PhotoMatch, MatchReason>>
  weakest(asked: PhotoAsked, answer: PhotoMatch): Promise<readonly LeftOut[]>
}
