// Sums a picture's samples, and gives what a picture is made of: their mean, blurred where it was seen through a lens.

import { CustomBlending, FloatType, NearestFilter, OneFactor, WebGLRenderTarget } from 'three'
import type { Size } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import type { LensSums } from './lens-frame.ts'
import { LensSum } from './lens-sum.ts'
import { ADD_FRAGMENT } from './shaders-full.ts'
import { SpreadPass } from './spread.ts'
import type { Owner, Targets } from './targets.ts'

const plainSum = ({ width, height }: Size): WebGLRenderTarget =>
  new WebGLRenderTarget(width, height, {
    ...{ minFilter: NearestFilter, magFilter: NearestFilter },
    ...{ type: FloatType, depthBuffer: false, count: 2 },
  })

export class SampleSum {
  private readonly gl: FullPasses
  private readonly plain = fullPass(ADD_FRAGMENT, { uSource: { value: null }, uFlatSource: { value: null } })
  private readonly lens: LensSum
  private readonly spread: SpreadPass

  constructor(gl: FullPasses) {
    this.gl = gl
    this.lens = new LensSum(gl)
    this.spread = new SpreadPass(gl)
    this.plain.blending = CustomBlending
    this.plain.blendSrc = this.plain.blendDst = OneFactor
  }

  /** Adds the sample drawn last to the sum; put off until it is needed, so that a first frame need not wait for it. */
  add(t: Targets): void {
    if (t.isAdded) return
    t.isAdded = true
    const isFirst = t.summed === 1
    if (t.lens) {
      this.lens.add(t, this.lensSumsOf(t, t.lens.hasFlat), t.lens, isFirst)
      return
    }
    const { renderer } = this.gl
    renderer.setRenderTarget((t.sum ??= plainSum(t.lit)))
    if (isFirst) renderer.clear(true, false, false)
    this.plain.uniforms['uSource']!.value = t.lit.textures[0]
    this.plain.uniforms['uFlatSource']!.value = t.lit.textures[1]
    this.gl.full(this.plain)
    renderer.setRenderTarget(null)
  }
  private lensSumsOf(t: Targets, hasFlat: boolean): LensSums {
    const held = t.lensSums
    if (held && (held.flat !== null) === hasFlat) return held
    held?.layers.dispose()
    held?.flat?.dispose()
    return (t.lensSums = LensSum.sums(t.lit, hasFlat))
  }

  /** What a picture of an owner is made of, light and what is flat, and by what factor it is their mean. */
  mean(t: Targets, owner: Owner): { readonly from: WebGLRenderTarget; readonly weight: number } {
    const { summed, lens } = t
    if (summed > 1) this.add(t)
    if (!lens) return { from: summed > 1 ? t.sum! : t.lit, weight: 1 / summed }
    t.blurred ??= SpreadPass.target(lens.size)
    if (t.blurredOf !== summed) {
      if (summed > 1) this.lens.mean(t.lensSums!, t.blurred, { summed, isFinished: owner === 'still' })
      // what will be refined need not be as fine yet
      else this.spread.draw(t, t.blurred, lens, owner === 'moving' || lens.sample.of > 1)
      t.blurredOf = summed
    }
    return { from: t.blurred, weight: 1 }
  }

  dispose(): void {
    this.plain.dispose()
    this.lens.dispose()
    this.spread.dispose()
  }
}
