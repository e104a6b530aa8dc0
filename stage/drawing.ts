// The drawing style of Plan and Side: paper shading, edges, and cut faces by the winding count. See shaders-drawing.ts.

import {
  Camera as ThreeCamera,
  Color,
  HalfFloatType,
  NearestFilter,
  RedFormat,
  Vector2,
  Vector4,
  WebGLRenderTarget,
} from 'three'
import { axesOf, widthOfView } from '#core/camera'
import { dot } from '#core/math'
import { aimEye } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import type { StageScene } from './scene.ts'
import { DRAWING_EDGES } from './shaders-drawing.ts'
import type { DrawingRequest } from './types.ts'

/** Drawn at this many times the size asked for. */
const SCALE = 2
const NO_NORMAL = [0, 0, 0] as const
const DAY = {
  paper: new Color(1, 0.995, 0.985),
  ink: new Color(0.13, 0.145, 0.17),
  ground: new Color(0.98, 0.969, 0.941),
}
const NIGHT = {
  paper: new Color(0.62, 0.59, 0.55),
  ink: new Color(0.055, 0.05, 0.05),
  ground: new Color(0.165, 0.15, 0.135),
}

export class DrawingPass {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  private target: WebGLRenderTarget | null = null
  private winding: WebGLRenderTarget | null = null
  private glass: WebGLRenderTarget | null = null
  private readonly edges = fullPass(DRAWING_EDGES, {
    uSource: { value: null },
    uFacing: { value: null },
    uWinding: { value: null },
    uGlass: { value: null },
    uGlassOn: { value: 0 },
    uGround: { value: new Color() },
    uCutOn: { value: 0 },
    uPixel: { value: new Vector2() },
    uInk: { value: new Color() },
    uDepthSpan: { value: 1 },
    uMetresPerPixel: { value: 1 },
  })

  constructor(gl: FullPasses, stage: StageScene) {
    this.gl = gl
    this.stage = stage
    this.eye.matrixAutoUpdate = false
    this.eye.matrixWorldAutoUpdate = false
  }

  /** The targets at twice the size asked for; kept as long as the size stays. */
  private sized(w: number, h: number): { target: WebGLRenderTarget; winding: WebGLRenderTarget } {
    if (this.target && this.winding && this.target.width === w && this.target.height === h)
      return { target: this.target, winding: this.winding }
    this.dispose()
    const plain = { type: HalfFloatType, minFilter: NearestFilter, magFilter: NearestFilter } as const
    this.winding = new WebGLRenderTarget(w, h, { ...plain, format: RedFormat, depthBuffer: false })
    this.target = new WebGLRenderTarget(w, h, { ...plain, count: 2 })
    return { target: this.target, winding: this.winding }
  }

  /** A Plan or Side base image, RGBA, rows from the top. */
  draw(request: DrawingRequest): Promise<ImageData> {
    const [w, h] = [request.widthPx * SCALE, request.heightPx * SCALE]
    const { target, winding } = this.sized(w, h)
    const { stage } = this
    const { renderer } = this.gl
    const { cut } = request
    const { paper, ink, ground } = request.night ? NIGHT : DAY
    const around = (stage.facts?.nodes ?? []).filter((n) => n.kind === 'surroundings').map((n) => n.id)
    stage.setHidden([...request.shown.hidden, ...around])
    stage.setMoved(request.shown.moved)
    stage.prepare('drawing')
    aimEye(this.eye, stage, request.camera, null, { width: w, height: h }, [0, 0])
    const range = stage.depthRange(request.camera.pose.station, axesOf(request.camera.pose).forward)
    const span = Math.max(1e-6, range.farM - range.nearM)
    stage.drawingUniforms((u) => {
      ;(u['uCut']!.value as Vector4).set(...(cut ? cut.normal : NO_NORMAL), cut ? dot(cut.normal, cut.point) : 1)
      ;(u['uPaper']!.value as Color).copy(paper)
      ;(u['uDepthRange']!.value as Vector2).set(range.nearM, span)
    })
    renderer.setRenderTarget(target)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    renderer.render(stage.scene, this.eye)
    if (cut) {
      stage.prepare('winding')
      renderer.setRenderTarget(winding)
      renderer.clear(true, false, false)
      renderer.render(stage.scene, this.eye)
    }
    const hasGlass = stage.prepare('glass')
    if (hasGlass) {
      const plain = { type: HalfFloatType, minFilter: NearestFilter, magFilter: NearestFilter } as const
      this.glass ??= new WebGLRenderTarget(w, h, { ...plain, count: 2 })
      renderer.setRenderTarget(this.glass)
      renderer.clear()
      renderer.render(stage.scene, this.eye)
    }
    renderer.setRenderTarget(null)
    const u = this.edges.uniforms
    u['uGlass']!.value = hasGlass ? this.glass!.textures[1] : null
    u['uGlassOn']!.value = hasGlass ? 1 : 0
    u['uSource']!.value = target.textures[0]
    u['uFacing']!.value = target.textures[1]
    u['uWinding']!.value = winding.texture
    u['uCutOn']!.value = cut ? 1 : 0
    ;(u['uGround']!.value as Color).copy(ground)
    ;(u['uPixel']!.value as Vector2).set(1 / w, 1 / h)
    ;(u['uInk']!.value as Color).copy(ink)
    u['uDepthSpan']!.value = span
    u['uMetresPerPixel']!.value = (widthOfView(request.camera.lens) ?? w * 0.01) / w
    return this.gl.readOut(this.edges, { width: request.widthPx, height: request.heightPx })
  }

  dispose(): void {
    this.target?.dispose()
    this.winding?.dispose()
    this.glass?.dispose()
    this.glass = null
  }
}
