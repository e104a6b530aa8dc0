import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { paceOf, type PaceAsked } from './index.ts'

const [ACCEL, JERK] = [0.6, 1.5]
const asked = fc
  .array(fc.record({ lengthM: fc.double({ min: 0.05, max: 12, noNaN: true }), speedMps: fc.double({ min: 0.1, max: 3, noNaN: true }), holdS: fc.constantFrom(0, 0, 0, 1, 2.5) }), { minLength: 1, maxLength: 7 })
  .map((legs): PaceAsked => ({ legs, holdsS: [1, ...legs.map((l) => l.holdS)], accelMps2: ACCEL, jerkMps3: JERK })) // prettier-ignore

describe('a pace', () => {
  it('keeps a speed exactly between its changes: constant within a thousandth and far below', () => {
    const p = paceOf({ legs: [{ lengthM: 8, speedMps: 1.2 }, { lengthM: 5, speedMps: 1.2 }], holdsS: [0, 0, 0], accelMps2: ACCEL, jerkMps3: JERK }) // prettier-ignore
    for (let t = 4; t < p.durationS - 4; t += 0.05) {
      expect(p.at(t).speedMps).toBe(1.2)
      expect((p.at(t + 0.01).alongM - p.at(t).alongM) / 0.01).toBeCloseTo(1.2, 9)
    }
  })
  it('passes every stop when it says; speed and acceleration are continuous, and no acceleration is larger than asked', () => {
    fc.assert(
      fc.property(asked, (a) => {
        const p = paceOf(a)
        let along = 0
        p.stops.forEach((s, i) => {
          expect(p.at(s.reachedS).alongM).toBeCloseTo(along, 8)
          expect(s.leftS - s.reachedS).toBeCloseTo(a.holdsS[i]!, 9)
          along += a.legs[i]?.lengthM ?? 0
          if (s.leftS > s.reachedS) expect(p.at((s.leftS + s.reachedS) / 2)).toMatchObject({ speedMps: 0, accelMps2: 0 }) // prettier-ignore
        })
        const n = 400
        const dt = p.durationS / n
        let before = p.at(0)
        for (let i = 1; i <= n; i++) {
          const now = p.at(i * dt)
          expect(Math.abs(now.accelMps2)).toBeLessThan(ACCEL * (1 + 1e-9))
          expect(Math.abs(now.accelMps2 - before.accelMps2)).toBeLessThan(JERK * dt * (1 + 1e-9) + 1e-12)
          expect(now.alongM).toBeGreaterThanOrEqual(before.alongM - 1e-12)
          expect(Math.abs(now.speedMps - before.speedMps)).toBeLessThan(ACCEL * dt * (1 + 1e-9) + 1e-12)
          before = now
        }
        expect(p.at(p.durationS).alongM).toBeCloseTo(along, 8)
      }),
    )
  })
  it('the way is the integral of the speed, the speed of the acceleration (numeric quadrature)', () => {
    const p = paceOf({ legs: [{ lengthM: 3, speedMps: 1 }, { lengthM: 2, speedMps: 0.4 }, { lengthM: 4, speedMps: 1.4 }], holdsS: [1, 0, 2, 0.5], accelMps2: ACCEL, jerkMps3: JERK }) // prettier-ignore
    const n = 40_000
    const dt = p.durationS / n
    let [way, speed] = [0, 0]
    for (let i = 0; i < n; i++) {
      const m = p.at((i + 0.5) * dt)
      way += m.speedMps * dt
      speed += m.accelMps2 * dt
      if (i % 997 === 0) {
        const now = p.at((i + 1) * dt)
        expect(way).toBeCloseTo(now.alongM, 5)
        expect(speed).toBeCloseTo(now.speedMps, 5)
      }
    }
  })
  it('a leg too short for its speed is walked more slowly, never jerkily', () => {
    const p = paceOf({ legs: [{ lengthM: 0.5, speedMps: 2 }], holdsS: [0, 0], accelMps2: ACCEL, jerkMps3: 1 })
    // from rest to rest the whole leg goes into both changes: v sqrt(5.774 v / jerk) = its length (closed form)
    const most = ((0.5 ** 2 * Math.sqrt(3)) / 10) ** (1 / 3)
    expect((1.875 * most) / ACCEL).toBeLessThan(Math.sqrt((10 * most) / Math.sqrt(3)))
    expect(p.speedsMps[0]).toBeGreaterThan(0.96 * most)
    expect(p.speedsMps[0]).toBeLessThanOrEqual(most * (1 + 1e-9))
  })
  it('what is none is refused', () => {
    const leg = { lengthM: 1, speedMps: 1 }
    expect(() => paceOf({ legs: [], holdsS: [0], accelMps2: 1, jerkMps3: 1 })).toThrow(RangeError)
    expect(() => paceOf({ legs: [leg], holdsS: [0], accelMps2: 1, jerkMps3: 1 })).toThrow(RangeError)
    expect(() => paceOf({ legs: [{ ...leg, speedMps: 0 }], holdsS: [0, 0], accelMps2: 1, jerkMps3: 1 })).toThrow(
      RangeError,
    )
    expect(() => paceOf({ legs: [leg], holdsS: [0, -1], accelMps2: 1, jerkMps3: 1 })).toThrow(RangeError)
    expect(() => paceOf({ legs: [leg], holdsS: [0, 0], accelMps2: 0, jerkMps3: 1 })).toThrow(RangeError)
  })
})
