// The pass that lights a sample's surfaces: what it is told of sun, sky, ground and camera. Model: see shaders-lighting.ts.

import { Color, Vector2, Vector3, Vector4, type Camera as ThreeCamera, type Matrix4, type ShaderMaterial } from 'three'
import { axesOf, isPerspective, type Camera } from '#core/camera'
import { aroundLux, groundLux, skyLightOf, SUN_COLOUR, sunDirection, skyScale, type SkyLight } from '#core/optics'
import type { Size } from './aim.ts'
import { linearOf } from './flat-tone.ts'
import { fullPass } from './full-passes.ts'
import type { Uniforms } from './light-uniforms.ts'
import type { Sample } from './sample.ts'
import type { StageScene } from './scene.ts'
import { SCENE_FACTOR } from './scene-light.ts'
import { LIGHTING_FRAGMENT } from './shaders-lighting.ts'
import { PRODUCT_RADIUS_M } from './surroundings.ts'
import type { Owner, Targets } from './targets.ts'
import type { Appearance } from './types.ts'

/** What the flat layer has where a photograph shows: far below any colour, so that the finish tells it from cut faces. */
const CLEAR = -8
/** Reflectance of clay: a light grey, as models of card and plaster are photographed (practice). */
const CLAY = 0.58
/** The even ground of products and parallel pictures, sRGB. */
const GROUND = [0.79, 0.79, 0.782] as const
/** Contact shading reaches this far, metres (less in small models). */
const CONTACT_M = 0.45

/** How much of a photograph's own values a shadow takes: they go with light by a power of 2.2. */
const shadeOf = (share: number): number => 1 - (1 - share) ** (1 / 2.2)

/** From where a sample is lit; its matrices follow the eye. */
export interface LitFrom {
  readonly eye: ThreeCamera
  readonly worldFromClip: Matrix4
  readonly clipFromWorld: Matrix4
  readonly lamps: Uniforms
}
/** What is lit. */
export interface LitSample {
  readonly camera: Camera
  readonly look: Appearance
  readonly size: Size
  readonly owner: Owner
  readonly sample: Sample
  /** From scene-linear to what is seen as 1. */
  readonly seen: number
  /** The only one so far: its noise is evened out. */
  readonly isFirst: boolean
}

export class LightingPass {
  readonly material: ShaderMaterial
  private readonly stage: StageScene
  private readonly eye: ThreeCamera
  private sky = { key: '', scale: 1 }

  constructor(stage: StageScene, { eye, worldFromClip, clipFromWorld, lamps }: LitFrom) {
    this.stage = stage
    this.eye = eye
    this.material = fullPass(LIGHTING_FRAGMENT, {
      ...stage.light,
      ...lamps,
      uColourTexture: { value: null },
      uNormalTexture: { value: null },
      uWorldFromClip: { value: worldFromClip },
      uClipFromWorld: { value: clipFromWorld },
      uBack: { value: new Vector3() },
      uWorldFromView: { value: eye.matrixWorld },
      uAxial: { value: new Vector3() },
      uContact: { value: 0 },
      uSkyPlace: { value: new Vector3() },
      uCatch: { value: new Vector3() },
      uEmissionScale: { value: 1 },
      uClay: { value: 0 },
      uSky: { value: 1 },
      uGroundLux: { value: 1 },
      uFlat: { value: new Vector4() },
      uFirst: { value: 0 },
      uSeen: { value: 1 },
      uFlatLayer: { value: 1 },
    })
  }

  /** Whether the ground of what was set last is flat. */
  get hasFlatGround(): boolean {
    return (this.material.uniforms['uFlat']!.value as Vector4).w > 0
  }

  /** Makes the pass ready for the surfaces of a sample, as the eye is aimed. */
  set(t: Targets, { camera, look, size, owner, sample, seen, isFirst }: LitSample): void {
    const { light } = this.stage
    const u = this.material.uniforms
    const f = axesOf(camera.pose).forward
    ;(u['uBack']!.value as Vector3).set(-f[0], -f[1], -f[2])
    const { elements: e } = this.eye.projectionMatrix
    ;(u['uAxial']!.value as Vector3).set(e[10]!, e[14]!, e[15] === 1 ? 1 : 0)
    u['uColourTexture']!.value = t.facts.textures[0]
    u['uNormalTexture']!.value = t.facts.textures[1]
    light['uDepth']!.value = t.facts.depthTexture
    ;(light['uInverseSize']!.value as Vector2).set(1 / size.width, 1 / size.height)
    light['uLightScale']!.value = SCENE_FACTOR
    light['uSeed']!.value = sample.noise
    ;(u['uSkyPlace']!.value as Vector3).set(...sample.sky)
    u['uContact']!.value =
      owner === 'moving' || owner === 'around' ? 0 : CONTACT_M * Math.min(1, (light['uReach']!.value as number) / 0.35)
    u['uEmissionScale']!.value = SCENE_FACTOR
    u['uClay']!.value = look.clay ? CLAY : 0
    u['uSeen']!.value = seen
    u['uFirst']!.value = isFirst ? 1 : 0
    u['uFlatLayer']!.value = owner === 'around' ? 0 : 1
    this.setSky(skyLightOf(look['look.sun']), look)
    this.setGround(camera, look, owner)
  }
  private setSky(sky: SkyLight, look: Appearance): void {
    const u = this.material.uniforms
    const isUp = sunDirection(sky)[2] > 0
    const factor = sky.sunLux > 0 && isUp ? sky.sunLux * SCENE_FACTOR : 0
    ;(this.stage.light['uSunColour']!.value as Color).setRGB(...SUN_COLOUR).multiplyScalar(factor)
    const key = JSON.stringify(sky)
    if (this.sky.key !== key) this.sky = { key, scale: skyScale(sky) }
    u['uSky']!.value = this.sky.scale
    const lux = groundLux(sky)
    u['uGroundLux']!.value = lux
    this.stage.lightUnder(aroundLux(sky))
    const ground = look.photo?.groundM
    ;(u['uCatch']!.value as Vector3).set(
      ground ?? 0,
      ground === undefined ? 0 : 1,
      // what the sun adds on level ground, of all that falls there: so much darker is its shadow
      shadeOf((lux - sky.skyLux) / Math.max(1e-9, lux)),
    )
  }
  /** What shows where nothing of the model is, where that is flat. */
  private setGround(camera: Camera, look: Appearance, owner: Owner): void {
    const isColour = look['look.backdrop'].kind === 'colour'
    // what smooth things mirror is the sky
    const isClear = look.photo !== undefined && owner !== 'around'
    const c = isClear ? [CLEAR, CLEAR, CLEAR] : linearOf(isColour ? look['look.backdrop'].colour : GROUND)
    // a product stands before an even ground, in parallel pictures and in perspective; what it mirrors is the sky all the same
    const isEven = owner !== 'around' && (!isPerspective(camera) || this.stage.radius < PRODUCT_RADIUS_M)
    ;(this.material.uniforms['uFlat']!.value as Vector4).set(c[0]!, c[1]!, c[2]!, isClear || isColour || isEven ? 1 : 0)
  }

  dispose(): void {
    this.material.dispose()
  }
}
