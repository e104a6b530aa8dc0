// Clear things of a sample: over the lit picture, or in a layer of their own where a lens blurs, so that they are spread by their own
// distance and not by that of what is seen through them.

import {
  DataTexture,
  FloatType,
  NearestFilter,
  RGBAFormat,
  RGFormat,
  UnsignedByteType,
  WebGLRenderTarget,
  type Camera,
  type Texture,
  type WebGLRenderer,
} from 'three'
import type { Size } from './aim.ts'
import type { StageScene } from './scene.ts'
import type { Targets } from './targets.ts'

/** Nothing clear anywhere: no light, all of it seen through. */
export const NO_CLEAR: Texture = (() => {
  const t = new DataTexture(new Uint8Array([0, 0, 0, 255]), 1, 1, RGBAFormat, UnsignedByteType)
  t.needsUpdate = true
  return t
})()

/** Where passes read what is clear of a sample; of one that has it in its light already, its glints alone. */
export const clearTextures = ({ clear }: Targets): { readonly over: Texture; readonly glints: Texture } => ({
  over: clear?.isApart ? clear.layer.textures[0]! : NO_CLEAR,
  glints: clear?.layer.textures[2] ?? NO_CLEAR,
})

/** Light, how far away it is, and where it is asked for the sun's images. */
function layerOf({ width, height }: Size, count: number): WebGLRenderTarget {
  const layer = new WebGLRenderTarget(width, height, {
    ...{ minFilter: NearestFilter, magFilter: NearestFilter },
    // blended over each other: drawn in software halves would be converted for each pane, there and back (a quarter of the time)
    ...{ type: FloatType, depthBuffer: false, count },
  })
  // and what is written of each pixel costs as much as what is worked out for it
  for (const narrow of layer.textures.slice(1)) narrow.format = RGFormat
  return layer
}

export interface ClearTo {
  readonly eye: Camera
  readonly size: Size
  /** Not into the lit picture. */
  readonly isApart: boolean
  /** The sun's images in it are asked for. */
  readonly hasGlints: boolean
}
/** Draws what is clear into a sample that is lit, seen from the same eye. */
export function drawClear(
  renderer: WebGLRenderer,
  stage: StageScene,
  t: Targets,
  { eye, size, isApart, hasGlints }: ClearTo,
): void {
  t.clear = null
  if (!stage.prepare('clear')) return
  if (!isApart) {
    renderer.setRenderTarget(t.lit)
    renderer.render(stage.scene, eye)
    if (!hasGlints) return
  }
  const count = hasGlints ? 3 : 2
  if (t.clearLayer?.textures.length !== count) {
    t.clearLayer?.dispose()
    t.clearLayer = layerOf(size, count)
  }
  t.clear = { layer: t.clearLayer, isApart }
  renderer.setRenderTarget(t.clearLayer)
  renderer.setClearColor(0, 1)
  renderer.clear(true, false, false)
  // sums are begun with it
  renderer.setClearColor(0, 0)
  stage.light['uApart']!.value = 1
  renderer.render(stage.scene, eye)
  stage.light['uApart']!.value = 0
  renderer.setRenderTarget(t.lit)
}
