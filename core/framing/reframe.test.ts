import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { projectPoint, rayThrough, widened, type Camera, type Guide } from '../camera/index.ts'
import { addScaled, distance } from '../math/index.ts'
import { cropBox, cropMoved, guidePieces, leftOut, metreGrid, pictureWindow, reframed } from './index.ts'

const sizes = fc.integer({ min: 200, max: 4000 })
const cameras = fc
  .record({
    focalMm: fc.double({ min: 14, max: 200, noNaN: true }),
    riseMm: fc.double({ min: -8, max: 8, noNaN: true }),
    crossMm: fc.double({ min: -8, max: 8, noNaN: true }),
    sensorUse: fc.constantFrom('acrossWidth' as const, 'acrossHeight' as const, 'inside' as const, 'covers' as const),
    projection: fc.constantFrom({ kind: 'perspective' as const }, { kind: 'parallel' as const, widthM: 7 }),
    size: fc.tuple(sizes, sizes),
  })
  .map(({ size, ...lens }) => cameraOf({}, lens, size))
/** Width and height of view at 5 m, and the middle. */
const seen = (c: Camera) => {
  const [x, y] = [pictureWindow(c, 'right', 5)!, pictureWindow(c, 'up', 5)!]
  return { width: distance(...x.ends), height: distance(...y.ends), middle: rayThrough(c, c.frame.widthPx / 2, c.frame.heightPx / 2)! } // prettier-ignore
}

describe('another shape of the frame', () => {
  it('keeps width, height, all or area of what is in view, and its middle, upright too', () => {
    fc.assert(
      fc.property(cameras, sizes, sizes, fc.boolean(), (camera, w, h, turns) => {
        const frame = { ...camera.frame, widthPx: w, heightPx: h }
        const { width, height } = camera.lens.sensorMm
        const before = seen(camera)
        for (const keep of ['width', 'height', 'all', 'area'] as const) {
          const r = reframed(camera, frame, keep, turns ? { width: height, height: width } : undefined)
          if (!r.ok) throw new Error(r.message)
          const after = seen({ ...camera, frame, lens: r.value })
          const near = (a: number, b: number): void => expect(Math.abs(a / b - 1)).toBeLessThan(1e-9)
          if (keep === 'width') near(after.width, before.width)
          if (keep === 'height') near(after.height, before.height)
          if (keep === 'area') near(after.width * after.height, before.width * before.height)
          if (keep === 'all') {
            near(Math.min(after.width / before.width, after.height / before.height), 1)
            expect(Math.max(after.width / before.width, after.height / before.height)).toBeGreaterThan(1 - 1e-9)
          }
          expect(distance(addScaled(after.middle.origin, after.middle.direction, 5), addScaled(before.middle.origin, before.middle.direction, 5))).toBeLessThan(1e-9) // prettier-ignore
        }
      }),
      { numRuns: 60 },
    )
  })
  it('shapes past 1:20 are refused', () => {
    const camera = cameraOf()
    expect(reframed(camera, { ...camera.frame, widthPx: 4100, heightPx: 200 }, 'all').ok).toBe(false)
  })
  it('past the frame the frame keeps its place', () => {
    fc.assert(
      fc.property(cameras, fc.double({ min: 0.01, max: 0.5, noNaN: true }), (camera, m) => {
        const wide = widened(camera, m)
        const ray = rayThrough(camera, 30, 50)!
        const p = addScaled(ray.origin, ray.direction, 4)
        const at = projectPoint(wide, p)!
        expect(at.xPx - m * camera.frame.widthPx).toBeCloseTo(30, 6)
        expect(at.yPx - m * camera.frame.heightPx).toBeCloseTo(50, 6)
        // and back again
        const back = projectPoint(widened(wide, -m / (1 + 2 * m)), p)!
        expect(back.xPx).toBeCloseTo(30, 6)
      }),
      { numRuns: 60 },
    )
  })
})

describe('guides', () => {
  const guide = (kind: Guide['kind'], more: Partial<Guide> = {}): Guide => ({
    kind,
    colour: 'white',
    strength: 0.5,
    ...more,
  })
  it('thirds and golden section, safe areas of 93 and 90 % (ST 2046-1), fields', () => {
    expect(guidePieces(guide('thirds'), 1.5)[0]).toEqual([[1 / 3, 0], [1 / 3, 1]]) // prettier-ignore
    // of the golden section the smaller part is to the larger as the larger is to all
    const [[[g]]] = guidePieces(guide('golden'), 1.5) as unknown as [[[number]]]
    expect(g / (1 - g)).toBeCloseTo(1 - g, 12)
    const area = (kind: Guide['kind']) => {
      const [p] = guidePieces(guide(kind), 1.6)
      return [p![1]![0] - p![0]![0], p![2]![1] - p![1]![1]]
    }
    expect(area('action').map((v) => Number(v.toFixed(9)))).toEqual([0.93, 0.93])
    expect(area('title').map((v) => Number(v.toFixed(9)))).toEqual([0.9, 0.9])
    expect(guidePieces(guide('fields', { across: 6, down: 3 }), 1)).toHaveLength(7)
  })
  it('the triangles’ shorter sides meet the diagonal at right angles', () => {
    for (const aspect of [0.5, 1, 1.5, 2.39]) {
      const [diagonal, ...rest] = guidePieces(guide('triangles'), aspect)
      const way = ([a, b]: typeof diagonal & object) => [(b![0] - a![0]) * aspect, b![1] - a![1]] as const
      const d = way(diagonal!)
      for (const piece of rest) {
        const s = way(piece)
        expect(d[0] * s[0] + d[1] * s[1]).toBeCloseTo(0, 12)
      }
    }
  })
  it('a metre grid’s lines are a metre apart on its floor, through the picked point', () => {
    const camera = cameraOf({ tiltDeg: -20 })
    const point = [0.3, 4, -1] as const
    const lines = metreGrid(camera, guide('metres', { plane: { point, normal: [0, 0, 1] } }), [0, 1, 0])
    const at = projectPoint(camera, point)!
    const off = (line: (typeof lines)[number], x: number, y: number): number => {
      const [a, b] = [line[0]!, line.at(-1)!]
      return Math.abs((x - a[0]) * (b[1] - a[1]) - (y - a[1]) * (b[0] - a[0])) / Math.hypot(b[0] - a[0], b[1] - a[1])
    }
    expect(lines.filter((l) => off(l, at.xPx, at.yPx) < 1e-6)).toHaveLength(2)
    const beside = projectPoint(camera, [1.3, 5, -1])!
    expect(lines.filter((l) => off(l, beside.xPx, beside.yPx) < 1e-6)).toHaveLength(2)
    const between = projectPoint(camera, [0.8, 4.5, -1])!
    expect(lines.every((l) => off(l, between.xPx, between.yPx) > 1)).toBe(true)
  })
})

describe('other shapes of a framing', () => {
  const frame = { widthPx: 1500, heightPx: 1000 }
  it('lie as large as they fit, and move within their room', () => {
    const crop = { id: 'a', width: 1, height: 1, x: 0, y: 0 }
    expect(cropBox(frame, crop)).toEqual({ x: expect.closeTo(1 / 6, 12), y: 0, width: expect.closeTo(2 / 3, 12), height: 1 }) // prettier-ignore
    const moved = cropMoved(frame, crop, 0.1, 0.5)
    expect(cropBox(frame, moved).x).toBeCloseTo(1 / 6 + 0.1, 12)
    expect(cropBox(frame, cropMoved(frame, crop, 9, 0)).x).toBeCloseTo(1 / 3, 12)
    const tall = { id: 'b', width: 9, height: 16, x: 1, y: 1 }
    expect(cropBox(frame, tall)).toMatchObject({ height: 1, y: 0 })
  })
  it('tell how much of the subject they lose', () => {
    const camera = cameraOf()
    const crop = { id: 'a', width: 1, height: 1, x: 0, y: 0 }
    const at = (x: number) => {
      const ray = rayThrough(camera, x * camera.frame.widthPx, 500)!
      return addScaled(ray.origin, ray.direction, 3)
    }
    expect(leftOut(camera, crop, [at(0.5), at(0.3), at(0.05), at(0.95)])).toBe(0.5)
    expect(leftOut(camera, crop, [at(0.5)])).toBe(0)
    expect(leftOut(camera, crop, [])).toBe(0)
  })
})
