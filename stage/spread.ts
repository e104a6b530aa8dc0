// Focus: where a sample looks through the lens, and how far its points are spread.

import { HalfFloatType, LinearFilter, Vector2, Vector3, Vector4, WebGLRenderTarget } from 'three'
import { principalPointPx, type Camera } from '#core/camera'
import { apertureM, aperturePoint, aperturePoints } from '#core/optics'
import type { LensPlace, Size } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { SPREAD_FRAGMENT, SPREAD_TAPS } from './shaders-spread.ts'
import type { Blur } from './types.ts'

/** Spread no farther than this, pixels: of a picture of one sample the places looked at are few. */
const MOST_PX = { some: 16, all: 40 } as const

/** Whether a camera has a lens that blurs. */
export const hasLens = (camera: Camera): boolean => camera.lens.projection.kind === 'perspective'

/** Where sample `index` of `of` looks through the lens; the only one through its middle. */
export function lensPlace(camera: Camera, blur: Blur, index: number, of: number): LensPlace | null {
  const { focalMm } = camera.lens
  // focused nearer than the focal length there is no picture: the lens stays a point
  if (!hasLens(camera) || !(blur.focusM > (focalMm / 1000) * 1.001)) return null
  const radius = apertureM({ focalMm, fNumber: blur.fNumber, focusM: blur.focusM }) / 2
  const [x, y] = of === 1 ? [0, 0] : aperturePoints(blur.shape, of)[index % of]!
  return { xM: x * radius, yM: y * radius, focusM: blur.focusM }
}

export interface SpreadBy {
  readonly camera: Camera
  readonly blur: Blur
  readonly size: Size
  /** Pixels of what is drawn to one of the frame. */
  readonly perPx: number
  readonly index: number
  readonly of: number
  /** Of the projection: how depth goes with the distance along the axis. */
  readonly axial: readonly [number, number]
}

export class SpreadPass {
  private readonly gl: FullPasses
  private readonly pass = fullPass(SPREAD_FRAGMENT, {
    uSource: { value: null },
    uFlatSource: { value: null },
    uDepth: { value: null },
    uPixel: { value: new Vector2() },
    uAxial: { value: new Vector3() },
    uBlur: { value: new Vector4() },
    uPoints: { value: Array.from({ length: SPREAD_TAPS.all }, () => new Vector2()) },
    uTaps: { value: SPREAD_TAPS.some },
    uTurn: { value: 0 },
  })

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  /** Spreads a lit sample into `to`; `of`: how many samples the picture has, 1 for all of the disc at once. */
  draw(lit: WebGLRenderTarget, facts: WebGLRenderTarget, to: WebGLRenderTarget, by: SpreadBy): void {
    const { camera, blur, size, perPx, index, of } = by
    const all = of === 1
    const f = camera.lens.focalMm / 1000
    const mm = (camera.lens.focalMm * f) / (blur.fNumber * (blur.focusM - f))
    const u = this.pass.uniforms
    u['uSource']!.value = lit.textures[0]
    u['uFlatSource']!.value = lit.textures[1]
    u['uDepth']!.value = facts.depthTexture
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    ;(u['uAxial']!.value as Vector3).set(by.axial[0], by.axial[1], 0)
    const { pxPerMm } = principalPointPx(camera)
    ;(u['uBlur']!.value as Vector4).set(mm * pxPerMm * perPx, blur.focusM, all ? 1 : 1 / Math.sqrt(of), all ? MOST_PX.all : MOST_PX.some) // prettier-ignore
    const taps = all ? SPREAD_TAPS.all : SPREAD_TAPS.some
    u['uTaps']!.value = taps
    u['uTurn']!.value = index * 2.399963
    const points = u['uPoints']!.value as Vector2[]
    // a part of the aperture is about as round as a disc is
    const shape = all ? blur.shape : { ...blur.shape, blades: 0 }
    for (let i = 0; i < taps; i++) points[i]!.set(...aperturePoint(shape, i + 1))
    this.gl.renderer.setRenderTarget(to)
    this.gl.full(this.pass)
    this.gl.renderer.setRenderTarget(null)
  }

  /** A target that spread samples fit in. */
  static target({ width, height }: Size): WebGLRenderTarget {
    return new WebGLRenderTarget(width, height, {
      ...{ minFilter: LinearFilter, magFilter: LinearFilter },
      ...{ type: HalfFloatType, depthBuffer: false, count: 2 },
    })
  }
  dispose(): void {
    this.pass.dispose()
  }
}
