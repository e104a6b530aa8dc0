import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance, type Vec3 } from '../math/index.ts'
import { filmed, leftByCorner, wayOf, type TravelShot } from './index.ts'
import { travelled } from './travel.ts'

const view: TravelShot['view'] = {
  pose: { station: [0, 0, 1.6], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 },
  lens: { projection: { kind: 'perspective' }, focalMm: 24, sensorMm: { width: 36, height: 24 }, sensorUse: 'inside', riseMm: 0, crossMm: 0, distortion: null } as never,
  ...{ focusM: null, fNumber: 8, ev: 10 },
} // prettier-ignore
const stop = (x: number, y: number, holdS = 0) => ({ station: [x, y, 1.6] as Vec3, holdS, look: null })
const walk = (stops: TravelShot['stops'], more: Partial<TravelShot> = {}): TravelShot => ({ kind: 'travel', view, stops, isClosed: false, speedsMps: stops.map(() => 1), gaze: { kind: 'along', aheadM: 1, tiltDeg: 0 }, ...more }) // prettier-ignore
const way = (shot: TravelShot) => {
  const r = wayOf(shot)
  if (!r.ok) throw new Error(r.message)
  return r.value
}
const go = (shot: TravelShot) => {
  const r = travelled(shot)
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('a corner with a radius', () => {
  const ell = [stop(0, 0), stop(6, 0), stop(6, 6)]
  it('is an arc that leaves the stop by r (1/cos(a/2) - 1), between straights (closed form)', () => {
    const { route, stopsM } = way(walk(ell, { cornerM: 1 }))
    const wanted = 1 * (Math.SQRT2 - 1)
    expect(leftByCorner([0, 0, 0], [6, 0, 0], [6, 6, 0], 1)).toBeCloseTo(wanted, 9)
    expect(distance(route.at(stopsM[1]!).point, [6, 0, 1.6])).toBeCloseTo(wanted, 2)
    // two straights of five metres and a quarter of a circle
    expect(route.lengthM).toBeCloseTo(10 + Math.PI / 2, 1)
    let worst = 0
    for (let s = 0; s <= 4; s += 0.05) worst = Math.max(worst, Math.abs(route.at(s).point[1]))
    expect(worst).toBeLessThan(0.03)
    // without one it bulges beside the corner
    const plain = way(walk(ell))
    let bulge = 0
    for (let s = 0; s <= 6; s += 0.05) bulge = Math.max(bulge, Math.abs(plain.route.at(s).point[1]))
    expect(bulge).toBeGreaterThan(worst * 3)
    expect(distance(plain.route.at(plain.stopsM[1]!).point, [6, 0, 1.6])).toBeLessThan(1e-9)
  })
  it('is none where one rests, and gets no larger than its legs allow', () => {
    const rests = way(walk([ell[0]!, { ...ell[1]!, holdS: 2 }, ell[2]!], { cornerM: 1 }))
    expect(distance(rests.route.at(rests.stopsM[1]!).point, [6, 0, 1.6])).toBeLessThan(1e-9)
    const big = way(walk(ell, { cornerM: 100 }))
    for (let s = 0; s <= big.route.lengthM; s += 0.1) {
      const [x, y] = big.route.at(s).point
      expect(x).toBeLessThan(6.1)
      expect(y).toBeGreaterThan(-0.1)
    }
  })
})

describe('a closed way', () => {
  const square = [stop(0, 0, 1), stop(4, 0), stop(4, 4), stop(0, 4)]
  it('begins and ends where it is told, and goes the other way round', () => {
    const plain = go(walk(square, { isClosed: true }))
    const L = plain.route.lengthM
    const half = go(walk(square, { isClosed: true, startShare: 0.5 }))
    const place = plain.route.at(L / 2).point
    expect(distance(half.at(0).pose.station, place)).toBeLessThan(1e-6)
    expect(distance(half.at(half.durationS).pose.station, place)).toBeLessThan(1e-6)
    // the rest lies at the first stop, in the middle of the time now
    const rests = Array.from({ length: 200 }, (_, i) => half.at((i / 199) * half.durationS).pose.station).filter((p) => distance(p, [0, 0, 1.6]) < 1e-6) // prettier-ignore
    expect(rests.length).toBeGreaterThan(5)
    const back = go(walk(square, { isClosed: true, isReversed: true }))
    expect(back.route.lengthM).toBeCloseTo(L, 6)
    expect(distance(back.at(0).pose.station, [0, 0, 1.6])).toBeLessThan(1e-9)
    expect(distance(back.route.at(back.stopsM[1]!).point, [0, 4, 1.6])).toBeLessThan(1e-9)
  })
  it('begun just before or after a stop where the pace changes, it does not creep', () => {
    const paced = (startShare: number) => go({ ...walk(square.map((q) => ({ ...q, holdS: 0 })), { isClosed: true, startShare }), speedsMps: [1.4, 0.7, 1.4, 0.7] }) // prettier-ignore
    const plain = paced(0)
    const { lengthM } = plain.route
    for (const stopM of plain.stopsM.slice(1))
      for (const m of [1e-5, 1.5e-3, 0.02, 0.2, 0.6])
        for (const at of [stopM - m, stopM + m])
          expect(paced((at / lengthM) % 1).durationS / plain.durationS, `${at} m`).toBeLessThan(1.2)
  })
  it('is one route whatever its start, direction and corners (property)', () => {
    const n = fc.double({ min: 0.5, max: 5, noNaN: true })
    fc.assert(
      fc.property(n, n, n, fc.double({ min: 0, max: 1, noNaN: true }), fc.boolean(), fc.double({ min: 0, max: 2, noNaN: true }), (a, b, c, startShare, isReversed, cornerM) => {
        const shot = go(walk([stop(0, 0), stop(a, 0, 0.5), stop(a + 1, b), stop(-1, c)], { isClosed: true, startShare, isReversed, cornerM })) // prettier-ignore
        const [first, last] = [shot.at(0).pose.station, shot.at(shot.durationS).pose.station]
        expect(distance(first, last)).toBeLessThan(1e-5)
        expect(shot.stopsM.every((m, i) => i === 0 || m > shot.stopsM[i - 1]!)).toBe(true)
        let before = first
        for (let t = 0; t <= shot.durationS; t += 1 / 25) {
          const now = shot.at(t).pose.station
          expect(distance(now, before)).toBeLessThan(1.001 / 25)
          before = now
        }
      }),
      { numRuns: 15 },
    ) // prettier-ignore
  })
})

describe('places on the way', () => {
  it('are passed without slowing down; turned round they lie on the same leg', () => {
    const up: TravelShot['stops'] = [{ ...stop(0, 0), via: [[2, 0, 1.6], [3, 0, 2.1], [4, 0, 2.6]] as const }, { ...stop(6, 0), station: [6, 0, 2.6] as Vec3 }, stop(6, 5)] // prettier-ignore
    const there = go(walk(up))
    expect(there.pace.speedsMps).toEqual([1, 1])
    for (const p of up[0]!.via!) {
      let nearest = Infinity
      for (let s = 0; s < there.stopsM[1]!; s += 0.01) nearest = Math.min(nearest, distance(there.route.at(s).point, p))
      expect(nearest).toBeLessThan(0.01)
    }
    const back = go(walk(up, { isReversed: true }))
    expect(back.route.lengthM).toBeCloseTo(there.route.lengthM, 6)
    expect(distance(back.at(back.durationS).pose.station, [0, 0, 1.6])).toBeLessThan(1e-9)
  })
  it('one stop, and two in one place, are refused in words', () => {
    expect(filmed(walk([stop(0, 0)]))).toMatchObject({ ok: false, reason: 'one-stop' })
    expect(filmed(walk([stop(0, 0), stop(0, 0)]))).toMatchObject({ ok: false, reason: 'same-place' })
    // places of a leg that leads nowhere are none
    expect(filmed(walk([{ ...stop(0, 0), via: [[1, 0, 1.6]] }]))).toMatchObject({ ok: false, reason: 'one-stop' })
    expect(way(walk([stop(0, 0), { ...stop(2, 0), via: [[9, 9, 1.6]] }])).route.lengthM).toBeCloseTo(2, 9)
    expect(filmed(walk([]))).toMatchObject({ ok: false, reason: 'no-stops' })
  })
})

describe('a tangent', () => {
  const angle = (a: Vec3, b: Vec3): number => (Math.acos(Math.min(1, a[0] * b[0] + a[1] * b[1] + a[2] * b[2])) * 180) / Math.PI // prettier-ignore
  const north = { ...stop(4, 0), tangentM: [0, 1, 0] as Vec3 }
  it('is passed at both of its ends and leads the way through its stop', () => {
    const { route, stopsM } = way(walk([stop(0, 0), north, stop(8, 0)]))
    expect(distance(route.at(stopsM[1]!).point, [4, 0, 1.6])).toBeLessThan(1e-9)
    expect(angle(route.at(stopsM[1]!).way, [0, 1, 0])).toBeLessThan(0.5)
    const near = (p: Vec3): number => Math.min(...Array.from({ length: 4001 }, (_, i) => distance(route.at((i / 4000) * route.lengthM).point, p))) // prettier-ignore
    expect(near([4, 1, 1.6])).toBeLessThan(2e-3)
    expect(near([4, -1, 1.6])).toBeLessThan(2e-3)
  })
  it('of an end leads off it; where one rests one does not turn on the spot', () => {
    const { route } = way(walk([{ ...stop(0, 0), tangentM: [0, 1, 0] }, stop(6, 0)]))
    expect(angle(route.at(0).way, [0, 1, 0])).toBeLessThan(35)
    const rested = way(walk([stop(0, 0), { ...stop(4, 0, 2), tangentM: [0.5, 0.5, 0] }, stop(4, 4)]))
    const at = rested.stopsM[1]!
    expect(angle(rested.route.at(at - 1e-4).way, rested.route.at(at + 1e-4).way)).toBeLessThan(0.1)
  })
  it('longer than its legs allow is shortened, too short is none; the other way round it is the same way', () => {
    const long = way(walk([stop(0, 0), { ...north, tangentM: [0, 90, 0] }, stop(8, 0)]))
    expect(long.route.lengthM).toBeLessThan(20)
    const none = way(walk([stop(0, 0), { ...north, tangentM: [0, 1e-3, 0] }, stop(8, 0)]))
    expect(none.route.lengthM).toBeCloseTo(8, 9)
    const there = way(walk([stop(0, 0), north, stop(8, 3)]))
    const back = way(walk([stop(0, 0), north, stop(8, 3)], { isReversed: true }))
    const { lengthM } = there.route
    expect(back.route.lengthM).toBeCloseTo(lengthM, 6)
    for (let i = 0; i <= 20; i++) expect(distance(back.route.at((i / 20) * lengthM).point, there.route.at((1 - i / 20) * lengthM).point)).toBeLessThan(1e-6) // prettier-ignore
  })
  it('any tangents leave the bend continuous, and each stop is passed (property)', () => {
    const n = fc.double({ min: -2, max: 2, noNaN: true })
    fc.assert(
      fc.property(fc.array(fc.tuple(n, n), { minLength: 4, maxLength: 4 }), fc.boolean(), (tangents, isClosed) => {
        const stops = [stop(0, 0), stop(5, 1), stop(7, 6), stop(1, 5)].map((s, i) => ({ ...s, tangentM: [...tangents[i]!, 0] as unknown as Vec3 })) // prettier-ignore
        const { route, stopsM } = way(walk(stops, { isClosed }))
        stops.forEach((s, i) => expect(distance(route.at(stopsM[i]!).point, s.station)).toBeLessThan(1e-9))
        for (const m of stopsM.slice(1, isClosed ? undefined : -1)) {
          const [a, b] = [route.at(m - 1e-6).bend, route.at(m + 1e-6).bend]
          expect(distance(a, b)).toBeLessThan(1e-2 * (1 + Math.hypot(...a)))
        }
      }),
      { numRuns: 60 },
    )
  })
})
