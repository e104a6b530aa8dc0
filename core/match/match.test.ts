import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectPoint, type Camera, type Lens, type Pose } from '#core/camera'
import { bearingDifferenceDeg, seededRandom } from '#core/base'
import type { Vec3 } from '#core/math'
import { cameraOf } from '../../tests/support/cameras.ts'
import { matchBundles, matchLines, type LinesAsked } from './lines.ts'
import { matchPoints, type PointsAsked } from './points.ts'
import { COLUMNS, pairMiss } from './residuals.ts'
import { anglesOfRotation, rotationOf, turned, turnsOfAngles } from './rotation.ts'
import { quarticRoots } from './quartic.ts'
import { orthocentre } from './start-lines.ts'
import { threePointPoses } from './three-points.ts'
import type { PhotoLine, PhotoPair, PicturePlace, Segment } from './types.ts'

const [W, H] = [1800, 1200]
const SIZE = { imageWidth: W, imageHeight: H }
/** Pixels a millimetre on 36 mm across 1800 pixels. */
const PER_MM = 50
const photo = (pose: Partial<Pose>, lens: Partial<Lens> = {}): Camera =>
  cameraOf({ station: [0, 0, 1.6], ...pose }, lens)
const at = (c: Camera, p: Vec3): PicturePlace => {
  const { xPx, yPx } = projectPoint(c, p)!
  return [xPx, yPx]
}
const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const
const STARTS: readonly Vec3[] = [[1, 6, 0], [4, 7, 2], [2, 5, 1], [5, 9, 3]] // prettier-ignore
function bundle(c: Camera, axis: keyof typeof AXES, long = 1.4): Segment[] {
  const d = AXES[axis]
  return STARTS.map((p) => ({ a: at(c, p), b: at(c, [p[0] + long * d[0], p[1] + long * d[1], p[2] + long * d[2]]) }))
}
const bundles = (c: Camera, axes: readonly (keyof typeof AXES)[] = ['x', 'y', 'z']): LinesAsked['bundles'] =>
  Object.fromEntries(axes.map((a) => [a, bundle(c, a)]))
function value<T>(r: { ok: true; value: T } | { ok: false; message: string }): T {
  if (!r.ok) throw new Error(r.message)
  return r.value
}

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true, noDefaultInfinity: true })

describe('rotations', () => {
  it('come back as their angles, straight up and down too', () => {
    fc.assert(
      fc.property(real(0, 359.9), fc.oneof(real(-90, 90), fc.constantFrom(-90, 90)), real(-179, 179), (bearingDeg, tiltDeg, rollDeg) => {
        const r = rotationOf({ bearingDeg, tiltDeg, rollDeg })
        const again = rotationOf(anglesOfRotation(r))
        again.forEach((v, i) => expect(v).toBeCloseTo(r[i]!, 6))
      }), // prettier-ignore
    )
  })
  it('turn by bearing, tilt and roll as their columns say', () => {
    fc.assert(
      fc.property(real(0, 360), real(-80, 80), real(-60, 60), fc.constantFrom(0, 1, 2), (bearingDeg, tiltDeg, rollDeg, k) => {
        const angles = { bearingDeg, tiltDeg, rollDeg }
        const r = rotationOf(angles)
        const step = 1e-5
        const name = (['bearingDeg', 'tiltDeg', 'rollDeg'] as const)[k]!
        const moved = rotationOf({ ...angles, [name]: angles[name] + (step * 180) / Math.PI })
        const byColumn = turned(r, turnsOfAngles(angles, r)[k]!.map((v) => v * step) as unknown as Vec3)
        moved.forEach((v, i) => expect(Math.abs(v - byColumn[i]!)).toBeLessThan(1e-9))
      }), // prettier-ignore
    )
  })
})

describe('the quartic', () => {
  it('has the roots that it was made of', () => {
    fc.assert(
      fc.property(fc.array(real(-5, 5), { minLength: 4, maxLength: 4 }), (roots) => {
        const sorted = [...roots].sort((a, b) => a - b)
        if (sorted.some((r, i) => i > 0 && r - sorted[i - 1]! < 0.05)) return
        let p = [1]
        for (const r of sorted) p = [...p, 0].map((_, i) => (p[i - 1] ?? 0) - r * (p[i] ?? 0))
        const found = quarticRoots(...(p as [number, number, number, number, number]))
        expect(found).toHaveLength(4)
        found.forEach((r, i) => expect(r).toBeCloseTo(sorted[i]!, 6))
      }),
    )
    expect(quarticRoots(1, 0, 0, 0, 1)).toEqual([])
  })
})

describe('three points', () => {
  it('are seen from the station among the answers', () => {
    const random = seededRandom(3)
    const r = (): number => 6 * random() - 3
    for (let k = 0; k < 300; k++) {
      const rotation = rotationOf({ bearingDeg: 360 * random(), tiltDeg: 120 * random() - 60, rollDeg: 20 * random() })
      const seen = [0, 1, 2].map((): Vec3 => [r(), r(), 7 + r()])
      const world = seen.map((c) => [0, 1, 2].map((j) => j + 1 + rotation[j]! * c[0] + rotation[3 + j]! * c[1] + rotation[6 + j]! * c[2])) // prettier-ignore
      const rays = seen.map((c) => c.map((v) => v / Math.hypot(...c)))
      const poses = threePointPoses(world as never, rays as never)
      expect(Math.min(...poses.map((p) => Math.hypot(p.station[0] - 1, p.station[1] - 2, p.station[2] - 3)))).toBeLessThan(1e-4) // prettier-ignore
    }
    expect(threePointPoses([[0, 0, 0], [1, 0, 0], [2, 0, 0]], [[0, 0, 1], [0.1, 0, 0.99], [0.2, 0, 0.98]])).toEqual([]) // prettier-ignore
  })
})

describe('the misses of a pair', () => {
  it('change with every unknown as their columns say', () => {
    const lens = { focalPx: 900, principal: [310, 250] as PicturePlace, distortion: { k1: -0.1, k2: 0.02, k3: 0.004, p1: 0.002, p2: -0.003 } } // prettier-ignore
    const pose = { bearingDeg: 40, tiltDeg: 12, rollDeg: -4 }
    const pair: PhotoPair = { world: [4, 5, 2], image: [300, 200] }
    const missAt = (column: number, step: number): Float64Array => {
      const v = [lens.focalPx, ...lens.principal, lens.distortion.k1, lens.distortion.k2, lens.distortion.p1, lens.distortion.p2, lens.distortion.k3] // prettier-ignore
      const by = (c: number): number => (c === column ? step : 0)
      const [f, x, y, k1, k2, p1, p2, k3] = v.map((n, i) => n + by(i)) as [number, number, number, number, number, number, number, number] // prettier-ignore
      const out = new Float64Array(2)
      pairMiss({ lens: { focalPx: f, principal: [x, y], distortion: { k1, k2, k3, p1, p2 } }, rotation: turned(rotationOf(pose), [by(8), by(9), by(10)]), station: [0.5 + by(11), -0.3 + by(12), 1.6 + by(13)] }, pair, out) // prettier-ignore
      return out
    }
    const [jx, jy] = [new Float64Array(COLUMNS), new Float64Array(COLUMNS)]
    pairMiss({ lens, rotation: rotationOf(pose), station: [0.5, -0.3, 1.6] }, pair, new Float64Array(2), jx, jy)
    for (let c = 0; c < COLUMNS; c++) {
      const step = c < 3 ? 1e-3 : 1e-6
      const [less, more] = [missAt(c, -step), missAt(c, step)]
      expect((more[0]! - less[0]!) / (2 * step)).toBeCloseTo(jx[c]!, 3)
      expect((more[1]! - less[1]!) / (2 * step)).toBeCloseTo(jy[c]!, 3)
    }
  })
})

describe('lines without noise', () => {
  const near = (found: number, wanted: number, part = 1e-6): void => expect(Math.abs(found - wanted)).toBeLessThan(part * Math.max(1, Math.abs(wanted))) // prettier-ignore
  it.each([
    ['two-point', { bearingDeg: 30 }, {}],
    ['two-point with rise', { bearingDeg: 55 }, { riseMm: 3 }],
    ['three-point', { bearingDeg: 30, tiltDeg: 15, rollDeg: 3 }, {}],
    ['three-point, cropped off the middle', { bearingDeg: 30, tiltDeg: -20, rollDeg: -2 }, { riseMm: 3, crossMm: -4 }],
  ] as const)('%s: focal length, middle and angles to a millionth', (_, pose, lens) => {
    const c = photo(pose, { focalMm: 28, ...lens })
    const m = value(matchLines({ ...SIZE, bundles: bundles(c) }))
    near(m.focalPx, 28 * PER_MM)
    near(m.principal[0], W / 2 - c.lens.crossMm * PER_MM)
    near(m.principal[1], H / 2 + c.lens.riseMm * PER_MM)
    near(m.bearingDeg, c.pose.bearingDeg)
    near(m.tiltDeg, c.pose.tiltDeg)
    near(m.rollDeg, c.pose.rollDeg)
    expect(m.rmsPx).toBeLessThan(1e-6)
  })
  it('one-point: with the focal length known, the middle and a square view', () => {
    const c = photo({ bearingDeg: 0 }, { riseMm: 2, crossMm: -3 })
    const m = value(matchLines({ ...SIZE, focalPx: 24 * PER_MM, bundles: bundles(c) }))
    near(m.principal[0], W / 2 + 3 * PER_MM)
    near(m.principal[1], H / 2 + 2 * PER_MM)
    near(bearingDifferenceDeg(m.bearingDeg, 0), 0)
    near(m.tiltDeg, 0)
  })
  it('two bundles: the closed form of two vanishing points', () => {
    const c = photo({ bearingDeg: 30, tiltDeg: 10 })
    const m = value(matchLines({ ...SIZE, bundles: bundles(c, ['x', 'y']) }))
    // where two lines of each meet, by hand
    const meet = ([s, t]: readonly Segment[]): PicturePlace => {
      const line = ({ a, b }: Segment) => [a[1] - b[1], b[0] - a[0], a[0] * b[1] - b[0] * a[1]] as const
      const [p, q] = [line(s!), line(t!)]
      const w = p[0] * q[1] - p[1] * q[0]
      return [(p[1] * q[2] - p[2] * q[1]) / w, (p[2] * q[0] - p[0] * q[2]) / w]
    }
    const [vx, vy] = [meet(bundle(c, 'x')), meet(bundle(c, 'y'))]
    near(m.focalPx, Math.sqrt(-((vx[0] - W / 2) * (vy[0] - W / 2) + (vx[1] - H / 2) * (vy[1] - H / 2))), 1e-9)
    near(m.focalPx, 24 * PER_MM)
  })
  it('a direction that stands askew helps as well as a square one', () => {
    const c = photo({ bearingDeg: 20, tiltDeg: 12 })
    const askew: Vec3 = [Math.SQRT1_2, Math.SQRT1_2, 0]
    const along = (d: Vec3): PhotoLine[] => STARTS.map((p) => ({ direction: d, points: [at(c, p), at(c, [p[0] + d[0], p[1] + d[1], p[2] + d[2]])] })) // prettier-ignore
    const m = value(matchBundles([...along(askew), ...along([0, 0, 1])], SIZE))
    near(m.focalPx, 24 * PER_MM)
    near(m.tiltDeg, 12)
    near(m.bearingDeg, 20)
  })
  it('lines bent by the lens give its k1', () => {
    const c = photo(
      { bearingDeg: 30, tiltDeg: 15 },
      { distortion: { kind: 'brown', k1: -0.08, k2: 0, k3: 0, p1: 0, p2: 0 } },
    )
    const lines = (['x', 'y', 'z'] as const).flatMap((axis) =>
      STARTS.map((p): PhotoLine => {
        const d = AXES[axis]
        const points = [0, 0.4, 0.8, 1.2, 1.6].map((s) => at(c, [p[0] + s * d[0], p[1] + s * d[1], p[2] + s * d[2]]))
        return { direction: d, points }
      }),
    )
    const m = value(matchBundles(lines, { ...SIZE, k1: true }))
    near(m.k1, -0.08)
    near(m.focalPx, 24 * PER_MM)
    near(m.principal[0], W / 2)
    // and without it they do not fit
    expect(value(matchBundles(lines, SIZE)).rmsPx).toBeGreaterThan(0.4)
  })
  it('the other way round is among the alternatives; the first looks north', () => {
    const m = value(
      matchLines({ ...SIZE, bundles: bundles(photo({ station: [6, 18, 1.6], bearingDeg: 200, tiltDeg: 5 })) }),
    )
    expect(m.bearingDeg).toBeCloseTo(20, 6)
    expect(m.alternatives.map((a) => Math.round(a.bearingDeg))).toEqual([200])
    expect(m.alternatives[0]!.rmsPx).toBeCloseTo(m.rmsPx, 9)
    // y up and z back, as in `cameraFromWorld`
    const r = m.cameraFromWorldRotation
    expect(r[7]!).toBeLessThan(0)
    expect(r[5]!).toBeGreaterThan(0)
  })
  it('three vanishing points: the middle is their orthocentre', () => {
    expect(orthocentre([0, 0], [4, 0], [1, 3])).toEqual([1, 1])
    expect(orthocentre([0, 0], [1, 1], [2, 2])).toBeNull()
  })
})

/** Points all over what a camera sees. */
function scene(c: Camera, count: number, random: () => number): PhotoPair[] {
  const pairs: PhotoPair[] = []
  while (pairs.length < count) {
    const world: Vec3 = [
      c.pose.station[0] + 16 * (random() - 0.5),
      c.pose.station[1] + 16 * (random() - 0.5),
      4 * random(),
    ]
    const seen = projectPoint(c, world)
    if (!seen || seen.depthM < 1 || seen.xPx < 0 || seen.yPx < 0 || seen.xPx > W || seen.yPx > H) continue
    pairs.push({ world, image: [seen.xPx, seen.yPx] })
  }
  return pairs
}
function arbitrary(random: () => number, lens: Partial<Lens> = {}): Camera {
  return photo(
    { station: [2, -1, 1.6], bearingDeg: 360 * random(), tiltDeg: 40 * random() - 20, rollDeg: 6 * random() - 3 },
    { focalMm: 18 + 40 * random(), ...lens },
  )
}
/** Normal deviates (Box and Muller). */
const gauss = (random: () => number) => (): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
const EVERYTHING: PointsAsked['solve'] = { focal: true, principal: true, k1: true }

describe('points without noise', () => {
  it('give the whole camera back to a millionth: shift, crop and k1', () => {
    const random = seededRandom(11)
    for (let i = 0; i < 25; i++) {
      const k1 = 0.1 * (random() - 0.5)
      const c = arbitrary(random, { riseMm: 4 * random() - 2, crossMm: 4 * random() - 2, distortion: { kind: 'brown', k1, k2: 0, k3: 0, p1: 0, p2: 0 } }) // prettier-ignore
      const m = value(matchPoints({ ...SIZE, pairs: scene(c, 14, random), solve: EVERYTHING }))
      expect(Math.abs(m.focalPx / (c.lens.focalMm * PER_MM) - 1)).toBeLessThan(1e-6)
      expect(Math.abs(m.k1 - k1)).toBeLessThan(1e-6)
      expect(Math.abs(m.principal[0] - (W / 2 - c.lens.crossMm * PER_MM))).toBeLessThan(1e-3)
      m.pose.station.forEach((v, k) => expect(Math.abs(v - c.pose.station[k]!)).toBeLessThan(1e-5))
      expect(Math.abs(m.pose.tiltDeg - c.pose.tiltDeg)).toBeLessThan(1e-5)
    }
  })
  it('four on a wall give station and focal length', () => {
    const c = photo({ bearingDeg: 35, tiltDeg: 8 })
    const wall: Vec3[] = [[1, 6, 0], [5, 6, 0], [5, 6, 3], [1, 6, 3]] // prettier-ignore
    const m = value(matchPoints({ ...SIZE, pairs: wall.map((world) => ({ world, image: at(c, world) })), solve: { focal: true, principal: false, k1: false } })) // prettier-ignore
    expect(m.focalPx).toBeCloseTo(24 * PER_MM, 4)
    expect(m.pose.station[2]).toBeCloseTo(1.6, 6)
  })
})

describe('wrong pairs', () => {
  it('up to 30 % are found and named in 99 of 100 scenes', () => {
    const random = seededRandom(5)
    const noise = gauss(random)
    const SCENES = 200
    let right = 0
    for (let i = 0; i < SCENES; i++) {
      const c = arbitrary(random)
      const pairs = scene(c, 20, random).map((p): PhotoPair => ({ ...p, image: [p.image[0] + 0.5 * noise(), p.image[1] + 0.5 * noise()] })) // prettier-ignore
      const wrong = Array.from({ length: 20 }, (_, k) => k).sort(() => random() - 0.5).slice(0, 6).sort((a, b) => a - b) // prettier-ignore
      for (const w of wrong) pairs[w] = { ...pairs[w]!, image: [W * random(), H * random()] }
      const r = matchPoints({ ...SIZE, pairs, solve: { focal: true, principal: false, k1: false }, robust: true })
      if (r.ok && r.value.wrong.join() === wrong.join()) right++
    }
    expect(right / SCENES).toBeGreaterThanOrEqual(0.99)
  }, 60_000)
})

describe('error bars', () => {
  it('hold the truth within one sd in 64 to 73 of 100 cases, within three in 98.5', () => {
    const random = seededRandom(21)
    const noise = gauss(random)
    let [all, one, three] = [0, 0, 0]
    const count = (error: number, sd: number): void => {
      all++
      if (Math.abs(error) < sd) one++
      if (Math.abs(error) < 3 * sd) three++
    }
    for (let i = 0; i < 500; i++) {
      const c = arbitrary(random)
      if (i % 2) {
        const pairs = scene(c, 20, random).map((p): PhotoPair => ({ ...p, image: [p.image[0] + 0.7 * noise(), p.image[1] + 0.7 * noise()] })) // prettier-ignore
        const m = value(matchPoints({ ...SIZE, pairs, solve: EVERYTHING }))
        expect(m.freedom).toBeGreaterThanOrEqual(20)
        count(m.focalPx - c.lens.focalMm * PER_MM, m.sd.focalPx)
        count(m.principal[0] - W / 2, m.sd.principal[0])
        count(m.k1, m.sd.k1)
        count(m.pose.tiltDeg - c.pose.tiltDeg, m.sd.tiltDeg)
        m.pose.station.forEach((v, k) => count(v - c.pose.station[k]!, m.sd.station[k]!))
        continue
      }
      const tilted = photo({ bearingDeg: 15 + 60 * random(), tiltDeg: 8 + 15 * random(), rollDeg: 2 * random() }, { focalMm: 20 + 15 * random() }) // prettier-ignore
      const segments = (axis: keyof typeof AXES): Segment[] =>
        Array.from({ length: 10 }, () => {
          const d = AXES[axis]
          const p: Vec3 = [1 + 6 * random(), 5 + 5 * random(), 4 * random()]
          const [a, b] = [at(tilted, p), at(tilted, [p[0] + 2 * d[0], p[1] + 2 * d[1], p[2] + 2 * d[2]])]
          const off = (q: PicturePlace): PicturePlace => [q[0] + 0.7 * noise(), q[1] + 0.7 * noise()]
          return { a: off(a), b: off(b) }
        })
      const m = value(matchLines({ ...SIZE, principal: [W / 2, H / 2], bundles: { x: segments('x'), y: segments('y'), z: segments('z') } })) // prettier-ignore
      expect(m.freedom).toBeGreaterThanOrEqual(20)
      count(m.focalPx - tilted.lens.focalMm * PER_MM, m.sd.focalPx)
      count(m.tiltDeg - tilted.pose.tiltDeg, m.sd.tiltDeg)
      count(bearingDifferenceDeg(m.bearingDeg, tilted.pose.bearingDeg), m.sd.bearingDeg)
      count(m.rollDeg - tilted.pose.rollDeg, m.sd.rollDeg)
    }
    expect(one / all).toBeGreaterThan(0.64)
    expect(one / all).toBeLessThan(0.73)
    expect(three / all).toBeGreaterThan(0.985)
  }, 60_000)
})

describe('what cannot be solved is refused by name', () => {
  const c = photo({ bearingDeg: 30, tiltDeg: 10 })
  const square = photo({ bearingDeg: 0 })
  const pairsOf = (camera: Camera, points: readonly Vec3[]): PhotoPair[] => points.map((world) => ({ world, image: at(camera, world) })) // prettier-ignore
  const WALL: readonly Vec3[] = [[-2, 6, 0], [2, 6, 0], [2, 6, 3], [-2, 6, 3], [0, 6, 1]] // prettier-ignore
  const FREE = { focal: true, principal: false, k1: false }
  const lines = (b: LinesAsked['bundles'], more: Partial<LinesAsked> = {}) =>
    matchLines({ ...SIZE, bundles: b, ...more })
  const points = (pairs: readonly PhotoPair[], more: Partial<PointsAsked> = {}) => matchPoints({ ...SIZE, pairs, solve: FREE, ...more }) // prettier-ignore
  const narrow = (axis: 'x' | 'y'): Segment[] => [0, 0.005].map((s) => {
    const p: Vec3 = [2, 6, 1 + s]
    const d = AXES[axis]
    const off = 0.4 * (s > 0 ? 1 : -1)
    const [a, b] = [at(c, p), at(c, [p[0] + d[0], p[1] + d[1], p[2]])]
    return { a: [a[0], a[1] + off], b: [b[0], b[1] - off] }
  }) // prettier-ignore
  it.each([
    ['few-lines', () => lines({ x: bundle(c, 'x').slice(0, 1), y: bundle(c, 'y').slice(0, 1) })],
    ['one-direction', () => lines({ x: bundle(c, 'x') })],
    ['focal-untold', () => lines(bundles(square))],
    ['narrow', () => lines({ x: narrow('x'), y: narrow('y') })],
    ['zero-length', () => lines({ x: [{ a: [5, 5], b: [5, 5] }, ...bundle(c, 'x')], y: bundle(c, 'y') })],
    ['few-points', () => points(pairsOf(c, WALL.slice(0, 3)))],
    [
      'one-line',
      () =>
        points(
          pairsOf(
            c,
            [0, 1, 2, 3, 4].map((s) => [s, 6, 1] as Vec3),
          ),
        ),
    ],
    ['one-plane', () => points(pairsOf(c, WALL), { solve: { focal: true, principal: true, k1: false } })],
    ['parallel', () => points(pairsOf(square, WALL))],
    ['same-point', () => points([...pairsOf(c, WALL), ...pairsOf(c, WALL.slice(0, 1))])],
    ['no-focal', () => points(pairsOf(c, WALL), { solve: { ...FREE, focal: false } })],
  ] as const)('%s', (reason, ask) => {
    const r = ask()
    expect(r.ok ? 'solved' : r.reason).toBe(reason)
    expect(!r.ok && r.message).toMatch(/\.$/)
  })
})
