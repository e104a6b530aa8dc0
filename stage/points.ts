// Bright points drawn as the aperture's shape: found (see points-search) through the middle of the lens and in the first sample that sees past
// what hides them from it, taken out of the samples, gathered over them, and laid over the picture, hidden by what stands before them.
// Model: a few samples show a bright point as so many dots; here it is one crisp shape. Its light is what the samples had over the
// threshold, so that the picture keeps its energy.

import {
  BufferAttribute,
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
  Vector4,
  WebGLRenderTarget,
  type Texture,
} from 'three'
import type { Camera } from '#core/camera'
import { apertureArea, aperturePicture, type BrightPoint } from '#core/optics'
import { fullPass, type FullPasses } from './full-passes.ts'
import { GATHER_FRAGMENT, SPRITE_FRAGMENT, SPRITE_VERTEX } from './shaders-points.ts'
import { PointsMap } from './points-map.ts'
import { discsOf, floats, mapUniforms, PointsSearch, seenUniforms, setMap, setSeen, shiftOf, type AsideOf, type KnownMap, type PointSample, type ShownPoint, type ShownPoints } from './points-search.ts' // prettier-ignore
import { catOf, fullDisc, inFrame, type TakenOut } from './lens-frame.ts'
import type { Owner, Targets } from './targets.ts'
import type { Blur, PointsTold } from './types.ts'

interface Found extends KnownMap {
  /** Light and distance through the middle. */
  readonly found: WebGLRenderTarget
  /** What the samples showed over the picture's mean, and how many of them showed the point. */
  readonly gathered: WebGLRenderTarget
  readonly list: ShownPoint[]
  samples: number
  /** Of so many samples in all. */
  readonly of: number
  /** The shapes, as many samples as they were drawn of. */
  drawn: { readonly target: WebGLRenderTarget; of: number; count: number; readonly key: string } | null
}
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
      uAperture: { value: new Vector4() },
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
    const depths = Float32Array.from({ length: size.width * size.height }, (_, i) => pixels[i * 4 + 3]!)
    const f: Found = { size, found, gathered, list: [], base: first.base, map, depths, samples: 0, of, drawn: null }
    take(f, first, () => [0, 0])
    this.all.set(owner, f)
  }

  /**
   * Looks for points that something hides from the middle of the lens and no sample before showed: none of those has their light, so that
   * nothing has to be taken out of what is summed.
   */
  discover(owner: Owner, t: Targets, by: PointSample): void {
    const f = this.all.get(owner)
    const more = f && this.search.more(f, t, by)
    if (more) take(f, more.found, more.asideOf)
  }

  /** Adds what a sample shows of the points. */
  gather(owner: Owner, t: Targets, by: PointSample): void {
    const f = this.all.get(owner)
    if (!f) return
    f.samples++
    if (f.list.length === 0) return
    setSeen(this.gatherPass, t, by)
    setMap(this.gatherPass, f, by)
    this.gl.renderer.setRenderTarget(f.gathered)
    this.gl.full(this.gatherPass)
    this.gl.renderer.setRenderTarget(null)
  }
  takenOut(owner: Owner, by: PointSample): TakenOut | null {
    const f = this.all.get(owner)
    if (!f || f.list.length === 0) return null
    return { points: f.map.texture, shift: shiftOf(f, by), inFrame: inFrame(by.camera, by.tile), mapped: f.map.mapped }
  }

  /** The points as shapes at a picture's size, a mean as the samples' is; null where there are none. */
  drawnOf(owner: Owner, by: Omit<PointSample, 'lens' | 'axial'>): Texture | null {
    const f = this.all.get(owner)
    if (!f || f.samples === 0 || f.list.length === 0) return null
    const { size, camera, tile } = by
    const key = JSON.stringify([size, tile])
    if (f.drawn?.key !== key) {
      f.drawn?.target.dispose()
      const target = new WebGLRenderTarget(size.width, size.height, { type: HalfFloatType, depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter }) // prettier-ignore
      f.drawn = { target, of: 0, count: 0, key }
    }
    // drawn first, with each new one, and when all samples are there: between them the light of a point hardly changes
    const isSame = f.drawn.count === f.list.length
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
      const seen = Math.max(...p.core.map((i) => sums[i * 4 + 3]!))
      return seen > 0 ? [light[0] / seen, light[1] / seen, light[2] / seen] : p.light
    })
  }
  private fill(
    f: Found,
    lights: readonly (readonly [number, number, number])[],
    by: Omit<PointSample, 'lens' | 'axial'>,
  ): void {
    // prettier-ignore
    const { camera, blur, size, tile } = by
    const full = tile ? { width: camera.frame.widthPx, height: camera.frame.heightPx } : size
    const discs = discsOf(camera, blur, full)
    const n = f.list.length
    const [place, light, disc] = [new Float32Array(n * 2), new Float32Array(n * 3), new Float32Array(n * 3)]
    // pixels of the picture for each of those that the points were found in
    const areas = (full.width * full.height) / (f.size.width * f.size.height)
    const area = apertureArea(blur.shape)
    f.list.forEach((p, i) => {
      const r = discs(p.distanceM)
      place.set([p.xPx / f.size.width, p.yPx / f.size.height], i * 2)
      disc.set([r, 1 / p.distanceM, 1 / p.surfaceM], i * 3)
      light.set(lights[i]!.map((v) => (v * areas) / (area * r * r)), i * 3) // prettier-ignore
    })
    this.mesh.geometry.dispose()
    const g = new InstancedBufferGeometry()
    g.setAttribute('position', new BufferAttribute(new Float32Array([-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, -1, 0, 1, 1, 0, -1, 1, 0]), 3)) // prettier-ignore
    g.setAttribute('aPlace', new InstancedBufferAttribute(place, 2))
    g.setAttribute('aLight', new InstancedBufferAttribute(light, 3))
    g.setAttribute('aDisc', new InstancedBufferAttribute(disc, 3))
    g.instanceCount = n
    this.mesh.geometry = g
  }
  private shapeUniforms(f: Found, { camera, blur, size, tile }: Omit<PointSample, 'lens' | 'axial'>): void {
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
    ;(u['uAperture']!.value as Vector4).set(shape.blades, (shape.rotationDeg * Math.PI) / 180, shape.roundness, picture ? 1 : 0) // prettier-ignore
    u['uFocus']!.value = 1 / blur.focusM
    const [w, h] = tile ? [camera.frame.widthPx, camera.frame.heightPx] : [size.width, size.height]
    ;(u['uPerFrame']!.value as Vector2).set(1 / w, 1 / h)
    ;(u['uCat']!.value as Vector4).copy(catOf(camera, shape.catsEye ?? 0))
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

/** Adds points of a sample that stands so far beside the middle's picture at each of its pixels. */
function take(f: Found, found: ShownPoints, asideOf: AsideOf): void {
  const before = f.list.length === 0 ? 0 : Math.max(...f.list.map((p) => p.of))
  for (const p of found.list) {
    const point = f.list.length < MOST ? f.map.put(p, asideOf(p.core[0]!)) : null
    if (point) f.list.push({ ...point, of: goesOnFrom(f, point)?.of ?? before + p.of })
    else for (const i of p.core) f.map.refuse(i, asideOf(i))
  }
  for (const i of found.refused) f.map.refuse(i, asideOf(i))
}
/** The point that another one is a part of, which samples before did not see. */
function goesOnFrom({ list, map }: Found, { core, distanceM }: BrightPoint): BrightPoint | null {
  const { width } = map.size
  const about = new Set<number>()
  for (const i of core) for (let y = -3; y <= 3; y++) for (let x = -3; x <= 3; x++) about.add(i + y * width + x)
  const isPart = (q: BrightPoint): boolean => Math.abs(q.distanceM / distanceM - 1) < 0.06 && q.core.some((i) => about.has(i)) // prettier-ignore
  return list.find(isPart) ?? null
}
