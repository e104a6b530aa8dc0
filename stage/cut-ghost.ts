// What cuts take away as faint lines over the picture: outlines and creases, as hidden things have as ghosts, in every sample.

import {
  CustomBlending,
  FloatType,
  GLSL3,
  NearestFilter,
  OneFactor,
  OneMinusSrcAlphaFactor,
  ShaderMaterial,
  SrcAlphaFactor,
  Vector2,
  Vector3,
  WebGLRenderTarget,
  type Camera as ThreeCamera,
} from 'three'
import type { Size } from './aim.ts'
import { linearOf } from './flat-tone.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { FACET_EDGE, FACET_FRAGMENT, FACET_VERTEX } from './ghosts.ts'
import type { StageScene } from './scene.ts'

/** On the screen, sRGB, and how much of the picture below it covers. */
const INK: readonly [number, number, number] = [0.14, 0.15, 0.17]
const COVERS = 0.4
const GHOST_FRAGMENT = /* glsl */ `
in vec2 vUv;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uFacets;
uniform vec2 uPixel;
uniform vec3 uInk;
${FACET_EDGE}
void main() {
  vec4 here = texture(uFacets, vUv);
  float line = 0.0;
  for (int i = 0; i < 2; i++) {
    vec2 d = (i == 0 ? vec2(1.0, 0.0) : vec2(0.0, 1.0)) * uPixel * 0.5;
    line = max(line, edge(texture(uFacets, vUv - d), here, texture(uFacets, vUv + d)));
  }
  if (line < 0.5) discard;
  // of the light so much less; as much of the line is flat
  colour = vec4(0.0, 0.0, 0.0, ${COVERS});
  flatLayer = vec4(uInk, ${COVERS});
}
`

export class CutGhostPass {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly facets = new WebGLRenderTarget(16, 16, {
    type: FloatType,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  })
  private readonly gone: ShaderMaterial
  private readonly line = fullPass(GHOST_FRAGMENT, {
    uFacets: { value: null },
    uPixel: { value: new Vector2() },
    uInk: { value: new Vector3(...linearOf(INK)) },
  })

  constructor(gl: FullPasses, stage: StageScene) {
    this.gl = gl
    this.stage = stage
    this.gone = stage.cutting.onlyGone(
      new ShaderMaterial({ glslVersion: GLSL3, vertexShader: FACET_VERTEX, fragmentShader: FACET_FRAGMENT, side: 2 }),
    )
    Object.assign(this.line, {
      blending: CustomBlending,
      blendSrc: SrcAlphaFactor,
      blendDst: OneMinusSrcAlphaFactor,
      blendSrcAlpha: OneFactor,
      blendDstAlpha: OneMinusSrcAlphaFactor,
    })
  }

  /** Draws the lines into a sample that is lit, seen from the same eye. */
  draw(lit: WebGLRenderTarget, eye: ThreeCamera, size: Size): void {
    const { renderer } = this.gl
    const { scene } = this.stage
    if (!this.stage.prepareCut()) return
    if (this.facets.width !== size.width || this.facets.height !== size.height)
      this.facets.setSize(size.width, size.height)
    renderer.setRenderTarget(this.facets)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    scene.overrideMaterial = this.gone
    renderer.render(scene, eye)
    scene.overrideMaterial = null
    const u = this.line.uniforms
    u['uFacets']!.value = this.facets.texture
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    renderer.setRenderTarget(lit)
    this.gl.full(this.line)
  }

  dispose(): void {
    this.facets.dispose()
    this.gone.dispose()
    this.line.dispose()
  }
}
