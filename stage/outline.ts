// The outline of selected objects over the picture: their mask without depth, then a line where the mask ends.

import { Camera as ThreeCamera, Color, GLSL3, NearestFilter, ShaderMaterial, Vector2, WebGLRenderTarget } from 'three'
import { aimEye } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import type { StageScene } from './scene.ts'
import type { OutlineRequest } from './types.ts'
import { drawnView, setView, VIEW_PARS, viewUniforms } from './views.ts'

const MASK_VERTEX = /* glsl */ `
void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }
`
const MASK_FRAGMENT = /* glsl */ `
out vec4 colour;
void main() { colour = vec4(1.0); }
`
/** A line of the colour with a light one outside it, and the faintest tint within. */
const OUTLINE_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uMask;
${VIEW_PARS}
uniform vec2 uPixel;
uniform vec3 uColour;
void main() {
  vec2 place = inView(vUv);
  if (place.x < 0.0) {
    colour = vec4(0.0);
    return;
  }
  vec2 at = vec2(place.x, 1.0 - place.y);
  float here = texture(uMask, at).r;
  float near = 0.0;
  float far = 0.0;
  float least = 1.0;
  for (int i = 0; i < 12; i++) {
    float a = 6.2831853 * float(i) / 12.0;
    vec2 d = vec2(cos(a), sin(a)) * uPixel;
    near = max(near, texture(uMask, at + d * 1.4).r);
    far = max(far, texture(uMask, at + d * 2.6).r);
    least = min(least, texture(uMask, at + d * 1.4).r);
  }
  if (here > 0.5) colour = least < 0.5 ? vec4(uColour, 0.95) : vec4(uColour, 0.10);
  else if (near > 0.5) colour = vec4(uColour, 0.95);
  else if (far > 0.5) colour = vec4(1.0, 1.0, 1.0, 0.7);
  else colour = vec4(0.0);
}
`

export class OutlinePass {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  private readonly mask = new WebGLRenderTarget(16, 16, {
    depthBuffer: false,
    minFilter: NearestFilter,
    magFilter: NearestFilter,
  })
  private readonly flat = new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: MASK_VERTEX,
    fragmentShader: MASK_FRAGMENT,
    side: 2,
    depthTest: false,
    depthWrite: false,
  })
  private readonly view = viewUniforms()
  private readonly line = fullPass(OUTLINE_FRAGMENT, {
    ...this.view,
    uMask: { value: null },
    uPixel: { value: new Vector2() },
    uColour: { value: new Color() },
  })

  constructor(gl: FullPasses, stage: StageScene) {
    this.gl = gl
    this.stage = stage
    this.eye.matrixAutoUpdate = false
    this.eye.matrixWorldAutoUpdate = false
  }

  /** RGBA, rows from the top. */
  draw(request: OutlineRequest): Promise<ImageData> {
    const { widthPx: width, heightPx: height, camera, shown, ids } = request
    const { renderer } = this.gl
    const view = drawnView(camera, { width, height }, null)
    const { size } = view
    if (this.mask.width !== size.width || this.mask.height !== size.height) this.mask.setSize(size.width, size.height)
    setView(this.view, view, { width, height })
    this.stage.setHidden(shown.hidden)
    this.stage.setMoved(shown.moved)
    this.stage.prepareOnly(ids)
    aimEye(this.eye, this.stage, view.camera, null, view.size, [0, 0])
    renderer.setRenderTarget(this.mask)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    this.stage.scene.overrideMaterial = this.flat
    renderer.render(this.stage.scene, this.eye)
    this.stage.scene.overrideMaterial = null
    renderer.setRenderTarget(null)
    const u = this.line.uniforms
    u['uMask']!.value = this.mask.texture
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    ;(u['uColour']!.value as Color).setRGB(...request.colour)
    return this.gl.readOut(this.line, { width, height }).finally(() => view.map?.texture.dispose())
  }

  dispose(): void {
    this.mask.dispose()
    this.flat.dispose()
  }
}
