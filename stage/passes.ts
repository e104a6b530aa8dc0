// The picture's passes: surfaces, shadow, lighting, clear things, sum, finish.
// Model: see shaders-lighting.ts. A picture's sample is five passes into targets that belong to its kind of picture.

import { Camera as ThreeCamera, DataUtils, Matrix4, type Texture, type WebGLRenderer } from 'three'
import { type Camera, isStraight, widthOfView } from '#core/camera'
import { skyLightOf } from '#core/optics'
import { ALL_SHOWN, OUTLINE, type Spacing } from '#core/section'
import { CutFacePass, FLAT_ROUGHNESS, type DrawnFaces } from './cut-faces.ts'
import { aimEye, NEAR_M, type LensPlace, type Size, type Tile, type ViewCuts } from './aim.ts'
import { drawClear } from './clear-layer.ts'
import { CutGhostPass } from './cut-ghost.ts'
import type { FullPasses } from './full-passes.ts'
import type { StageScene } from './scene.ts'
import { SunShadow } from './sun-shadow.ts'
import { CUBE_CAMERA, Surroundings } from './surroundings.ts'
import { TargetStore, type Owner, type Targets } from './targets.ts'
import { Finish } from './finish.ts'
import { Glare } from './glare.ts'
import { LampLight, lampUniforms } from './lamp-light.ts'
import { LightingPass } from './lighting.ts'
import { SCENE_FACTOR, seenFactor } from './scene-light.ts'
import type { TakenOut } from './lens-frame.ts'
import { hasLens, lensPlace } from './lens-sample.ts'
import { SampleSum } from './sample-sum.ts'
import { PointsPass } from './points.ts'
import type { PointSample } from './points-search.ts'
import { onLens, sampleAt } from './sample.ts'
import { drawnView, type DrawnView } from './views.ts'
import type { Appearance, PointsTold } from './types.ts'

/** Beside a sample's place: cut faces, what it is a sample of, and of how many it is one. */
export interface SampleOptions {
  readonly faces?: DrawnFaces | null
  readonly key?: string
  readonly of?: number
  /** Each sample sees another moment: bright points are streaks then, not shapes of their own. */
  readonly isMoving?: boolean
}
/** What a finished picture is made by beside its samples. */
export interface Finished {
  readonly camera: Camera
  readonly look: Appearance
  readonly tile?: Tile | null
}
/** Pictures whose first frames are looked at while the others come; the edges of those that are seen at their size are filtered. */
const SOFTENED: ReadonlySet<Owner> = new Set(['picture', 'outside', 'moving', 'thumbnail'])
const FILTERED: ReadonlySet<Owner> = new Set(['picture', 'outside', 'moving'])
/** Whose bright points are found in their own first sample. */
const WITH_POINTS: ReadonlySet<Owner> = new Set(['picture', 'outside'])
/** Whether bright points are looked for, or taken out, in one of so many samples. */
const hasPoints = (owner: Owner, of: number): boolean => owner === 'still' || (WITH_POINTS.has(owner) && of >= 2)
/** Longer side, and samples, of the picture that the points of a finished one are found in. */
const POINTS_PX = 1600
const POINT_SAMPLES = 4
/** Places of the lens that a finished picture's hidden points are looked for from. */
const RIM_PLACES = 13
/** Distance of hatching lines where none is set. */
const HATCH_MM = 2
const HATCH_M = 0.06
const MM_PER_INCH = 25.4
/** Of what is seen as white. */
const GREY = 0.18
/** From so many samples on a picture is worth the sharper resampling. */
const CRISP_SAMPLES = 8
/** Metres between hatching lines; `paperM` is a printed millimetre in the model, null where the picture has no scale. */
function hatchDistance(hatch: Spacing | undefined, paperM: number | null, plainM: number): number {
  if (hatch && 'modelM' in hatch) return hatch.modelM
  // without a scale a hatching on paper keeps its proportion to the usual one
  return paperM === null ? (plainM * (hatch?.paperMm ?? HATCH_MM)) / HATCH_MM : paperM * (hatch?.paperMm ?? HATCH_MM)
}

const glareOf = (look: Appearance): number => look.exposure.finish?.glare ?? 0

export class Passes {
  private readonly gl: FullPasses
  private readonly renderer: WebGLRenderer
  private readonly stage: StageScene
  private readonly eye = new ThreeCamera()
  private readonly targets = new TargetStore()
  private readonly shadow: SunShadow
  private readonly worldFromClip = new Matrix4()
  private readonly clipFromWorld = new Matrix4()
  private readonly lighting: LightingPass
  private readonly finish: Finish
  private readonly surroundings: Surroundings
  private readonly lamps: LampLight
  private readonly glare: Glare
  private readonly lampUniforms = lampUniforms()
  private readonly faces = new CutFacePass()
  private readonly sums: SampleSum
  private readonly ghost: CutGhostPass
  private readonly points: PointsPass

  constructor(gl: FullPasses, stage: StageScene) {
    const { renderer } = gl
    this.gl = gl
    this.renderer = renderer
    this.stage = stage
    renderer.autoClear = false
    this.shadow = new SunShadow(renderer, stage)
    this.ghost = new CutGhostPass(gl, stage)
    this.finish = new Finish(gl)
    this.surroundings = new Surroundings(gl, stage)
    this.lamps = new LampLight(renderer, stage)
    this.glare = new Glare(gl)
    this.sums = new SampleSum(gl)
    this.points = new PointsPass(gl)
    this.lighting = new LightingPass(stage, { eye: this.eye, worldFromClip: this.worldFromClip, clipFromWorld: this.clipFromWorld, lamps: this.lampUniforms }) // prettier-ignore
    this.eye.matrixAutoUpdate = this.eye.matrixWorldAutoUpdate = false
  }

  /** Draws sample `index` of a picture, with the cut faces that belong to it, and adds it to its owner's sum, which index 0 starts anew. */
  sample(
    owner: Owner,
    pictured: Camera,
    look: Appearance,
    pictureSize: Size,
    pictureTile: Tile | null,
    index: number,
    { faces = null, key = '', of = 1, isMoving = false }: SampleOptions = {},
  ): void {
    const view = this.viewOf(owner, pictured, pictureSize, pictureTile)
    const { camera, size, tile } = view
    const t = this.targets.sized(owner, size)
    t.key = key
    if (t.view !== view) t.view?.map?.texture.dispose()
    t.view = view
    const { renderer, stage } = this
    if (index > 0) this.sums.add(t)
    const blur = owner === 'around' || owner === 'meter' || !hasLens(camera) ? null : (look.blur ?? null)
    stage.setHidden(look.shown.hidden)
    stage.setMoved(look.shown.moved)
    // the surroundings that smooth things mirror are those of the uncut model
    stage.cutting.set(owner === 'around' ? ALL_SHOWN.cuts : look.shown.cuts)
    const s = sampleAt(index, of, blur)
    // of pictures of one sample the sun is a point anyway
    const isAside = owner !== 'picture' && owner !== 'moving' && owner !== 'still'
    this.shadow.cast(skyLightOf(look['look.sun']), look, s.sun, {
      anyPlace: owner === 'moving' || owner === 'thumbnail',
      isAside,
    })
    this.lamps.set(this.lampUniforms, camera.pose.station, look, SCENE_FACTOR, owner !== 'moving')
    this.aim(camera, tile, size, s.pixel, look.shown.cuts, blur && lensPlace(camera, blur, s.lens))
    this.drawSurfaces(t, camera, look, size, tile, faces)
    // light
    const seen = seenFactor(look)
    this.lighting.set(t, { camera, look, size, owner, sample: s, seen, isFirst: index === 0 && SOFTENED.has(owner) })
    renderer.setRenderTarget(t.lit)
    this.gl.full(this.lighting.material)
    const isApart = blur !== null && lensPlace(camera, blur) !== null
    const hasGlints = owner === 'points' || (isApart && hasPoints(owner, isMoving ? 0 : of))
    drawClear(renderer, stage, t, { eye: this.eye, size, isApart, hasGlints })
    if (look.shown.cuts.ghost && stage.cutting.isOn && owner !== 'around' && owner !== 'meter')
      this.ghost.draw(t.lit, this.eye, size)
    t.summed = index + 1
    t.isAdded = false
    const { elements: e } = this.eye.projectionMatrix
    const perPx = (tile ? camera.frame.widthPx : size.width) / camera.frame.widthPx
    const axial = [e[10]!, e[14]!] as const
    t.axial = axial
    const takenOut = blur && this.pointsOf(owner, t, { camera, blur, size, tile, lens: s.lens, axial, grey: GREY / seen }, index, isMoving ? 0 : of) // prettier-ignore
    const hasFlat = faces !== null || look.shown.cuts.ghost === true || this.lighting.hasFlatGround
    t.lens = blur && lensPlace(camera, blur) ? { camera, blur, size, perPx, sample: s, axial, tile, takenOut, hasFlat, seen } : null // prettier-ignore
    t.blurredOf = 0
    renderer.setRenderTarget(null)
  }

  /** Surfaces of a sample, as the eye is aimed, with what cuts lay open. */
  private drawSurfaces(
    t: Targets,
    camera: Camera,
    look: Appearance,
    size: Size,
    tile: Tile | null,
    faces: DrawnFaces | null,
  ): void {
    const { renderer, stage } = this
    stage.prepare(look.clay ? 'clay' : 'solid')
    stage.surfaceUniforms((u) => (u['inverseView']!.value = this.eye.matrixWorld))
    renderer.setRenderTarget(t.facts)
    renderer.setClearColor(0x000000, 0)
    renderer.clear()
    renderer.render(stage.scene, this.eye)
    if (faces) this.drawFaces(faces, camera, look, size, tile)
  }

  /** The view that an owner's picture is made of; the one at hand as long as it is the same. */
  private viewOf(owner: Owner, camera: Camera, size: Size, tile: Tile | null): DrawnView {
    if (isStraight(camera.lens)) return { camera, size, tile, map: null }
    const key = JSON.stringify([camera, size, tile])
    const held = this.views.get(owner)
    // its map goes with the targets it was drawn into
    if (held?.key === key && this.targets.get(owner)?.view === held.view) return held.view
    const view = drawnView(camera, size, tile)
    this.views.set(owner, { key, view })
    return view
  }
  private readonly views = new Map<Owner, { readonly key: string; readonly view: DrawnView }>()

  /** Bright points of a sample of so many (0: of a picture without any): found in the first one that shows them, gathered from each; what has to be taken out of it. */
  private pointsOf(owner: Owner, t: Targets, by: PointSample, index: number, of: number): TakenOut | null {
    // focused nearer than the focal length there are no discs
    if (!lensPlace(by.camera, by.blur)) return null
    if (owner === 'still') return this.points.takenOut(owner, by)
    if (of === 0) this.points.forget(owner)
    if (!hasPoints(owner, of)) return null
    if (index === 0) this.points.begin(owner, t, by, of)
    else this.points.discover(owner, t, by)
    this.points.gather(owner, t, by)
    return this.points.takenOut(owner, by)
  }
  /** Looks at the whole of a finished picture, which is drawn in tiles, in some plain samples: its bright points, and its glare. */
  lookAtWhole(camera: Camera, look: Appearance, faces: DrawnFaces | null): void {
    this.forgetWhole()
    const { blur, ...sharp } = look
    const hasDiscs = blur !== undefined && lensPlace(camera, blur) !== null
    if (!hasDiscs && !glareOf(look)) return
    const { widthPx, heightPx } = camera.frame
    const k = Math.min(1, POINTS_PX / Math.max(widthPx, heightPx))
    const size = { width: Math.max(8, Math.round(widthPx * k)), height: Math.max(8, Math.round(heightPx * k)) }
    const grey = GREY / seenFactor(look)
    for (let i = 0; i < POINT_SAMPLES; i++) {
      this.sample('points', camera, sharp, size, null, i, { faces, of: POINT_SAMPLES })
      if (!hasDiscs) continue
      const t = this.targets.get('points')!
      const { camera: drawn, size: own } = t.view!
      const by = { camera: drawn, blur, size: own, tile: null, lens: [0, 0], axial: t.axial, grey } as const
      if (i === 0) this.points.begin('still', t, by, POINT_SAMPLES)
      this.points.gather('still', t, by)
    }
    const t = this.targets.get('points')!
    const { from, weight } = this.sums.mean(t, 'points')
    if (glareOf(look))
      this.wholeGlare = this.glare.of(t.view!.size, { source: from.textures[0]!, weight, points: null, highlights: 0 }) // prettier-ignore
    if (hasDiscs) this.lookFromRim(camera, look, size, faces)
    this.targets.drop('points')
  }
  /** Bright points of a finished picture that something hides from the middle of its lens. */
  private lookFromRim(camera: Camera, look: Appearance, size: Size, faces: DrawnFaces | null): void {
    const blur = look.blur!
    for (let i = 1; i < RIM_PLACES; i++) {
      this.sample('points', camera, look, size, null, i, { faces, of: RIM_PLACES })
      const t = this.targets.get('points')!
      const { camera: drawn, size: own } = t.view!
      this.points.discover('still', t, { camera: drawn, blur, size: own, tile: null, lens: onLens(blur, i, RIM_PLACES), axial: t.axial, grey: 0 }) // prettier-ignore
    }
  }
  private wholeGlare: ReturnType<Glare['of']> | null = null
  /** Lets go of what was found for a finished picture. */
  forgetWhole(): void {
    this.points.forget('still')
    for (const t of this.wholeGlare ?? []) t.dispose()
    this.wholeGlare = null
  }
  /** How many bright points a picture has, and how wide they are; null where there are none. */
  pointsIn(owner: Owner, camera: Camera, look: Appearance): PointsTold | null {
    return look.blur ? this.points.told(owner, camera, look.blur) : null
  }

  /** Cut faces among the surfaces; lines as wide as on paper at the frame's density. */
  private drawFaces(faces: DrawnFaces, { lens, frame }: Camera, look: Appearance, size: Size, tile: Tile | null): void {
    const perPx = tile ? 1 : frame.widthPx / size.width
    const widthM = widthOfView(lens)
    // a printed millimetre in metres of the model: where there is a scale, hatching keeps its distance on paper
    const { outline = OUTLINE, hatch, face = 'solid' } = look.shown.cuts
    const paperM = widthM === null ? null : (widthM / frame.widthPx) * (frame.densityPpi / MM_PER_INCH)
    this.faces.draw(this.renderer, this.eye, faces, {
      style: face,
      size,
      linePx: Math.max(outline.screenPx, (outline.printMm * frame.densityPpi) / MM_PER_INCH / perPx),
      hatchM: hatchDistance(hatch, paperM, Math.min(HATCH_M, this.stage.radius / 40)),
    })
  }

  /** Draws the surroundings that smooth surfaces mirror. */
  captureEnvironment(look: Appearance): void {
    this.surroundings.capture(look, (plain, size, world) => {
      this.face = world
      this.sample('around', CUBE_CAMERA, plain, size, null, 0)
      this.face = null
      return this.targets.get('around')!.lit.textures[0]!
    })
    this.targets.drop('around')
  }
  /** While the surroundings are captured: the cube face's own view instead of a camera's. */
  private face: Matrix4 | null = null

  /** The mean of an owner's samples, exposed and developed: RGBA, rows from the top. Draws no surface. */
  finished(
    owner: Owner,
    pictureSize: Size,
    { camera: pictured, look, tile: pictureTile = null }: Finished,
  ): Promise<ImageData> {
    const t = this.targets.get(owner)!
    const { summed } = t
    const view = t.view!
    const { camera, size, tile } = view
    const points =
      look.blur && lensPlace(camera, look.blur) && this.points.drawnOf(owner, { camera, blur: look.blur, size, tile })
    const { from, weight } = this.sums.mean(t, owner)
    const [source, flat] = from.textures as [Texture, Texture]
    const isFiltered = summed === 1 && FILTERED.has(owner)
    const spread =
      owner === 'still' || !glareOf(look)
        ? this.wholeGlare
        : this.glare.of(size, { source, weight, points: points || null, highlights: look.blur?.highlights ?? 1 }) // prettier-ignore
    const done = this.finish.picture({
      ...{ source, flat, weight, isFiltered, look, sceneFactor: SCENE_FACTOR, view },
      isCrisp: owner === 'still' || summed >= CRISP_SAMPLES,
      picture: { camera: pictured, size: pictureSize, tile: pictureTile },
      ...{ points: points || null, depth: look.zone && hasLens(camera) ? t.facts.depthTexture : null, axial: t.axial },
      glare: glareOf(look) && spread ? [spread[0].texture, spread[1].texture] : null,
    })
    // what is another picture's stays
    if (spread !== this.wholeGlare) void done.finally(() => spread?.forEach((g) => g.dispose())).catch(() => undefined)
    return done
  }
  /** How many samples an owner has of the picture that goes by this key; nought when it holds another one. */
  heldOf(owner: Owner, key: string): number {
    const t = this.targets.get(owner)
    return t && t.key === key ? t.summed : 0
  }

  /** Linear RGBA of an owner's first sample, rows from the bottom; alpha is 0 where there is no surface. */
  readSurfaces(owner: Owner): Float32Array {
    const t = this.targets.get(owner)!
    const { width, height } = t.view!.size
    this.sums.add(t)
    const { facts } = t
    const pixels = new Float32Array(width * height * 4)
    this.renderer.readRenderTargetPixels(t.sum!, 0, 0, width, height, pixels)
    // the roughness beside the normal is never 0 on a surface
    const normals = new Uint16Array(width * height * 4)
    this.renderer.readRenderTargetPixels(facts, 0, 0, width, height, normals, undefined, 1)
    // nor is what is drawn flat measured
    const flat = DataUtils.toHalfFloat(FLAT_ROUGHNESS)
    for (let i = 3; i < pixels.length; i += 4) pixels[i] = normals[i] === 0 || normals[i]! >= flat ? 0 : 1
    return pixels
  }

  dispose(): void {
    this.targets.dispose()
    this.lighting.dispose()
    this.shadow.dispose()
    this.faces.dispose()
    this.ghost.dispose()
    this.sums.dispose()
    this.forgetWhole()
    this.glare.dispose()
    this.points.dispose()
    this.lamps.dispose()
    this.surroundings.dispose()
  }

  private aim(
    camera: Camera,
    tile: Tile | null,
    size: Size,
    jitter: readonly [number, number],
    cut: ViewCuts,
    lens: LensPlace | null = null,
  ): void {
    if (this.face) {
      this.aimAtFace(this.face)
      return
    }
    aimEye(this.eye, this.stage, camera, tile, size, jitter, cut, lens)
    this.worldFromClip.multiplyMatrices(this.eye.matrixWorld, this.eye.projectionMatrixInverse)
    this.clipFromWorld.multiplyMatrices(this.eye.projectionMatrix, this.eye.matrixWorldInverse)
  }

  private aimAtFace(world: Matrix4): void {
    this.eye.matrixWorld.copy(world)
    this.eye.matrixWorldInverse.copy(world).invert()
    const near = Math.max(NEAR_M, this.stage.radius * 0.01)
    this.eye.projectionMatrix.makePerspective(-near, near, near, -near, near, this.stage.radius * 40)
    this.eye.projectionMatrixInverse.copy(this.eye.projectionMatrix).invert()
    this.worldFromClip.multiplyMatrices(world, this.eye.projectionMatrixInverse)
    this.clipFromWorld.multiplyMatrices(this.eye.projectionMatrix, this.eye.matrixWorldInverse)
  }
}
