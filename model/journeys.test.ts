// Long random journeys through a project: whatever a person does in whatever order, the document stays valid and nothing is lost.
import { CUT_KINDS, MATERIAL_CLASSES, moveCut, movePlane, newCut, nextLetter, type CutPlace } from '#core/section'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  aimAt,
  applyCommand,
  EMPTY_HISTORY,
  getPart,
  keptNames,
  newProject,
  PARTS,
  readProjectDocument,
  redo,
  remembered,
  sameJson,
  setupAsShown,
  undo,
  type Command,
  type History,
  type PartName,
  packHistory,
  unpackHistory,
  type ProjectDocument,
} from './index.ts'

const start = (): ProjectDocument =>
  newProject({ name: 'Hall', subject: 'room', stand: aimAt([0, 0, 1.6], [3, 0, 1.6]), models: [] })

type Move = (doc: ProjectDocument, n: number) => Command
const some = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)]
const CUT_PLACE: CutPlace = { point: [1, 2, 1], bearingDeg: 75, mainBearingDeg: 10, model: { min: [-3, -4, 0], max: [6, 5, 4] }, round: null, heightM: 1.2 } // prettier-ignore
const MOVES: readonly Move[] = [
  (_d, n) => ({ type: 'moveCamera', label: 'Moved', changes: { stand: aimAt([n, 0, 1.6], [n + 3, 1, 1.6]) } }),
  (d, n) => ({
    type: 'moveCamera',
    label: 'Elevation',
    changes: { stand: aimAt([n, -20, 1.6], [n, 1, 1.6]) },
    named: n % 2 === 0,
    looked: n % 3 === 0,
    stamp: { id: `e${n}-${d.leftBehind.length}-${d.trail.steps.length}`, at: '2026-01-01T00:00:00Z' },
  }),
  (d, n) => ({ type: 'passed', label: 'Seen', camera: { ...d.working, stand: aimAt([0, n, 9], [0, 0, 0]) } }),
  (d, n) => ({
    type: 'moveCamera',
    label: 'Lens',
    changes: { lens: { ...d.working.lens, focalMm: 10 + n, riseMm: n / 10 } },
  }),
  (d, n) => ({ type: 'moveCamera', label: 'Frame', changes: { frame: { ...d.working.frame, widthPx: 100 + n } } }),
  (d, n) => ({
    type: 'setPart',
    part: 'visible',
    value: { hidden: [`node ${n}`, ...d.working.visible.hidden].slice(0, 3) },
  }),
  (d, n) => ({ type: 'setPart', part: 'cut', value: { ...d.working.cut, cuts: [...d.working.cut.cuts, newCut(CUT_KINDS[n % 6]!, `c${n}-${d.working.cut.cuts.length}`, nextLetter(d.working.cut.cuts.map((c) => c.name)), CUT_PLACE)].slice(-5) } }), // prettier-ignore
  (d, n) => ({ type: 'setPart', part: 'cut', value: { ...d.working.cut, cuts: d.working.cut.cuts.map((c) => (n % 2 ? movePlane(c, 0, (n % 9) - 4) : moveCut(c, [n % 5, -(n % 3), n % 2]))) } }), // prettier-ignore
  (d, n) => ({ type: 'setPart', part: 'cut', value: { ...d.working.cut, near: { on: n % 2 === 0, distanceM: 1 + (n % 4), ...(n % 3 === 0 && { tied: { to: 'aim' as const, offsetM: -(n % 5) } }) }, ...(n % 5 === 0 && { allOff: true as const, whole: [`node ${n}`] }) } }), // prettier-ignore
  (d, n) => ({ type: 'setPart', part: 'cut', value: { ...d.working.cut, face: 'hatched', hatch: n % 2 ? { paperMm: 1 + (n % 4) } : { modelM: 0.05 }, outline: { screenPx: n % 5, printMm: (n % 7) / 10 }, ...(n % 3 === 0 && { ghost: true as const }) } }), // prettier-ignore
  (_d, n) => ({ type: 'setProject', changes: { materialClasses: { [`material ${n}`]: MATERIAL_CLASSES[n % MATERIAL_CLASSES.length]! } } }), // prettier-ignore
  (d, n) => ({ type: 'setProject', changes: { people: [`node ${n}`, ...(d.people ?? [])].slice(0, 3) } }),
  (d, n) => ({ type: 'setPart', part: 'focus', value: { ...d.working.focus, on: n % 3 > 0, fNumber: 1 + (n % 20), mode: n % 4 === 0 ? { kind: 'object', nodeId: `node ${n}`, at: 'surface', offsetM: 0, lastM: 2 } : n % 4 === 1 ? { kind: 'point', point: [n, 0, 1] } : n % 4 === 2 ? { kind: 'nearest', field: 0.3 } : { kind: 'distance', distanceM: 1 + n }, aperture: { blades: n % 12, rotationDeg: n, roundness: (n % 10) / 10, ...(n % 5 === 0 ? { picture: btoa('x'.repeat(2304)), catsEye: (n % 15) / 10 } : {}) }, ...(n % 7 === 0 ? { highlights: n % 50 } : {}) } }), // prettier-ignore
  (d, n) => ({ type: 'setPart', part: 'exposure', value: { ...d.working.exposure, finish: { contrast: 1, saturation: 1, shoulder: (n % 11) / 10, grain: n % 60, glare: (n % 6) / 10, lateralPx: (n % 41) - 20, table: { id: `t${n % 3}`, strength: (n % 10) / 10 } }, fps: 1 + (n % 120) } }), // prettier-ignore
  (d, n) => ({ type: 'setProject', changes: { tables: [...(d.tables ?? []).slice(0, 7), { id: `t${n % 3}-${n}`, name: `Table ${n}`, size: 2, data: btoa('\0'.repeat(48)) }] } }), // prettier-ignore
  (d, n) => ({ type: 'setPart', part: 'exposure', value: { ...d.working.exposure, mode: n % 2 ? 'photographic' : 'direct', iso: 100 * (1 + n), shutterS: 1 / (1 + n), whiteBalance: { kelvin: 2000 + 100 * n, tint: n % 20 }, vignetting: n % 2 === 0, vignettingStrength: (n % 3) / 2, finish: { contrast: 1 + (n % 5) / 10, saturation: (n % 3) / 2 } } }), // prettier-ignore
  (d, n) => ({
    type: 'setPart',
    part: 'visible',
    value: { ...d.working.visible, sets: (d.objectSets ?? []).slice(0, n % 3).map((s) => s.id) },
  }),
  (d, n) => ({ type: 'addSet', set: { id: `s${n}-${d.objectSets?.length ?? 0}`, name: `Set ${n}`, objects: [`node ${n}`] } }), // prettier-ignore
  (d, n) => ({ type: 'changeSet', setId: some(d.objectSets ?? [], n)?.id ?? 'none', changes: { objects: [`node ${n}`, `n${n}`] } }), // prettier-ignore
  (d, n) => ({ type: 'deleteSet', setId: some(d.objectSets ?? [], n)?.id ?? 'none' }),
  (_d, n) => ({
    type: 'keepAsNew',
    id: `v${n}-${Math.abs(Math.sin(n)).toString(36).slice(2, 8)}`,
    name: `View ${n}`,
    parts: PARTS.filter((_, i) => (n >> (i % 5)) & 1 || i === n % PARTS.length),
  }),
  (d, n) => ({ type: 'keep', viewpointId: some(d.viewpoints, n)?.id ?? 'none', parts: [PARTS[n % PARTS.length]!] }),
  (d, n) => ({
    type: 'recall',
    viewpointId: some(d.viewpoints, n)?.id ?? 'none',
    stamp: { id: `l${n}-${d.leftBehind.length}-${d.trail.steps.length}`, at: '2026-01-01T00:00:00Z' },
  }),
  (d) => ({ type: 'putBack', parts: d.viewpoints.flatMap((v) => keptNames(v.parts)) }),
  (d, n) => ({
    type: 'takeBack',
    leftBehindId: some(d.leftBehind, n)?.id ?? 'none',
    stamp: { id: `t${n}-${d.leftBehind.length}-${d.trail.steps.length}`, at: '2026-01-01T00:00:00Z' },
  }),
  (d, n) => ({ type: 'trailTo', at: n % d.trail.steps.length }),
  (d, n) => ({ type: 'deleteViewpoint', viewpointId: some(d.viewpoints, n)?.id ?? 'none' }),
  (d, n) => ({ type: 'lockPart', part: PARTS[n % PARTS.length]!, locked: n % 3 === 0 && d.locked.length < 2 }),
  (d, n) => ({
    type: 'orderViewpoints',
    ids: [...d.viewpoints.map((v) => v.id)].sort((a, b) => (a + n < b + n ? 1 : -1)),
  }),
  (d, n) => ({ type: 'dropLeftBehind', leftBehindId: some(d.leftBehind, n)?.id ?? 'none' }),
]
const journey = fc.array(fc.tuple(fc.nat(MOVES.length - 1), fc.nat(60)), { minLength: 1, maxLength: 60 })

interface Told {
  readonly doc: ProjectDocument
  readonly history: History
}
function travel(
  steps: readonly (readonly [number, number])[],
  each?: (before: ProjectDocument, c: Command, after: ProjectDocument, held: readonly PartName[]) => void,
): Told {
  let doc = start()
  let history = EMPTY_HISTORY
  for (const [m, n] of steps) {
    const command = MOVES[m]!(doc, n)
    const r = applyCommand(doc, command)
    if (!r.ok) continue
    each?.(doc, command, r.value.document, r.value.held)
    if (r.value.edit) history = remembered(history, doc, r.value.document)
    doc = r.value.document
  }
  return { doc, history }
}

describe('after any journey', () => {
  it('the document is valid and survives JSON', () => {
    fc.assert(
      fc.property(journey, (steps) => {
        const { doc } = travel(steps)
        const back = readProjectDocument(JSON.parse(JSON.stringify(doc)))
        expect(back.ok).toBe(true)
        expect(back.ok && sameJson(back.value, doc)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('no command changes the document it was given', () => {
    fc.assert(
      fc.property(journey, (steps) => {
        const seen = new Map<ProjectDocument, string>()
        travel(steps, (before) => seen.set(before, JSON.stringify(before)))
        for (const [doc, text] of seen) expect(JSON.stringify(doc)).toBe(text)
      }),
      { numRuns: 40 },
    )
  })
  it('locked parts stand still, and only camera moves touch the trail', () => {
    fc.assert(
      fc.property(journey, (steps) => {
        travel(steps, (before, command, after) => {
          for (const p of before.locked) {
            // a set that is deleted leaves what it hid, one by one
            if (command.type === 'deleteSet' && p === 'visible')
              expect(new Set(setupAsShown(after.working, after).visible.hidden)).toEqual(
                new Set(setupAsShown(before.working, before).visible.hidden),
              )
            else expect(getPart(after.working, p)).toBe(getPart(before.working, p))
          }
          const moves = ['moveCamera', 'trailTo', 'passed', 'recall', 'putBack', 'takeBack']
          if (command.type === 'passed') expect(after.working).toBe(before.working)
          if (!moves.includes(command.type)) {
            expect(after.trail.steps.length).toBe(before.trail.steps.length)
            expect(after.working.stand).toBe(before.working.stand)
          }
          if (command.type === 'recall')
            expect(after.trail.steps.length).toBeLessThanOrEqual(before.trail.steps.length + 1)
        })
      }),
      { numRuns: 60 },
    )
  })
  it('what can be undone is the same after the page was reloaded', () => {
    fc.assert(
      fc.property(journey, fc.nat(3), (steps, back) => {
        const end = travel(steps)
        let { doc, history } = end
        for (let i = 0; i < back; i++) {
          const s = undo(doc, history)
          if (s) ({ document: doc, history } = s)
        }
        const read = JSON.parse(JSON.stringify(doc)) as ProjectDocument
        const again = unpackHistory(read, packHistory(doc, history, 1000))
        expect([again.past.length, again.future.length]).toEqual([history.past.length, history.future.length])
        for (const way of [undo, redo]) {
          let [a, b] = [
            { document: doc, history },
            { document: read, history: again },
          ]
          for (let s = way(a.document, a.history); s; s = way(a.document, a.history)) {
            a = s
            b = way(b.document, b.history)!
            expect(JSON.parse(JSON.stringify(b.document))).toEqual(JSON.parse(JSON.stringify(a.document)))
          }
        }
        // beside another document it is not taken over
        expect(unpackHistory({ ...doc, name: 'Another' }, packHistory(doc, history, 1000)).past).toEqual([])
      }),
      { numRuns: 30 },
    )
  })
  it('going back and moving on loses no framing: it stays in the list, or goes to what was left behind', () => {
    const where = (s: { stand: unknown; lens: unknown; frame: unknown }): string =>
      JSON.stringify([s.stand, s.lens, s.frame])
    fc.assert(
      fc.property(journey, (steps) => {
        travel(steps, (before, command, after) => {
          if (command.type !== 'moveCamera' && command.type !== 'trailTo' && command.type !== 'passed') return
          const there = new Set([...after.trail.steps, ...after.leftBehind.map((l) => l.setup)].map(where))
          for (const v of after.viewpoints) if (v.parts.stand) there.add(where({ ...before.working, ...v.parts }))
          const kept = (s: { stand: unknown }) => after.viewpoints.some((v) => JSON.stringify(v.parts.stand) === JSON.stringify(s.stand)) // prettier-ignore
          for (const s of before.trail.steps) expect(there.has(where(s)) || kept(s)).toBe(true)
        })
      }),
      { numRuns: 60 },
    )
  })
  it('undoing everything brings the viewpoints back to none, redoing brings them all again', () => {
    fc.assert(
      fc.property(journey, (steps) => {
        const end = travel(steps)
        let { doc, history } = end
        for (let s = undo(doc, history); s; s = undo(doc, history)) ({ document: doc, history } = s)
        expect(doc.viewpoints).toEqual([])
        expect(doc.working.visible.hidden).toEqual([])
        // the camera stays where the journey ended
        expect(doc.working.stand).toEqual(end.doc.working.stand)
        expect(doc.trail).toBe(end.doc.trail)
        for (let s = redo(doc, history); s; s = redo(doc, history)) ({ document: doc, history } = s)
        expect(doc.viewpoints).toEqual(end.doc.viewpoints)
      }),
      { numRuns: 60 },
    )
  })
})
