import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dot, type Vec3 } from '../math/index.ts'
import {
  CUT_KINDS,
  isRemoved,
  moveCut,
  movePlane,
  newCut,
  nextLetter,
  planesOf,
  THINNEST_M,
  type Cut,
  type CutPlace,
} from './index.ts'

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const vec = (m: number): fc.Arbitrary<Vec3> => fc.tuple(number(-m, m), number(-m, m), number(-m, m))
const place: fc.Arbitrary<CutPlace> = fc
  .record({
    point: vec(5),
    bearingDeg: number(0, 360),
    mainBearingDeg: number(-45, 45),
    corner: vec(20),
    heightM: number(-5, 5),
  })
  .map(({ corner, ...p }) => ({
    ...p,
    model: { min: [-6, -7, -8], max: [6 + Math.abs(corner[0]), 7 + Math.abs(corner[1]), 8 + Math.abs(corner[2])] },
    round: null,
  }))
const cut: fc.Arbitrary<Cut> = fc
  .tuple(fc.constantFrom(...CUT_KINDS), place, fc.boolean())
  .map(([kind, p, reversed]) => ({ ...newCut(kind, 'id', 'A', p), reversed }))
const ahead = (deg: number): Vec3 => [Math.sin((deg * Math.PI) / 180), Math.cos((deg * Math.PI) / 180), 0]
const at = (p: Vec3, d: Vec3, k: number): Vec3 => [p[0] + d[0] * k, p[1] + d[1] * k, p[2] + d[2] * k]

describe('new cuts', () => {
  it('take away what lies between the eye and the subject, and leave what lies beyond', () => {
    fc.assert(
      fc.property(fc.constantFrom('upright', 'free', 'slice', 'stepped' as const), place, (kind, p) => {
        const c = newCut(kind, 'a', 'A', p)
        const way = ahead(p.bearingDeg)
        expect(isRemoved(c, at(p.point, way, -4))).toBe(true)
        expect(isRemoved(c, at(p.point, way, 0.02))).toBe(false)
        if (kind !== 'slice') expect(isRemoved(c, at(p.point, way, 40))).toBe(false)
      }),
    )
  })
  it('a box goes round what it is asked to, with a little room; a level cut lies at its height', () => {
    const round = { min: [1, 2, 3], max: [2, 4, 6] } as const
    const p: CutPlace = { point: [0, 0, 0], bearingDeg: 0, mainBearingDeg: 0, model: { min: [-9, -9, -9], max: [9, 9, 9] }, round, heightM: 1.2 } // prettier-ignore
    const box = newCut('box', 'a', 'A', p)
    for (const corner of [round.min, round.max]) expect(isRemoved(box, corner)).toBe(false)
    expect(isRemoved(box, [0.9, 3, 4])).toBe(true)
    expect(newCut('level', 'a', 'A', p)).toMatchObject({ heightM: 1.2, on: true, reversed: false })
  })
  it('are named by the next free letter', () => {
    expect(nextLetter([])).toBe('A')
    expect(nextLetter(['A', 'C'])).toBe('B')
    expect(nextLetter(Array.from({ length: 26 }, (_, i) => String.fromCharCode(65 + i)))).toBe('A2')
  })
})

describe('cuts moved', () => {
  it('by one plane: that plane goes along its normal, all others stay', () => {
    fc.assert(
      fc.property(cut, fc.nat(5), number(-0.05, 0.5), (c, k, by) => {
        const before = planesOf(c)
        const plane = k % before.length
        // a jog goes as far as its neighbours are long; then they turn round
        fc.pre(c.kind !== 'stepped' || Math.abs(by) < 0.5)
        const after = planesOf(movePlane(c, plane, c.reversed && (c.kind === 'box' || c.kind === 'slice') ? -by : by))
        const way = c.reversed && (c.kind === 'box' || c.kind === 'slice') ? -by : by
        before.forEach((p, i) => {
          const gone = dot(p.normal, after[i]!.point) - dot(p.normal, p.point)
          // the neighbours of a leg turn with it where they are not square to it
          if (c.kind !== 'stepped' || i === plane) expect(gone).toBeCloseTo(i === plane ? way : 0, 6)
          expect(dot(p.normal, after[i]!.normal)).toBeCloseTo(1, 6)
        })
      }),
    )
  })
  it('boxes and slices never turn inside out', () => {
    fc.assert(
      fc.property(place, fc.constantFrom('box', 'slice' as const), fc.nat(5), (p, kind, k) => {
        const c = newCut(kind, 'a', 'A', p)
        const moved = movePlane(c, k % planesOf(c).length, -1e6)
        const sizes = moved.kind === 'box' ? moved.sizeM : moved.kind === 'slice' ? [moved.thicknessM] : []
        for (const s of sizes) expect(s).toBeGreaterThanOrEqual(THINNEST_M)
      }),
    )
  })
  it('as a whole: a point goes with it', () => {
    fc.assert(
      fc.property(cut, vec(3), vec(8), (c, by, p) => {
        // off the cut itself, where rounding tells
        const beside = [0, 1, 2].flatMap((k) => [-1e-6, 1e-6].map((d) => p.map((v, i) => v + (i === k ? d : 0)) as unknown as Vec3)) // prettier-ignore
        fc.pre(beside.every((q) => isRemoved(c, q) === isRemoved(c, p)))
        expect(isRemoved(moveCut(c, by), at(p, by, 1))).toBe(isRemoved(c, p))
      }),
    )
  })
})
