// How far what is blurred may reach, block by block, so that no pixel has to look about for it.

import { HalfFloatType, NearestFilter, WebGLRenderTarget, type ShaderMaterial, type Texture } from 'three'
import type { Size } from './aim.ts'
import { fit, fullPass, type FullPasses } from './full-passes.ts'
import { BLOCK, reachFragment } from './shaders-reach.ts'

const target = (): WebGLRenderTarget =>
  new WebGLRenderTarget(1, 1, {
    ...{ minFilter: NearestFilter, magFilter: NearestFilter },
    ...{ type: HalfFloatType, depthBuffer: false },
  })

export class Reach {
  private readonly gl: FullPasses
  private readonly pass: ShaderMaterial
  private readonly blocks = target()
  private readonly reach = target()

  /** `mostPx`: nothing is blurred by more. */
  constructor(gl: FullPasses, mostPx: number) {
    this.gl = gl
    this.pass = fullPass(reachFragment(mostPx), { uBlocks: { value: null } })
  }

  /** Of a picture of this size; `largest` draws the largest radius, pixels, of what lies in each block. Leaves its target set. */
  of(size: Size, largest: ShaderMaterial): Texture {
    const { renderer } = this.gl
    const blocks = { width: Math.ceil(size.width / BLOCK), height: Math.ceil(size.height / BLOCK) }
    fit(this.blocks, blocks)
    fit(this.reach, blocks)
    renderer.setRenderTarget(this.blocks)
    this.gl.full(largest)
    this.pass.uniforms['uBlocks']!.value = this.blocks.texture
    renderer.setRenderTarget(this.reach)
    this.gl.full(this.pass)
    return this.reach.texture
  }
  dispose(): void {
    this.pass.dispose()
    this.blocks.dispose()
    this.reach.dispose()
  }
}
