// Whatever commands and gestures do, the document can be saved, and what is sent of it makes the same document at the other end.
import fc from 'fast-check'
import { applyPatch as judge } from 'rfc6902'
import { describe, expect, it } from 'vitest'
import {
  aimAt,
  applyCommand,
  applyPatch,
  EDIT_PARTS,
  EMPTY_HISTORY,
  fingerprint,
  LIST_LIMITS,
  limitedCamera,
  newModel,
  newProject,
  packed,
  PARTS,
  patchBetween,
  patchFault,
  projectSchema,
  readProjectDocument,
  redo,
  remembered,
  undo,
  type Command,
  type CommandReason,
  type History,
  type ProjectDocument,
} from './index.ts'

const model = newModel({ id: 'm', name: 'hall.glb', sha256: 'a'.repeat(64), sizeBytes: 1 })
const fresh = (): ProjectDocument =>
  newProject({ name: 'Hall', subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [model] })
const stamp = (n: number) => ({ id: `left-${n}`, at: '2026-01-01T00:00:00Z' })

/** Numbers as gestures and pasted texts bring them, some of them out of this world. */
const wild = fc.oneof(
  { weight: 6, arbitrary: fc.double({ min: -50, max: 50, noNaN: true }) },
  { weight: 1, arbitrary: fc.constantFrom(2_600_000, 1_200_000, -4e7, 1e12, 1e300, -1e300) },
)
const point = fc.tuple(wild, wild, wild)
const text = fc.oneof(fc.string({ maxLength: 12 }), fc.constantFrom('x'.repeat(190), 'y'.repeat(199), 'z'.repeat(400)))

/** One thing that a person may do; `n` makes its ids new. */
type Deed = (doc: ProjectDocument, n: number) => Command
const pickId = (doc: ProjectDocument, k: number): string =>
  doc.viewpoints[k % Math.max(1, doc.viewpoints.length)]?.id ?? 'none'
const deed: fc.Arbitrary<Deed> = fc.oneof(
  // a drag, a paste: limited where it arises, as the store does
  fc.tuple(point, point, wild).map(([a, b, rollDeg]): Deed => () => ({ type: 'moveCamera', label: 'Moved', changes: limitedCamera({ stand: { ...aimAt(a, b), rollDeg } }) })),
  // 110 notches of the wheel
  fc.tuple(wild, wild).map(([by, rise]): Deed => (d) => ({
    type: 'moveCamera',
    label: 'Lens',
    changes: limitedCamera({ lens: { ...d.working.lens, projection: { kind: 'parallel', widthM: Math.abs(by) * 1.2 ** 110 }, focalMm: Math.abs(by), riseMm: rise } }),
  })),
  fc.subarray([...PARTS], { minLength: 1 }).chain((parts) => text.map((name): Deed => (_, n) => ({ type: 'keepAsNew', id: `v${n}`, name, parts }))),
  fc.subarray([...PARTS]).map((parts): Deed => () => ({ type: 'keepChanged', parts })),
  fc.tuple(fc.nat(20), fc.option(fc.subarray([...PARTS], { minLength: 1 }), { nil: undefined })).map(([k, only]): Deed => (d, n) => ({ type: 'recall', viewpointId: pickId(d, k), stamp: stamp(n), ...(only ? { only } : {}) })),
  fc.subarray([...PARTS]).map((parts): Deed => () => ({ type: 'putBack', parts })),
  fc.tuple(fc.nat(20), text).map(([k, name]): Deed => (d) => ({ type: 'renameViewpoint', viewpointId: pickId(d, k), name })),
  fc.nat(20).map((k): Deed => (d) => ({ type: 'deleteViewpoint', viewpointId: pickId(d, k) })),
  fc.nat(20).map((k): Deed => (d, n) => ({ type: 'duplicateViewpoint', viewpointId: pickId(d, k), id: `v${n}` })),
  fc.nat().map((k): Deed => (d) => ({ type: 'orderViewpoints', ids: [...d.viewpoints].sort((a, b) => fingerprint(a.id + k) < fingerprint(b.id + k) ? -1 : 1).map((v) => v.id) })),
  fc.nat(300).map((at): Deed => () => ({ type: 'trailTo', at })),
  fc.nat(5).map((k): Deed => (d, n) => ({ type: 'takeBack', leftBehindId: d.leftBehind[k]?.id ?? 'none', stamp: stamp(n) })),
  fc.nat(5).map((k): Deed => (d) => ({ type: 'dropLeftBehind', leftBehindId: d.leftBehind[k]?.id ?? 'none' })),
  fc.tuple(fc.constantFrom(...PARTS), fc.boolean()).map(([part, locked]): Deed => () => ({ type: 'lockPart', part, locked })),
  fc.array(fc.string({ minLength: 1, maxLength: 8 }), { maxLength: 4 }).map((hidden): Deed => () => ({ type: 'setPart', part: 'visible', value: { hidden } })),
  fc.tuple(wild, wild).map(([near, far]): Deed => (d) => ({ type: 'setPart', part: 'cut', value: { ...d.working.cut, near: { on: true, distanceM: near }, far: { on: false, distanceM: far } } })),
  wild.map((ev100): Deed => (d) => ({ type: 'setPart', part: 'exposure', value: { ...d.working.exposure, ev100 } })),
  fc.tuple(text, wild).map(([name, eyeHeightM]): Deed => () => ({ type: 'setProject', changes: { name, eyeHeightM } })),
  point.map((position): Deed => () => ({ type: 'placeModel', modelId: 'm', changes: { place: { position, turnDeg: 0, scale: 1 } } })),
  point.map((moveM): Deed => () => ({ type: 'moveObject', modelId: 'm', move: { path: 'Set/Table', moveM, turnDeg: 0 } })),
) // prettier-ignore

/** Refusals that are right: there is nothing to do, no such thing, a lock, a number or a name that cannot be. */
const MAY_REFUSE: ReadonlySet<CommandReason> = new Set([
  'nothing', 'unknown-viewpoint', 'unknown-framing', 'locked', 'empty-name', 'out-of-range',
]) // prettier-ignore

describe('whatever is done', () => {
  it(
    'the document is valid after every step, undone and redone too, and a patch makes it anew',
    { timeout: 60_000 },
    () => {
      let [taken, refused] = [0, 0]
      fc.assert(
        fc.property(
          fc.array(fc.tuple(deed, fc.constantFrom('do', 'do', 'do', 'do', 'undo', 'redo')), {
            minLength: 12,
            size: 'max',
            maxLength: 40,
          }),
          (deeds) => {
            let doc = fresh()
            let saved = doc
            let stored = packed(doc)
            let history: History = EMPTY_HISTORY
            deeds.forEach(([what, way], n) => {
              if (way === 'do') {
                const command = what(doc, n)
                const r = applyCommand(doc, command)
                if (r.ok) {
                  taken++
                  if (r.value.edit) history = remembered(history, doc, r.value.document)
                  doc = r.value.document
                } else {
                  refused++
                  expect([...MAY_REFUSE], `${command.type}: ${r.message}`).toContain(r.reason)
                  // moves are limited before they come: they are never refused for their numbers
                  if (command.type === 'moveCamera') expect(r.reason, r.message).not.toBe('out-of-range')
                  expect(r.message).toMatch(/^[^]*\.$/)
                }
              } else {
                const s = way === 'undo' ? undo(doc, history) : redo(doc, history)
                if (s) ({ document: doc, history } = s)
              }
              const sound = projectSchema.safeParse(doc)
              expect(sound.success, JSON.stringify(sound.error?.issues[0])).toBe(true)
              // what the page sends, the server applies to what it holds
              const now = packed(doc)
              const patch = JSON.parse(JSON.stringify(patchBetween(packed(saved), now))) as ReturnType<
                typeof patchBetween
              >
              const made = applyPatch(stored, patch)
              if (!made.ok) throw new Error(made.message)
              expect(fingerprint(made.value)).toBe(fingerprint(JSON.parse(JSON.stringify(now))))
              const read = readProjectDocument(made.value)
              expect(read.ok && fingerprint(read.value)).toBe(fingerprint(JSON.parse(JSON.stringify(doc))))
              saved = doc
              stored = made.value
            })
          },
        ),
        { numRuns: 150, seed: 9 },
      )
      expect(taken).toBeGreaterThan(800)
      expect(refused).toBeGreaterThan(100)
    },
  )
  it.each<[string, () => ReturnType<typeof applyCommand>]>([
    ['an eye height beyond reason', () => applyCommand(fresh(), { type: 'setProject', changes: { eyeHeightM: 1e9 } })],
    ['a number that is none', () => applyCommand(fresh(), { type: 'moveCamera', label: 'x', changes: { stand: aimAt([NaN, 0, 0], [1, 1, 1]) } })],
    ['a name of a thousand letters', () => applyCommand(fresh(), { type: 'keepAsNew', id: 'v', name: 'x'.repeat(1000), parts: ['stand'] })],
    ['an odd part', () => applyCommand(fresh(), { type: 'setPart', part: 'look.style', value: { kind: 'x' } as never })],
  ])('%s is refused by name', (_what, work) => {
    const r = work()
    expect(r).toMatchObject({ ok: false, reason: 'out-of-range' })
    expect(r.ok ? '' : r.message).toMatch(/^\p{Lu}[^]*: [^]+\.$/u)
  }) // prettier-ignore
  it('a viewpoint with a long name is recalled; what is pasted in surveyed coordinates is valid', () => {
    const named = applyCommand(fresh(), { type: 'keepAsNew', id: 'v', name: 'n'.repeat(200), parts: ['stand'] })
    const r = named.ok
      ? applyCommand(named.value.document, { type: 'recall', viewpointId: 'v', stamp: stamp(0) })
      : named
    expect(r.ok && projectSchema.safeParse(r.value.document).success).toBe(true)
    const far = applyCommand(fresh(), { type: 'moveCamera', label: 'Pasted', changes: { stand: aimAt([2_600_000, 1_200_000, 400], [2_600_004, 1_200_000, 400]) } }) // prettier-ignore
    expect(far.ok && far.value.document.working.stand.station).toEqual([2_600_000, 1_200_000, 400])
  })
  it('lists that are full refuse one more by name', () => {
    const viewpoints = Array.from({ length: LIST_LIMITS.viewpoints }, (_, i) => ({
      id: `v${i}`,
      name: 'V',
      locked: false,
      parts: {},
    }))
    const r = applyCommand(
      { ...fresh(), viewpoints },
      { type: 'keepAsNew', id: 'one-more', name: 'V', parts: ['stand'] },
    )
    expect(r).toMatchObject({ ok: false, message: 'Viewpoint: there is room for 2000.' })
  })
})

describe('patches', () => {
  it('are small: a keep among 500 viewpoints, a step of a full trail, a viewpoint put in or moved', () => {
    const hidden = Array.from({ length: 2000 }, (_, i) => `hall/Furniture/Thing number ${i}`)
    const base = fresh()
    const viewpoints = Array.from({ length: 500 }, (_, i) => ({ id: `v${i}`, name: `View ${i}`, locked: false, parts: { stand: aimAt([i, 1, 1.6], [0, 0, 0]), visible: { hidden } } }))
    const steps = Array.from({ length: 200 }, (_, i) => ({ ...base.trail.steps[0]!, stand: aimAt([i, 0, 1], [5, 5, 1]) }))
    const doc: ProjectDocument = { ...base, working: { ...base.working, visible: { hidden } }, viewpoints, trail: { steps, at: 199 } }
    const size = (...commands: Command[]): number => {
      let next = doc
      for (const c of commands) {
        const r = applyCommand(next, c)
        if (!r.ok) throw new Error(r.message)
        next = r.value.document
      }
      const patch = patchBetween(packed(doc), packed(next))
      const made = applyPatch(packed(doc), JSON.parse(JSON.stringify(patch)) as typeof patch)
      expect(made.ok && fingerprint(made.value)).toBe(fingerprint(JSON.parse(JSON.stringify(packed(next)))))
      return JSON.stringify(patch).length
    }
    const move: Command = { type: 'moveCamera', label: 'Moved', changes: { stand: aimAt([3, 3, 1.6], [9, 9, 1]) } }
    // 500 viewpoints with 2,000 hidden names each: the names stand once
    expect(JSON.stringify(packed(doc)).length).toBeLessThan(400_000)
    expect(size({ type: 'recall', viewpointId: 'v250', stamp: stamp(1) }, move, { type: 'keepChanged', parts: ['stand'] })).toBeLessThan(10_000)
    expect(size(move)).toBeLessThan(2500)
    expect(size({ type: 'duplicateViewpoint', viewpointId: 'v10', id: 'new' })).toBeLessThan(2000)
    expect(size({ type: 'orderViewpoints', ids: [...doc.viewpoints.slice(1), doc.viewpoints[0]!].map((v) => v.id) })).toBeLessThan(200_000)
  }) // prettier-ignore
  it('do what the library that judges them says (RFC 6902), and leave what they are made from as it was', () => {
    const json = fc.letrec((tie) => ({
      value: fc.oneof(
        { depthSize: 'small' },
        fc.constantFrom(null, true, 0, 1, 'a', 'b'),
        tie('list'),
        tie('object'),
        tie('named'),
      ),
      list: fc.array(tie('value'), { maxLength: 4 }),
      object: fc.dictionary(fc.constantFrom('a', 'b', 'c/d', '~'), tie('value'), { maxKeys: 3 }),
      named: fc.uniqueArray(fc.record({ id: fc.constantFrom('1', '2', '3', '4'), v: fc.nat(3) }), {
        selector: (x) => x.id,
      }),
    })).object
    fc.assert(
      fc.property(json, json, (a, b) => {
        const patch = patchBetween(a, b)
        const copy = structuredClone(a)
        expect(judge(copy, structuredClone(patch) as never).every((e) => e === null)).toBe(true)
        expect(copy).toEqual(b)
        const before = structuredClone(a)
        const made = applyPatch(a as object, patch)
        expect(made.ok && made.value).toEqual(b)
        expect(a).toEqual(before)
        expect(fingerprint(copy)).toBe(fingerprint(b))
      }),
      { numRuns: 500, seed: 6902 },
    )
  })
  it('that are odd do not apply, and what they would make is refused by name', () => {
    const doc = packed(fresh())
    for (const op of [
      { op: 'replace', path: '/nowhere/at/all', value: 1 },
      { op: 'remove', path: '/viewpoints/7' },
      { op: 'move', path: '/name', from: '/unit' },
      { op: 'add', path: '/__proto__/polluted', value: 1 },
      { op: 'add', path: '', value: 1 },
    ])
      expect(applyPatch(doc, [op as never]).ok, JSON.stringify(op)).toBe(false)
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined()
    const fault = (path: string, value: unknown): string | null => {
      const made = applyPatch(fresh() as object, [{ op: 'replace', path, value }])
      return made.ok ? patchFault(fresh(), made.value as ProjectDocument) : 'does not apply'
    }
    expect(fault('/working/lens/focalMm', -3)).toMatch(/^Lens, focalMm/)
    expect(fault('/working/look', null)).toMatch(/part is missing/)
    expect(fault('/trail/at', 9)).toMatch(/past its end/)
    expect(fault('/viewpoints', 3)).toMatch(/list is missing/)
    expect(fault('/schemaVersion', 99)).toMatch(/version/)
    expect(fault('/trail/steps/0/stand', { station: [0, 0] })).toMatch(/^Trail/)
    expect(fault('/name', 'Loft')).toBeNull()
    expect(EDIT_PARTS).not.toContain('stand')
  })
})
