import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pushShare } from '#core/reel'
import { CUT_KINDS, newCut, type CutPlace } from '#core/section'
import { newProject } from '../defaults.ts'
import { cutSchema, exposureSchema, sunSchema } from '../part-schemas.ts'
import type { Setup } from '../parts.ts'
import { pushedLayers, type PushEnd } from './pushed.ts'

const plain = newProject({ name: 'Push', subject: 'room', stand: { station: [0, 0, 1.6], aim: { kind: 'direction', bearingDeg: 0, tiltDeg: 0 }, rollDeg: 0 }, models: [] }).working // prettier-ignore
const level = (id: string, heightM: number): Setup['cut']['cuts'][number] => ({ id, name: 'A', on: true, reversed: false, kind: 'level', heightM }) // prettier-ignore
const PLACE: CutPlace = { point: [1, 2, 1], bearingDeg: 75, mainBearingDeg: 10, model: { min: [-3, -4, 0], max: [6, 5, 4] }, round: null, heightM: 1.2 } // prettier-ignore
const cutAt = (...cuts: Setup['cut']['cuts']): Setup => ({ ...plain, cut: { ...plain.cut, cuts } })
const end = (setup: Setup, changes: PushEnd['changes'] = 'middle'): PushEnd => ({ setup, ease: 'soft', changes })
const pushedSetup = (from: Setup, to: PushEnd, share: number): Setup => pushedLayers(from, to, share).at(-1)!.setup
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
  it('where it fades both are seen, as long as the fade lasts and within the push', () => {
    const b: Setup = { ...plain, visible: { ...plain.visible, hidden: ['wall'] } }
    const told = (changes: PushEnd['changes']) => [0, 0.1, 0.4, 0.5, 0.6, 0.9, 1].map((x) => pushedLayers(plain, { ...end(b, changes), fadeShare: 0.4 }, x).map((l) => [l.setup.visible.hidden.length, Math.round(l.weight * 100)])) // prettier-ignore
    expect(told('middle')).toEqual([[[0, 100]], [[0, 100]], [[0, 75], [1, 25]], [[0, 50], [1, 50]], [[0, 25], [1, 75]], [[1, 100]], [[1, 100]]]) // prettier-ignore
    expect(told('start')).toEqual([[[0, 100]], [[0, 75], [1, 25]], [[1, 100]], [[1, 100]], [[1, 100]], [[1, 100]], [[1, 100]]]) // prettier-ignore
    expect(told('end').slice(3)).toEqual([
      [[0, 100]],
      [[0, 100]],
      [
        [0, 25],
        [1, 75],
      ],
      [[1, 100]],
    ])
    for (const fadeShare of [0, 0.3, 1]) expect(pushedLayers(plain, { ...end(b, 'end'), fadeShare }, 1)[0]!.setup.visible).toEqual(b.visible) // prettier-ignore
  })
  it('sun, white balance and finish go with the camera, in mired and the shorter way round', () => {
    const warm: Setup = { ...plain, look: { ...plain.look, sun: { ...plain.look.sun, on: true, bearingDeg: 350, elevationDeg: 20 } }, exposure: { ...plain.exposure, whiteBalance: { kelvin: 4000, tint: 0 } } } // prettier-ignore
    const cool: Setup = { ...warm, look: { ...plain.look, sun: { ...warm.look.sun, bearingDeg: 30, elevationDeg: 60 } }, exposure: { ...plain.exposure, whiteBalance: { kelvin: 8000, tint: 10 }, finish: { contrast: 1.4, saturation: 0.6 } } } // prettier-ignore
    const s = pushedSetup(warm, end(cool), 0.5)
    expect([s.look.sun.bearingDeg, s.look.sun.elevationDeg]).toEqual([expect.closeTo(10, 9), expect.closeTo(40, 9)])
    expect(s.exposure.whiteBalance).toEqual({ kelvin: expect.closeTo(5333.333, 2), tint: expect.closeTo(5, 9) })
    expect(s.exposure.finish).toMatchObject({ contrast: expect.closeTo(1.2, 9), saturation: expect.closeTo(0.8, 9), shoulder: 0.5 }) // prettier-ignore
    expect(exposureSchema.safeParse(s.exposure).success).toBe(true)
    expect(pushedSetup(warm, end(cool), 1).exposure).toEqual(cool.exposure)
    const off: Setup = { ...cool, look: { ...cool.look, sun: { ...cool.look.sun, on: false } } }
    expect(pushedSetup(warm, end(off), 0.4).look.sun).toEqual(warm.look.sun)
  })
  it('their light goes along too, from that of day where none was set; the sky’s without a sun as well', () => {
    const lit = (changes: Partial<Setup['look']['sun']>): Setup => ({ ...plain, look: { ...plain.look, sun: { ...plain.look.sun, on: true, ...changes } } }) // prettier-ignore
    const sun = (a: Setup, b: Setup, share = 0.5) => pushedSetup(a, end(b), share).look.sun
    expect(sun(lit({ sunLux: 2000 }), lit({ skyLux: 1000 }))).toMatchObject({ sunLux: 22_000, skyLux: 7_500 })
    expect(sun(lit({ on: false, skyLux: 0 }), lit({}), 0.4)).toMatchObject({
      on: false,
      skyLux: expect.closeTo(14_000 * pushShare('soft', 0.4), 9),
    })
    expect(Object.keys(sun(lit({}), lit({})))).not.toContain('skyLux')
    expect(sunSchema.safeParse(sun(lit({ sunLux: 2000 }), lit({}))).success).toBe(true)
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
