import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance, type Vec3 } from '../math/index.ts'
import { COMFORT_LIMITS, fitStep, judged, type FitAsked, type FitReel, type Shot, type TravelShot, type View } from './index.ts' // prettier-ignore

const lens = { projection: { kind: 'perspective' }, focalMm: 24, sensorMm: { width: 36, height: 24 }, sensorUse: 'inside', riseMm: 0, crossMm: 0, distortion: null } as never // prettier-ignore
const view = (x: number, y: number, bearingDeg: number): View => ({ pose: { station: [x, y, 1.6], bearingDeg, tiltDeg: 0, rollDeg: 0 }, lens, focusM: null, fNumber: 8, ev: 10, awayM: 3 }) // prettier-ignore
const asked: FitAsked = { fps: 24, acrossDeg: (_, focal) => (Math.atan(18 / focal) * 360) / Math.PI, limits: COMFORT_LIMITS } // prettier-ignore
const MOST = 120
function fitted(reel: FitReel): FitReel {
  let now = reel
  for (let i = 0; i < MOST; i++) {
    const next = fitStep(now, asked)
    if (!next) break
    now = next
  }
  return now
}
const reelOfShots = (...shots: Shot[]): FitReel => ({ shots, cuts: shots.map((_, shot) => ({ shot, dissolveS: 0 })) })
const kinds = (r: FitReel): string[] => judged(r, asked).findings.map((f) => `${f.kind} ${f.value.toFixed(2)} of ${f.limit.toFixed(2)}`) // prettier-ignore
const walk = (places: readonly (readonly [number, number])[], more: Partial<TravelShot> = {}): TravelShot => ({ kind: 'travel', view: view(0, 0, 0), stops: places.map(([x, y]) => ({ station: [x, y, 1.6] as Vec3, holdS: 0, look: null })), isClosed: false, speedsMps: places.map(() => 1.8), gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 }, ...more }) // prettier-ignore

describe('ease to fit', () => {
  it('a walk to and fro that runs, swings and does not rest: nothing is found after it, stops are where they were', () => {
    const shot = walk([[0, 0], [6, 0], [6, 4], [1, 5], [3, 9]]) // prettier-ignore
    const before = reelOfShots(shot)
    expect(new Set(judged(before, asked).findings.map((f) => f.kind)).size).toBeGreaterThan(3)
    const after = fitted(before)
    expect(kinds(after)).toEqual([])
    const now = after.shots[0] as TravelShot
    for (const s of shot.stops) expect(now.stops.some((t) => distance(t.station, s.station) < 1e-9)).toBe(true)
  })
  it('pushes that turn too far, turntables too fast, ends without rest', () => {
    const push = (a: number, b: number): Shot => ({ kind: 'push', from: view(0, 0, a), to: view(1, 0, b), durationS: 3, ease: 'soft', holdsSize: false }) // prettier-ignore
    const table: Shot = { kind: 'turntable', view: view(0, -3, 0), pivot: [0, 0, 1], turns: 2, direction: 1, durationS: 4, pace: 'soft', distance: [], focal: [], heightM: [] } // prettier-ignore
    expect(kinds(fitted(reelOfShots(push(0, 170), table, push(170, 20))))).toEqual([])
    // what was calm stays as it is
    const calm = reelOfShots({ kind: 'hold', view: view(0, 0, 0), durationS: 4, creep: 0 })
    expect(fitStep(calm, asked)).toBeNull()
    // a slow creep is a rest, a quick one is not
    const creeping = (creep: number) => judged(reelOfShots({ kind: 'hold', view: view(0, 0, 0), durationS: 4, creep }), asked).findings.map((f) => f.kind) // prettier-ignore
    expect([creeping(0.05), creeping(0.3)]).toEqual([[], ['starts', 'ends']])
  })
  it('only what is asked for is mended', () => {
    const run = reelOfShots(walk([[0, 0], [9, 0]])) // prettier-ignore
    let last = run
    for (let i = 0; i < 20; i++) last = fitStep(last, asked, (f) => f.kind === 'walk') ?? last
    expect(judged(last, asked).findings.map((f) => f.kind).sort()).toEqual(['ends', 'starts']) // prettier-ignore
  })
  it('of random reels no limit is exceeded after it, and every stop is within 5 cm of the way (property)', () => {
    const n = fc.double({ min: 0, max: 12, noNaN: true })
    const place = fc.tuple(n, n)
    const shot = fc.oneof(
      fc.array(place, { minLength: 2, maxLength: 5 }).map((list): Shot => walk(list.map(([x, y], i) => [x + i * 0.7, y] as const))), // prettier-ignore
      fc.tuple(n, n, fc.integer({ min: 0, max: 359 }), fc.integer({ min: 0, max: 359 }), fc.double({ min: 0.5, max: 6, noNaN: true })).map(([x, y, a, b, durationS]): Shot => ({ kind: 'push', from: view(x, y, a), to: view(y, x, b), durationS, ease: 'soft', holdsSize: false })), // prettier-ignore
      fc.double({ min: 0.5, max: 6, noNaN: true }).map((durationS): Shot => ({ kind: 'hold', view: view(0, 0, 40), durationS, creep: 0.2 })), // prettier-ignore
    )
    fc.assert(
      fc.property(fc.array(shot, { minLength: 1, maxLength: 3 }), (shots) => {
        const before = reelOfShots(...shots)
        if (judged(before, asked).reel.faults.length > 0) return
        const after = fitted(before)
        expect(kinds(after)).toEqual([])
        shots.forEach((s, i) => {
          if (s.kind !== 'travel') return
          const now = after.shots[i] as TravelShot
          for (const p of s.stops) expect(Math.min(...now.stops.map((q) => distance(p.station, q.station)))).toBeLessThan(0.05) // prettier-ignore
        })
      }),
      { numRuns: 12 },
    )
  }, 120_000) // prettier-ignore
})
