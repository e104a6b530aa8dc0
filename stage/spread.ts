// Focus: where a sample looks through the lens, and how far its points are spread.

import { CustomBlending, HalfFloatType, LinearFilter, OneFactor, SrcAlphaFactor, Vector2, Vector3, Vector4, WebGLRenderTarget, ZeroFactor, type ShaderMaterial } from 'three' // prettier-ignore
import { type Camera, isPerspective } from '#core/camera'
import { apertureM, aperturePoint } from '#core/optics'
import type { LensPlace, Size, Tile } from './aim.ts'
import type { Uniforms } from './light-uniforms.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { clearTextures, NO_CLEAR } from './clear-layer.ts'
import { catOf, fullDisc, inFrame, type TakenOut } from './lens-frame.ts'
import { onLens, type Sample } from './sample.ts'
import { MOST_PLACES, SPREAD_CLEAR_FRAGMENT, SPREAD_FRAGMENT, SPREAD_TAPS } from './shaders-spread.ts'
import type { Targets } from './targets.ts'
import type { Blur } from './types.ts'

/** Light that is there already, with what covers it; alpha says how much of it is seen. */
function layOver(pass: ShaderMaterial): void {
  pass.blending = CustomBlending
  pass.blendSrc = OneFactor
  pass.blendDst = pass.blendDstAlpha = SrcAlphaFactor
  pass.blendSrcAlpha = ZeroFactor
}

/** Spread no farther than this, pixels: of a picture of one sample the places looked at are few. */
const MOST_PX = { some: 16, all: 40 } as const

/** Whether a camera has a lens that blurs. */
export const hasLens = (camera: Camera): boolean => isPerspective(camera)

/** Where a place on the lens (radius 1) lies; null where nothing is blurred. */
export function lensPlace(camera: Camera, blur: Blur, [x, y]: readonly [number, number] = [0, 0]): LensPlace | null {
  const { focalMm } = camera.lens
  // focused nearer than the focal length there is no picture: the lens stays a point
  if (!hasLens(camera) || !(blur.focusM > (focalMm / 1000) * 1.001)) return null
  const radius = apertureM({ focalMm, fNumber: blur.fNumber, focusM: blur.focusM }) / 2
  return { xM: x * radius, yM: y * radius, focusM: blur.focusM }
}

export interface SpreadBy {
  readonly camera: Camera
  readonly blur: Blur
  readonly size: Size
  /** Pixels of what is drawn to one of the frame. */
  readonly perPx: number
  readonly sample: Sample
  /** Of the projection: how depth goes with the distance along the axis. */
  readonly axial: readonly [number, number]
  readonly tile: Tile | null
  /** Bright points that are drawn by themselves. */
  readonly takenOut: TakenOut | null
}

export class SpreadPass {
  private readonly gl: FullPasses
  /** What is not asked for is not in the pass: each has its own. */
  private readonly passes = new Map<string, ShaderMaterial>()
  private readonly uniforms = {
    uSource: { value: null },
    uFlatSource: { value: null },
    uDepth: { value: null },
    uGlint: { value: null },
    uOver: { value: null },
    uClear: { value: null },
    uPixel: { value: new Vector2() },
    uAxial: { value: new Vector3() },
    uBlur: { value: new Vector4() },
    uPoints: { value: Array.from({ length: SPREAD_TAPS.all }, () => new Vector2()) },
    uTaps: { value: SPREAD_TAPS.some },
    uTurn: { value: 0 },
    uPoints2D: { value: null },
    uLensShift: { value: new Vector4() },
    uInFrame: { value: new Vector4(0, 0, 1, 1) },
    uMapped: { value: new Vector4(0, 0, 1, 1) },
    uCat: { value: new Vector4() },
    uLens: { value: new Vector2() },
    uPlaces: { value: Array.from({ length: MOST_PLACES }, () => new Vector2()) },
    uPlaceCount: { value: 0 },
  } as Uniforms

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  /** Spreads a lit sample into `to`; `of`: how many samples the picture has, 1 for all of the disc at once. */
  draw(t: Targets, to: WebGLRenderTarget, by: SpreadBy): void {
    const { lit, facts, clear } = t
    const { camera, blur, size, perPx } = by
    const { index, of } = by.sample
    const all = of === 1
    const u = this.uniforms
    u['uSource']!.value = lit.textures[0]
    u['uFlatSource']!.value = lit.textures[1]
    u['uDepth']!.value = facts.depthTexture
    const { over, glints } = clearTextures(t)
    u['uOver']!.value = over
    u['uGlint']!.value = glints
    u['uClear']!.value = clear?.layer.textures[1] ?? NO_CLEAR
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    ;(u['uAxial']!.value as Vector3).set(by.axial[0], by.axial[1], 0)
    const farPx = fullDisc(camera, blur, { widthPx: camera.frame.widthPx * perPx })
    ;(u['uBlur']!.value as Vector4).set(farPx, blur.focusM, all ? 1 : 1 / Math.sqrt(of), all ? MOST_PX.all : MOST_PX.some) // prettier-ignore
    const taps = all ? SPREAD_TAPS.all : SPREAD_TAPS.some
    u['uTaps']!.value = taps
    u['uTurn']!.value = index * 2.399963
    const points = u['uPoints']!.value as Vector2[]
    // a part of the aperture is about as round as a disc is
    const shape = all ? blur.shape : { ...blur.shape, blades: 0, picture: undefined }
    for (let i = 0; i < taps; i++) points[i]!.set(...aperturePoint(shape, i + 1))
    this.pointUniforms(by)
    this.gl.renderer.setRenderTarget(to)
    this.gl.full(this.passFor(by, false))
    if (clear?.isApart) this.gl.full(this.passFor(by, true))
    this.gl.renderer.setRenderTarget(null)
  }

  private passFor({ takenOut, blur, sample: { of } }: SpreadBy, isClear: boolean): ShaderMaterial {
    const defines = { ...(takenOut && { POINTS: '' }), ...(of > 1 && (blur.shape.catsEye ?? 0) > 0 && { CATS_EYE: '' }) } // prettier-ignore
    const key = [isClear, ...Object.keys(defines)].join()
    let pass = this.passes.get(key)
    if (!pass) {
      pass = fullPass(isClear ? SPREAD_CLEAR_FRAGMENT : SPREAD_FRAGMENT, this.uniforms)
      if (isClear) layOver(pass)
      pass.defines = defines
      this.passes.set(key, pass)
    }
    return pass
  }
  /** What is taken out, and how the barrel of the lens cuts places off. */
  private pointUniforms({ camera, blur, tile, takenOut, sample }: SpreadBy): void {
    const { of } = sample
    const u = this.uniforms
    u['uPoints2D']!.value = takenOut?.points ?? null
    if (takenOut) (u['uLensShift']!.value as Vector4).copy(takenOut.shift)
    else (u['uLensShift']!.value as Vector4).set(0, 0, 0, 1)
    if (takenOut) (u['uMapped']!.value as Vector4).copy(takenOut.mapped)
    ;(u['uInFrame']!.value as Vector4).copy(inFrame(camera, tile))
    const cat = of > 1 ? (blur.shape.catsEye ?? 0) : 0
    ;(u['uCat']!.value as Vector4).copy(catOf(camera, cat))
    ;(u['uLens']!.value as Vector2).set(...sample.lens)
    const n = cat > 0 ? Math.min(of, MOST_PLACES) : 0
    u['uPlaceCount']!.value = n
    const places = u['uPlaces']!.value as Vector2[]
    for (let i = 0; i < n; i++) places[i]!.set(...onLens(blur, Math.floor((i * of) / n), of))
  }

  /** A target that spread samples fit in. */
  static target({ width, height }: Size): WebGLRenderTarget {
    return new WebGLRenderTarget(width, height, {
      ...{ minFilter: LinearFilter, magFilter: LinearFilter },
      ...{ type: HalfFloatType, depthBuffer: false, count: 2 },
    })
  }
  dispose(): void {
    for (const p of this.passes.values()) p.dispose()
  }
}
