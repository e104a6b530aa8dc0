// How a lens lies over a frame: how wide its discs are, where its axis meets the frame, what part of the frame is drawn.
import { Vector4, type Texture, type WebGLRenderTarget } from 'three'
import { principalPointPx, type Camera } from '#core/camera'
import type { Size, Tile } from './aim.ts'
import type { Sample } from './sample.ts'
import type { Blur } from './types.ts'

/** How a pass takes points out of a sample; null: there are none. */
export interface TakenOut {
  readonly points: Texture
  readonly shift: Vector4
  readonly inFrame: Vector4
  /** Where the frame lies in the texture of points: from and size. */
  readonly mapped: Vector4
}

/** A sample that is seen through a lens that blurs. */
export interface LensSample {
  readonly camera: Camera
  readonly blur: Blur
  readonly size: Size
  /** Pixels of what is drawn to one of the frame. */
  readonly perPx: number
  readonly sample: Sample
  /** Of the projection: how depth goes with the distance along the axis. */
  readonly axial: readonly [number, number]
  readonly tile: Tile | null
  /** Whether anything is drawn flat. */
  readonly hasFlat: boolean
  /** Bright points that are drawn by themselves. */
  readonly takenOut: TakenOut | null
  /** Of scene light: what is seen as 1 at the exposure. */
  readonly seen: number
}

/** Diameter of the disc of what lies infinitely far behind the focus, pixels of a picture as wide as said. */
export function fullDisc(camera: Camera, blur: Blur, { widthPx }: { readonly widthPx: number }): number {
  const { focalMm } = camera.lens
  const f = focalMm / 1000
  const mm = (focalMm * f) / (blur.fNumber * (blur.focusM - f))
  return (mm * principalPointPx(camera).pxPerMm * widthPx) / camera.frame.widthPx
}

/** Where the optical axis meets the frame, and how far the barrel's far rim stands aside for each part of the frame; y up. */
export function catOf(camera: Camera, strength: number): Vector4 {
  const { widthPx: w, heightPx: h } = camera.frame
  const { xPx, yPx } = principalPointPx(camera)
  const diagonal = Math.hypot(w, h)
  return new Vector4(xPx / w, 1 - yPx / h, (strength * 2 * w) / diagonal, (strength * 2 * h) / diagonal)
}

/** From and size of what is drawn, as shares of the frame; y up. */
export function inFrame(camera: Camera, tile: Tile | null): Vector4 {
  const { widthPx: w, heightPx: h } = camera.frame
  return tile
    ? new Vector4(tile.x / w, 1 - (tile.y + tile.height) / h, tile.width / w, tile.height / h)
    : new Vector4(0, 0, 1, 1)
}

/** A sum of samples through a lens: all light, before the focus, behind it, radii; and what is flat, where anything is. */
export interface LensSums {
  readonly layers: WebGLRenderTarget
  readonly flat: WebGLRenderTarget | null
}
