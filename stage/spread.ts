// Focus of a picture of one sample: what is seen through the middle of the lens, each point spread by its whole disc.

import { HalfFloatType, LinearFilter, NearestFilter, Vector2, WebGLRenderTarget, type ShaderMaterial } from 'three'
import { aperturePoint } from '#core/optics'
import type { Size } from './aim.ts'
import { fit, type FullPasses } from './full-passes.ts'
import type { LensSample } from './lens-frame.ts'
import { LensPasses, lensUniforms, setLensUniforms } from './lens-sample.ts'
import { CLEAR_STEP, DISC_PACK_FRAGMENT, MOST_PX, QUICK_TAPS, REACH_BLOCKS_FRAGMENT, SPREAD_FRAGMENT, SPREAD_TAPS } from './shaders-spread.ts' // prettier-ignore
import { Reach } from './reach.ts'
import type { Targets } from './targets.ts'

const near = { minFilter: NearestFilter, magFilter: NearestFilter, depthBuffer: false } as const

export class SpreadPass {
  private readonly gl: FullPasses
  private readonly uniforms = lensUniforms({
    uSeen: { value: 1 },
    uTaps: { value: SPREAD_TAPS },
    uClearStep: { value: CLEAR_STEP.still },
    uPacked: { value: null },
    uPackedOver: { value: null },
    uReach: { value: null },
    uPoints: { value: Array.from({ length: SPREAD_TAPS }, () => new Vector2()) },
  })
  private readonly packs = new LensPasses(DISC_PACK_FRAGMENT, this.uniforms)
  private readonly spreads = new LensPasses(SPREAD_FRAGMENT, this.uniforms)
  private readonly reachBlocks = new LensPasses(REACH_BLOCKS_FRAGMENT, this.uniforms)
  private readonly packed = new WebGLRenderTarget(1, 1, { ...near, type: HalfFloatType })
  /** The same with what is clear beside it. */
  private readonly packedClear = new WebGLRenderTarget(1, 1, { ...near, type: HalfFloatType, count: 2 })
  private readonly reach: Reach

  constructor(gl: FullPasses) {
    this.gl = gl
    this.reach = new Reach(gl, MOST_PX)
  }

  /** Spreads a lit sample into `to`; quickly of fewer places. */
  draw(t: Targets, to: WebGLRenderTarget, by: LensSample, isQuick = false): void {
    const u = this.uniforms
    const { renderer } = this.gl
    setLensUniforms(u, t, by)
    u['uSeen']!.value = by.seen
    u['uTaps']!.value = isQuick ? QUICK_TAPS : SPREAD_TAPS
    u['uClearStep']!.value = isQuick ? CLEAR_STEP.quick : CLEAR_STEP.still
    const points = u['uPoints']!.value as Vector2[]
    for (let i = 0; i < SPREAD_TAPS; i++) points[i]!.set(...aperturePoint(by.blur.shape, i + 1))
    const packed = t.clear?.isApart ? this.packedClear : this.packed
    fit(packed, by.size)
    u['uPacked']!.value = u['uPackedOver']!.value = u['uReach']!.value = null
    const draw = (target: WebGLRenderTarget, pass: ShaderMaterial): void => {
      renderer.setRenderTarget(target)
      this.gl.full(pass)
    }
    draw(packed, this.packs.of(t, by))
    ;[u['uPacked']!.value, u['uPackedOver']!.value] = packed.textures
    u['uReach']!.value = this.reach.of(by.size, this.reachBlocks.of(t, by))
    // what is packed is without points already
    draw(to, this.spreads.of(t, { ...by, takenOut: null }))
    renderer.setRenderTarget(null)
  }

  /** A target that a spread picture fits in. */
  static target({ width, height }: Size): WebGLRenderTarget {
    return new WebGLRenderTarget(width, height, {
      ...{ minFilter: LinearFilter, magFilter: LinearFilter },
      ...{ type: HalfFloatType, depthBuffer: false, count: 2 },
    })
  }
  dispose(): void {
    this.packs.dispose()
    this.spreads.dispose()
    this.reachBlocks.dispose()
    this.reach.dispose()
    this.packed.dispose()
    this.packedClear.dispose()
  }
}
