// Samples through a lens, summed by what lies before the focus and what behind it, and smoothed once when a picture is made of the sum.
// Model: see shaders-lens-sum.ts. Smoothing is linear: done to the sum it costs once what it would cost with every sample.

import { CustomBlending, FloatType, HalfFloatType, NearestFilter, OneFactor, RedFormat, Vector2, WebGLRenderTarget, type ShaderMaterial } from 'three' // prettier-ignore
import { aperturePoint } from '#core/optics'
import type { Size } from './aim.ts'
import { fit, fullPass, type FullPasses } from './full-passes.ts'
import type { LensSample, LensSums } from './lens-frame.ts'
import { LensPasses, lensUniforms, setLensUniforms } from './lens-sample.ts'
import { FLAT_ADD_FRAGMENT, LENS_ADD_FRAGMENT, LENS_PACK_FRAGMENT, LENS_SMOOTH_FRAGMENT, MOST_SMOOTHED_PX, NEAR_BLOCKS_FRAGMENT, SUM_TAPS } from './shaders-lens-sum.ts' // prettier-ignore
import { Reach } from './reach.ts'
import type { Targets } from './targets.ts'

const near = { minFilter: NearestFilter, magFilter: NearestFilter, depthBuffer: false } as const
/** Places within a part of the aperture: about as round as a disc is. */
const PLACES = Array.from(
  { length: SUM_TAPS.finished },
  (_, i) => new Vector2(...aperturePoint({ blades: 0, rotationDeg: 0, roundness: 1 }, i + 1)),
)

const added = (pass: ShaderMaterial): void => {
  pass.blending = CustomBlending
  pass.blendSrc = pass.blendDst = OneFactor
}

export interface MeanOf {
  readonly summed: number
  /** Of a picture to be kept. */
  readonly isFinished: boolean
}

export class LensSum {
  private readonly gl: FullPasses
  private readonly uniforms = lensUniforms({ uPart: { value: 1 } })
  private readonly adds = new LensPasses(LENS_ADD_FRAGMENT, this.uniforms, added)
  private readonly addsFlat = new LensPasses(FLAT_ADD_FRAGMENT, this.uniforms, added)
  private readonly read = {
    uSum: { value: null },
    uFlatSum: { value: null },
    uBefore: { value: null },
    uBehind: { value: null },
    uPacked: { value: null },
    uNear: { value: null },
    uNearRadius: { value: null },
    uRadius: { value: null },
    uReach: { value: null },
    uParts: { value: new Vector2() },
    uPoints: { value: PLACES },
    uTaps: { value: SUM_TAPS.screen as number },
  } as Record<string, { value: unknown }>
  private readonly pack = fullPass(LENS_PACK_FRAGMENT, this.read)
  private readonly smooth = { plain: fullPass(LENS_SMOOTH_FRAGMENT, this.read), flat: fullPass(LENS_SMOOTH_FRAGMENT, this.read) } // prettier-ignore
  private readonly packed = new WebGLRenderTarget(1, 1, { ...near, type: HalfFloatType, count: 3 })
  private readonly findBlocks = fullPass(NEAR_BLOCKS_FRAGMENT, this.read)
  private readonly reach: Reach

  constructor(gl: FullPasses) {
    this.gl = gl
    this.packed.textures[2]!.format = RedFormat
    this.reach = new Reach(gl, MOST_SMOOTHED_PX)
    this.smooth.flat.defines = { FLAT: '' }
  }

  /** Adds the sample drawn last to the sum, which is begun with the first. */
  add(t: Targets, { layers, flat }: LensSums, by: LensSample, isFirst: boolean): void {
    const { renderer } = this.gl
    setLensUniforms(this.uniforms, t, by)
    this.uniforms['uPart']!.value = 1 / Math.sqrt(by.sample.of)
    const draw = (target: WebGLRenderTarget, passes: LensPasses): void => {
      renderer.setRenderTarget(target)
      if (isFirst) renderer.clear(true, false, false)
      this.gl.full(passes.of(t, by))
    }
    draw(layers, this.adds)
    if (flat) draw(flat, this.addsFlat)
    renderer.setRenderTarget(null)
  }

  /** The mean of so many samples into `to`, without the ghosts of their places on the lens. */
  mean({ layers, flat }: LensSums, to: WebGLRenderTarget, { summed, isFinished }: MeanOf): void {
    const { renderer } = this.gl
    const u = this.read
    ;['uSum', 'uBefore', 'uBehind', 'uRadius'].forEach((name, i) => (u[name]!.value = layers.textures[i]))
    u['uFlatSum']!.value = flat?.texture ?? null
    ;(u['uParts']!.value as Vector2).set(1 / summed, 1 / Math.sqrt(summed))
    u['uTaps']!.value = isFinished ? SUM_TAPS.finished : SUM_TAPS.screen
    fit(this.packed, layers)
    for (const name of ['uPacked', 'uNear', 'uNearRadius', 'uReach']) u[name]!.value = null
    renderer.setRenderTarget(this.packed)
    this.gl.full(this.pack)
    u['uPacked']!.value = this.packed.textures[0]
    u['uNear']!.value = this.packed.textures[1]
    u['uNearRadius']!.value = this.packed.textures[2]
    u['uReach']!.value = this.reach.of(layers, this.findBlocks)
    renderer.setRenderTarget(to)
    this.gl.full(flat ? this.smooth.flat : this.smooth.plain)
    renderer.setRenderTarget(null)
  }

  static sums({ width, height }: Size, hasFlat: boolean): LensSums {
    const layers = new WebGLRenderTarget(width, height, { ...near, type: FloatType, count: 4 })
    layers.textures[3]!.format = RedFormat
    return { layers, flat: hasFlat ? new WebGLRenderTarget(width, height, { ...near, type: FloatType }) : null }
  }
  dispose(): void {
    this.adds.dispose()
    this.addsFlat.dispose()
    for (const p of [this.pack, this.smooth.plain, this.smooth.flat, this.findBlocks]) p.dispose()
    this.reach.dispose()
    this.packed.dispose()
  }
}
