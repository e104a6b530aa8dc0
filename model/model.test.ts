import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  aimAt,
  applyCommand,
  changedParts,
  compareSetups,
  EMPTY_HISTORY,
  getPart,
  keptNames,
  newProject,
  PARTS,
  pickParts,
  readProjectDocument,
  redo,
  remembered,
  sourceOf,
  trailNeighbour,
  undo,
  type Command,
  type History,
  type PartName,
  type ProjectDocument,
} from './index.ts'

const stamp = { id: 'left', at: '2026-01-01T00:00:00Z' }
const fresh = (): ProjectDocument =>
  newProject({ name: 'Hall', subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })

/** Applies commands in a row as the interface does, with undo's memory. */
function run(doc: ProjectDocument, ...commands: Command[]): { doc: ProjectDocument; history: History } {
  let history = EMPTY_HISTORY
  for (const command of commands) {
    const r = applyCommand(doc, command)
    if (!r.ok) throw new Error(r.message)
    if (r.value.edit) history = remembered(history, doc, r.value.document)
    doc = r.value.document
  }
  return { doc, history }
}
const move = (x: number): Command => ({
  type: 'moveCamera',
  label: 'Moved',
  changes: { stand: aimAt([x, 2, 1.58], [x + 4, 2, 1.58]) },
})
const focal = (doc: ProjectDocument, focalMm: number): Command => ({
  type: 'moveCamera',
  label: 'Lens',
  changes: { lens: { ...doc.working.lens, focalMm } },
})
const keepNew = (id: string, parts: readonly PartName[] = PARTS): Command => ({
  type: 'keepAsNew',
  id,
  name: id,
  parts,
})
const recall = (viewpointId: string): Command => ({ type: 'recall', viewpointId, stamp })

describe('the document', () => {
  it('is valid as new, and after a journey through JSON', () => {
    const doc = run(fresh(), keepNew('a'), move(3), keepNew('b', ['stand']), recall('a')).doc
    const back = readProjectDocument(JSON.parse(JSON.stringify(doc)))
    expect(back).toMatchObject({ ok: true, value: JSON.parse(JSON.stringify(doc)) })
  })
  it.each([
    [null, 'not-a-project', /schemaVersion/],
    [[1], 'not-a-project', /schemaVersion/],
    [{ schemaVersion: 99 }, 'newer-version', /newer Yoroi.*99/],
    [{ schemaVersion: 0.5 }, 'wrong-shape', /version number/],
    [{ ...fresh(), name: 7 }, 'wrong-shape', /“name”/],
    [{ ...fresh(), trail: { ...fresh().trail, at: 5 } }, 'wrong-shape', /trail/],
    [
      { ...fresh(), working: { ...fresh().working, lens: { ...fresh().working.lens, focalMm: NaN } } },
      'wrong-shape',
      /focalMm/,
    ],
  ])('refuses %#', (value, reason, message) => {
    const r = readProjectDocument(value)
    expect(r).toMatchObject({ ok: false, reason })
    expect(!r.ok && r.message).toMatch(message)
  })
})

describe('recall', () => {
  it('touches only the kept parts, for every set of parts', () => {
    fc.assert(
      fc.property(fc.subarray([...PARTS], { minLength: 1 }), (parts) => {
        const kept = run(fresh(), keepNew('a', parts)).doc
        // change everything
        const changed = PARTS.reduce<ProjectDocument>((doc, p) => {
          const working = structuredClone(doc.working)
          if (p === 'stand') working.stand = aimAt([9, 9, 2], [9, 1, 2])
          if (p === 'lens') working.lens.focalMm = 50
          if (p === 'frame') working.frame.widthPx = 100
          if (p === 'cut') working.cut.near.on = true
          if (p === 'focus') working.focus.fNumber = 2
          if (p === 'exposure') working.exposure.ev100 = 12
          if (p === 'visible') working.visible.hidden = ['roof']
          if (p === 'look.style') working.look.style.kind = 'clay'
          if (p === 'look.sun') working.look.sun.on = false
          if (p === 'look.haze') working.look.haze.on = true
          if (p === 'look.backdrop') working.look.backdrop.kind = 'colour'
          return { ...doc, working }
        }, kept)
        const back = run(changed, recall('a')).doc
        for (const p of PARTS)
          if (parts.includes(p)) expect(getPart(back.working, p)).toEqual(getPart(kept.working, p))
          else expect(getPart(back.working, p)).toBe(getPart(changed.working, p))
        expect(compareSetups(back.working, changed.working).map((d) => d.part)).toEqual(
          expect.arrayContaining(parts as string[]),
        )
      }),
    )
  })
  it('is one step of the trail, and going back returns stand, lens and frame only', () => {
    const a = run(fresh(), keepNew('a')).doc
    const moved = run(a, move(7), { type: 'setPart', part: 'look.style', value: { kind: 'clay' } }).doc
    const steps = moved.trail.steps.length
    const recalled = run(moved, recall('a')).doc
    expect(recalled.trail.steps.length).toBe(steps + 1)
    const back = run(recalled, { type: 'trailTo', at: recalled.trail.at - 1 }).doc
    expect(back.working.stand).toEqual(moved.working.stand)
    expect(back.working.look.style.kind).toBe('finished')
  })
  it('respects locked parts and says which it held', () => {
    const doc = run(fresh(), keepNew('a'), move(3), { type: 'lockPart', part: 'stand', locked: true }).doc
    const r = applyCommand(doc, recall('a'))
    expect(r.ok && r.value.held).toEqual(['stand'])
    expect(r.ok && r.value.document.working.stand).toBe(doc.working.stand)
    expect(applyCommand(doc, move(4))).toMatchObject({ ok: false, reason: 'locked' })
  })
  it('leaves unkept changes behind, whole, and takes them back', () => {
    const doc = run(fresh(), keepNew('a'), move(3), keepNew('b'), focal(fresh(), 35), recall('a')).doc
    expect(doc.leftBehind).toHaveLength(1)
    expect(doc.leftBehind[0]).toMatchObject({ fromName: 'b', setup: { lens: { focalMm: 35 } } })
    const again = run(doc, { type: 'takeBack', leftBehindId: 'left', stamp: { ...stamp, id: 'x' } }).doc
    expect(again.working).toEqual(doc.leftBehind[0]!.setup)
    expect(again.leftBehind).toHaveLength(0)
    expect(again.recalledId).toBe('b')
    // nothing changed: nothing left behind
    expect(run(doc, recall('b'), recall('a')).doc.leftBehind).toHaveLength(1)
  })
  it('of a wanderer that never kept anything still loses nothing', () => {
    const doc = run(
      fresh(),
      keepNew('a'),
      { type: 'deleteViewpoint', viewpointId: 'a' },
      keepNew('b', ['stand', 'lens']),
      move(8),
    ).doc
    const gone = run({ ...doc, recalledId: null, sources: {}, settled: null }, recall('b')).doc
    expect(gone.leftBehind).toHaveLength(1)
  })
})

describe('keep', () => {
  it('writes just the named parts; the marks follow', () => {
    const doc = run(fresh(), keepNew('a'), move(3)).doc
    const both = run(doc, focal(doc, 50)).doc
    expect(changedParts(both)).toEqual(['stand', 'lens'])
    const kept = run(both, { type: 'keep', viewpointId: 'a', parts: ['lens'] }).doc
    expect(changedParts(kept)).toEqual(['stand'])
    expect(kept.viewpoints[0]!.parts.stand).toBe(doc.viewpoints[0]!.parts.stand)
    const put = run(kept, { type: 'putBack', parts: ['stand'] }).doc
    expect(changedParts(put)).toEqual([])
    expect(put.working.lens.focalMm).toBe(50)
  })
  it('refuses a locked viewpoint, no parts, no name, an unknown id', () => {
    const doc = run(fresh(), keepNew('a'), { type: 'lockViewpoint', viewpointId: 'a', locked: true }, move(2)).doc
    const reason = (c: Command) => {
      const r = applyCommand(doc, c)
      return r.ok ? 'ok' : r.reason
    }
    expect(reason({ type: 'keep', viewpointId: 'a', parts: ['stand'] })).toBe('locked')
    expect(reason({ type: 'deleteViewpoint', viewpointId: 'a' })).toBe('locked')
    expect(reason({ type: 'keepAsNew', id: 'c', name: ' ', parts: ['stand'] })).toBe('empty-name')
    expect(reason({ type: 'keepAsNew', id: 'c', name: 'c', parts: [] })).toBe('nothing')
    expect(reason({ type: 'keep', viewpointId: 'zz', parts: ['stand'] })).toBe('unknown-viewpoint')
    expect(reason({ type: 'orderViewpoints', ids: ['a', 'a'] })).toBe('order')
  })
  it('a partial viewpoint keeps its parts only', () => {
    const doc = run(fresh(), keepNew('a', ['visible', 'look.sun'])).doc
    expect(keptNames(doc.viewpoints[0]!.parts)).toEqual(['visible', 'look.sun'])
    expect(pickParts(doc.working, ['lens'])).toEqual({ lens: doc.working.lens })
  })
})

describe('recall, part by part', () => {
  const hide = (...hidden: string[]): Command => ({ type: 'setPart', part: 'visible', value: { hidden } })
  /** Camera A, visibility V and camera B; nothing is changed. */
  const abc = (): ProjectDocument =>
    run(
      fresh(),
      keepNew('A', ['stand', 'lens']),
      hide('roof'),
      keepNew('V', ['visible']),
      move(5),
      keepNew('B', ['stand', 'lens']),
      recall('A'),
    ).doc

  it('a camera moved after a visibility was recalled is left behind when another camera comes', () => {
    const before = run(abc(), recall('V'), move(9)).doc
    expect(changedParts(before)).toEqual(['stand'])
    expect(sourceOf(before, 'stand')!.id).toBe('A')
    expect(sourceOf(before, 'visible')!.id).toBe('V')
    const after = run(before, recall('B')).doc
    expect(after.leftBehind).toMatchObject([{ fromId: 'A', setup: { stand: { station: [9, 2, 1.58] } } }])
    expect(changedParts(after)).toEqual([])
    // a visibility recalled takes nothing of the camera away
    expect(run(before, recall('V')).doc.leftBehind).toEqual([])
  })
  it('keeps each part where it came from, and puts each back to it', () => {
    const changed = run(abc(), recall('V'), move(9), hide('roof', 'door')).doc
    expect(changedParts(changed)).toEqual(['stand', 'visible'])
    const kept = run(changed, { type: 'keepChanged', parts: ['stand', 'visible'] }).doc
    const part = (id: string) => kept.viewpoints.find((v) => v.id === id)!.parts
    expect(part('A').stand!.station[0]).toBe(9)
    expect(part('A').visible).toBeUndefined()
    expect(part('V')).toEqual({ visible: { hidden: ['roof', 'door'] } })
    expect(part('B').stand!.station[0]).toBe(5)
    const back = run(changed, { type: 'putBack', parts: ['stand', 'visible'] }).doc
    expect([back.working.stand.station[0], back.working.visible.hidden]).toEqual([1, ['roof']])
    const locked = run(changed, { type: 'lockViewpoint', viewpointId: 'V', locked: true }).doc
    expect(applyCommand(locked, { type: 'keepChanged', parts: ['stand', 'visible'] })).toMatchObject({
      reason: 'locked',
    })
  })
  it('a lens changed under a viewpoint that keeps the stand alone is known, and left behind when a lens comes', () => {
    const doc = run(
      fresh(),
      keepNew('B', ['stand', 'lens']),
      move(3),
      keepNew('S', ['stand']),
      recall('S'),
      focal(fresh(), 85),
    ).doc
    expect(changedParts(doc)).toEqual(['lens'])
    const gone = run(doc, recall('B')).doc
    expect(gone.leftBehind[0]!.setup.lens.focalMm).toBe(85)
    expect(run(doc, { type: 'putBack', parts: ['lens'] }).doc.working.lens.focalMm).toBe(24)
  })
  it('going back on the trail brings back where the camera came from, not where the rest did', () => {
    const doc = run(abc(), recall('V'), recall('B')).doc
    const back = run(doc, { type: 'trailTo', at: doc.trail.at - 1 }).doc
    expect([back.sources.stand, back.sources.visible]).toEqual(['A', 'V'])
    expect(changedParts(back)).toEqual([])
  })
  it('of a deleted viewpoint its parts are still compared with what it kept', () => {
    const doc = run(abc(), move(9), { type: 'deleteViewpoint', viewpointId: 'A' }).doc
    expect(changedParts(doc)).toEqual(['stand'])
    expect(run(doc, recall('B')).doc.leftBehind).toHaveLength(1)
  })
})

describe('the two histories', () => {
  it('undo restores identity, redo too', () => {
    const a = run(fresh(), keepNew('a')).doc
    const edits: Command[] = [
      { type: 'renameViewpoint', viewpointId: 'a', name: 'Hall, east' },
      { type: 'duplicateViewpoint', viewpointId: 'a', id: 'b' },
      { type: 'orderViewpoints', ids: ['b', 'a'] },
      { type: 'setPart', part: 'look.style', value: { kind: 'clay' } },
      { type: 'deleteViewpoint', viewpointId: 'a' },
      { type: 'setProject', changes: { unit: 'mm' } },
    ]
    const documents = [a]
    let history = EMPTY_HISTORY
    for (const c of edits) {
      const step = run(documents.at(-1)!, c)
      history = remembered(history, documents.at(-1)!, step.doc)
      documents.push(step.doc)
    }
    let doc = documents.at(-1)!
    for (let i = edits.length - 1; i >= 0; i--) {
      const back = undo(doc, history)!
      expect(back.document).toBe(documents[i])
      ;({ document: doc, history } = back)
    }
    expect(undo(doc, history)).toBeNull()
    for (let i = 1; i <= edits.length; i++) {
      const on = redo(doc, history)!
      expect(on.document).toBe(documents[i])
      ;({ document: doc, history } = on)
    }
  })
  it('undo leaves the camera where it went meanwhile', () => {
    const { doc, history } = run(fresh(), keepNew('a'), { type: 'deleteViewpoint', viewpointId: 'a' }, move(6))
    const back = undo(doc, history)!.document
    expect(back.viewpoints).toHaveLength(1)
    expect(back.working.stand).toBe(doc.working.stand)
    expect(back.trail).toBe(doc.trail)
  })
  it('undo never empties the left-behind list, and brings back what was dropped from it', () => {
    const { doc, history } = run(fresh(), keepNew('a'), keepNew('b'), move(3), recall('a'))
    expect(doc.leftBehind).toHaveLength(1)
    expect(undo(doc, history)!.document.leftBehind).toHaveLength(1)
    const drop = run(doc, { type: 'dropLeftBehind', leftBehindId: 'left' })
    expect(drop.doc.leftBehind).toHaveLength(0)
    const back = undo(drop.doc, drop.history)!
    expect(back.document.leftBehind).toEqual(doc.leftBehind)
    expect(redo(back.document, back.history)!.document.leftBehind).toHaveLength(0)
  })
  describe('who goes back and moves on', () => {
    const at = (x: number) => ({ ...move(x), stamp }) as Extract<Command, { type: 'moveCamera' }>
    const places = (d: ProjectDocument): string[] =>
      d.trail.steps.map((s) => `${s.stand.station[0]}${s.branch ? ' aside' : ''}`)

    it('finds what lay ahead in the list, passed by back and forward', () => {
      const on = run(fresh(), at(2), at(3), at(4), { type: 'trailTo', at: 1 }, at(9)).doc
      expect(places(on)).toEqual(['1', '2', '3 aside', '4 aside', '9'])
      expect(on.leftBehind).toEqual([])
      expect(trailNeighbour(on.trail, -1)).toBe(1)
      expect(trailNeighbour(on.trail, 1)).toBeNull()
      expect(trailNeighbour({ ...on.trail, at: 1 }, 1)).toBe(4)
      expect(applyCommand(on, { type: 'trailTo', at: 5 })).toMatchObject({ ok: false, reason: 'nothing' })
      expect(applyCommand(on, at(9))).toMatchObject({ ok: false, reason: 'nothing' })
      // on from a branch: it is part of the line again
      expect(places(run(on, { type: 'trailTo', at: 2 }, at(5)).doc)).toEqual(['1', '2', '3', '4 aside', '9 aside', '5'])
    })
    it('finds among what was left behind the framings looked at and those of named commands, save kept ones', () => {
      const isometric = { ...at(3), label: 'Isometric', named: true }
      const looked = run(fresh(), at(2), isometric, { ...at(4) }, at(5), { type: 'trailTo', at: 3, looked: false }).doc
      const on = run(
        looked,
        { type: 'trailTo', at: 4, looked: true },
        { type: 'trailTo', at: 1, looked: true },
        at(9),
      ).doc
      expect(places(on)).toEqual(['1', '2', '9'])
      expect(on.leftBehind.map((l) => [l.setup.stand.station[0], l.fromName])).toEqual([
        [3, 'Isometric'],
        [4, 'Moved'],
        [5, 'Moved'],
      ])
      const kept = run(fresh(), at(2), isometric, {
        type: 'keepAsNew',
        id: 'v',
        name: 'V',
        parts: ['stand', 'lens'],
      }).doc
      const after = run(kept, { type: 'trailTo', at: 1 }, at(9)).doc
      expect(after.leftBehind).toEqual([])
      expect(places(after)).toEqual(['1', '2', '3 aside', '9'])
    })
    it('finds a view from outside in the list, though it never was the camera’s', () => {
      const { working } = fresh()
      const camera = { ...working, stand: aimAt([7, 7, 7], [0, 0, 0]) }
      const on = run(fresh(), at(2), { type: 'passed', camera, label: 'Seen from outside' }).doc
      expect(places(on)).toEqual(['1', '7 aside', '2'])
      expect(on.trail.at).toBe(2)
      expect(on.working.stand.station[0]).toBe(2)
      expect(readProjectDocument(JSON.parse(JSON.stringify(on))).ok).toBe(true)
    })
  })
})
