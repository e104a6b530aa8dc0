import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CUT_KINDS, newCut, type CutPlace } from '#core/section'
import { newProject } from '../defaults.ts'
import { cutSchema } from '../part-schemas.ts'
import type { Setup } from '../parts.ts'
import { pushedSetup, type PushEnd } from './pushed.ts'

const plain = newProject({ name: 'Push', subject: 'room', stand: { station: [0, 0, 1.6], aim: { kind: 'direction', bearingDeg: 0, tiltDeg: 0 }, rollDeg: 0 }, models: [] }).working // prettier-ignore
const level = (id: string, heightM: number): Setup['cut']['cuts'][number] => ({ id, name: 'A', on: true, reversed: false, kind: 'level', heightM }) // prettier-ignore
const PLACE: CutPlace = { point: [1, 2, 1], bearingDeg: 75, mainBearingDeg: 10, model: { min: [-3, -4, 0], max: [6, 5, 4] }, round: null, heightM: 1.2 } // prettier-ignore
const cutAt = (...cuts: Setup['cut']['cuts']): Setup => ({ ...plain, cut: { ...plain.cut, cuts } })
const end = (setup: Setup, changes: PushEnd['changes'] = 'middle'): PushEnd => ({ setup, ease: 'soft', changes })
const heights = (s: Setup): (readonly [string, number])[] => s.cut.cuts.map((c) => [c.id, c.kind === 'level' ? c.heightM : NaN] as const) // prettier-ignore

describe('what a push shows between two viewpoints', () => {
  it('a cut that both have goes the way the camera goes; those of one alone change in the middle', () => {
    const [a, b] = [cutAt(level('c', 1), level('a', 5)), cutAt(level('c', 3), level('b', 7))]
    // least jerk: half of the way at half of the time, a tenth of it (0.1035) at a quarter (flash1985)
    expect(heights(pushedSetup(a, end(b), 0.25))).toEqual([['c', expect.closeTo(1 + 2 * 0.103515625, 9)], ['a', 5]]) // prettier-ignore
    expect(heights(pushedSetup(a, end(b), 0.5))).toEqual([['c', expect.closeTo(2, 9)], ['b', 7]]) // prettier-ignore
    expect(pushedSetup(a, end(b), 0).cut).toEqual(a.cut)
    expect(pushedSetup(a, end(b), 1).cut).toEqual(b.cut)
  })
  it('hidden things and the look change at the start, in the middle or at the end; the frame never', () => {
    const b: Setup = { ...plain, visible: { ...plain.visible, hidden: ['wall'] }, frame: { ...plain.frame, widthPx: 640 } } // prettier-ignore
    const hidden = (changes: PushEnd['changes']): boolean[] => [0, 0.1, 0.49, 0.5, 0.99, 1].map((x) => pushedSetup(plain, end(b, changes), x).visible.hidden.length > 0) // prettier-ignore
    expect(hidden('start')).toEqual([false, true, true, true, true, true])
    expect(hidden('middle')).toEqual([false, false, false, true, true, true])
    expect(hidden('end')).toEqual([false, false, false, false, false, true])
    expect(pushedSetup(plain, end(b), 1).frame).toEqual(plain.frame)
  })
  it('an angle goes the shorter way; what is switched off or turned round does not blend', () => {
    const box = (turnDeg: number, on = true): Setup => cutAt({ id: 'x', name: 'A', on, reversed: false, kind: 'box', centre: [0, 0, 0], sizeM: [1, 1, 1], turnDeg }) // prettier-ignore
    const turn = (s: Setup): number => (s.cut.cuts[0] as { turnDeg: number }).turnDeg
    expect(turn(pushedSetup(box(350), end(box(10)), 0.5))).toBeCloseTo(360, 9)
    expect(turn(pushedSetup(box(0), end(box(90, false)), 0.25))).toBe(0)
  })
  it('whatever cuts it goes between, the schema takes it (property)', () => {
    const n = fc.double({ min: -50, max: 50, noNaN: true })
    const cut = fc.tuple(fc.nat(5), fc.constantFrom('a', 'b', 'c'), n, n, n).map(([k, id, x, y, z]) => newCut(CUT_KINDS[k]!, id, 'A', { ...PLACE, point: [x, y, z], bearingDeg: ((x * 7) % 360 + 360) % 360, heightM: z })) // prettier-ignore
    const cuts = fc.uniqueArray(cut, { maxLength: 3, selector: (c) => c.id })
    fc.assert(
      fc.property(cuts, cuts, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, x) => {
        const s = pushedSetup(cutAt(...a), end(cutAt(...b)), x)
        expect(cutSchema.safeParse(s.cut).error?.issues ?? []).toEqual([])
      }),
    )
  })
})
