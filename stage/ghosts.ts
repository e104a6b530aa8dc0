// Hidden objects as ghosts over the picture: thin lines at their outlines and creases with the faintest tint within.
// Model: their facets' normals and depths are drawn into a target of their own; a line is where a neighbour's plane is another one.

import {
  Camera as ThreeCamera,
  Color,
  GLSL3,
  FloatType,
  NearestFilter,
  ShaderMaterial,
  Vector2,
  WebGLRenderTarget,
} from 'three'
import { aimEye } from './aim.ts'
import { CUTS, CUTS_PARS, CUTS_VERTEX, CUTS_VERTEX_PARS } from './shaders-cuts.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import type { StageScene } from './scene.ts'
import type { OutlineRequest } from './types.ts'
import { drawnView, setView, VIEW_PARS, viewUniforms } from './views.ts'

export const FACET_VERTEX = /* glsl */ `
out vec3 vView;
${CUTS_VERTEX_PARS}
void main() {
  ${CUTS_VERTEX}
  vec4 view = modelViewMatrix * vec4(position, 1.0);
  vView = view.xyz;
  gl_Position = projectionMatrix * view;
}
`
export const FACET_FRAGMENT = /* glsl */ `
in vec3 vView;
out vec4 colour;
${CUTS_PARS}
void main() {
  ${CUTS}
  vec3 n = cross(dFdx(vView), dFdy(vView));
  float l = length(n);
  // never nought: nought means that nothing is there
  colour = vec4(l > 0.0 ? n / l : vec3(0.0, 0.0, 1.0), max(1.0, 1000.0 - vView.z));
}
`
/**
 * Two facets are two where their normals differ by more than about 25 degrees, or where the depth steps: by its second difference, which
 * is nought over a plane however it lies.
 */
export const FACET_EDGE = /* glsl */ `
float edge(vec4 a, vec4 m, vec4 b) {
  if ((a.a > 0.0) != (b.a > 0.0)) return 1.0;
  if (a.a <= 0.0 || m.a <= 0.0) return 0.0;
  float away = abs(m.a - 1000.0);
  return dot(a.xyz, b.xyz) < 0.9 || abs(a.a - 2.0 * m.a + b.a) > 0.03 * away + 0.03 ? 1.0 : 0.0;
}
`
const LINE_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uFacets;
uniform vec2 uPixel;
uniform vec3 uColour;
uniform float uHalo;
// pixels to both sides: wide for signs, so that thin things vanish
uniform float uReach;
${VIEW_PARS}
${FACET_EDGE}
void main() {
  vec2 place = inView(vUv);
  if (place.x < 0.0) {
    colour = vec4(0.0);
    return;
  }
  vec2 at = vec2(place.x, 1.0 - place.y);
  vec4 here = texture(uFacets, at);
  float line = 0.0;
  float near = 0.0;
  for (int i = 0; i < 4; i++) {
    vec2 d = (i == 0 ? vec2(1.0, 0.0) : i == 1 ? vec2(0.0, 1.0) : i == 2 ? vec2(1.0, 1.0) : vec2(1.0, -1.0)) * uPixel;
    line = max(line, edge(texture(uFacets, at - d * uReach), here, texture(uFacets, at + d * uReach)));
    if (uHalo > 0.0) near = max(near, edge(texture(uFacets, at - d * 2.0), here, texture(uFacets, at + d * 2.0)));
  }
  if (line > 0.5) colour = vec4(uColour, 0.85);
  else if (near > 0.5) colour = vec4(1.0, 1.0, 1.0, uHalo);
  else if (here.a > 0.0) colour = vec4(uColour, 0.07);
  else colour = vec4(0.0);
}
`

/** Half a sign's line, pixels: signs are drawn large and shown small. */
const SIGN_PX = 3

export class GhostPass {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  private readonly facets = new WebGLRenderTarget(16, 16, {
    type: FloatType,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  })
  private readonly flat = new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: FACET_VERTEX,
    fragmentShader: FACET_FRAGMENT,
    side: 2,
  })
  private readonly view = viewUniforms()
  private readonly line = fullPass(LINE_FRAGMENT, {
    ...this.view,
    uFacets: { value: null },
    uPixel: { value: new Vector2() },
    uColour: { value: new Color() },
    uHalo: { value: 0 },
    uReach: { value: 1 },
  })

  constructor(gl: FullPasses, stage: StageScene) {
    this.gl = gl
    this.stage = stage
    this.eye.matrixAutoUpdate = this.eye.matrixWorldAutoUpdate = false
  }

  /** RGBA, rows from the top. What `shown` hides is drawn all the same: it is what ghosts are of. */
  draw({ widthPx: width, heightPx: height, camera, ids, colour, style }: OutlineRequest): Promise<ImageData> {
    const { renderer } = this.gl
    const view = drawnView(camera, { width, height }, null)
    const { size } = view
    if (this.facets.width !== size.width || this.facets.height !== size.height)
      this.facets.setSize(size.width, size.height)
    setView(this.view, view, { width, height })
    this.stage.setHidden([])
    this.stage.prepareOnly(ids)
    aimEye(this.eye, this.stage, view.camera, null, view.size, [0, 0])
    renderer.setRenderTarget(this.facets)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    this.stage.scene.overrideMaterial = this.flat
    renderer.render(this.stage.scene, this.eye)
    this.stage.scene.overrideMaterial = null
    renderer.setRenderTarget(null)
    const u = this.line.uniforms
    u['uFacets']!.value = this.facets.texture
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    ;(u['uColour']!.value as Color).setRGB(...colour)
    u['uReach']!.value = style === 'drawn' ? SIGN_PX : 0.5
    u['uHalo']!.value = style === 'ghosts' ? 0.45 : 0
    return this.gl.readOut(this.line, { width, height }).finally(() => view.map?.texture.dispose())
  }

  dispose(): void {
    this.facets.dispose()
    this.flat.dispose()
  }
}
