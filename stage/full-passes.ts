// Passes over the whole of a target, waiting for the GL, and reading a picture back from it.

import {
  type BufferGeometry,
  Camera as ThreeCamera,
  GLSL3,
  Mesh,
  NearestFilter,
  NoBlending,
  PlaneGeometry,
  ShaderMaterial,
  WebGLRenderTarget,
  type WebGLRenderer,
} from 'three'
import type { Size } from './aim.ts'
import type { Uniforms } from './light-uniforms.ts'
import { FULL_VERTEX } from './shaders-full.ts'

/** How often a fence is looked at. */
const POLL_MS = 3

export const fullPass = (fragmentShader: string, uniforms: Uniforms): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    uniforms,
    depthTest: false,
    depthWrite: false,
    blending: NoBlending,
    vertexShader: FULL_VERTEX,
    fragmentShader,
    toneMapped: false,
  })

/** Makes a target as large as said; what was in it is lost where it was not. */
export function fit(target: WebGLRenderTarget, { width, height }: Size): void {
  if (target.width !== width || target.height !== height) target.setSize(width, height)
}

export class FullPasses {
  readonly renderer: WebGLRenderer
  private readonly quad = new Mesh(new PlaneGeometry(2, 2))
  private readonly eye = new ThreeCamera()
  private readonly out = new WebGLRenderTarget(16, 16, {
    depthBuffer: false,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  })

  constructor(renderer: WebGLRenderer) {
    this.renderer = renderer
    this.quad.frustumCulled = false
  }

  /** Draws a material over the whole of the present target. */
  full(material: ShaderMaterial): void {
    this.quad.material = material
    this.renderer.render(this.quad, this.eye)
  }

  /** The same over a part of it: triangles with x and y from -1 to 1. */
  over(material: ShaderMaterial, part: BufferGeometry): void {
    const { geometry } = this.quad
    this.quad.geometry = part as PlaneGeometry
    this.full(material)
    this.quad.geometry = geometry
  }

  /**
   * Draws a full pass and reads it back. A bitmap left on the GL would make the page wait for whatever is drawn next; read back
   * here, it is plain memory when it arrives there.
   */
  async readOut(material: ShaderMaterial, { width, height }: Size): Promise<ImageData> {
    fit(this.out, { width, height })
    this.renderer.setRenderTarget(this.out)
    this.full(material)
    this.renderer.setRenderTarget(null)
    await this.idle()
    const pixels = new Uint8Array(width * height * 4)
    this.renderer.readRenderTargetPixels(this.out, 0, 0, width, height, pixels)
    return new ImageData(new Uint8ClampedArray(pixels.buffer), width, height)
  }

  /**
   * Resolves when what was asked of the GL has been drawn, so that a newer request never queues up behind it. A fence is looked at
   * now and then: waiting inside the GL would hold up the browser's own drawing of the page.
   */
  async idle(): Promise<void> {
    const gl = this.renderer.getContext() as WebGL2RenderingContext
    const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0)
    if (!fence) return
    gl.flush()
    while (gl.getSyncParameter(fence, gl.SYNC_STATUS) !== gl.SIGNALED && !gl.isContextLost())
      await new Promise((r) => setTimeout(r, POLL_MS))
    gl.deleteSync(fence)
  }

  dispose(): void {
    this.out.dispose()
    this.quad.geometry.dispose()
  }
}
