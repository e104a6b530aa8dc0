// The sun's shadow: the depths that the sun sees over the model's box, redrawn when sun, hidden things or model changed.
// Model: the sun is a disc; some samples together see it from another of its points, so that shadows soften as samples add up. Two
// maps are held, so that small pictures under another sun do not undo the picture's.

import {
  Box3,
  Camera as ThreeCamera,
  DepthTexture,
  HalfFloatType,
  Matrix4,
  UnsignedIntType,
  Vector3,
  WebGLRenderTarget,
  type WebGLRenderer,
} from 'three'
import { sunDirection, type SkyLight } from '#core/optics'
import type { StageScene } from './scene.ts'
import { ALL_SHOWN } from '#core/section'
import type { Appearance } from './types.ts'

const SHADOW_PX = 1280
/** The sun's disc, degrees across. Source: handbook-6. */
const SUN_DISC_DEG = 0.53

/** A shadow as it was drawn. */
interface Held {
  readonly target: WebGLRenderTarget
  readonly fromWorld: Matrix4
  key: string
  place: string
  texelM: number
  isTinted: boolean
}

export class SunShadow {
  private readonly renderer: WebGLRenderer
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  /** The picture's own, and one for what else is drawn. */
  private readonly own: Held
  private other: Held | null = null

  constructor(renderer: WebGLRenderer, stage: StageScene) {
    this.renderer = renderer
    this.stage = stage
    this.own = this.fresh()
    this.use(this.own)
    this.eye.matrixAutoUpdate = this.eye.matrixWorldAutoUpdate = false
  }

  private fresh(): Held {
    const target = new WebGLRenderTarget(SHADOW_PX, SHADOW_PX, {
      depthTexture: new DepthTexture(SHADOW_PX, SHADOW_PX, UnsignedIntType),
      type: HalfFloatType,
    })
    return { target, fromWorld: new Matrix4(), key: '', place: '', texelM: 0.01, isTinted: false }
  }
  private use(h: Held): void {
    const { light } = this.stage
    light['uShadow']!.value = h.target.depthTexture
    light['uShadowTint']!.value = h.target.texture
    light['uShadowFromWorld']!.value = h.fromWorld
    light['uShadowTexelM']!.value = h.texelM
    light['uShadowTintOn']!.value = h.isTinted ? 1 : 0
  }

  /**
   * Redraws the shadow when the sun (with a sample's place on its disc) or the hidden nodes changed. With `anyPlace` the one that is
   * there from another place on the disc will do; what is no picture of its own (`isAside`) leaves the picture's alone.
   */
  cast(
    sky: SkyLight,
    look: Appearance,
    place: readonly [number, number],
    { anyPlace, isAside }: { readonly anyPlace: boolean; readonly isAside: boolean },
  ): void {
    const { stage } = this
    const d = new Vector3(...sunDirection(sky))
    const on = sky.sunLux > 0 && d.z > 0 && look['look.sun'].shadow
    stage.light['uShadowOn']!.value = on ? 1 : 0
    ;(stage.light['uSun']!.value as Vector3).copy(d)
    if (!on) return
    const hidden = look.shown.shadows === 'kept' ? [] : look.shown.hidden
    // what is cut away goes on casting its shadow, unless the sun is let in
    const cuts = look.shown.cuts.lightIn ? look.shown.cuts : ALL_SHOWN.cuts
    const cutKey = cuts.list.length > 0 ? JSON.stringify([cuts.list, cuts.whole]) : ''
    const { moved } = look.shown
    const key = `${d.toArray().join()}|${hidden.join()}|${cutKey}|${moved ? JSON.stringify(moved) : ''}|${stage.revision}`
    const at = place.join()
    const known = [this.own, this.other].find((h) => h?.key === key && (anyPlace || at === h.place))
    if (known) return this.use(known)
    const h = isAside ? (this.other ??= this.fresh()) : this.own
    h.key = key
    h.place = at
    this.stand(h, d, place)
    this.draw(h, look, hidden, cuts)
    this.use(h)
  }

  /** Sets up the sun's eye: a window that fits the model's box as it is seen from a place on the sun's disc. */
  private stand(h: Held, d: Vector3, place: readonly [number, number]): void {
    const { stage } = this
    const spread = Math.tan((SUN_DISC_DEG * Math.PI) / 360) * 2
    const side = Math.abs(d.z) > 0.999 ? new Vector3(1, 0, 0) : new Vector3(-d.y, d.x, 0).normalize()
    const up = d.clone().cross(side)
    const from = d
      .clone()
      .addScaledVector(side, place[0] * spread)
      .addScaledVector(up, place[1] * spread)
      .normalize()
    const r = stage.radius * 1.03
    const eye = stage.centre.clone().addScaledVector(from, r * 1.5)
    const window = new Box3()
    this.eye.matrixWorld
      .lookAt(eye, stage.centre, Math.abs(d.z) > 0.999 ? new Vector3(0, 1, 0) : new Vector3(0, 0, 1))
      .setPosition(eye)
    this.eye.matrixWorldInverse.copy(this.eye.matrixWorld).invert()
    // the window fits the model's box as the sun sees it: no texel is wasted
    const { min, max } = stage.facts!.box
    for (let k = 0; k < 8; k++)
      window.expandByPoint(
        new Vector3(k & 1 ? max[0] : min[0], k & 2 ? max[1] : min[1], k & 4 ? max[2] : min[2]).applyMatrix4(
          this.eye.matrixWorldInverse,
        ),
      )
    const pad = r * 0.01
    this.eye.projectionMatrix.makeOrthographic(
      window.min.x - pad,
      window.max.x + pad,
      window.max.y + pad,
      window.min.y - pad,
      r * 0.3,
      r * 2.8,
    )
    this.eye.projectionMatrixInverse.copy(this.eye.projectionMatrix).invert()
    h.fromWorld.multiplyMatrices(this.eye.projectionMatrix, this.eye.matrixWorldInverse)
    h.texelM = Math.max(window.max.x - window.min.x, window.max.y - window.min.y) / SHADOW_PX
  }

  private draw(h: Held, look: Appearance, hidden: readonly string[], cuts: Appearance['shown']['cuts']): void {
    const { stage, renderer } = this
    stage.setHidden(hidden)
    stage.cutting.set(cuts)
    stage.prepare('shadow')
    stage.setHidden(look.shown.hidden)
    stage.cutting.set(look.shown.cuts)
    renderer.setRenderTarget(h.target)
    renderer.setClearColor(0xffffff, 1)
    renderer.clear()
    renderer.render(stage.scene, this.eye)
    h.isTinted = this.tint(look, hidden, cuts)
    renderer.setClearColor(0x000000, 0)
  }

  /** What clear things leave of the sun, over the same depths. */
  private tint(look: Appearance, hidden: readonly string[], cuts: Appearance['shown']['cuts']): boolean {
    const { stage } = this
    stage.setHidden(hidden)
    stage.cutting.set(cuts)
    const any = stage.prepare('tint')
    stage.setHidden(look.shown.hidden)
    stage.cutting.set(look.shown.cuts)
    if (any) this.renderer.render(stage.scene, this.eye)
    return any
  }

  dispose(): void {
    this.own.target.dispose()
    this.other?.target.dispose()
  }
}
