import { describe, expect, it } from 'vitest'
import { PointsMap } from './points-map.ts'

const point = (index: number) => ({ xPx: (index % 20) + 0.5, yPx: Math.floor(index / 20) + 0.5, distanceM: 4, core: [index], all: [index, index + 1], light: [1, 1, 1], of: 1, spanPx: [0, 0] }) as const // prettier-ignore
const value = (map: PointsMap, x: number, y: number, channel: 0 | 1): number => {
  const { width, height } = map.size
  const [px, py] = [x / map.frame.width, y / map.frame.height].map((v, k) => (k ? map.mapped.y + v * map.mapped.w : map.mapped.x + v * map.mapped.z)) as [number, number] // prettier-ignore
  return (map.texture.image.data as Float32Array)[(Math.floor(py * height) * width + Math.floor(px * width)) * 2 + channel]! // prettier-ignore
}

describe('the map of bright points', () => {
  it('has a point where the middle of the lens sees it, in the frame and in the border about it', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    expect(map.size).toEqual({ width: 36, height: 26 })
    const put = map.put(point(3 * 20 + 5), 1, [2.2, -1])!
    expect([put.xPx, put.yPx]).toEqual([3.3, 4.5])
    expect(value(map, 3.5, 4.5, 0)).toBe(0.25)
    expect(value(map, 4.5, 4.5, 0)).toBe(0.25)
    expect(value(map, 5.5, 3.5, 0)).toBe(0)
    // six to the left of the frame's first column
    const outside = map.put(point(2 * 20 + 1), 2, [7, 0])!
    expect(outside.xPx).toBe(-5.5)
    expect(value(map, -5.5, 2.5, 0)).toBe(0.25)
  })
  it('keeps a pixel with the point that had it first, and takes none past the border', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    expect(map.put(point(45), 1, [0, 0])).not.toBeNull()
    expect(map.put({ ...point(45), distanceM: 8 }, 2, [0, 0])).toBeNull()
    expect(map.put(point(40), 2, [9, 0])).toBeNull()
  })
  it('tells of a sample what is known where it stands', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    map.put(point(45), 1, [0, 0])
    map.refuse(90, [0, 0])
    const known = map.knownBy(2, () => [3, 0])
    expect(known.base).toBe(2)
    expect([known.isPoint(48), known.isPoint(45), known.isRefused(93), known.isRefused(94), known.isRefused(96)]).toEqual([true, false, true, true, false]) // prettier-ignore
  })
  it('numbers what goes on from a point as far away as that point, and has all of them in its blocks', () => {
    const map = new PointsMap({ width: 40, height: 40 }, 6)
    const at = (x: number, y: number) => ({ ...point(0), core: [y * 40 + x], all: [y * 40 + x] })
    expect(map.put(at(4, 4), 1, [0, 0])!.of).toBe(1)
    expect(map.put(at(7, 6), 2, [0, 0])!.of).toBe(1)
    expect(map.put(at(11, 6), 3, [0, 0])!.of).toBe(3)
    expect(map.put({ ...at(9, 9), distanceM: 8 }, 4, [0, 0])!.of).toBe(4)
    const triangles = map.triangles()
    const isIn = (x: number, y: number): boolean => {
      const [u, v] = [(map.mapped.x + (x / 40) * map.mapped.z) * 2 - 1, (map.mapped.y + (y / 40) * map.mapped.w) * 2 - 1] // prettier-ignore
      for (let i = 0; i < triangles.length; i += 18)
        if (u > triangles[i]! && u < triangles[i + 6]! && v > triangles[i + 1]! && v < triangles[i + 7]!) return true
      return false
    }
    expect([isIn(4.5, 4.5), isIn(7.5, 6.5), isIn(11.5, 6.5), isIn(9.5, 9.5), isIn(35.5, 35.5)]).toEqual([true, true, true, true, false]) // prettier-ignore
  })
  it('fills the box about a glint that wandered, where it is as far away and nothing was refused', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 2)
    const depths = new Float32Array(200).fill(4)
    depths[4 * 20 + 6] = 9
    map.refuse(2 * 20 + 9, [0, 0])
    const first = map.put({ ...point(0), core: [3 * 20 + 4], all: [3 * 20 + 4] }, 1, [0, 0])!
    const second = map.put({ ...point(0), core: [5 * 20 + 8], all: [5 * 20 + 8] }, 1, [0, 0])!
    const put = map.fill([...first.core, ...second.core], 4, depths)
    // five by three pixels, without the two points, the one far away, and the one about the refused pixel
    expect(put).toHaveLength(15 - 2 - 1 - 1)
    const known = map.knownBy(1, () => [0, 0])
    expect([[4, 5], [6, 4], [8, 3], [9, 4]].map(([x, y]) => known.isPoint(y! * 20 + x!))).toEqual([true, false, false, false]) // prettier-ignore
  })
})
