// Each finding on a scene made to have exactly it, and silence on one made to have none.
import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { loadGlb } from '#formats/scene'
import { checkScene, MeshScene, soupOf } from '#mesh'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { frameOf, lensOf } from '../../tests/support/cameras.ts'
import { glbOf, roomNodes } from '../../tests/support/models.ts'
import type { Aim, Lens, Stand } from '../camera/index.ts'
import { poseOfStand, projectPoint } from '../camera/index.ts'
import { convergence } from '../framing/index.ts'
import type { Vec3 } from '../math/index.ts'
import type { Cut } from '../section/index.ts'
import {
  clippedFindings,
  frameCheck,
  verticalsOf,
  type CheckSetup,
  type Finding,
  type FindingId,
  type FocusLook,
} from './index.ts'

/** The room of 6 x 4 x 3 m with a vase on its table, a screen that can hide it, and a long counter. */
let room: MeshScene
beforeAll(async () => {
  const nodes = roomNodes()
  const vase = new Pen('Vase', { kind: 'thing' }).use('walnut').box(2.9, 1.9, 0.75, 3.1, 2.1, 1.15, { bevel: 0 })
  const screen = new Pen('Screen', { kind: 'furniture' }).use('oak').box(2.2, 1.0, 0, 2.98, 1.04, 2.2, { bevel: 0 })
  const counter = new Pen('Counter', { kind: 'furniture' }).use('oak').box(0.2, 3.3, 0.86, 5.8, 3.9, 0.9, { bevel: 0 })
  const inside = [...nodes[0]!.children!, vase.node(), screen.node(), counter.node()]
  const { soup, facts } = soupOf(
    await loadGlb(glbOf([{ name: nodes[0]!.name, children: inside }]), { textures: false }),
  )
  room = new MeshScene(soup, facts)
})

interface Shot {
  station?: Vec3
  bearingDeg?: number
  tiltDeg?: number
  rollDeg?: number
  lens?: Partial<Lens>
  hidden?: string[]
  subject?: string | null
  near?: number
  far?: number
  aim?: Aim
  kind?: 'room' | 'product'
  ownEyeM?: number
  /** False: with all limits as a project has them. */
  isQuiet?: boolean
}
/** What is tested by itself (framing-checks.test.ts) is not told here. */
const QUIET = { cropped: 0, tangent: 0, offGuide: 0, stretch: 4, wideMm: 5, depthApart: 100 }
/** Nothing to be said about it: level, square to the far wall, at eye height, the screen out of the way. */
const GOOD = { station: [3, 0.4, 1.58] as Vec3, bearingDeg: 0, hidden: ['Room/Screen'] }
const setupOf = (shot: Shot): CheckSetup => {
  const s = { ...GOOD, tiltDeg: 0, rollDeg: 0, ...shot }
  const stand: Stand = {
    station: s.station,
    aim: s.aim ?? { kind: 'direction', bearingDeg: s.bearingDeg, tiltDeg: s.tiltDeg },
    rollDeg: s.rollDeg,
  }
  return {
    stand,
    lens: lensOf({ focalMm: 28, ...shot.lens }),
    frame: frameOf(1200, 800),
    shown: { hidden: s.hidden, cuts: { nearM: shot.near ?? null, farM: shot.far ?? null, list: [] } },
    limits: shot.isQuiet === false ? undefined : QUIET,
  }
}
const check = (shot: Shot, setup = setupOf(shot)): Finding[] =>
  frameCheck(
    setup,
    checkScene(room, {
      station: setup.stand.station,
      shown: setup.shown,
      kind: shot.kind ?? 'room',
      eyeHeightM: shot.ownEyeM ?? 1.58,
      subjectId: shot.subject === undefined ? 'Room/Vase' : shot.subject,
    }),
  )
const ids = (f: readonly Finding[]): FindingId[] => f.map((x) => x.id)
/** The setup with a finding's mend applied. */
const mended = (shot: Shot, f: Finding): CheckSetup => {
  const s = setupOf(shot)
  const m = f.mend!
  return {
    ...s,
    stand: m.stand ?? s.stand,
    lens: m.lens ?? s.lens,
    shown: {
      hidden: [...s.shown.hidden, ...(m.hide ?? [])],
      cuts: m.cutsOff ? { ...s.shown.cuts, nearM: null, farM: null } : s.shown.cuts,
    },
  }
}

describe('silence', () => {
  it.each<[string, Shot]>([
    ['a level, square, centred picture at eye height', {}],
    ['a view meant to be at an angle', { station: [1, 0.5, 1.58], bearingDeg: 36, subject: null }],
    [
      'a parallel plan',
      { station: [3, 2, 1.2], tiltDeg: -90, lens: { projection: { kind: 'parallel', widthM: 8 } }, subject: null },
    ],
    ['a product that converges', { tiltDeg: -12, subject: null, kind: 'product', lens: { focalMm: 70 } }],
    ['the project’s own eye height, wherever it lies', { station: [3, 0.4, 2.4], ownEyeM: 2.4 }],
    ['a panorama', { lens: { projection: { kind: 'equirectangular' } }, subject: null }],
    ['a steep look down on purpose', { tiltDeg: -60, subject: null, station: [3, 2, 2.6] }],
  ])('%s', (_name, shot) => expect(ids(check({ ...shot, isQuiet: false }))).toEqual([]))
})

describe('what is said of verticals', () => {
  it('is a slip exactly where the check finds one', () => {
    const deg = fc.oneof(fc.double({ min: -2, max: 2, noNaN: true }), fc.double({ min: -85, max: 85, noNaN: true }))
    fc.assert(
      fc.property(deg, fc.oneof(fc.constant(0), deg), fc.constantFrom('room' as const, 'product' as const), (tiltDeg, rollDeg, kind) => {
        const setup = setupOf({ tiltDeg, rollDeg, kind, subject: null })
        const found = ids(check({ kind, subject: null }, setup)).some((i) => i === 'leaning-verticals' || i === 'almost-level')
        const said = verticalsOf({ pose: poseOfStand(setup.stand), lens: setup.lens, frame: setup.frame }, kind)
        // a tilt of a few thousandths is told although nobody sees the lean yet
        if (said !== 'upright') expect(said).toBe(found ? 'slip' : 'meant')
      }),
      { numRuns: 60 },
    ) // prettier-ignore
  })
  it.each([
    [83, 'room', 'meant'],
    [-5, 'room', 'slip'],
    [-5, 'product', 'meant'],
    [0.4, 'product', 'slip'],
    [0, 'room', 'upright'],
  ] as const)('a tilt of %d degrees in a %s is %s', (tiltDeg, kind, want) => {
    const setup = setupOf({ tiltDeg })
    expect(verticalsOf({ pose: poseOfStand(setup.stand), lens: setup.lens, frame: setup.frame }, kind)).toBe(want)
  })
})

const EACH: readonly [FindingId, Shot, (f: Finding) => void][] = [
  [
    'leaning-verticals',
    { tiltDeg: -5 },
    (f) => {
      // the worse of the two edges, as core/framing measures it
      const c = convergence({
        pose: { ...poseOfStand(setupOf({ tiltDeg: -5 }).stand) },
        lens: lensOf({ focalMm: 28 }),
        frame: frameOf(1200, 800),
      })
      expect(f.value).toBeCloseTo(Math.abs(c.leanLeftDeg!), 9)
      expect(f.message).toContain('px')
    },
  ],
  ['almost-level', { tiltDeg: 0.4 }, (f) => expect(f.value).toBeCloseTo(0.4, 9)],
  ['almost-level', { rollDeg: -0.8, subject: null }, (f) => expect(f.value).toBeCloseTo(0.8, 9)],
  ['almost-square', { bearingDeg: 1.4, subject: null }, (f) => expect(f.value).toBeCloseTo(1.4, 6)],
  ['inside-object', { station: [3, -0.15, 1.58], subject: null }, (f) => expect(f.value).toBeCloseTo(0.15, 6)],
  ['eye-height', { station: [3, 0.4, 2.4] }, (f) => expect([f.value, f.limit]).toEqual([expect.closeTo(2.4, 6), 1.75])],
  [
    'eye-height',
    { station: [3, 0.4, 0.6], subject: null },
    (f) => expect([f.value, f.limit]).toEqual([expect.closeTo(0.6, 6), 1.1]),
  ],
  ['nothing-in-view', { station: [3, -4, 1.58], bearingDeg: 180, subject: null }, (f) => expect(f.value).toBe(0)],
  ['subject-hidden', { hidden: [] }, (f) => {
    expect(f.value).toBeGreaterThan(5)
    expect(f.message).toContain('Screen')
  }], // prettier-ignore
  ['edge-on-face', { station: [3, 0.4, 0.92], kind: 'product' }, (f) => {
    // 2 cm over the counter, whose far row of samples is 3.44 m away
    expect(f.value).toBeLessThan(0.5)
    expect(f.value).toBeGreaterThan(0.2)
    expect(f.message).toContain('Counter')
  }], // prettier-ignore
  ['almost-centred', { lens: { crossMm: 0.5 } }, (f) => expect(f.value).toBeCloseTo((100 * 0.5) / 36, 6)],
]

describe('each finding on a picture that has exactly it', () => {
  it.each(EACH)('%s', (id, shot, judge) => {
    const found = check(shot)
    expect(ids(found)).toEqual([id])
    judge(found[0]!)
    expect(found[0]!.reason.length).toBeGreaterThan(20)
  })
  it.each(EACH.filter(([id]) => id !== 'nothing-in-view'))('%s: its mend leaves nothing to say', (_id, shot) => {
    const [f] = check(shot)
    expect(ids(check(shot, mended(shot, f!)))).toEqual([])
  })
  it('nothing in view: the mend brings the model into the picture', () => {
    const shot: Shot = { station: [3, -4, 1.58], bearingDeg: 180, subject: null }
    const [f] = check(shot)
    expect(ids(check(shot, mended(shot, f!)))).not.toContain('nothing-in-view')
  })
})

describe('mends keep the subject where it is', () => {
  const vase: Vec3 = [3, 2, 0.95]
  const at = (s: CheckSetup) => projectPoint({ pose: poseOfStand(s.stand), lens: s.lens, frame: s.frame }, vase)!
  it('levelling and squaring up keep the picture’s centre', () => {
    for (const shot of [{ tiltDeg: -5 }, { bearingDeg: 1.4 }]) {
      const [f] = check(shot)
      const before = setupOf(shot)
      const after = mended(shot, f!)
      const a = at(before)
      const b = at(after)
      // near the centre things hardly move; exactly there not at all (proved beside core/framing)
      expect(Math.hypot(a.xPx - b.xPx, a.yPx - b.yPx)).toBeLessThan(12)
    }
  })
  it('raising the eye keeps the subject aimed at in its place', () => {
    const shot: Shot = {
      station: [3, 0.4, 0.92],
      kind: 'product',
      aim: { kind: 'point', point: [3, 2, 0.92], topBearingDeg: 0 },
    }
    const [f] = check(shot)
    const p: Vec3 = [3, 2, 0.92]
    const place = (s: CheckSetup) => projectPoint({ pose: poseOfStand(s.stand), lens: s.lens, frame: s.frame }, p)!.yPx
    expect(place(mended(shot, f!))).toBeCloseTo(place(setupOf(shot)), 6)
  })
  it('an object stays the aim as long as the sight line meets it', () => {
    const aim: Aim = { kind: 'object', nodeId: 'Room/Vase', offset: [0, 0, 0], topBearingDeg: 0 }
    const shot: Shot = { station: [3, 0.4, 2.4], aim }
    const found = check(shot)
    const eye = found.find((f) => f.id === 'eye-height')!
    expect(eye.mend!.stand!.aim.kind).toBe('object')
  })
})

describe('circumstances', () => {
  it('with the near cut on, standing in the wall is on purpose', () => {
    expect(ids(check({ station: [3, -0.15, 1.58], near: 0.2, subject: null }))).not.toContain('inside-object')
  })
  it('exactly edge-on is a clean line and is not told', () => {
    expect(ids(check({ station: [3, 0.4, 0.9], kind: 'product' }))).not.toContain('edge-on-face')
  })
  it('everything hidden is told, without a mend', () => {
    const found = check({ hidden: ['Room'], subject: null })
    expect(ids(found)).toEqual(['nothing-in-view'])
    expect(found[0]!.mend).toBeUndefined()
  })
  it('a parallel picture with a little roll is told, and rolled back', () => {
    const shot: Shot = { rollDeg: 0.7, lens: { projection: { kind: 'parallel', widthM: 5 } }, subject: null }
    const found = check(shot)
    expect(ids(found)).toEqual(['almost-level', 'edge-on-level'])
    expect(found[0]!.mend!.stand!.rollDeg).toBe(0)
  })
  it('weightier findings come first', () => {
    const found = check({ station: [3, -0.15, 2.4], tiltDeg: 0.5, subject: null })
    expect(found[0]!.severity).toBe('problem')
  })
})

describe('cuts', () => {
  const base = { id: 'a', name: 'A', on: true, reversed: false }
  const level = (heightM: number, more = {}): Cut => ({ ...base, kind: 'level', heightM, ...more })
  const withCuts = (list: Cut[], shot: Shot = {}): Finding[] => {
    const setup = setupOf(shot)
    return check(shot, { ...setup, shown: { ...setup.shown, cuts: { ...setup.shown.cuts, list } } })
  }
  const ids = (found: Finding[]): string[] => found.map((f) => f.id)
  it('a plan at 1.20 m has nothing to be said about it', () => {
    expect(ids(withCuts([level(1.2)])).filter((i) => /cut|far-in|plan/.test(i))).toEqual([])
  })
  it('beside the model, or through air alone: told, and switched off', () => {
    const [beside] = withCuts([level(7)]).filter((f) => f.id === 'cut-misses')
    expect(beside!.message).toMatch(/4\.00 m beside the model/)
    expect(beside!.mend!.cut).toMatchObject({ id: 'a', on: false })
    const hole: Cut = { ...base, kind: 'box', centre: [3, 1, 1.5], sizeM: [0.2, 0.2, 0.2], turnDeg: 0 }
    expect(withCuts([hole]).find((f) => f.id === 'cut-misses')!.message).toMatch(/nothing but air/)
  })
  it('grazing a face within a millimetre is told with the distance, and moved off', () => {
    // the counter's top lies at 0.90
    const found = withCuts([level(0.9004)]).find((f) => f.id === 'cut-grazes')!
    expect(found.value).toBeCloseTo(0.0004, 6)
    expect(found.mend!.cut).toMatchObject({ heightM: expect.closeTo(0.8904, 6) })
    expect(withCuts([level(0.92)]).some((f) => f.id === 'cut-grazes')).toBe(false)
    expect(withCuts([level(0.9004, { locked: true })]).find((f) => f.id === 'cut-grazes')!.mend).toBeUndefined()
  })
  it('a far cut inside the model when sectioning; none without a section', () => {
    expect(withCuts([level(1.2)], { far: 3 }).find((f) => f.id === 'far-inside')!.value).toBeGreaterThan(0.2)
    expect(ids(withCuts([], { far: 3 }))).not.toContain('far-inside')
  })
  it('a subject taken away by the near cut, or by another', () => {
    const near = withCuts([], { near: 3.4, subject: 'Room/Vase' }).find((f) => f.id === 'subject-cut')
    expect(near?.message).toMatch(/near cut takes “Vase” away/)
    const other = withCuts([level(0.5)], { subject: 'Room/Vase' }).find((f) => f.id === 'subject-cut')
    expect(other?.mend?.cut).toMatchObject({ on: false })
  })
  it('a plan in perspective: parallel is offered, as large at the cut', () => {
    const found = withCuts([level(1.2)], { station: [3, 2, 9], tiltDeg: -90 }).find((f) => f.id === 'plan-converges')!
    const lens = found.mend!.lens!
    expect(lens.projection.kind).toBe('parallel')
    // 36 mm of sensor behind 28 mm of lens, from 9 m to what is looked at
    expect((lens.projection as { widthM: number }).widthM).toBeLessThan((36 / 28) * 9)
    expect((lens.projection as { widthM: number }).widthM).toBeGreaterThan((36 / 28) * 7.7)
  })
})

describe('cuts', () => {
  // a table's top seen within a degree of edge-on
  const flat: Shot = { station: [3, 0.4, 0.77], subject: null }
  it('a face that the near cut takes away is not told as seen edge-on', () => {
    const told = (shot: Shot): boolean => ids(check(shot)).includes('edge-on-face')
    expect(told(flat)).toBe(true)
    expect(told({ ...flat, near: 3.4 })).toBe(false)
  })
  it('a picture emptied by the far cut, or the near one, says so and switches them off', () => {
    for (const cut of [{ far: 0.05 }, { near: 60 }]) {
      const shot: Shot = { ...GOOD, ...cut, subject: null }
      const found = check(shot).find((f) => f.id === 'nothing-in-view')!
      expect(found.reason).toMatch(
        'far' in cut ? /^The far cut lies at 0\.05 m, the nearest thing at \d/ : /^The near cut at 60\.00 m/,
      )
      expect(found.mend!.label).toBe('Switch the cuts off')
      expect(ids(check(shot, mended(shot, found)))).not.toContain('nothing-in-view')
    }
  })
})

describe('the focus', () => {
  const focused = (focus: Partial<FocusLook>, shot: Shot = {}): Finding[] =>
    check(shot, { ...setupOf(shot), lensFocus: { distanceM: 3, fNumber: 2, cocMm: 0.03, trouble: null, ...focus } })
  const of = (found: Finding[], id: FindingId): Finding | undefined => found.find((f) => f.id === id)

  it('that is nowhere is a problem; a camera without an aim is offered all sharp', () => {
    for (const trouble of ['gone', 'behind', 'nothing'] as const)
      expect(of(focused({ trouble }), 'focus-lost')).toMatchObject({ severity: 'problem', mend: { focus: 'off' } })
    expect(of(focused({}), 'focus-lost')).toBeUndefined()
  })
  it('of a wide lens stopped down blurs nothing here, and says how little', () => {
    const found = of(focused({ fNumber: 64, distanceM: 2 }), 'no-blur')!
    expect(found.value).toBeLessThan(2)
    expect(found.message).toMatch(/f\/64 blurs [\d.]+ px/)
    expect(of(focused({ fNumber: 1.2, distanceM: 0.5 }), 'no-blur')).toBeUndefined()
  })
  it('far off the subject leaves it soft; on it nothing is said', () => {
    const depth = Math.hypot(...[0, 1].map((k) => room.node('Room/Vase')!.box.min[k]! - setupOf({}).stand.station[k]!))
    expect(of(focused({ fNumber: 1.4, distanceM: 0.3 }), 'subject-soft')).toMatchObject({ mend: { focus: { nodeId: 'Room/Vase' } } }) // prettier-ignore
    expect(of(focused({ fNumber: 16, distanceM: depth }), 'subject-soft')).toBeUndefined()
    // so it is of what is followed with an offset
    const followed = { fNumber: 1.4, distanceM: 0.3, objectId: 'Room/Vase' }
    expect(of(focused(followed), 'focused-soft')).toBeUndefined()
    expect(of(focused(followed, { subject: null }), 'focused-soft')!.message).toMatch(/^“Vase” is blurred by [\d.]+ px/)
    expect(of(focused({ ...followed, fNumber: 16, distanceM: depth }, { subject: null }), 'focused-soft')).toBeUndefined() // prettier-ignore
  })
  it('past the hyperfocal distance is told, with what is lost', () => {
    const found = of(focused({ fNumber: 16, distanceM: 40 }), 'past-hyperfocal')!
    expect(found.limit).toBeLessThan(40)
    expect(found.mend).toMatchObject({ focus: { distanceM: found.limit } })
    expect(of(focused({ fNumber: 16, distanceM: found.limit }), 'past-hyperfocal')).toBeUndefined()
  })
})

it('a picture that is white or black over much of it is told, with a mend of two thirds of a stop', () => {
  expect(clippedFindings({ bright: 0.05, dark: 0.05 })).toEqual([])
  const [white] = clippedFindings({ bright: 0.3, dark: 0 })
  expect(white).toMatchObject({ id: 'clipped', value: 30, message: '30 % of the picture is clipped to white.' })
  expect(white!.mend!.brighterEv).toBeLessThan(0)
  expect(clippedFindings({ bright: 0, dark: 0.5 })[0]!.mend!.brighterEv).toBeGreaterThan(0)
})
