import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { KEY_CURVES, reelOf, type ModelClip, type ShotKeys } from '#core/reel'
import { distance, UNMOVED, type Vec3 } from '#core/math'
import { aimAt, applyCommand, newModel, newProject, projectSchema, type Command, type ProjectDocument, type ShotPart } from './index.ts' // prettier-ignore
import {
  cutsOf,
  layersAt,
  newTurntable,
  newWalk,
  openTakes,
  reelOfViewpoints,
  splitAt,
  stretched,
  type SetupReading,
} from './reel/index.ts'

const reading: SetupReading = { centreOf: () => null, focusM: (s) => (s.focus.on ? 3 : null) }
const run = (doc: ProjectDocument, c: Command): ProjectDocument => {
  const r = applyCommand(doc, c)
  if (!r.ok) throw new Error(r.message)
  return r.value.document
}
const refusal = (doc: ProjectDocument, c: Command): string => {
  const r = applyCommand(doc, c)
  return r.ok ? 'done' : r.reason
}
let ids = 0
const newId = (): string => `n${ids++}`
/** Three viewpoints of a room. */
function room(): ProjectDocument {
  let doc = newProject({ name: 'P', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 5, 1.6]), models: [newModel({ id: 'm', name: 'a.glb', sha256: 'cd'.repeat(32), sizeBytes: 1 })] }) // prettier-ignore
  for (const [i, at] of (
    [
      [0, 0, 1.6],
      [3, 4, 1.6],
      [8, 4, 1.5],
    ] as const
  ).entries()) {
    doc = run(doc, { type: 'moveCamera', changes: { stand: aimAt(at, [at[0] + 2, at[1] + 2, 1.4]) }, label: 'Moved' })
    doc = run(doc, { type: 'keepAsNew', id: `v${i}`, name: `View ${i}`, parts: ['stand', 'lens'] })
  }
  return doc // prettier-ignore
}

describe('a reel of all viewpoints', () => {
  it('holds each, or pushes from one to the next; both are one edit that the schema takes and undo forgets', () => {
    const doc = room()
    for (const style of ['hold', 'push'] as const) {
      const made = reelOfViewpoints(doc.viewpoints, { name: 'Tour', style, newId, reading })!
      const next = run(doc, { type: 'putReels', shots: made.shots, reels: [made.reel] })
      expect(projectSchema.safeParse(next).success).toBe(true)
      const { cuts, faults } = cutsOf(next, made.reel, reading)
      expect(faults).toEqual([])
      const film = reelOf(cuts)
      expect(film.faults).toEqual([])
      expect(film.durationS).toBeGreaterThan(8.9)
      // it begins and ends at the first and the last viewpoint
      expect(film.at(0)[0]!.take.pose.station).toEqual([0, 0, 1.6])
      const end = film.at(film.durationS)[0]!.take.pose.station
      expect(distance(end, [8, 4, 1.5])).toBeLessThan(0.2)
      // from one push into the next rest nothing jumps
      if (style === 'push') for (let t = 0.02; t < film.durationS; t += 0.02) expect(distance(film.at(t)[0]!.take.pose.station, film.at(t - 0.02)[0]!.take.pose.station)).toBeLessThan(0.05) // prettier-ignore
    }
  })
  it('is none without viewpoints that a camera can stand at', () => {
    expect(reelOfViewpoints([], { name: 'Tour', style: 'hold', newId, reading })).toBeNull()
  })
})

describe('a walk and a turntable', () => {
  it('pass the viewpoints, and begin as the viewpoint is framed', () => {
    const doc = room()
    const walk = newWalk(doc.viewpoints, { name: 'Walk', newId, reading })!
    const table = newTurntable(doc.viewpoints[1]!, [5, 6, 1.4], newId())
    const reel = { id: 'r', name: 'R', rate: '24', cuts: [walk, table].map((s) => ({ id: newId(), shotId: s.id, dissolveS: 0 })) } as const // prettier-ignore
    const next = run(doc, { type: 'putReels', shots: [walk, table], reels: [reel] })
    const film = reelOf(cutsOf(next, reel, reading).cuts)
    expect(film.faults).toEqual([])
    expect(distance(film.at(0)[0]!.take.pose.station, [0, 0, 1.6])).toBeLessThan(1e-9)
    const start = film.cuts[1]!.startS
    expect(distance(film.at(start)[0]!.take.pose.station, [3, 4, 1.6])).toBeLessThan(1e-9)
    expect(film.at(start)[0]!.take.pose.bearingDeg).toBeCloseTo(45, 9)
  })
  it('a walk needs two places', () => {
    expect(newWalk(room().viewpoints.slice(0, 1), { name: 'Walk', newId, reading })).toBeNull()
  })
})

describe('shots and reels as edits', () => {
  const hold = (id: string, viewpointId = 'v0'): ShotPart => ({ id, name: id, kind: 'hold', viewpointId, durationS: 2, creep: 0 }) // prettier-ignore
  const withTwo = (): ProjectDocument =>
    run(room(), {
      ...{ type: 'putReels', shots: [hold('a'), hold('b')] },
      reels: [
        { id: 'r', name: 'R', rate: '25', cuts: [{ id: 'c1', shotId: 'a', dissolveS: 0 }, { id: 'c2', shotId: 'b', dissolveS: 1 }] },
        { id: 's', name: 'S', rate: '25', cuts: [{ id: 'c3', shotId: 'b', dissolveS: 0 }] },
      ],
    }) // prettier-ignore
  it('a shot is taken out with its cuts, a reel with the shots that no other shows', () => {
    expect(run(withTwo(), { type: 'removeShot', shotId: 'b' }).reels!.map((r) => r.cuts.length)).toEqual([1, 0])
    const left = run(withTwo(), { type: 'removeReel', reelId: 'r' })
    expect(left.shots!.map((s) => s.id)).toEqual(['b'])
    expect(refusal(left, { type: 'removeReel', reelId: 'r' })).toBe('unknown-reel')
    expect(refusal(left, { type: 'removeShot', shotId: 'a' })).toBe('unknown-shot')
  })
  it('a viewpoint that is gone is named, the rest plays on', () => {
    const gone = run(withTwo(), { type: 'putReels', shots: [hold('b', 'v1')] })
    const doc = run(gone, { type: 'deleteViewpoint', viewpointId: 'v1' })
    const { cuts, faults } = cutsOf(doc, doc.reels![0]!, reading)
    expect(cuts).toHaveLength(1)
    expect(faults).toEqual([{ cut: 1, message: '“b” needs a viewpoint that is no longer there.' }])
  })
  it('a walk whose viewpoint is gone is filmed as the frame is, which is told', () => {
    const stops = [0, 4].map((x) => ({ id: `s${x}`, station: [x, 0, 1.6] as const, holdS: 0, look: null, speedMps: 1 }))
    const walk = { id: 'b', name: 'b', kind: 'travel', viewpointId: 'v1', isClosed: false, gaze: { kind: 'along', aheadM: 1, tiltDeg: 0 }, stops } as never // prettier-ignore
    const doc = run(run(withTwo(), { type: 'putReels', shots: [walk] }), { type: 'deleteViewpoint', viewpointId: 'v1' })
    const { cuts, setups, faults } = cutsOf(doc, doc.reels![0]!, reading)
    expect(cuts).toHaveLength(2)
    expect(faults).toEqual([{ cut: 1, message: '“b” is seen as the frame is: its viewpoint is no longer there.' }])
    expect(setups[1]).toEqual(doc.working)
    expect(cuts[1]!.shot).toMatchObject({ kind: 'travel', view: { lens: doc.working.lens } })
  })
  it('a dissolve shows what goes and what comes, with weights that add up to 1; a fade of a push the same', () => {
    const push = { id: 'p', name: 'p', kind: 'push', fromId: 'v0', toId: 'v1', durationS: 10, ease: 'soft', holdsSize: false, fadeS: 4 } as const // prettier-ignore
    const doc = run(withTwo(), { type: 'putReels', shots: [push], reels: [{ id: 'q', name: 'Q', rate: '25', cuts: [{ id: 'x', shotId: 'a', dissolveS: 2 }, { id: 'y', shotId: 'p', dissolveS: 0 }] }] }) // prettier-ignore
    const cuts = cutsOf(
      doc,
      doc.reels!.find((r) => r.id === 'q')!,
      reading,
    )
    const reel = reelOf(cuts.cuts)
    const told = (t: number) => layersAt(cuts, reel, t).map((l) => [l.cut, Number(l.weight.toFixed(6))])
    const meet = reel.cuts[1]!.startS
    expect(told(meet - 0.01)).toEqual([[0, 1]])
    expect(told(meet + 0.5)).toEqual([[0, 0.75], [1, 0.25]]) // prettier-ignore
    expect(told(meet + 1.5)).toEqual([[0, 0.25], [1, 0.75]]) // prettier-ignore
    expect(told(meet + 2.5)).toEqual([[1, 1]])
    expect(told(meet + 4)).toEqual([[1, 0.75], [1, 0.25]]) // prettier-ignore
    expect(told(meet + 8)).toEqual([[1, 1]])
    for (let t = 0; t <= reel.durationS; t += 0.1) expect(layersAt(cuts, reel, t).reduce((s, l) => s + l.weight, 0)).toBeCloseTo(1, 9) // prettier-ignore
  })
  it('while the shutter is open a movement is seen in parts of its time, the middle first; what stands is sharp', () => {
    const pan = { ...hold('t', 'v0'), durationS: 10, creep: 0, keys: { panDeg: [{ at: 0, value: 0 }, { at: 1, value: 90 }] } } as ShotPart // prettier-ignore
    const still = { ...hold('s', 'v0'), durationS: 10, creep: 0 } as ShotPart
    const doc = run(withTwo(), { type: 'putReels', shots: [pan, still], reels: [{ id: 'q', name: 'Q', rate: '25', shutterDeg: 180, cuts: [{ id: 'x', shotId: 't', dissolveS: 0 }, { id: 'y', shotId: 's', dissolveS: 0 }] }] }) // prettier-ignore
    const cuts = cutsOf(
      doc,
      doc.reels!.find((r) => r.id === 'q')!,
      reading,
    )
    const reel = reelOf(cuts.cuts)
    const at = (timeS: number, openS: number) => openTakes(reel, cuts, layersAt(cuts, reel, timeS)[0]!, { timeS, openS, n: 16 }) // prettier-ignore
    const open = at(5, 0.02)!
    const bearings = open.map((t) => t.pose.bearingDeg)
    expect(bearings[0]).toBeCloseTo(layersAt(cuts, reel, 5)[0]!.take.pose.bearingDeg, 9)
    // cubic between two keys: 1.5 times the mean rate in the middle, so 13.5 degrees a second for 0.02 s
    const [least, most] = [Math.min(...bearings), Math.max(...bearings)]
    expect(most - least).toBeGreaterThan(13.5 * 0.02 * 0.85)
    expect(most - least).toBeLessThan(13.5 * 0.02)
    expect(bearings.reduce((s, b) => s + b, 0) / 16).toBeCloseTo(bearings[0]!, 1)
    expect(at(15, 0.02)).toBeNull()
    expect(at(5, 0)).toBeNull()
    expect(projectSchema.safeParse({ ...doc, reels: doc.reels!.map((r) => ({ ...r, shutterDeg: 361 })) }).success).toBe(false) // prettier-ignore
  })
  it('what could not be saved is refused', () => {
    const doc = withTwo()
    expect(refusal(doc, { type: 'putReels', shots: [{ ...hold('a'), durationS: 0 } as ShotPart] })).toBe('out-of-range')
    expect(refusal(doc, { type: 'putReels', shots: [{ ...hold('a'), name: ' ' }] })).toBe('empty-name')
    expect(refusal(doc, { type: 'putReels', reels: [{ id: 't', name: 'T', rate: '25', cuts: [{ id: 'x', shotId: 'nobody', dissolveS: 0 }] }] })).toBe('out-of-range') // prettier-ignore
  })
  it('whatever is put, the schema takes, and it is filmed or refused in words (random journeys)', () => {
    const viewpoint = fc.constantFrom('v0', 'v1', 'v2')
    const time = fc.double({ min: 0.04, max: 60, noNaN: true })
    const at = fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.constant(1.6)) as fc.Arbitrary<Vec3> // prettier-ignore
    const stop = fc.record({ id: fc.uuid(), station: at, holdS: fc.constantFrom(0, 2), look: fc.constantFrom(null, { bearingDeg: 20, tiltDeg: 1 }), speedMps: fc.double({ min: 0.05, max: 4, noNaN: true }), via: fc.array(at, { maxLength: 2 }), tangentM: fc.option(at, { nil: undefined }) }) // prettier-ignore
    const share = fc.double({ min: 0, max: 1, noNaN: true })
    const curve = (least: number, most: number) => fc.array(fc.record({ at: share, value: fc.double({ min: least, max: most, noNaN: true }) }), { maxLength: 4 }).map((k) => k.sort((a, b) => a.at - b.at)) // prettier-ignore
    const keys = fc.record(Object.fromEntries(Object.entries(KEY_CURVES).map(([name, { least, most }]) => [name, fc.option(curve(Math.max(least, -90), Math.min(most, 90)), { nil: undefined })])), { requiredKeys: [] }) as fc.Arbitrary<ShotKeys> // prettier-ignore
    const aim = fc.uniqueArray(fc.record({ at: share, point: at }), { maxLength: 3, selector: (k) => k.at }).map((k) => k.sort((a, b) => a.at - b.at)) // prettier-ignore
    const motion = fc.tuple(fc.uuid(), fc.constantFrom('open', 'nobody'), fc.boolean(), share, share).map(([id, stateId, opens, p, q]) => ({ id, stateId, opens, fromShare: Math.min(p, q), toShare: Math.max(p, q) })) // prettier-ignore
    const of = {
      id: fc.constantFrom('a', 'b', 'c'),
      name: fc.constant('Shot'),
      keys,
      aim,
      motions: fc.array(motion, { maxLength: 2 }),
    }
    const shot: fc.Arbitrary<ShotPart> = fc.oneof(
      fc.record({ ...of, kind: fc.constant('hold' as const), viewpointId: viewpoint, durationS: time, creep: fc.double({ min: -0.5, max: 0.5, noNaN: true }) }),
      fc.record({ ...of, kind: fc.constant('push' as const), fromId: viewpoint, toId: viewpoint, durationS: time, ease: fc.constantFrom('soft' as const, 'even' as const), holdsSize: fc.boolean(), changes: fc.constantFrom('start' as const, 'middle' as const, 'end' as const), fadeS: fc.constantFrom(0, 0.5, 90) }),
      fc.record({ ...of, kind: fc.constant('travel' as const), viewpointId: viewpoint, isClosed: fc.boolean(), isReversed: fc.boolean(), startShare: share, cornerM: fc.constantFrom(0, 0.5, 3), gaze: fc.constantFrom({ kind: 'object' as const, objectId: 'gone' }, { kind: 'along' as const, aheadM: 1.5, tiltDeg: 0 }, { kind: 'stops' as const }, { kind: 'point' as const, point: [1, 1, 1] as Vec3 }), stops: fc.array(stop, { maxLength: 6 }) }),
      fc.record({ ...of, kind: fc.constant('turntable' as const), viewpointId: viewpoint, pivot: at, turns: fc.double({ min: 0.1, max: 5, noNaN: true }), direction: fc.constantFrom(1 as const, -1 as const), durationS: time, pace: fc.constantFrom('loop' as const, 'soft' as const, 'swing' as const), distance: fc.constant([]), focal: fc.constant([{ at: 0, value: 1 }, { at: 1, value: 2 }]), heightM: fc.constant([]) }),
    ) // prettier-ignore
    const play = fc.record({ id: fc.uuid(), modelKey: fc.constantFrom('m', 'gone'), clip: fc.constantFrom('Open', 'Shut'), fromS: time, speed: fc.double({ min: 0.01, max: 100, noNaN: true }), repeat: fc.constantFrom('once' as const, 'again' as const, 'back' as const) }) // prettier-ignore
    const clip: ModelClip = { modelKey: 'm', name: 'Open', durationS: 1, nodes: [{ objectId: 'm/Lid', above: UNMOVED, rest: { translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }, tracks: [{ path: 'rotation', steps: 'LINEAR', timesS: Float32Array.from([0, 1]), values: Float32Array.from([0, 0, 0, 1, 1, 0, 0, 0]) }] }] } // prettier-ignore
    const withClips: SetupReading = {
      ...reading,
      clipOf: (key, name) => (key === 'm' && name === 'Open' ? clip : null),
    }
    fc.assert(
      fc.property(fc.array(shot, { minLength: 1, maxLength: 6 }), fc.array(play, { maxLength: 3 }), (list, plays) => {
        const state = {
          id: 'open',
          name: 'open',
          objectId: 'm/Door',
          moveM: [0, 1, 0] as Vec3,
          turnDeg: 90,
          hinge: [0, 0, 0] as Vec3,
        }
        const doc = list.reduce((d, s) => run(d, { type: 'putReels', shots: [s] }), run(withTwo(), { type: 'putObjectState', state })) // prettier-ignore
        expect(projectSchema.safeParse(doc).success).toBe(true)
        const reel = { id: 'all', name: 'All', rate: '25', cuts: doc.shots!.map((s) => ({ id: s.id, shotId: s.id, dissolveS: 0.5 })), plays } as const // prettier-ignore
        const found = cutsOf(run(doc, { type: 'putReels', reels: [reel] }), reel, withClips)
        expect(found.plays).toHaveLength(plays.filter((p) => p.modelKey === 'm' && p.clip === 'Open').length)
        const film = reelOf(found.cuts, found.plays)
        // split anywhere and made to last, it is still sound
        const cuts = splitAt(reel, film, reel.cuts.map((_, i) => i), film.durationS * 0.37, newId) // prettier-ignore
        const longer = doc.shots!.map((s) => stretched(s, 1.7))
        expect(projectSchema.safeParse(run(doc, { type: 'putReels', shots: longer, reels: [{ ...reel, cuts: [...cuts] }] })).success).toBe(true) // prettier-ignore
        for (const f of film.faults) expect(f.message.length).toBeGreaterThan(10)
        for (let i = 0; i <= 20; i++)
          for (const { take, weight } of film.at((i / 20) * film.durationS)) {
            const { station, bearingDeg, tiltDeg } = take.pose
            expect([...station, bearingDeg, tiltDeg, take.lens.focalMm, take.ev, weight].every(Number.isFinite)).toBe(true) // prettier-ignore
          }
      }),
      { numRuns: 60 },
    )
  })
})
