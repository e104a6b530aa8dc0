// Glare: what lens and air scatter of a picture's light over the rest of it.
// Model: a share of all light is spread by a narrow and a wide bell, in equal parts, whatever its brightness: energy is kept, and what is
// bright is seen to glow. Worked out on a small picture of the whole frame, so that tiles of a finished picture have the same.
// Source: practice; the spread of light in the eye and in lenses has such a narrow and a wide part.

import { HalfFloatType, LinearFilter, Vector2, WebGLRenderTarget, type Texture } from 'three'
import type { Size } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'

/** Longer side of the small picture, and the bells' standard deviations as parts of it. */
const SIDE_PX = 192
const NARROW = 0.012
const WIDE = 0.07

const SMALL_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource, uPoints;
uniform float uWeight, uHighlights;
uniform vec2 uStep;
void main() {
  vec3 sum = vec3(0.0);
  for (int y = 0; y < 6; y++)
    for (int x = 0; x < 6; x++) {
      vec2 at = vUv + (vec2(x, y) - 2.5) / 6.0 * uStep;
      vec3 c = texture(uSource, at).rgb * uWeight;
      if (uHighlights > 0.0) c += texture(uPoints, at).rgb * uHighlights;
      sum += clamp(c, 0.0, 30000.0);
    }
  colour = vec4(sum / 36.0, 1.0);
}
`
const BELL_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource;
// of one texel, along the way of this pass; standard deviation in texels
uniform vec2 uWay;
uniform float uSigma;
void main() {
  vec3 sum = vec3(0.0);
  float all = 0.0;
  int reach = int(ceil(uSigma * 2.6));
  for (int i = -reach; i <= reach; i++) {
    float w = exp(-0.5 * float(i * i) / (uSigma * uSigma));
    sum += w * texture(uSource, vUv + float(i) * uWay).rgb;
    all += w;
  }
  colour = vec4(sum / all, 1.0);
}
`

export interface GlareFrom {
  readonly source: Texture
  readonly weight: number
  readonly points: Texture | null
  readonly highlights: number
}

export class Glare {
  private readonly gl: FullPasses
  private readonly small = fullPass(SMALL_FRAGMENT, {
    uSource: { value: null },
    uPoints: { value: null },
    uWeight: { value: 1 },
    uHighlights: { value: 0 },
    uStep: { value: new Vector2() },
  })
  private readonly bell = fullPass(BELL_FRAGMENT, {
    uSource: { value: null },
    uWay: { value: new Vector2() },
    uSigma: { value: 1 },
  })

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  /** The spread light of a whole frame: two pictures, narrow and wide; to be disposed of by who asked. */
  of(
    { width, height }: Size,
    { source, weight, points, highlights }: GlareFrom,
  ): readonly [WebGLRenderTarget, WebGLRenderTarget] {
    // prettier-ignore
    const k = Math.min(1, SIDE_PX / Math.max(width, height))
    const [w, h] = [Math.max(4, Math.round(width * k)), Math.max(4, Math.round(height * k))]
    const made = (): WebGLRenderTarget => new WebGLRenderTarget(w, h, { type: HalfFloatType, depthBuffer: false, minFilter: LinearFilter, magFilter: LinearFilter }) // prettier-ignore
    const [whole, half, narrow, wide] = [made(), made(), made(), made()]
    const u = this.small.uniforms
    u['uSource']!.value = source
    u['uPoints']!.value = points
    u['uWeight']!.value = weight
    u['uHighlights']!.value = points ? highlights : 0
    ;(u['uStep']!.value as Vector2).set(1 / w, 1 / h)
    this.draw(this.small, whole)
    for (const [part, to] of [
      [NARROW, narrow],
      [WIDE, wide],
    ] as const) {
      // prettier-ignore
      const sigma = Math.max(0.6, part * Math.max(w, h))
      this.bellOf(whole, half, [1 / w, 0], sigma)
      this.bellOf(half, to, [0, 1 / h], sigma)
    }
    this.gl.renderer.setRenderTarget(null)
    whole.dispose()
    half.dispose()
    return [narrow, wide]
  }
  private bellOf(from: WebGLRenderTarget, to: WebGLRenderTarget, way: readonly [number, number], sigma: number): void {
    const u = this.bell.uniforms
    u['uSource']!.value = from.texture
    ;(u['uWay']!.value as Vector2).set(...way)
    u['uSigma']!.value = sigma
    this.draw(this.bell, to)
  }
  private draw(pass: typeof this.small, to: WebGLRenderTarget): void {
    this.gl.renderer.setRenderTarget(to)
    this.gl.full(pass)
  }

  dispose(): void {
    this.small.dispose()
    this.bell.dispose()
  }
}
