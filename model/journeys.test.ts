// Long random journeys through a project: whatever a person does in whatever order, the document stays valid and nothing is lost.
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
  undo,
  type Command,
  type History,
  type PartName,
  type ProjectDocument,
} from './index.ts'

const start = (): ProjectDocument =>
  newProject({ name: 'Hall', subject: 'room', stand: aimAt([0, 0, 1.6], [3, 0, 1.6]), models: [] })

type Move = (doc: ProjectDocument, n: number) => Command
const some = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)]
const MOVES: readonly Move[] = [
  (_d, n) => ({ type: 'moveCamera', label: 'Moved', changes: { stand: aimAt([n, 0, 1.6], [n + 3, 1, 1.6]) } }),
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
          for (const p of before.locked) expect(getPart(after.working, p)).toBe(getPart(before.working, p))
          const moves = ['moveCamera', 'trailTo', 'recall', 'putBack', 'takeBack']
          if (!moves.includes(command.type)) {
            expect(after.trail.steps.length).toBe(before.trail.steps.length)
            expect(after.working.stand).toBe(before.working.stand)
          }
          if (command.type === 'recall') expect(after.trail.steps.length).toBeLessThanOrEqual(before.trail.at + 2)
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
        expect(doc.working.stand).toBe(end.doc.working.stand)
        expect(doc.trail).toBe(end.doc.trail)
        for (let s = redo(doc, history); s; s = redo(doc, history)) ({ document: doc, history } = s)
        expect(doc.viewpoints).toEqual(end.doc.viewpoints)
      }),
      { numRuns: 60 },
    )
  })
})
