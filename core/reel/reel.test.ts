import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { directionOf, fieldOfView, projectPoint, type Camera } from '../camera/index.ts'
import { addScaled, distance, type Vec3 } from '../math/index.ts'
import { comfortOf, evenly, filmed, framesOf, leastJerk, motionOf, RATES, reelOf, throughKeys, unwound, type Filmed, type Shot, type Take, type TravelShot, type TurntableShot, type View } from './index.ts' // prettier-ignore

const view = (station: Vec3, bearingDeg: number, changes: Partial<View> = {}): View => {
  const { pose, lens } = cameraOf({ station, bearingDeg })
  return { pose, lens, focusM: 3, fNumber: 4, ev: 9, awayM: 3, ...changes }
}
const film = (s: Shot): Filmed => {
  const r = filmed(s)
  if (!r.ok) throw new Error(r.message)
  return r.value
}
const aimOf = ({ pose }: Take, m: number): Vec3 =>
  addScaled(pose.station, directionOf(pose.bearingDeg, pose.tiltDeg), m)
const walk = (changes: Partial<TravelShot> = {}): TravelShot => ({
  ...{ kind: 'travel', view: view([0, 0, 1.6], 0), isClosed: false, speedsMps: [1.2], gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 } },
  stops: [[0, 0, 1.6], [0, 6, 1.6], [4, 9, 1.6], [9, 9, 1.6]].map((station) => ({ station: station as unknown as Vec3, holdS: 0, look: null })),
  ...changes,
}) // prettier-ignore
const table = (changes: Partial<TurntableShot> = {}): TurntableShot => ({
  ...{ kind: 'turntable', view: view([0, -3, 1.6], 0), pivot: [0, 0, 1], turns: 1, direction: 1, durationS: 8 },
  ...{ pace: 'loop', distance: [], focal: [], heightM: [] },
  ...changes,
})

describe('eases', () => {
  it('of least jerk: peak speed 1.875 D/T, peak acceleration 5.774 D/T² (handbook 10, flash1985)', () => {
    const n = 20_000
    let [speed, accel] = [0, 0]
    for (let i = 1; i < n; i++) {
      const [a, b, c] = [i - 1, i, i + 1].map((k) => leastJerk(k / n)) as [number, number, number]
      speed = Math.max(speed, ((c - a) * n) / 2)
      accel = Math.max(accel, Math.abs(c - 2 * b + a) * n * n)
    }
    expect(speed).toBeCloseTo(1.875, 3)
    expect(accel).toBeCloseTo(5.774, 2)
  })
  it('even ones go as far at every moment but at their ends, and never back', () => {
    for (const part of [0, 0.1, 0.3, 0.5]) {
      expect(evenly(0, part)).toBe(0)
      expect(evenly(1, part)).toBe(1)
      expect(evenly(0.5, part)).toBeCloseTo(0.5, 12)
      for (let i = 0; i < 200; i++) expect(evenly((i + 1) / 200, part)).toBeGreaterThanOrEqual(evenly(i / 200, part))
    }
    expect(evenly(0.6, 0.1) - evenly(0.5, 0.1)).toBeCloseTo(0.1 / 0.9, 12)
  })
  it('through keys: each met, nothing beyond two neighbours (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.double({ min: 0.01, max: 1, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true })), { minLength: 1, maxLength: 8 }), (steps) => {
        let at = 0
        const keys = steps.map(([by, value]) => ({ at: (at += by), value }))
        keys.forEach((k) => expect(throughKeys(keys, k.at)).toBeCloseTo(k.value, 9))
        for (let i = 0; i + 1 < keys.length; i++)
          for (let t = 0; t <= 1; t += 0.1) {
            const v = throughKeys(keys, keys[i]!.at + t * (keys[i + 1]!.at - keys[i]!.at))
            const [lo, hi] = [keys[i]!.value, keys[i + 1]!.value].sort((a, b) => a - b) as [number, number]
            expect(v).toBeGreaterThanOrEqual(lo - 1e-9)
            expect(v).toBeLessThanOrEqual(hi + 1e-9)
          }
      }),
    ) // prettier-ignore
  })
  it('bearings follow each other the shorter way', () => {
    expect(unwound([350, 10, 340, 170])).toEqual([350, 370, 340, 530].map((v, i) => (i === 3 ? 170 : v)))
    expect(unwound([10, 350])).toEqual([10, -10])
  })
})

describe('a hold', () => {
  it('stands still, or creeps nearer by the share asked, and what was sharp stays sharp', () => {
    const v = view([1, 2, 1.6], 30)
    const still = film({ kind: 'hold', view: v, durationS: 4, creep: 0 })
    expect(still.at(3).pose.station).toEqual([1, 2, 1.6])
    const nearer = film({ kind: 'hold', view: v, durationS: 4, creep: 0.1 })
    const end = nearer.at(4)
    expect(distance(end.pose.station, v.pose.station)).toBeCloseTo(0.3, 12)
    expect(distance(aimOf(end, end.focusM!), aimOf(v, 3))).toBeLessThan(1e-12)
  })
})

describe('a push', () => {
  const a = view([0, 0, 1.6], 0, { focusM: 2, ev: 8 })
  const b = view([2, 3, 1.4], 350, { focusM: 6, ev: 10, awayM: 4, lens: { ...a.lens, focalMm: 50, riseMm: 2 } })
  it('begins and ends as its viewpoints are, to the last bit', () => {
    const f = film({ kind: 'push', from: a, to: b, durationS: 5, ease: 'soft', holdsSize: false })
    const { awayM: _a, ...first } = a
    const { awayM: _b, ...last } = b
    expect(f.at(0)).toEqual(first)
    expect(f.at(5)).toEqual(last)
    expect(f.at(9)).toEqual(last)
  })
  it('in the middle the lens is the middle by ratio, the focus by dioptres, the light by EV; it turns the shorter way', () => {
    const m = film({ kind: 'push', from: a, to: b, durationS: 5, ease: 'soft', holdsSize: false }).at(2.5)
    expect(m.lens.focalMm).toBeCloseTo(Math.sqrt(24 * 50), 9)
    expect(m.lens.riseMm).toBeCloseTo(1, 12)
    expect(m.focusM).toBeCloseTo(3, 12)
    expect(m.ev).toBeCloseTo(9, 12)
    expect(m.pose.station).toEqual([1, 1.5, 1.5])
    expect(Math.min(m.pose.bearingDeg, 360 - m.pose.bearingDeg)).toBeLessThan(20)
  })
  it('about one thing looks at it all the way, and keeps its size where asked', () => {
    const to = view([0, 1.5, 1.6], 0, { awayM: 1.5 })
    const f = film({ kind: 'push', from: a, to, durationS: 4, ease: 'even', holdsSize: true })
    const size = (t: number): number => {
      const { pose, lens } = f.at(t)
      const camera: Camera = { ...cameraOf(), pose, lens }
      return projectPoint(camera, [0.2, 3, 1.6])!.xPx - projectPoint(camera, [-0.2, 3, 1.6])!.xPx
    }
    for (const t of [1, 2, 3, 4]) expect(size(t)).toBeCloseTo(size(0), 6)
    expect(f.at(4).lens.focalMm).toBeCloseTo(12, 9)
  })
  it('never turns at once, past what it looks at or straight over it (property)', () => {
    const end = fc.record({ x: fc.integer({ min: 0, max: 48 }), y: fc.integer({ min: 0, max: 48 }), bearing: fc.integer({ min: 0, max: 359 }), tilt: fc.integer({ min: -90, max: 60 }) }) // prettier-ignore
    const viewAt = ({ x, y, bearing, tilt }: { x: number; y: number; bearing: number; tilt: number }): View => {
      const v = view([x / 4, y / 4, 1.6], bearing)
      return { ...v, pose: { ...v.pose, tiltDeg: tilt } }
    }
    const n = 1000
    const quickest = (from: View, to: View): number => {
      const f = film({ kind: 'push', from, to, durationS: 1, ease: 'soft', holdsSize: false })
      const way = Array.from({ length: n + 1 }, (_, i) => f.at(i / n).pose)
      return Math.max(...way.slice(1).map((p, i) => Math.max(Math.abs(((p.bearingDeg - way[i]!.bearingDeg + 540) % 360) - 180), Math.abs(p.tiltDeg - way[i]!.tiltDeg)))) // prettier-ignore
    }
    // five times an even turn of 180 degrees at the quickest of its pace (1.875 of even)
    fc.assert(fc.property(end, end, (a, b) => void expect(quickest(viewAt(a), viewAt(b))).toBeLessThan((180 * 5 * 1.9) / n)), { numRuns: 300 }) // prettier-ignore
    expect(quickest(viewAt({ x: 48, y: 0, bearing: 3, tilt: 0 }), viewAt({ x: 0, y: 48, bearing: 171, tilt: 0 }))).toBeLessThan(1.4) // prettier-ignore
    expect(quickest(viewAt({ x: 0, y: 0, bearing: 0, tilt: -90 }), viewAt({ x: 20, y: 0, bearing: 270, tilt: -20 }))).toBeLessThan(1.4) // prettier-ignore
  })
})

describe('a walk', () => {
  it('passes its stops, at its speed, and looks where it goes', () => {
    const w = film(walk())
    for (const [t, p] of [[0, [0, 0, 1.6]], [w.durationS, [9, 9, 1.6]]] as const) expect(distance(w.at(t).pose.station, p as unknown as Vec3)).toBeLessThan(1e-9) // prettier-ignore
    const m = motionOf(reelOf([{ shot: walk(), dissolveS: 0 }]), 50)
    const middle = m.speedMps.slice(250, 350)
    // constant within a thousandth
    for (const v of middle) expect(Math.abs(v / 1.2 - 1)).toBeLessThan(1e-3)
    expect(Math.abs(((w.at(1).pose.bearingDeg + 180) % 360) - 180)).toBeLessThan(15)
    expect(w.at(w.durationS).pose.bearingDeg).toBeCloseTo(90, 0)
  })
  it('rests at a stop with its own look, and turns to it the shorter way', () => {
    const stops = walk().stops.map((s, i) => ({ ...s, holdS: i === 1 ? 3 : 0, look: { bearingDeg: [340, 20, 90, 80][i]!, tiltDeg: i } })) // prettier-ignore
    const shot = walk({ stops, gaze: { kind: 'stops' } })
    const w = film(shot)
    const frames = framesOf(reelOf([{ shot, dissolveS: 0 }]), 25)
    const resting = frames.filter((f) => distance(f.pose.station, [0, 6, 1.6]) < 1e-9)
    expect(resting.length).toBeGreaterThan(70)
    for (const f of resting) {
      expect(f.pose.bearingDeg).toBeCloseTo(20, 6)
      expect(f.pose.tiltDeg).toBeCloseTo(1, 6)
    }
    expect(frames.every((f) => f.pose.bearingDeg > 339 || f.pose.bearingDeg < 91)).toBe(true)
    expect(w.at(0).pose.bearingDeg).toBeCloseTo(340, 9)
  })
  it('keeps looking at a point', () => {
    const point: Vec3 = [4, 4, 1]
    const w = film(walk({ gaze: { kind: 'point', point } }))
    for (let t = 0; t <= w.durationS; t += 0.7) {
      const take = w.at(t)
      expect(distance(aimOf(take, distance(take.pose.station, point)), point)).toBeLessThan(1e-9)
    }
  })
})

describe('a turntable', () => {
  it('that loops: n frames are distinct, frame n is frame 0', () => {
    const f = film(table())
    const n = 48
    const at = (k: number): Take => f.at((k / n) * 8)
    expect(at(n)).toEqual(at(0))
    for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) expect(distance(at(i).pose.station, at(j).pose.station)).toBeGreaterThan(0.3) // prettier-ignore
    // 360 / n a frame
    for (let k = 1; k < n; k++) expect((((at(k).pose.bearingDeg - at(k - 1).pose.bearingDeg) % 360) + 360) % 360).toBeCloseTo(360 / n, 9) // prettier-ignore
  })
  it('keeps the framing it begins with: the pivot stays where it is in the picture', () => {
    const f = film(table({ view: view([0.5, -3, 1.9], 4, { pose: { ...view([0, 0, 0], 0).pose, station: [0.5, -3, 1.9], bearingDeg: 4, tiltDeg: -9 } }) })) // prettier-ignore
    const seen = (t: number) => projectPoint({ ...cameraOf(), pose: f.at(t).pose, lens: f.at(t).lens }, [0, 0, 1])!
    for (let t = 0; t < 8; t += 0.5) {
      expect(seen(t).xPx).toBeCloseTo(seen(0).xPx, 6)
      expect(seen(t).yPx).toBeCloseTo(seen(0).yPx, 6)
    }
  })
  it('swings there and back softly, the other way round, nearer and higher by keys', () => {
    const f = film(table({ pace: 'swing', turns: 0.25, direction: -1 }))
    expect(f.at(4).pose.bearingDeg).toBeCloseTo(270, 6)
    expect(f.at(8).pose.station).toEqual(f.at(0).pose.station)
    const near = film(table({ distance: [{ at: 0, value: 1 }, { at: 1, value: 0.5 }], heightM: [{ at: 0, value: 0 }, { at: 1, value: 0.6 }] })) // prettier-ignore
    const end = near.at(8)
    expect(distance(end.pose.station, [0, -1.5, 2.2])).toBeLessThan(1e-9)
    // what it looked at stays in the middle, and sharp
    expect(distance(aimOf(end, end.focusM!), [0, 0, 1.6])).toBeLessThan(1e-9)
  })
})

describe('a reel', () => {
  const hold = (durationS: number, bearingDeg = 0): Shot => ({ kind: 'hold', view: view([0, 0, 1.6], bearingDeg), durationS, creep: 0 }) // prettier-ignore
  it('puts cuts one after the other, trims them, and lets them dissolve', () => {
    const r = reelOf([{ shot: hold(4), dissolveS: 1 }, { shot: hold(6, 90), fromS: 1, toS: 4, dissolveS: 0 }, { shot: hold(4), dissolveS: 0 }]) // prettier-ignore
    expect(r.durationS).toBe(10)
    expect(r.cuts.map((c) => [c.startS, c.endS])).toEqual([[0, 4], [3, 6], [6, 10]]) // prettier-ignore
    expect(r.at(2).map((s) => [s.cut, s.weight])).toEqual([[0, 1]])
    expect(r.at(3.25).map((s) => [s.cut, s.weight])).toEqual([[0, 0.75], [1, 0.25]]) // prettier-ignore
    expect(r.at(6)[0]!.cut).toBe(2)
    expect(r.at(99)[0]!.cut).toBe(2)
  })
  it('plays on where a shot cannot be filmed, and names it', () => {
    const bad = walk({ stops: walk().stops.slice(0, 1) })
    const r = reelOf([{ shot: bad, dissolveS: 0 }, { shot: hold(2), dissolveS: 0 }, { shot: hold(-1), dissolveS: 0 }, { shot: hold(3), fromS: 2, toS: 2, dissolveS: 0 }]) // prettier-ignore
    expect(r.durationS).toBe(2)
    expect(r.faults.map((f) => [f.cut, f.reason])).toEqual([[0, 'one-stop'], [2, 'no-time'], [3, 'no-time']]) // prettier-ignore
    expect(reelOf([]).at(1)).toEqual([])
  })
  it('frame k is at k / rate, n frames last n / rate; 23.976 is 24000/1001', () => {
    expect(RATES['23.976']).toBe(24000 / 1001)
    expect(framesOf(reelOf([{ shot: hold(10), dissolveS: 0 }]), 25)).toHaveLength(250)
    expect(() => framesOf(reelOf([]), 0)).toThrow(RangeError)
  })
})

describe('comfort', () => {
  const judge = (shots: readonly Shot[], fps = 24) => {
    const reel = reelOf(shots.map((shot) => ({ shot, dissolveS: 0 })))
    return comfortOf({
      reel,
      motion: motionOf(reel, fps),
      shots,
      acrossDeg: () => fieldOfView(cameraOf().lens, cameraOf().frame)!.horizontalDeg,
    })
  }
  const still: Shot = { kind: 'hold', view: view([0, 0, 1.6], 0), durationS: 2, creep: 0 }
  const rest = (n: number) =>
    walk().stops.map((s, i, all) => ({ ...s, holdS: i === 0 || i === all.length - 1 ? n : 0 }))
  it('is silent where a walk is calm', () => {
    const shot = walk({ stops: rest(1.5), gaze: { kind: 'point', point: [30, 40, 1.6] }, speedsMps: [1] })
    expect(judge([shot]).map((f) => f.text)).toEqual([])
    expect(judge([still, table({ durationS: 8 }), still])).toEqual([])
  })
  it('names a walk that runs, with its number', () => {
    const [f, ...others] = judge([walk({ stops: rest(1.5), gaze: { kind: 'point', point: [30, 40, 1.6] }, speedsMps: [1.6] })]).filter((x) => x.kind === 'walk') // prettier-ignore
    expect(others).toEqual([])
    expect(f).toMatchObject({ kind: 'walk', unit: 'm/s', limit: 1.4 })
    expect(f!.value).toBeCloseTo(1.6, 3)
  })
  it('judder: 24 mm at 24 frames a second, 10.5 degrees a second (handbook 10)', () => {
    const to = view([0, 0, 1.6], 60)
    const push: Shot = { kind: 'push', from: view([0, 0, 1.6], 0), to, durationS: 8, ease: 'soft', holdsSize: false }
    const found = judge([still, push, { ...still, view: to }])
    expect(found.map((f) => f.kind)).toEqual(['judder'])
    expect(found[0]!.limit).toBeCloseTo(10.5, 1)
    expect(found[0]!.value).toBeCloseTo((60 * 1.875) / 8, 0)
    // with twice the frames a thing may cross twice as fast
    expect(judge([still, push, { ...still, view: to }], 48)).toEqual([])
  })
  it('sickness, swings, reversals and no rest at the ends', () => {
    const turn = (from: number, to: number, durationS: number): Shot => ({ kind: 'push', from: view([0, 0, 1.6], from), to: view([0, 0, 1.6], to), durationS, ease: 'soft', holdsSize: false }) // prettier-ignore
    const kinds = (shots: readonly Shot[]) => [...new Set(judge(shots).map((f) => f.kind))].sort()
    expect(kinds([still, turn(0, 120, 4), still])).toEqual(['swing', 'turn'])
    expect(kinds([turn(0, 20, 6)])).toEqual(['ends', 'starts'])
    const looks = [0, 40, 0, 0].map((bearingDeg) => ({ bearingDeg, tiltDeg: 0 }))
    const stops = rest(1.5).map((s, i) => ({ ...s, look: looks[i]! }))
    expect(judge([walk({ stops, gaze: { kind: 'stops' }, speedsMps: [1] })]).some((f) => f.kind === 'reversal')).toBe(true) // prettier-ignore
    expect(kinds([still, table({ durationS: 3 }), still])).toEqual(['round'])
  })
  it('rates are those of the frames, by finite differences', () => {
    const m = motionOf(reelOf([{ shot: table(), dissolveS: 0 }]), 30)
    for (let k = 2; k < m.timeS.length - 2; k++) {
      expect(m.panDegPerS[k]).toBeCloseTo(45, 6)
      expect(m.turnDegPerS[k]).toBeCloseTo(45, 1)
      expect(Math.abs(m.speedMps[k]! / (2 * Math.PI * 3 / 8) - 1)).toBeLessThan(1e-3) // prettier-ignore
    }
  })
})
