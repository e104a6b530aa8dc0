// The surroundings that smooth things mirror: a small cube map, drawn when the light has changed.
import {
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  Matrix4,
  Vector3,
  WebGLCubeRenderTarget,
  type Texture,
} from 'three'
import type { Camera } from '#core/camera'
import type { Size } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import type { StageScene } from './scene.ts'
import { COPY_FRAGMENT } from './shaders-full.ts'
import type { Appearance } from './types.ts'

/** The mirrored surroundings: pixels a side of each face, and what counts as a product. */
const ENVIRONMENT_PX = 64
export const PRODUCT_RADIUS_M = 1.5
/** Right and up of the six faces of a cube map in the order of OpenGL (+x -x +y -y +z -z). Source: gl21, table 3.26. */
const CUBE_FACES: readonly (readonly [readonly [number, number, number], readonly [number, number, number]])[] = [
  [[0, 0, -1], [0, -1, 0]],
  [[0, 0, 1], [0, -1, 0]],
  [[1, 0, 0], [0, 0, 1]],
  [[1, 0, 0], [0, 0, -1]],
  [[1, 0, 0], [0, -1, 0]],
  [[-1, 0, 0], [0, -1, 0]],
] // prettier-ignore
/** Only its projection's kind is read: the view comes from the face. */
export const CUBE_CAMERA: Camera = {
  pose: { station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 },
  lens: {
    projection: { kind: 'perspective' },
    focalMm: 18,
    sensorMm: { width: 36, height: 36 },
    sensorUse: 'acrossWidth',
    riseMm: 0,
    crossMm: 0,
    distortion: null,
  },
  frame: { widthPx: ENVIRONMENT_PX, heightPx: ENVIRONMENT_PX, densityPpi: 72, guides: [] },
}

export class Surroundings {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly copy = fullPass(COPY_FRAGMENT, { uSource: { value: null } })
  private readonly environment = new WebGLCubeRenderTarget(ENVIRONMENT_PX, {
    type: HalfFloatType,
    generateMipmaps: true,
    minFilter: LinearMipmapLinearFilter,
    magFilter: LinearFilter,
    depthBuffer: false,
  })

  constructor(gl: FullPasses, stage: StageScene) {
    this.gl = gl
    this.stage = stage
  }

  /**
   * Draws the surroundings into the small cube map that smooth surfaces mirror: from the middle of a room, or of a product's
   * scene without the product. `draw` gives the lit picture of one face, seen as `world` says.
   */
  capture(look: Appearance, draw: (look: Appearance, size: Size, world: Matrix4) => Texture): void {
    const { stage } = this
    const { renderer } = this.gl
    const facts = stage.facts
    if (!facts) return
    const small = stage.radius < PRODUCT_RADIUS_M
    const main = small
      ? facts.nodes.filter((n) => n.parentId !== null && n.kind !== 'surroundings' && n.materials.length > 0)
      : []
    const hidden = [...look.shown.hidden, ...main.map((n) => n.id)]
    const { min, max } = facts.box
    const eye = new Vector3(stage.centre.x, stage.centre.y, min[2] + (max[2] - min[2]) * (small ? 0.6 : 0.3))
    const plain: Appearance = { ...look, shown: { ...look.shown, hidden } }
    const size = { width: ENVIRONMENT_PX, height: ENVIRONMENT_PX }
    stage.light['uEnvironmentOn']!.value = 0
    stage.light['uEnvironment']!.value = null
    for (const [face, [right, up]] of CUBE_FACES.entries()) {
      const r = new Vector3(...right)
      const u = new Vector3(...up)
      const drawn = draw(plain, size, new Matrix4().makeBasis(r, u, r.clone().cross(u)).setPosition(eye))
      renderer.setRenderTarget(this.environment, face)
      this.copy.uniforms['uSource']!.value = drawn
      this.gl.full(this.copy)
    }
    renderer.setRenderTarget(null)
    stage.light['uEnvironment']!.value = this.environment.texture
    stage.light['uEnvironmentOn']!.value = 1
  }

  dispose(): void {
    this.environment.dispose()
    this.copy.dispose()
  }
}
