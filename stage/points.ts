// Bright points drawn as the aperture's shape: found (see points-search) through the middle of the lens and in the first sample that sees past
// what hides them from it, taken out of the samples, gathered over them, and laid over the picture, hidden by what stands before them.
// Model: a few samples show a bright point as so many dots; here it is one crisp shape. Its light is what the samples had over the
// threshold, so that the picture keeps its energy.

import {
  BufferAttribute,
  BufferGeometry,
  Camera as ThreeCamera,
  CustomBlending,
  DataTexture,
  GLSL3,
  HalfFloatType,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  Mesh,
  NearestFilter,
  OneFactor,
  RedFormat,
  ShaderMaterial,
  UnsignedByteType,
  Vector2,
  Vector3,
  Vector4,
  WebGLRenderTarget,
  type Texture,
} from 'three'
import type { Camera } from '#core/camera'
import { apertureArea, aperturePicture, NearestGrid } from '#core/optics'
import { fullPass, type FullPasses } from './full-passes.ts'
import { GATHER_FRAGMENT, SPRITE_FRAGMENT, SPRITE_VERTEX } from './shaders-points.ts'
import { PointsMap, SAME_DISTANCE } from './points-map.ts'
import { discsOf, floats, mapUniforms, PointsSearch, seenUniforms, setMap, setSeen, shiftOf, type AsideOf, type KnownMap, type PointSample, type PointsIn, type ShownPoint, type ShownPoints } from './points-search.ts' // prettier-ignore
import { catOf, fullDisc, inFrame, type TakenOut } from './lens-frame.ts'
import type { Owner, Targets } from './targets.ts'
import type { Blur, PointsTold } from './types.ts'

/** A point, and how many samples were added before one showed it. */
interface DrawnPoint extends ShownPoint {
  readonly samplesWithout: number
}
interface Found extends KnownMap {
  /** Light and distance through the middle. */
  readonly found: WebGLRenderTarget
  /** What the samples showed over the picture's mean, and how many of them showed the point. */
  readonly gathered: WebGLRenderTarget
  readonly list: DrawnPoint[]
  /** What may hide them. */
  readonly nearest: NearestGrid
  /** Where they lie in the map, for as many as were put there. */
  places: { readonly of: number; readonly geometry: BufferGeometry } | null
  samples: number
  /** Of so many samples in all. */
  readonly of: number
  /** The shapes, as many samples as they were drawn of. */
  drawn: { readonly target: WebGLRenderTarget; of: number; count: number; readonly key: string } | null
}
/** So many times the focus's inverse distance, or the point's own, is what hides a point looked for. */
const HIDES_TO = 3
/** From so many times those that were drawn on the shapes are drawn again before all samples are there. */
const MANY_NEW = 1.25
/** As many points are drawn. */
const MOST = 600

export class PointsPass {
  private readonly gl: FullPasses
  private readonly all = new Map<Owner, Found>()
  private readonly search: PointsSearch
  private readonly gatherPass = fullPass(GATHER_FRAGMENT, {
    ...seenUniforms(),
    ...mapUniforms(),
    uAxial: { value: new Vector2() },
  })
  private readonly sprites = new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SPRITE_VERTEX,
    fragmentShader: SPRITE_FRAGMENT,
    depthTest: false,
    depthWrite: false,
    blending: CustomBlending,
    blendSrc: OneFactor,
    blendDst: OneFactor,
    toneMapped: false,
    uniforms: {
      uSize: { value: new Vector2() },
      uInFrame: { value: new Vector4() },
      uFound: { value: null },
      uShape: { value: null },
      uAperture: { value: new Vector3() },
      uInner: { value: 1 },
      uFocus: { value: 1 },
      uPerFrame: { value: new Vector2() },
      uCat: { value: new Vector4() },
    },
  })
  private readonly mesh = new Mesh(new InstancedBufferGeometry(), this.sprites)
  private readonly eye = new ThreeCamera()
  private shape: { key: string; texture: DataTexture } | null = null

  constructor(gl: FullPasses) {
    this.gl = gl
    this.search = new PointsSearch(gl)
    this.mesh.frustumCulled = false
    this.gatherPass.blending = CustomBlending
    this.gatherPass.blendSrc = this.gatherPass.blendDst = OneFactor
  }

  /** Forgets an owner's points: what is drawn next has none, or finds its own. */
  forget(owner: Owner): void {
    const old = this.all.get(owner)
    this.all.delete(owner)
    for (const t of [old?.found, old?.gathered, old?.drawn?.target]) t?.dispose()
    old?.map.texture.dispose()
    old?.places?.geometry.dispose()
  }

  /** Finds the points of a whole frame in a sample through the middle of the lens. */
  begin(owner: Owner, t: Targets, by: PointSample, of: number): void {
    this.forget(owner)
    const { size, camera, blur } = by
    const found = floats(size)
    const first = this.search.first(t, by, found)
    if (!first) {
      found.dispose()
      return
    }
    const { pixels } = first
    const map = new PointsMap(size, fullDisc(camera, blur, { widthPx: size.width }) / 2)
    const gathered = floats(map.size)
    this.gl.renderer.setRenderTarget(gathered)
    this.gl.renderer.setClearColor(0, 0)
    this.gl.renderer.clear(true, false, false)
    this.gl.renderer.setRenderTarget(null)
    const depths = new Float32Array(size.width * size.height)
    for (let i = 0; i < depths.length; i++) depths[i] = pixels[i * 4 + 3]!
    const f: Found = {
      size,
      found,
      gathered,
      list: [],
      base: first.base,
      map,
      depths,
      nearest: new NearestGrid(depths, size),
      places: null,
      samples: 0,
      of,
      drawn: null,
    }
    take(f, first, () => [0, 0], discsOf(camera, blur, size))
    this.all.set(owner, f)
  }

  /**
   * Looks for points that something hides from the middle of the lens and no sample before showed: none of those has their light, so that
   * nothing has to be taken out of what is summed.
   */
  discover(owner: Owner, t: Targets, by: PointSample): void {
    const f = this.all.get(owner)
    const more = f && this.search.more(f, t, by)
    if (more) take(f, more.found, more.asideOf, discsOf(by.camera, by.blur, by.size))
  }

  /** Adds what a sample shows of the points. */
  gather(owner: Owner, t: Targets, by: PointSample): void {
    const f = this.all.get(owner)
    if (!f) return
    f.samples++
    if (f.list.length === 0) return
    setSeen(this.gatherPass, t, by)
    setMap(this.gatherPass, f, by)
    // where no point is there is nothing to gather
    if (f.places?.of !== f.map.count) {
      f.places?.geometry.dispose()
      const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(f.map.triangles(), 3))
      f.places = { of: f.map.count, geometry }
    }
    this.gl.renderer.setRenderTarget(f.gathered)
    this.gl.over(this.gatherPass, f.places.geometry)
    this.gl.renderer.setRenderTarget(null)
  }
  takenOut(owner: Owner, by: PointSample): TakenOut | null {
    const f = this.all.get(owner)
    if (!f || f.list.length === 0) return null
    return { points: f.map.texture, shift: shiftOf(f, by), inFrame: inFrame(by.camera, by.tile), mapped: f.map.mapped }
  }

  /** The points as shapes at a picture's size, a mean as the samples' is; null where there are none. */
  drawnOf(owner: Owner, by: PointsIn): Texture | null {
    const f = this.all.get(owner)
    if (!f || f.samples === 0 || f.list.length === 0) return null
    const { size, camera, tile } = by
    const key = JSON.stringify([size, tile])
    if (f.drawn?.key !== key) {
      f.drawn?.target.dispose()
      const target = new WebGLRenderTarget(size.width, size.height, { type: HalfFloatType, depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter }) // prettier-ignore
      f.drawn = { target, of: 0, count: 0, key }
    }
    // drawn first, with many new ones, and when all samples are there: between them the light of a point hardly changes
    const isSame = f.list.length <= f.drawn.count * MANY_NEW
    if (f.drawn.of === f.samples || (isSame && f.drawn.of > 0 && f.samples < f.of)) return f.drawn.target.texture
    f.drawn.of = f.samples
    f.drawn.count = f.list.length
    this.fill(f, this.lightsOf(f), by)
    const u = this.sprites.uniforms
    ;(u['uSize']!.value as Vector2).set(size.width, size.height)
    ;(u['uInFrame']!.value as Vector4).copy(inFrame(camera, tile))
    this.shapeUniforms(f, by)
    const { renderer } = this.gl
    renderer.setRenderTarget(f.drawn.target)
    renderer.setClearColor(0, 0)
    renderer.clear(true, false, false)
    renderer.render(this.mesh, this.eye)
    renderer.setRenderTarget(null)
    return f.drawn.target.texture
  }

  /** How many there are, and how wide their discs are in pixels of the frame. */
  told(owner: Owner, camera: Camera, blur: Blur): PointsTold | null {
    const f = this.all.get(owner)
    if (!f || f.list.length === 0) return null
    const discs = discsOf(camera, blur, { width: camera.frame.widthPx, height: camera.frame.heightPx })
    const whole = new Map(f.list.map((p) => [p.of, p.distanceM]))
    const widths = [...whole.values()].map((m) => Math.abs(discs(m)) * 2).sort((a, b) => a - b)
    return { count: widths.length, leastPx: widths[0]!, mostPx: widths.at(-1)!, midPx: widths[widths.length >> 1]! }
  }

  /** Light of each point over the picture's mean, as the samples that showed it had it on the mean. */
  private lightsOf(f: Found): (readonly [number, number, number])[] {
    const { width, height } = f.map.size
    const sums = new Float32Array(width * height * 4)
    this.gl.renderer.readRenderTargetPixels(f.gathered, 0, 0, width, height, sums)
    return f.list.map((p) => {
      const light: [number, number, number] = [0, 0, 0]
      for (const i of p.all) for (let c = 0; c < 3; c++) light[c]! += sums[i * 4 + c]!
      // the edges come and go with the jitter: whether it is seen is asked where it is for certain
      const seen = p.core.reduce((most, i) => Math.max(most, sums[i * 4 + 3]!), 0)
      const n = seen + p.samplesWithout
      return seen > 0 ? [light[0] / n, light[1] / n, light[2] / n] : p.light
    })
  }
  private fill(f: Found, lights: readonly (readonly [number, number, number])[], by: PointsIn): void {
    // prettier-ignore
    const { camera, blur, size, tile } = by
    const full = tile ? { width: camera.frame.widthPx, height: camera.frame.heightPx } : size
    const discs = discsOf(camera, blur, full)
    const n = f.list.length
    const [place, span] = [new Float32Array(n * 2), new Float32Array(n * 2)]
    const [light, disc] = [new Float32Array(n * 3), new Float32Array(n * 4)]
    const perFull = f.size.width / full.width
    // pixels of the picture for each of those that the points were found in
    const areas = (full.width * full.height) / (f.size.width * f.size.height)
    const area = apertureArea(blur.shape)
    f.list.forEach((p, i) => {
      const r = discs(p.distanceM)
      place.set([p.xPx / f.size.width, p.yPx / f.size.height], i * 2)
      disc.set([r, 1 / p.distanceM, 1 / p.surfaceM, this.mostBefore(f, p, blur, r * perFull)], i * 4)
      const [across, up] = [p.spanPx[0] / perFull, p.spanPx[1] / perFull]
      span.set([across, up], i * 2)
      light.set(lights[i]!.map((v) => (v * areas) / (area * r * r + (blur.shape.picture ? 0 : rampArea(across, up)))), i * 3) // prettier-ignore
    })
    this.mesh.geometry.dispose()
    const g = new InstancedBufferGeometry()
    g.setAttribute('position', new BufferAttribute(new Float32Array([-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, -1, 0, 1, 1, 0, -1, 1, 0]), 3)) // prettier-ignore
    g.setAttribute('aPlace', new InstancedBufferAttribute(place, 2))
    g.setAttribute('aSpan', new InstancedBufferAttribute(span, 2))
    g.setAttribute('aLight', new InstancedBufferAttribute(light, 3))
    g.setAttribute('aDisc', new InstancedBufferAttribute(disc, 4))
    g.instanceCount = n
    this.mesh.geometry = g
  }
  /** Inverse distance up to which something may stand before a point's disc of this radius (pixels of the found picture); that of its surface where nothing does. */
  private mostBefore({ nearest }: Found, p: ShownPoint, { focusM }: Blur, radiusPx: number): number {
    const near = 1 / p.surfaceM
    const most = HIDES_TO * Math.max(1 / focusM, near)
    const wayPx =
      (Math.abs(radiusPx) / Math.max(Math.abs(1 / focusM - 1 / p.distanceM), 1e-6)) * (most - 1 / p.distanceM)
    return Math.min(most, Math.max(near, 1 / nearest.nearestM(p.xPx, p.yPx, wayPx)))
  }
  private shapeUniforms(f: Found, { camera, blur, size, tile }: PointsIn): void {
    const { shape } = blur
    const u = this.sprites.uniforms
    u['uFound']!.value = f.found.texture
    const picture = aperturePicture(shape)
    if (picture && this.shape?.key !== shape.picture) {
      this.shape?.texture.dispose()
      const texture = new DataTexture(new Uint8Array(picture.grey), picture.side, picture.side, RedFormat, UnsignedByteType) // prettier-ignore
      texture.needsUpdate = true
      this.shape = { key: shape.picture!, texture }
    }
    u['uShape']!.value = this.shape?.texture ?? null
    ;(u['uAperture']!.value as Vector3).set(shape.blades, (shape.rotationDeg * Math.PI) / 180, shape.roundness)
    const straight = shape.blades < 3 ? 1 : Math.cos(Math.PI / shape.blades)
    u['uInner']!.value = straight + (1 - straight) * shape.roundness
    u['uFocus']!.value = 1 / blur.focusM
    const [w, h] = tile ? [camera.frame.widthPx, camera.frame.heightPx] : [size.width, size.height]
    ;(u['uPerFrame']!.value as Vector2).set(1 / w, 1 / h)
    ;(u['uCat']!.value as Vector4).copy(catOf(camera, shape.catsEye ?? 0))
    this.compileFor([picture ? 'PICTURE' : shape.blades >= 3 ? 'BLADES' : '', shape.catsEye ? 'CATS_EYE' : ''])
  }
  /** Programs are kept: going back to a shape compiles nothing. */
  private compileFor(names: readonly string[]): void {
    const defines = Object.fromEntries(names.filter(Boolean).map((name) => [name, '']))
    if (Object.keys(defines).join() === Object.keys(this.sprites.defines ?? {}).join()) return
    this.sprites.defines = defines
    this.sprites.needsUpdate = true
  }

  dispose(): void {
    for (const owner of [...this.all.keys()]) this.forget(owner)
    this.shape?.texture.dispose()
    this.search.dispose()
    this.gatherPass.dispose()
    this.sprites.dispose()
    this.mesh.geometry.dispose()
  }
}

/** Square pixels that the ramp at its edge adds to a disc, for a light that covers so much: half of its square by angle, over 12. */
const rampArea = (across: number, up: number): number => (Math.PI * (across ** 2 + up ** 2) + 4 * across * up) / 24

/** Adds points of a sample that stands so far beside the middle's picture at each of its pixels. */
function take(f: Found, found: ShownPoints, asideOf: AsideOf, discs: (distanceM: number) => number): void {
  const before = f.list.reduce((most, p) => Math.max(most, p.of), 0)
  const put = (p: ShownPoint, samplesWithout: number): void => {
    const point = f.list.length < MOST ? f.map.put(p, before + p.of, asideOf(p.core[0]!)) : null
    if (point) f.list.push({ ...point, samplesWithout })
    else for (const i of p.core) f.map.refuse(i, asideOf(i))
  }
  for (const p of found.list) put(p, 0)
  for (const p of found.strays)
    if (!putWithin(f, p, asideOf(p.core[0]!), Math.abs(discs(p.distanceM)))) put(p, f.samples)
  for (const i of found.refused) f.map.refuse(i, asideOf(i))
}
/** A glint that wandered belongs to the nearest point as far away within its disc: it is taken out, and its light is that one's. */
function putWithin(
  { list, map, depths }: Found,
  p: ShownPoint,
  aside: readonly [number, number],
  radiusPx: number,
): boolean {
  const [x, y] = [p.xPx - aside[0], p.yPx - aside[1]]
  let [nearest, least] = [-1, radiusPx]
  list.forEach((q, i) => {
    const away = Math.hypot(q.xPx - x, q.yPx - y)
    if (away > least || Math.abs(q.distanceM / p.distanceM - 1) > SAME_DISTANCE) return
    ;[nearest, least] = [i, away]
  })
  const q = list[nearest]
  const put = q && map.put(p, q.of, aside)
  if (!q || !put) return false
  const core = [...q.core, ...put.core]
  list[nearest] = { ...q, core, all: [...q.all, ...put.all, ...map.fill(core, p.surfaceM, depths)] }
  return true
}
