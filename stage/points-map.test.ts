import { describe, expect, it } from 'vitest'
import { PointsMap } from './points-map.ts'

const point = (index: number) => ({ xPx: (index % 20) + 0.5, yPx: Math.floor(index / 20) + 0.5, distanceM: 4, core: [index], all: [index, index + 1], light: [1, 1, 1], of: 1 }) as const // prettier-ignore
const value = (map: PointsMap, x: number, y: number, channel: 0 | 1): number => {
  const { width, height } = map.size
  const [px, py] = [x / map.frame.width, y / map.frame.height].map((v, k) => (k ? map.mapped.y + v * map.mapped.w : map.mapped.x + v * map.mapped.z)) as [number, number] // prettier-ignore
  return (map.texture.image.data as Float32Array)[(Math.floor(py * height) * width + Math.floor(px * width)) * 2 + channel]! // prettier-ignore
}

describe('the map of bright points', () => {
  it('has a point where the middle of the lens sees it, in the frame and in the border about it', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    expect(map.size).toEqual({ width: 36, height: 26 })
    const put = map.put(point(3 * 20 + 5), [2.2, -1])!
    expect([put.xPx, put.yPx]).toEqual([3.3, 4.5])
    expect(value(map, 3.5, 4.5, 0)).toBe(0.25)
    expect(value(map, 4.5, 4.5, 0)).toBe(0.25)
    expect(value(map, 5.5, 3.5, 0)).toBe(0)
    // six to the left of the frame's first column
    const outside = map.put(point(2 * 20 + 1), [7, 0])!
    expect(outside.xPx).toBe(-5.5)
    expect(value(map, -5.5, 2.5, 0)).toBe(0.25)
  })
  it('keeps a pixel with the point that had it first, and takes none past the border', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    expect(map.put(point(45), [0, 0])).not.toBeNull()
    expect(map.put({ ...point(45), distanceM: 8 }, [0, 0])).toBeNull()
    expect(map.put(point(40), [9, 0])).toBeNull()
  })
  it('tells of a sample what is known where it stands', () => {
    const map = new PointsMap({ width: 20, height: 10 }, 6)
    map.put(point(45), [0, 0])
    map.refuse(90, [0, 0])
    const known = map.knownBy(2, () => [3, 0])
    expect(known.base).toBe(2)
    expect([known.isPoint(48), known.isPoint(45), known.isRefused(93), known.isRefused(94), known.isRefused(96)]).toEqual([true, false, true, true, false]) // prettier-ignore
  })
})
