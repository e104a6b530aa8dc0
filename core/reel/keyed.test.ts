import { describe, expect, it } from 'vitest'
import { directionOf } from '../camera/index.ts'
import { addScaled, distance, normalize, sub, type Vec3 } from '../math/index.ts'
import { filmed, type Filmed, type HoldShot, type Shot } from './index.ts'
import { cameraOf } from '../../tests/support/cameras.ts'

const { pose, lens } = cameraOf({ station: [0, 0, 1.6], bearingDeg: 90 })
const view: HoldShot['view'] = { pose, lens, focusM: 3, fNumber: 4, ev: 9, awayM: 3 }
const hold = (beside: Partial<Shot>): Filmed => {
  const r = filmed({ kind: 'hold', view, durationS: 10, creep: 0, ...beside } as Shot)
  if (!r.ok) throw new Error(r.message)
  return r.value
}
const key = (...pairs: readonly (readonly [number, number])[]) => pairs.map(([at, value]) => ({ at, value }))

describe('curves of where it stands and looks', () => {
  it('ahead, aside and up are beside its own bearing: looking east, ahead is east and aside is south', () => {
    const f = hold({ keys: { aheadM: key([0, 0], [1, 2]), asideM: key([0, 0], [1, 0.5]), riseM: key([0, 0], [1, 1]) } })
    expect(distance(f.at(0).pose.station, pose.station)).toBe(0)
    expect(distance(f.at(10).pose.station, [2, -0.5, 2.6])).toBeLessThan(1e-12)
    expect(f.at(10).pose.bearingDeg).toBe(90)
  })
  it('turn and tilt are added, bearings within 0 to 360 and tilts within the zenith and the nadir', () => {
    const f = hold({ keys: { panDeg: key([0, 0], [1, -720 - 100]), tiltDeg: key([0, 0], [1, 170]) } })
    expect(f.at(10).pose.bearingDeg).toBeCloseTo(350, 9)
    expect(f.at(10).pose.tiltDeg).toBe(90)
    for (let t = 0; t <= 10; t += 0.37) {
      const { bearingDeg, tiltDeg } = f.at(t).pose
      expect(bearingDeg >= 0 && bearingDeg < 360 && tiltDeg >= -90 && tiltDeg <= 90).toBe(true)
    }
  })
})

describe('an aim with a way and a timing of its own', () => {
  const points: readonly Vec3[] = [[4, 0, 1.6], [4, 3, 0.5], [0, 5, 2.5]] // prettier-ignore
  const aim = [0.1, 0.5, 0.9].map((at, i) => ({ at, point: points[i]! }))
  it('is looked at where it is at its moments, rests before the first and after the last', () => {
    const f = hold({ aim })
    const looksAt = (t: number, p: Vec3): void => {
      const { station, bearingDeg, tiltDeg } = f.at(t).pose
      const off = distance(directionOf(bearingDeg, tiltDeg), normalize(sub(p, station)))
      expect(off).toBeLessThan(1e-12)
    }
    looksAt(1, points[0]!)
    looksAt(0, points[0]!)
    looksAt(5, points[1]!)
    looksAt(9, points[2]!)
    looksAt(10, points[2]!)
  })
  it('turns without a jump, at rest at both ends', () => {
    const f = hold({ aim })
    const rate = (t: number): number => {
      const [a, b] = [f.at(t - 0.001).pose, f.at(t + 0.001).pose]
      return distance(directionOf(a.bearingDeg, a.tiltDeg), directionOf(b.bearingDeg, b.tiltDeg)) / 0.002
    }
    expect(rate(1.001)).toBeLessThan(0.01)
    expect(rate(8.999)).toBeLessThan(0.01)
    let before = rate(0.9)
    for (let t = 0.91; t < 9.1; t += 0.01) {
      const now = rate(t)
      expect(Math.abs(now - before)).toBeLessThan(0.04)
      before = now
    }
  })
  it('is kept while the camera goes elsewhere, and comes before what is watched', () => {
    const f = hold({ aim, keys: { aheadM: key([0, 0], [1, 1]) }, watch: { objectId: 'x', centre: [-9, -9, 0] } })
    const { station, bearingDeg, tiltDeg } = f.at(10).pose
    expect(distance(station, [1, 0, 1.6])).toBeLessThan(1e-12)
    const way = directionOf(bearingDeg, tiltDeg)
    expect(distance(addScaled(station, way, distance(points[2]!, station)), points[2]!)).toBeLessThan(1e-12)
  })
  it('straight at the eye leaves the look as it was', () => {
    expect(hold({ aim: [{ at: 0, point: pose.station }] }).at(3).pose).toEqual(pose)
  })
})
