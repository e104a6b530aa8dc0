import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  aimAt,
  applyCommand,
  newProject,
  projectSchema,
  withoutEdit,
  type Command,
  type Edit,
  type ProjectDocument,
} from './index.ts'

const fresh = (): ProjectDocument =>
  newProject({ name: 'Hall', subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })
const done = (doc: ProjectDocument, ...commands: Command[]): ProjectDocument =>
  commands.reduce((d, c) => {
    const r = applyCommand(d, c)
    if (!r.ok) throw new Error(r.message)
    return r.value.document
  }, doc)
const kept = (id: string): Command => ({ type: 'keepAsNew', id, name: `At ${id}`, parts: ['stand', 'lens'] })
const named = (id: string, name: string): Command => ({ type: 'renameViewpoint', viewpointId: id, name })
const gone = (id: string): Command => ({ type: 'deleteViewpoint', viewpointId: id })
const move = (x: number): Command => ({ type: 'moveCamera', changes: { stand: aimAt([x, 2, 1.58], [9, 2, 1.58]) }, label: 'Moved' }) // prettier-ignore
const ids = (d: ProjectDocument): string[] => d.viewpoints.map((v) => v.id)
const sure = (now: ProjectDocument, edit: Edit): ProjectDocument => {
  const r = withoutEdit(now, edit)
  if (!r.ok) throw new Error(r.message)
  return r.value
}

describe('one edit taken out', () => {
  const four = done(fresh(), kept('a'), kept('b'), kept('c'), kept('d'))
  it('brings a deleted viewpoint back to its place; later edits and moves stay', () => {
    const after = done(four, gone('b'))
    const now = done(after, named('c', 'Later'), move(3), kept('e'))
    const next = sure(now, { before: four, after })
    expect(ids(next)).toEqual(['a', 'b', 'c', 'd', 'e'])
    expect(next.viewpoints[2]!.name).toBe('Later')
    expect([next.working, next.trail]).toEqual([now.working, now.trail])
  })
  it('of two deleted neighbours each comes back between the right ones', () => {
    const first = done(four, gone('b'))
    const now = done(first, gone('c'))
    const withB = sure(now, { before: four, after: first })
    expect(ids(withB)).toEqual(['a', 'b', 'd'])
    expect(ids(sure(withB, { before: first, after: now }))).toEqual(['a', 'b', 'c', 'd'])
  })
  it('takes a kept one out again, unless it was changed since', () => {
    const after = done(four, kept('e'))
    expect(ids(sure(done(after, named('a', 'Other')), { before: four, after }))).toEqual(['a', 'b', 'c', 'd'])
    expect(withoutEdit(done(after, named('e', 'Mine')), { before: four, after })).toMatchObject({ reason: 'later' })
  })
  it('says so where a later edit stands on it, and changes nothing', () => {
    const after = done(four, named('a', 'One'))
    expect(withoutEdit(done(after, named('a', 'Two')), { before: four, after })).toMatchObject({ ok: false, reason: 'later' }) // prettier-ignore
    expect(sure(done(after, named('b', 'Two')), { before: four, after }).viewpoints.map((v) => v.name)).toEqual(['At a', 'Two', 'At c', 'At d']) // prettier-ignore
  })
  it('moves made since never stand in the way, even where the edit moved the camera too', () => {
    const start = done(fresh(), { type: 'setPart', part: 'visible', value: { hidden: ['hall/Lamp'] } } as Command)
    const all: Command = { type: 'keepAsNew', id: 'w', name: 'Whole', parts: ['stand', 'visible'] }
    const before = done(start, all, move(4), { type: 'setPart', part: 'visible', value: { hidden: [] } } as Command)
    const after = done(before, { type: 'recall', viewpointId: 'w', stamp: { id: 's', at: '2026-01-01T00:00:00Z' } })
    const now = done(after, move(7))
    const next = sure(now, { before, after })
    expect(next.working.visible.hidden).toEqual([])
    expect([next.working.stand, next.trail]).toEqual([now.working.stand, now.trail])
  })
  it('hidden objects of other edits stay hidden', () => {
    const hide = (...hidden: string[]): Command => ({ type: 'setPart', part: 'visible', value: { hidden } }) as Command
    const one = done(fresh(), hide('hall/Lamp'))
    const two = done(one, hide('hall/Lamp', 'hall/Table'))
    expect(sure(two, { before: fresh(), after: one }).working.visible.hidden).toEqual(['hall/Table'])
  })
  it('is valid after any edits that came between, and the same as undo where none did', () => {
    const edit = fc.oneof(
      fc.constantFrom('a', 'b', 'c', 'd').map(gone),
      fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.string({ minLength: 1, maxLength: 20 })).map(([i, n]) => named(i, `x${n}`)),
      fc.integer({ min: 0, max: 99 }).map((n) => kept(`n${n}`)),
      fc.integer({ min: -5, max: 5 }).map(move),
    ) // prettier-ignore
    fc.assert(
      fc.property(edit, fc.array(edit, { maxLength: 8 }), (first, later) => {
        const r = applyCommand(four, first)
        if (!r.ok) throw new Error(r.message)
        const after = r.value.document
        let now = after
        for (const c of later) {
          const l = applyCommand(now, c)
          // a name or id that is gone or taken is refused, rightly
          if (l.ok) now = l.value.document
        }
        const out = withoutEdit(now, { before: four, after })
        if (now === after && r.value.edit)
          expect(out).toMatchObject({ ok: true, value: { viewpoints: four.viewpoints } })
        if (out.ok) expect(projectSchema.safeParse(out.value).success).toBe(true)
        else expect(out.reason).toBe('later')
      }),
    )
  })
})
