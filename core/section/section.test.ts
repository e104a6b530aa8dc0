import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf, hiding } from '../../tests/support/cameras.ts'
import { axesOf, projectPoint } from '../camera/index.ts'
import { addScaled, dot, sub, type Vec3 } from '../math/index.ts'
import { isBetweenCuts, isCutAway, isRemoved, sightThrough, type Cut, type Shown } from './index.ts'

const base = { id: 'c', name: 'A', on: true, reversed: false }
const point = fc.tuple(fc.double({ min: -9, max: 9, noNaN: true }), fc.double({ min: -9, max: 9, noNaN: true }), fc.double({ min: -9, max: 9, noNaN: true })) // prettier-ignore

describe('what a cut takes away', () => {
  it.each<[string, Cut, Vec3[], Vec3[]]>([
    ['a level cut: what lies above', { ...base, kind: 'level', heightM: 1.2 }, [[0, 0, 1.3]], [[0, 0, 1.1], [5, 5, 1.2]]],
    ['an upright cut looked at to the north: what lies before it', { ...base, kind: 'upright', point: [0, 4, 0], bearingDeg: 0 }, [[9, 3.9, 2]], [[0, 4.1, 9]]],
    ['one looked at to the east', { ...base, kind: 'upright', point: [2, 0, 0], bearingDeg: 90 }, [[1.9, 7, 0]], [[2.1, -7, 0]]],
    ['a free plane: its normal’s side, whatever its length', { ...base, kind: 'free', point: [0, 0, 1], normal: [0, 0, 0.2] }, [[0, 0, 1.01]], [[0, 0, 0.99]]],
    ['a slice: all but the layer behind its plane (handbook-8)', { ...base, kind: 'slice', point: [0, 0, 1], normal: [0, 0, 1], thicknessM: 0.4 }, [[0, 0, 1.01], [0, 0, 0.59]], [[0, 0, 0.99], [0, 0, 0.61]]],
    ['a box: all outside, turned clockwise', { ...base, kind: 'box', centre: [0, 0, 0], sizeM: [4, 1, 2], turnDeg: 90 }, [[1.9, 0, 0]], [[0.4, 1.9, 0.9]]],
    ['a stepped cut: what lies to the left of its way', { ...base, kind: 'stepped', points: [[0, 0], [4, 0], [4, 2], [9, 2]] }, [[1, 1, 0], [3, 1, 0], [6, 3, 0]], [[1, -1, 0], [5, 1, 0], [6, 1, 0], [-5, -1, 0]]],
  ])('%s', (_what, cut, gone, stays) => {
    for (const p of gone) expect(isRemoved(cut, p), String(p)).toBe(true)
    for (const p of stays) expect(isRemoved(cut, p), String(p)).toBe(false)
    expect(isCutAway([{ ...cut, on: false }], gone[0]!)).toBe(false)
    expect(isRemoved({ ...cut, reversed: true }, stays[0]!)).toBe(true)
  }) // prettier-ignore
  it('reversed it takes the other side; points on it stay either way', () => {
    const cuts: Cut[] = [
      { ...base, kind: 'level', heightM: 0.5 },
      { ...base, kind: 'upright', point: [1, 1, 1], bearingDeg: 33 },
      { ...base, kind: 'slice', point: [0, 0, 0], normal: [1, 1, 0], thicknessM: 2 },
      { ...base, kind: 'box', centre: [1, 0, 0], sizeM: [3, 4, 5], turnDeg: 20 },
    ]
    fc.assert(
      fc.property(fc.constantFrom(...cuts), point, (cut, p) => {
        expect(isRemoved(cut, p) && isRemoved({ ...cut, reversed: true }, p)).toBe(false)
      }),
    )
    const level = cuts[0]!
    expect([isRemoved(level, [3, 3, 0.5]), isRemoved({ ...level, reversed: true }, [3, 3, 0.5])]).toEqual([
      false,
      false,
    ])
  })
})

describe('sight lines', () => {
  const cut = (nearM: number | null, farM: number | null): Shown => ({ ...hiding(), cuts: { nearM, farM, list: [] } })
  it('run from the near cut to the far one by depth along the axis, in every projection and with shift', () => {
    const projections = [{ kind: 'perspective' }, { kind: 'parallel', widthM: 8 }, { kind: 'oblique', widthM: 8, angleDeg: 45, receding: 0.5 }] as const // prettier-ignore
    fc.assert(
      fc.property(
        fc.constantFrom(...projections),
        fc.double({ min: 0, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 600, noNaN: true }),
        (projection, x, y) => {
          const camera = cameraOf({ station: [1, 2, 3], bearingDeg: 40, tiltDeg: -12, rollDeg: 5 }, { projection, riseMm: 4, crossMm: -3 }, [900, 600]) // prettier-ignore
          const sight = sightThrough(camera, cut(1.5, 7), x, y)!
          const { forward } = axesOf(camera.pose)
          const depth = (p: Vec3): number => dot(sub(p, camera.pose.station), forward)
          expect(depth(sight.origin)).toBeCloseTo(1.5, 9)
          expect(depth(addScaled(sight.origin, sight.direction, sight.farM))).toBeCloseTo(7, 9)
          const p = projectPoint(camera, addScaled(sight.origin, sight.direction, sight.farM / 2))!
          expect([p.xPx, p.yPx]).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)])
        },
      ),
    )
  })
  it('without cuts begin at the eye, in parallel pictures far behind the plane, and have no end', () => {
    expect(sightThrough(cameraOf({ station: [1, 2, 3] }), hiding(), 10, 10)).toMatchObject({
      origin: [1, 2, 3],
      farM: Infinity,
    })
    const flat = sightThrough(
      cameraOf({}, { projection: { kind: 'parallel', widthM: 4 } }, [900, 600]),
      hiding(),
      450,
      300,
    )!
    expect(flat.origin[1]).toBeLessThan(-5000)
  })
  it('a depth is between the cuts or not', () => {
    expect([0.5, 1, 3, 4.1].map((d) => isBetweenCuts(cut(1, 4), d))).toEqual([false, true, true, false])
    expect(isBetweenCuts(cut(null, null), -3)).toBe(true)
  })
})
