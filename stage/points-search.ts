// Finding bright points: in a sample through the middle of the lens, and in each further one what no sample before showed.
// Model: of a further sample the GL tells block by block whether something as bright as a point is not known yet; only the pixels about
// such blocks are read, and all of them where something reaches out of those.

import {
  FloatType,
  NearestFilter,
  UnsignedByteType,
  Vector2,
  Vector4,
  WebGLRenderTarget,
  type ShaderMaterial,
} from 'three'
import type { Camera } from '#core/camera'
import {
  brightPoints,
  brightPointsIn,
  inRows,
  POINT_OVER_MEAN,
  rectsAbout,
  type BrightPoint,
  type BrightPoints,
  type PixelRect,
} from '#core/optics'
import type { Size, Tile } from './aim.ts'
import { clearTextures } from './clear-layer.ts'
import { fit, fullPass, type FullPasses } from './full-passes.ts'
import { fullDisc } from './lens-frame.ts'
import type { PointsMap } from './points-map.ts'
import { BLOCK, FOUND_FRAGMENT, GLINTS_FRAGMENT, UNKNOWN_FRAGMENT } from './shaders-points.ts'
import type { Targets } from './targets.ts'
import type { Blur } from './types.ts'

/** What a sample is, for the points in it. */
export interface PointSample {
  readonly camera: Camera
  readonly blur: Blur
  readonly size: Size
  readonly tile: Tile | null
  /** Its place on the lens, radius 1. */
  readonly lens: readonly [number, number]
  readonly axial: readonly [number, number]
  /** Light that is seen as a middle grey. */
  readonly grey: number
}
/** The picture that points are drawn into. */
export type PointsIn = Omit<PointSample, 'lens' | 'axial' | 'grey'>
/** A bright point, and how far the surface is that shows it: of the sun's image in glass, the glass. */
export interface ShownPoint extends BrightPoint {
  readonly surfaceM: number
}
export interface ShownPoints extends BrightPoints {
  readonly list: readonly ShownPoint[]
  /** Those that the middle sees nothing before and was without all the same: glints that wander over what is bent, sparks between the pixels. */
  readonly strays: readonly ShownPoint[]
}
/** Points of an earlier sample, and what is known of their picture. */
export interface KnownMap {
  readonly size: Size
  readonly map: PointsMap
  /** Luminance that is left of a point in the samples. */
  readonly base: number
  /** Distances through the middle, by rows from below. */
  readonly depths: Float32Array
}
/** How far each pixel of a sample stands beside the middle's, pixels. */
export type AsideOf = (index: number) => readonly [number, number]

/** What is nearer than this share of a point's distance hides it. */
const HIDES = 0.96
/** A hidden point whose disc is wider than this share of the picture is too faint for its shape to be seen. */
const WIDEST = 0.25

/** Of a disc's radius what is filled at a stretch: a picture as aperture may have parts as thin as half of it. */
const evenPart = ({ shape }: Blur): number => (shape.picture ? 1 : 2)

export class PointsSearch {
  private readonly gl: FullPasses
  private readonly find = fullPass(FOUND_FRAGMENT, {
    ...seenUniforms(),
    uAxial: { value: new Vector2() },
  })
  private readonly unknown = fullPass(UNKNOWN_FRAGMENT, {
    ...seenUniforms(),
    ...mapUniforms(),
    uAxial: { value: new Vector2() },
    uLeast: { value: 0 },
  })
  private readonly glints = fullPass(GLINTS_FRAGMENT, { uGlint: { value: null } })
  private blocks: WebGLRenderTarget | null = null
  /** Where samples are read. */
  private looked: WebGLRenderTarget | null = null

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  /** Points of a sample, with light and distance of all pixels (drawn into `target`); null where there can be none. */
  first(
    t: Targets,
    by: PointSample,
    target: WebGLRenderTarget,
  ): (ShownPoints & { readonly pixels: Float32Array }) | null {
    const pixels = this.read(t, by, target)
    const discs = discsOf(by.camera, by.blur, by.size)
    const discPx = (d: number): number => Math.abs(discs(d)) * evenPart(by.blur)
    const found = brightPoints(pixels, by.size, discPx, null, by.grey)
    if (found.base === Infinity) return null
    const shown = this.onSurfaces(t, by, found.list, [whole(by.size)])
    const rows = rowsOf(shown, discPx)
    const refused = [...found.refused, ...pixelsOf(rows)]
    return { ...found, pixels, list: shown.filter((p) => !rows.has(p)), refused, strays: [] }
  }

  /** What a further sample shows that is not known, and where its pixels stand; null where there is nothing. */
  more(k: KnownMap, t: Targets, by: PointSample): { readonly found: ShownPoints; readonly asideOf: AsideOf } | null {
    const { size, camera, blur, lens } = by
    const rects = rectsAbout(this.unknownBlocks(k, t, by), 4, BLOCK, size)
    if (rects?.length === 0) return null
    const target = this.lookedIn(size)
    const discs = discsOf(camera, blur, size)
    const discPx = (d: number): number => Math.abs(discs(d)) * evenPart(blur)
    /** Distances of what was read, by pixel of the picture. */
    let depthAt: (index: number) => number = () => 1
    const asideOf: AsideOf = (i) => {
      const r = discs(depthAt(i))
      return [lens[0] * r, lens[1] * r]
    }
    const known = k.map.knownBy(k.base, asideOf)
    let more: BrightPoints | null = null
    let looked: readonly PixelRect[] = [whole(size)]
    if (rects) {
      const read = rects.map((r) => ({ ...r, pixels: this.read(t, by, target, r) }))
      depthAt = (i) => valueIn(read, size, i, 3, 1)
      more = brightPointsIn(read, size, discPx, known)
      if (more) looked = rects
    }
    if (!more) {
      const pixels = this.read(t, by, target)
      depthAt = (i) => pixels[i * 4 + 3]!
      more = brightPoints(pixels, size, discPx, known)
    }
    const shown = this.onSurfaces(t, by, more.list, looked)
    const rows = rowsOf(shown, discPx)
    const isWide = (p: ShownPoint): boolean => discPx(p.distanceM) > WIDEST * size.width
    const drawn = shown.filter((p) => !rows.has(p) && !isWide(p))
    const list = drawn.filter((p) => isHidden(k, p, asideOf(p.core[0]!)))
    const refused = [...more.refused, ...more.joined, ...pixelsOf(rows), ...shown.filter(isWide).flatMap((p) => p.core)]
    return { found: { ...more, list, refused, strays: drawn.filter((p) => !list.includes(p)) }, asideOf }
  }

  /** Four values for each block of a sample: not 0 where a pixel as bright as a point was not looked at yet. */
  private unknownBlocks(k: KnownMap, t: Targets, by: PointSample): Uint8Array {
    const width = Math.ceil(by.size.width / BLOCK)
    const height = Math.ceil(by.size.height / BLOCK)
    this.blocks ??= new WebGLRenderTarget(width, height, { type: UnsignedByteType, depthBuffer: false })
    if (this.blocks.width !== width || this.blocks.height !== height) this.blocks.setSize(width, height)
    setSeen(this.unknown, t, by)
    setMap(this.unknown, k, by)
    this.unknown.uniforms['uLeast']!.value = k.base * POINT_OVER_MEAN
    const { renderer } = this.gl
    renderer.setRenderTarget(this.blocks)
    this.gl.full(this.unknown)
    const told = new Uint8Array(width * height * 4)
    renderer.readRenderTargetPixels(this.blocks, 0, 0, width, height, told)
    renderer.setRenderTarget(null)
    return told
  }
  /** Points with the surfaces that show them; they all lie within these parts of the picture. */
  private onSurfaces(
    t: Targets,
    { size }: PointSample,
    list: readonly BrightPoint[],
    parts: readonly PixelRect[],
  ): ShownPoint[] {
    if (list.length === 0 || !t.clear) return list.map((p) => ({ ...p, surfaceM: p.distanceM }))
    // copied: not every GL reads what has two channels
    this.glints.uniforms['uGlint']!.value = clearTextures(t).glints
    const target = this.lookedIn(size)
    const read = parts.map((r) => ({ ...r, pixels: this.drawn(this.glints, target, r) }))
    return list.map((p) => {
      for (const i of p.core) {
        const inverse = valueIn(read, size, i, 1, 0)
        if (inverse > 0) return { ...p, surfaceM: 1 / inverse }
      }
      return { ...p, surfaceM: p.distanceM }
    })
  }
  /** Light and distance of a sample, or of a part of it, as rows from below. */
  private read(t: Targets, by: PointSample, target: WebGLRenderTarget, rect: PixelRect | null = null): Float32Array {
    setSeen(this.find, t, by)
    return this.drawn(this.find, target, rect ?? whole(by.size))
  }
  /** A part of a pass. */
  private drawn(pass: ShaderMaterial, target: WebGLRenderTarget, { x, y, width, height }: PixelRect): Float32Array {
    target.scissor.set(x, y, width, height)
    target.scissorTest = true
    this.gl.renderer.setRenderTarget(target)
    this.gl.full(pass)
    const pixels = new Float32Array(width * height * 4)
    this.gl.renderer.readRenderTargetPixels(target, x, y, width, height, pixels)
    this.gl.renderer.setRenderTarget(null)
    return pixels
  }

  private lookedIn(size: Size): WebGLRenderTarget {
    this.looked ??= floats(size)
    fit(this.looked, size)
    return this.looked
  }

  dispose(): void {
    this.glints.dispose()
    this.blocks?.dispose()
    this.looked?.dispose()
    this.unknown.dispose()
    this.find.dispose()
  }
}

/** Uniforms of a pass that reads a sample with what is clear before it. */
export const seenUniforms = (): Record<string, { value: unknown }> =>
  Object.fromEntries(['uSource', 'uOver', 'uDepth', 'uGlint'].map((name) => [name, { value: null }]))
/** Those of one that asks where points are known. */
export const mapUniforms = (): Record<string, { value: unknown }> => ({
  uPixel: { value: new Vector2() },
  uPoints2D: { value: null },
  uLensShift: { value: new Vector4() },
  uInFrame: { value: new Vector4() },
  uMapped: { value: new Vector4() },
})
export function setSeen(pass: ShaderMaterial, t: Targets, { axial }: PointSample): void {
  pass.uniforms['uSource']!.value = t.lit.textures[0]
  pass.uniforms['uDepth']!.value = t.facts.depthTexture
  const { over, glints } = clearTextures(t)
  pass.uniforms['uOver']!.value = over
  pass.uniforms['uGlint']!.value = glints
  ;(pass.uniforms['uAxial']!.value as Vector2).set(...axial)
}
/** Where points of a sample lie in what is known of them. */
export function setMap(pass: ShaderMaterial, k: KnownMap, by: PointSample): void {
  const u = pass.uniforms
  ;(u['uPixel']!.value as Vector2).set(1 / by.size.width, 1 / by.size.height)
  u['uPoints2D']!.value = k.map.texture
  ;(u['uLensShift']!.value as Vector4).copy(shiftOf(k, by))
  ;(u['uMapped']!.value as Vector4).copy(k.map.mapped)
}
/** The sample's place on the lens times half of the disc far behind the focus, pixels; what is left of a point, where the focus is. */
export function shiftOf(k: KnownMap, { camera, blur, size, tile, lens }: PointSample): Vector4 {
  const far = fullDisc(camera, blur, tile ? camera.frame : { widthPx: size.width }) / 2
  return new Vector4(lens[0] * far, lens[1] * far, k.base, blur.focusM)
}

/** Signed radius of the disc of a distance, pixels of a picture of this size: negative before the focus. */
export function discsOf(camera: Camera, blur: Blur, { width }: Size): (distanceM: number) => number {
  const far = fullDisc(camera, blur, { widthPx: width }) / 2
  return (distanceM) => far * ((distanceM - blur.focusM) / distanceM)
}

export const floats = ({ width, height }: Size): WebGLRenderTarget =>
  new WebGLRenderTarget(width, height, {
    ...{ type: FloatType, depthBuffer: false },
    ...{ minFilter: NearestFilter, magFilter: NearestFilter },
  })
const whole = ({ width, height }: Size): PixelRect => ({ x: 0, y: 0, width, height })
/** A channel of a pixel in what was read of a picture, or what it is where nothing was. */
function valueIn(
  read: readonly (PixelRect & { readonly pixels: Float32Array })[],
  { width }: Size,
  index: number,
  channel: 0 | 1 | 2 | 3,
  otherwise: number,
): number {
  const [x, y] = [index % width, Math.floor(index / width)]
  for (const r of read) {
    const [u, v] = [x - r.x, y - r.y]
    if (u >= 0 && v >= 0 && u < r.width && v < r.height) return r.pixels[(v * r.width + u) * 4 + channel]!
  }
  return otherwise
}
/** Dashes of bright lines; not the sun's images in what is clear, which are never left as dots. */
const rowsOf = (shown: readonly ShownPoint[], discPx: (distanceM: number) => number): ReadonlySet<ShownPoint> => inRows(shown.filter((p) => p.surfaceM === p.distanceM), discPx) // prettier-ignore
/** With those about them: the next dash may lie between. */
const pixelsOf = (points: Iterable<ShownPoint>): number[] => [...points].flatMap((p) => p.all)
/** Whether something nearer stands before a point for the middle of the lens, or it lies past the frame there. */
function isHidden({ size, depths }: KnownMap, p: ShownPoint, [ax, ay]: readonly [number, number]): boolean {
  const [x, y] = [Math.floor(p.xPx - ax), Math.floor(p.yPx - ay)]
  for (let v = y - 1; v <= y + 1; v++)
    for (let u = x - 1; u <= x + 1; u++) {
      if (u < 0 || v < 0 || u >= size.width || v >= size.height) return true
      if (depths[v * size.width + u]! < p.surfaceM * HIDES) return true
    }
  return false
}
