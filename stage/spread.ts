// Focus: where a sample looks through the lens, and how far its points are spread.

import { HalfFloatType, LinearFilter, NearestFilter, Vector2, Vector3, Vector4, WebGLRenderTarget, type ShaderMaterial, type Texture } from 'three' // prettier-ignore
import { type Camera, isPerspective } from '#core/camera'
import { apertureM, aperturePoint } from '#core/optics'
import type { LensPlace, Size, Tile } from './aim.ts'
import type { Uniforms } from './light-uniforms.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { clearTextures, NO_CLEAR } from './clear-layer.ts'
import { catOf, fullDisc, inFrame, type TakenOut } from './lens-frame.ts'
import { onLens, type Sample } from './sample.ts'
import {
  BLOCK,
  CLEAR_BLOCKS_FRAGMENT,
  LEAST_PX,
  MOST_PLACES,
  NEAR_CLEAR_FRAGMENT,
  SPREAD_FRAGMENT,
  SPREAD_TAPS,
} from './shaders-spread.ts'
import type { Targets } from './targets.ts'
import type { Blur } from './types.ts'

const ofBlocks = (): WebGLRenderTarget =>
  new WebGLRenderTarget(1, 1, { depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter })
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
  /** Whether anything is drawn flat. */
  readonly hasFlat: boolean
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
    uNear: { value: null },
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

  /**
   * Spreads a lit sample into `to`; `of`: how many samples the picture has, 1 for all of the disc at once. False where the lit sample is to be
   * taken as it is.
   */
  draw(t: Targets, to: WebGLRenderTarget, by: SpreadBy): boolean {
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
    const isApart = clear?.isApart === true
    const reachPx = all ? MOST_PX.all : Math.min((0.5 * farPx) / Math.sqrt(of), MOST_PX.some)
    const spreads = reachPx >= LEAST_PX
    const pass = this.passFor(by, isApart, spreads)
    if (!pass) return false
    if (isApart && spreads) this.findNear(over, size, reachPx)
    this.gl.renderer.setRenderTarget(to)
    this.gl.full(pass)
    this.gl.renderer.setRenderTarget(null)
    return true
  }

  /** Where something clear lies near enough to be spread there. */
  private findNear(over: Texture, { width, height }: Size, reachPx: number): void {
    const { renderer } = this.gl
    const [blocks, near] = [this.blocks, this.nearby].map(({ to }) => {
      to.setSize(Math.ceil(width / BLOCK), Math.ceil(height / BLOCK))
      return to
    }) as [WebGLRenderTarget, WebGLRenderTarget]
    this.blocks.pass.uniforms['uOver']!.value = over
    renderer.setRenderTarget(blocks)
    this.gl.full(this.blocks.pass)
    this.nearby.pass.uniforms['uBlocks']!.value = blocks.texture
    this.nearby.pass.uniforms['uReach']!.value = Math.ceil((reachPx + 1) / BLOCK)
    renderer.setRenderTarget(near)
    this.gl.full(this.nearby.pass)
    this.uniforms['uNear']!.value = near.texture
  }
  private readonly blocks = { pass: fullPass(CLEAR_BLOCKS_FRAGMENT, { uOver: { value: null } }), to: ofBlocks() }
  private readonly nearby = { pass: fullPass(NEAR_CLEAR_FRAGMENT, { uBlocks: { value: null }, uReach: { value: 0 } }), to: ofBlocks() } // prettier-ignore

  /** Null where nothing is to be done. */
  private passFor(
    { takenOut, blur, hasFlat, sample: { of } }: SpreadBy,
    isApart: boolean,
    spreads: boolean,
  ): ShaderMaterial | null {
    const defines = { ...(spreads && { SPREADS: '' }), ...(isApart && { CLEAR: '' }), ...(hasFlat && { FLAT: '' }), ...(takenOut && { POINTS: '' }), ...(of > 1 && (blur.shape.catsEye ?? 0) > 0 && { CATS_EYE: '' }) } // prettier-ignore
    const key = Object.keys(defines).join()
    if (key === '' || key === 'FLAT') return null
    let pass = this.passes.get(key)
    if (!pass) {
      pass = fullPass(SPREAD_FRAGMENT, this.uniforms)
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
    for (const { pass, to } of [this.blocks, this.nearby]) {
      pass.dispose()
      to.dispose()
    }
  }
}
