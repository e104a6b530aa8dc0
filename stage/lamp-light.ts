// The file's own lamps: the nearest light each place, and of those four cast shadows while the picture is at rest.
// Model: each of the four sees the scene through six square windows, which lie side by side in one depth texture; redrawn when the
// scene, what is shown, or which four they are has changed. Source: khr-lights-punctual (fall-off of spots).

import { Camera as ThreeCamera, DepthTexture, Matrix4, UnsignedIntType, Vector2, Vector3, Vector4, WebGLRenderTarget, type WebGLRenderer } from 'three' // prettier-ignore
import { isHidden, lampsOf, type Lamp } from '#mesh'
import type { Vec3 } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import type { StageScene } from './scene.ts'
import { LAMP_TILE_PX, MOST_LAMPS, SHADOWED_LAMPS } from './shaders-lamps.ts'
import type { Appearance } from './types.ts'

/** Forward, right and up of the six windows. */
const WINDOWS: readonly (readonly [Vec3, Vec3, Vec3])[] = [
  [[1, 0, 0], [0, -1, 0], [0, 0, 1]],
  [[-1, 0, 0], [0, 1, 0], [0, 0, 1]],
  [[0, 1, 0], [1, 0, 0], [0, 0, 1]],
  [[0, -1, 0], [-1, 0, 0], [0, 0, 1]],
  [[0, 0, 1], [1, 0, 0], [0, -1, 0]],
  [[0, 0, -1], [1, 0, 0], [0, 1, 0]],
] // prettier-ignore
/** What lies nearer to a lamp is its own glass and shade, metres; of a product this part of its radius. */
const OWN_M = 0.05
const OWN_PART = 0.02

export const lampUniforms = () => ({
  uLampCount: { value: 0 },
  uLampPlace: { value: Array.from({ length: MOST_LAMPS }, () => new Vector3()) },
  uLampLight: { value: Array.from({ length: MOST_LAMPS }, () => new Vector3()) },
  uLampWay: { value: Array.from({ length: MOST_LAMPS }, () => new Vector4()) },
  uLampCone: { value: Array.from({ length: MOST_LAMPS }, () => 1) },
  uLampShadow: { value: null as DepthTexture | null },
  uLampShadowed: { value: 0 },
  uLampDepth: { value: new Vector2(0.05, 10) },
})
type LampUniforms = ReturnType<typeof lampUniforms>

export class LampLight {
  private readonly renderer: WebGLRenderer
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  private target: WebGLRenderTarget | null = null
  private drawnKey = ''
  /** As they stand, by what was drawn when they were looked up. */
  private lamps: { readonly key: string; readonly all: readonly Lamp[] } = { key: '', all: [] }

  constructor(renderer: WebGLRenderer, stage: StageScene) {
    this.renderer = renderer
    this.stage = stage
    this.eye.matrixAutoUpdate = this.eye.matrixWorldAutoUpdate = false
  }

  /** Sets the lamps of a picture seen from `station`; with shadows where it is at rest. */
  set(u: LampUniforms, station: Vec3, look: Appearance, factor: number, isAtRest: boolean): void {
    const { stage } = this
    const stand = JSON.stringify([stage.revision, look.shown.moved])
    if (this.lamps.key !== stand) this.lamps = { key: stand, all: lampsOf(stage.scene) }
    const away = (l: Lamp): number => Math.hypot(l.place[0] - station[0], l.place[1] - station[1], l.place[2] - station[2]) // prettier-ignore
    const hidden = look.shown.shadows === 'kept' ? [] : look.shown.hidden
    const gone = new Set(hidden)
    // a lamp that is hidden is off, as what is hidden casts no shadow
    const lit = this.lamps.all.filter((l) => !isHidden(l.objectId, gone))
    const nearest = lit.sort((a, b) => away(a) - away(b)).slice(0, MOST_LAMPS)
    u.uLampCount.value = nearest.length
    nearest.forEach((l, i) => {
      u.uLampPlace.value[i]!.set(...l.place)
      u.uLampLight.value[i]!.set(...l.candela).multiplyScalar(factor)
      u.uLampWay.value[i]!.set(...(l.spot?.direction ?? [0, 0, 0]), l.spot ? l.spot.outer : -2)
      u.uLampCone.value[i] = l.spot ? Math.max(0.001, l.spot.inner - l.spot.outer) : 1
    })
    u.uLampShadowed.value = 0
    if (nearest.length === 0) return
    const casting = nearest.slice(0, SHADOWED_LAMPS)
    const cuts = look.shown.cuts.lightIn ? look.shown.cuts : ALL_SHOWN.cuts
    const key = JSON.stringify([casting, hidden, cuts.list, cuts.whole, look.shown.moved, stage.revision])
    if (key !== this.drawnKey && isAtRest) {
      this.cast(casting, look, hidden, cuts)
      this.drawnKey = key
    }
    // while it moves shadows stay as long as they are those of these lamps
    if (key !== this.drawnKey || !this.target) return
    u.uLampShadow.value = this.target.depthTexture
    u.uLampShadowed.value = casting.length
    u.uLampDepth.value.set(this.nearM, this.farM)
  }
  private get nearM(): number {
    return Math.min(OWN_M, this.stage.radius * OWN_PART)
  }
  private get farM(): number {
    return this.stage.radius * 4
  }

  private cast(
    lamps: readonly Lamp[],
    look: Appearance,
    hidden: readonly string[],
    cuts: Appearance['shown']['cuts'],
  ): void {
    // prettier-ignore
    const { stage, renderer } = this
    const size = new Vector2(LAMP_TILE_PX * 6, LAMP_TILE_PX * SHADOWED_LAMPS)
    this.target ??= new WebGLRenderTarget(size.x, size.y, { depthTexture: new DepthTexture(size.x, size.y, UnsignedIntType) }) // prettier-ignore
    stage.setHidden(hidden)
    stage.cutting.set(cuts)
    stage.prepare('shadow')
    stage.setHidden(look.shown.hidden)
    stage.cutting.set(look.shown.cuts)
    const n = this.nearM
    this.eye.projectionMatrix.makePerspective(-n, n, n, -n, n, this.farM)
    this.eye.projectionMatrixInverse.copy(this.eye.projectionMatrix).invert()
    this.target.viewport.set(0, 0, size.x, size.y)
    this.target.scissorTest = false
    renderer.setRenderTarget(this.target)
    renderer.clear()
    lamps.forEach((lamp, row) =>
      WINDOWS.forEach(([f, r, up], column) => {
        const back = new Vector3(-f[0], -f[1], -f[2])
        this.eye.matrixWorld.makeBasis(new Vector3(...r), new Vector3(...up), back).setPosition(...lamp.place)
        this.eye.matrixWorldInverse.copy(new Matrix4().copy(this.eye.matrixWorld).invert())
        this.target!.viewport.set(column * LAMP_TILE_PX, row * LAMP_TILE_PX, LAMP_TILE_PX, LAMP_TILE_PX)
        renderer.setRenderTarget(this.target)
        renderer.render(stage.scene, this.eye)
      }),
    )
    renderer.setRenderTarget(null)
  }

  dispose(): void {
    this.target?.depthTexture?.dispose()
    this.target?.dispose()
  }
}
