// Where the bright points of a picture lie, pixel by pixel, for the passes that take them out and gather them: through the middle of the
// lens, and in a border about the frame, whose points reach into it. With them what was looked at and is none.
import { DataTexture, FloatType, RGFormat, Vector4 } from 'three'
import type { BrightPoint, KnownPoints } from '#core/optics'
import type { Size } from './aim.ts'

/** No border is wider, pixels. */
const MOST_BORDER = 64
/** What lies nearer than this to a point, pixels, and is as far away within this share, is a part of it. */
const PART_PX = 3
export const SAME_DISTANCE = 0.06
/** Pixels a side of the blocks in which it is known whether a point is there. */
const BLOCK = 16

export class PointsMap {
  /** Of the frame, without the border. */
  readonly frame: Size
  readonly size: Size
  /** Inverse distance of a point, 0 where there is none; 1 where something was refused. */
  readonly texture: DataTexture
  /** Where the frame lies in it: from and size. */
  readonly mapped: Vector4
  /** How often something was put here. */
  count = 0
  private readonly border: number
  private readonly data: Float32Array
  /** Number of the point that has a pixel in its core, 0 of none. */
  private readonly owner: Int32Array
  private readonly blocks = new Set<number>()

  /** `reach`: as far as the lens moves a point far away, pixels. */
  constructor(frame: Size, reach: number) {
    this.frame = frame
    this.border = Math.min(MOST_BORDER, Math.ceil(reach) + 2)
    this.size = { width: frame.width + 2 * this.border, height: frame.height + 2 * this.border }
    const { width, height } = this.size
    this.data = new Float32Array(width * height * 2)
    this.owner = new Int32Array(width * height)
    this.texture = new DataTexture(this.data, width, height, RGFormat, FloatType)
    this.texture.needsUpdate = true
    this.mapped = new Vector4(this.border / width, this.border / height, frame.width / width, frame.height / height)
  }

  /** Index of a pixel that was seen somewhere in the frame and lies by so much aside; null outside of the border. */
  private at(index: number, dx: number, dy: number): number | null {
    const x = (index % this.frame.width) + dx + this.border
    const y = Math.floor(index / this.frame.width) + dy + this.border
    const { width, height } = this.size
    return x < 0 || y < 0 || x >= width || y >= height ? null : y * width + x
  }

  /**
   * Puts a point of a sample that saw it by `aside` from where the middle does; null where nothing of it lies here. It goes by the number of the
   * point that it is a part of, which samples before did not see, otherwise by `of`.
   */
  put<T extends BrightPoint>(point: T, of: number, [ax, ay]: readonly [number, number]): T | null {
    const moved = (list: readonly number[]): number[] =>
      list
        .map((i) => this.at(i, -Math.round(ax), -Math.round(ay)))
        .filter((i): i is number => i !== null && !(this.data[i * 2]! > 0))
    const core = moved(point.core)
    if (core.length === 0) return null
    const all = moved(point.all)
    const own = this.wholeOf(core, point.distanceM) ?? of
    for (const i of all) {
      this.data[i * 2] = 1 / point.distanceM
      this.blocks.add(this.blockOf(i))
    }
    for (const i of core) this.owner[i] = own
    this.count++
    this.texture.needsUpdate = true
    return { ...point, of: own, core, all, xPx: point.xPx - ax, yPx: point.yPx - ay }
  }
  /**
   * Puts a point at all pixels of the box about these that are as far away (`depths`: of the frame) and were not refused: where a glint that wanders
   * was seen it is in other samples too, or between. Gives the pixels that are new.
   */
  fill(about: readonly number[], distanceM: number, depths: Float32Array): number[] {
    const { width } = this.size
    const [xs, ys] = [about.map((i) => i % width), about.map((i) => Math.floor(i / width))]
    const [left, right] = [xs.reduce((a, b) => Math.min(a, b), Infinity), xs.reduce((a, b) => Math.max(a, b), -1)]
    const [low, high] = [ys.reduce((a, b) => Math.min(a, b), Infinity), ys.reduce((a, b) => Math.max(a, b), -1)]
    const put: number[] = []
    for (let y = low; y <= high; y++)
      for (let x = left; x <= right; x++) {
        const [i, u, v] = [y * width + x, x - this.border, y - this.border]
        if (u < 0 || v < 0 || u >= this.frame.width || v >= this.frame.height) continue
        if (this.data[i * 2]! > 0 || this.data[i * 2 + 1]! > 0) continue
        if (Math.abs(depths[v * this.frame.width + u]! / distanceM - 1) > SAME_DISTANCE) continue
        this.data[i * 2] = 1 / distanceM
        this.blocks.add(this.blockOf(i))
        put.push(i)
      }
    if (put.length > 0) this.count++
    this.texture.needsUpdate = true
    return put
  }
  /** Number of a point as far away that lies about these pixels. */
  private wholeOf(core: readonly number[], distanceM: number): number | null {
    const { width } = this.size
    for (const i of core)
      for (let y = -PART_PX; y <= PART_PX; y++)
        for (let at = i + y * width - PART_PX; at <= i + y * width + PART_PX; at++)
          if (this.owner[at]! > 0 && Math.abs(1 / this.data[at * 2]! / distanceM - 1) < SAME_DISTANCE)
            return this.owner[at]!
    return null
  }
  private blockOf(i: number): number {
    const { width } = this.size
    return Math.floor(i / width / BLOCK) * Math.ceil(width / BLOCK) + Math.floor((i % width) / BLOCK)
  }
  /** Triangles over all blocks with a point in them, x and y from -1 to 1 over the map, z 0. */
  triangles(): Float32Array {
    const { width, height } = this.size
    const across = Math.ceil(width / BLOCK)
    return Float32Array.from(
      [...this.blocks].flatMap((b) => {
        const [x, y] = [(b % across) * BLOCK, Math.floor(b / across) * BLOCK]
        const [l, r] = [x, Math.min(x + BLOCK, width)].map((v) => (v / width) * 2 - 1) as [number, number]
        const [d, u] = [y, Math.min(y + BLOCK, height)].map((v) => (v / height) * 2 - 1) as [number, number]
        return [l, d, 0, r, d, 0, r, u, 0, l, d, 0, r, u, 0, l, u, 0]
      }),
    )
  }
  refuse(index: number, [ax, ay]: readonly [number, number]): void {
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const i = this.at(index, dx - Math.round(ax), dy - Math.round(ay))
        if (i !== null) this.data[i * 2 + 1] = 1
      }
    this.texture.needsUpdate = true
  }
  /** What is known of the pixels of a sample; `asideOf`: where each stands beside the middle's. */
  knownBy(base: number, asideOf: (index: number) => readonly [number, number]): KnownPoints {
    const value = (index: number, channel: 0 | 1): number => {
      const [ax, ay] = asideOf(index)
      const i = this.at(index, -Math.round(ax), -Math.round(ay))
      return i === null ? 0 : this.data[i * 2 + channel]!
    }
    return { base, isPoint: (i) => value(i, 0) > 0, isRefused: (i) => value(i, 1) > 0 }
  }
}
