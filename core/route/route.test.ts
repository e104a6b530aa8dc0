import fc from 'fast-check'
import { CatmullRomCurve3, Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { distance, dot, length, sub, type Vec3 } from '../math/index.ts'
import { bendFromAbove, routeThrough, type Route } from './index.ts'

const route = (stops: readonly Vec3[], isClosed = false): Route => {
  const r = routeThrough(stops, { isClosed })
  if (!r.ok) throw new Error(r.message)
  return r.value
}
/** Stops as a person places them: half a metre to eight apart, at any turn up to a hairpin's edge, on floors and stairs. */
const walks = fc
  .array(fc.record({ turn: fc.double({ min: -2.6, max: 2.6, noNaN: true }), step: fc.double({ min: 0.5, max: 8, noNaN: true }), up: fc.double({ min: -0.4, max: 0.4, noNaN: true }) }), { minLength: 2, maxLength: 9 })
  .map((steps) => {
    let [p, a] = [[0, 0, 1.6] as Vec3, 0]
    return [p, ...steps.map(({ turn, step, up }) => {
      a += turn
      p = [p[0] + step * Math.sin(a), p[1] + step * Math.cos(a), p[2] + up * step]
      return p
    })]
  }) // prettier-ignore

describe('a route', () => {
  it('passes every stop where it says', () => {
    fc.assert(
      fc.property(walks, fc.boolean(), (stops, isClosed) => {
        if (isClosed && distance(stops[0]!, stops.at(-1)!) < 0.1) return
        const r = route(stops, isClosed)
        expect(r.stopsM).toHaveLength(stops.length + (isClosed ? 1 : 0))
        stops.forEach((p, i) => expect(distance(r.at(r.stopsM[i]!).point, p)).toBeLessThan(1e-9))
        expect(r.stopsM.at(-1)).toBe(r.lengthM)
      }),
    )
  })
  it('is as long as fine chords say, and a step along it is as far as it says', () => {
    fc.assert(
      fc.property(walks, (stops) => {
        const r = route(stops)
        const n = 4000
        let sum = 0
        let before = r.at(0).point
        let most = 0
        for (let i = 1; i <= n; i++) {
          const p = r.at((i / n) * r.lengthM).point
          const d = distance(p, before)
          sum += d
          // chords are shorter where it bends, never longer
          most = Math.max(most, (d * n) / r.lengthM)
          before = p
        }
        expect(Math.abs(sum / r.lengthM - 1)).toBeLessThan(1e-3)
        expect(most).toBeLessThan(1 + 1e-6)
      }),
      { numRuns: 25 },
    )
  })
  it('a circle’s stops make a circle, as long as it is (closed form)', () => {
    const n = 16
    const stops = Array.from({ length: n }, (_, i): Vec3 => [3 * Math.cos((2 * Math.PI * i) / n), 3 * Math.sin((2 * Math.PI * i) / n), 0]) // prettier-ignore
    const r = route(stops, true)
    expect(Math.abs(r.lengthM / (6 * Math.PI) - 1)).toBeLessThan(2e-3)
    for (let i = 0; i < 50; i++) {
      const p = r.at((i / 50) * r.lengthM)
      expect(Math.abs(length(p.point) - 3)).toBeLessThan(0.01)
      // counterclockwise from above
      expect(bendFromAbove(p)).toBeLessThan(-0.28)
      expect(bendFromAbove(p)).toBeGreaterThan(-0.4)
    }
  })
  it('is as long as three’s spline through places taken from it (a library as judge)', () => {
    const stops: Vec3[] = [[0, 0, 0], [2, 3, 0], [6, 3, 1], [7, -1, 1], [3, -2, 0]] // prettier-ignore
    const r = route(stops)
    const dense = Array.from({ length: 400 }, (_, i) => new Vector3(...r.at((i / 399) * r.lengthM).point))
    const judge = new CatmullRomCurve3(dense, false, 'centripetal')
    judge.arcLengthDivisions = 20_000
    expect(Math.abs(judge.getLength() / r.lengthM - 1)).toBeLessThan(1e-4)
  })
})

describe('how a route bends', () => {
  it('continuously, at the stops too, and it has no cusp', () => {
    fc.assert(
      fc.property(walks, (stops) => {
        const r = route(stops)
        for (const s of r.stopsM.slice(1, -1)) {
          const [a, b] = [r.at(s - 1e-6), r.at(s + 1e-6)]
          expect(dot(a.way, b.way)).toBeGreaterThan(1 - 1e-6)
          const most = Math.max(1, length(a.bend), length(b.bend))
          expect(length(sub(a.bend, b.bend)) / most).toBeLessThan(1e-3)
        }
        // no way turns round between two near places: a cusp would
        const n = 600
        let before = r.at(0).way
        for (let i = 1; i <= n; i++) {
          const { way, bend } = r.at((i / n) * r.lengthM)
          expect(Number.isFinite(length(bend))).toBe(true)
          const turned = Math.acos(Math.min(1, Math.max(-1, dot(way, before))))
          expect(turned).toBeLessThan(1.6)
          before = way
        }
      }),
      { numRuns: 60 },
    )
  })
  it('not at all between two stops, and past its ends', () => {
    const r = route([[0, 0, 0], [0, 4, 0]]) // prettier-ignore
    expect(r.lengthM).toBeCloseTo(4, 12)
    expect(distance(r.at(1).point, [0, 1, 0])).toBeLessThan(1e-12)
    expect(length(r.at(1).bend)).toBe(0)
    expect(distance(r.at(6).point, [0, 6, 0])).toBeLessThan(1e-12)
    expect(distance(r.at(-1).point, [0, -1, 0])).toBeLessThan(1e-12)
  })
  it('a closed one goes on round', () => {
    const r = route([[0, 0, 0], [4, 0, 0], [4, 4, 0]], true) // prettier-ignore
    expect(distance(r.at(r.lengthM + 1).point, r.at(1).point)).toBeLessThan(1e-9)
    const [a, b] = [r.at(r.lengthM - 1e-7), r.at(1e-7)]
    expect(dot(a.way, b.way)).toBeGreaterThan(1 - 1e-9)
  })
})

describe('what is no route', () => {
  it('is refused by name', () => {
    const reason = (stops: readonly Vec3[]): string => {
      const r = routeThrough(stops)
      return r.ok ? 'ok' : r.reason
    }
    expect(reason([])).toBe('no-stops')
    expect(reason([[0, 0, 0]])).toBe('one-stop')
    expect(reason([[0, 0, 0], [1, 0, 0], [1, 0, 0.0005]])).toBe('same-place') // prettier-ignore
  })
})
