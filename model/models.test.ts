import { describe, expect, it } from 'vitest'
import { poseOfStand } from '#core/camera'
import { AT_ORIGIN } from '#core/placing'
import {
  aimAt,
  applyCommand,
  changedParts,
  EMPTY_HISTORY,
  lostAims,
  newModel,
  newProject,
  projectSchema,
  readProjectDocument,
  redo,
  packHistory,
  remembered,
  undo,
  unpackHistory,
  withoutEdit,
  type Command,
  type ProjectDocument,
} from './index.ts'

const sha = (c: string) => c.repeat(64)
const model = (id: string, name: string, taken: string[] = []) =>
  newModel({ id, name, sha256: sha('a'), sizeBytes: 10 }, taken)
const start = (): ProjectDocument =>
  newProject({ name: 'P', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 5, 1.6]), models: [model('1', 'hall.glb')] })
function run(doc: ProjectDocument, command: Command): ProjectDocument {
  const r = applyCommand(doc, command)
  if (!r.ok) throw new Error(r.message)
  expect(r.value.edit).toBe(command.type !== 'moveCamera')
  // whatever a command makes is a valid document
  expect(readProjectDocument(JSON.parse(JSON.stringify(r.value.document)))).toEqual({
    ok: true,
    value: r.value.document,
  })
  return r.value.document
}

describe('models of a project', () => {
  it('are added under keys of their own, placed, taken out; the camera never moves', () => {
    const before = start()
    const chair = model('2', 'chair.glb', ['hall'])
    const two = run(before, { type: 'addModel', model: chair })
    expect(applyCommand(two, { type: 'addModel', model: { ...chair, id: '3' } })).toMatchObject({ reason: 'same-key' })
    const place = { position: [1, 2, 0] as const, turnDeg: 30, scale: 2 }
    const placed = run(two, { type: 'placeModel', modelId: '2', changes: { place, unitM: 0.01, up: 'z' } })
    expect(placed.models[1]).toEqual({ ...chair, place, unitM: 0.01, up: 'z' })
    expect(placed.models[0]).toBe(before.models[0])
    expect(applyCommand(placed, { type: 'placeModel', modelId: '2', changes: { place } })).toMatchObject({
      reason: 'nothing',
    })
    const out = run(placed, { type: 'removeModel', modelId: '2' })
    expect(out.models).toEqual(before.models)
    expect(out.working).toBe(before.working)
    expect(out.trail).toBe(before.trail)
    expect(applyCommand(out, { type: 'removeModel', modelId: '2' })).toMatchObject({
      ok: false,
      reason: 'unknown-model',
    })
  })
  it('single objects are moved, and put back by moving them nowhere', () => {
    const move = { path: 'hall/Table', moveM: [0, 1, 0] as const, turnDeg: 0 }
    const moved = run(start(), { type: 'moveObject', modelId: '1', move })
    const again = run(moved, { type: 'moveObject', modelId: '1', move: { ...move, turnDeg: 90 } })
    expect(again.models[0]!.moved).toEqual([{ ...move, turnDeg: 90 }])
    const back = run(again, { type: 'moveObject', modelId: '1', move: { ...move, moveM: [0, 0, 0] } })
    expect(back.models).toEqual(start().models)
  })
  it('a newer file keeps key, place and viewpoints; ids that changed are changed wherever they stand', () => {
    let doc = start()
    const hidden = ['hall/Table', 'hall/Door']
    doc = run(doc, { type: 'setPart', part: 'visible', value: { hidden } })
    doc = run(doc, { type: 'moveObject', modelId: '1', move: { path: 'hall/Table', moveM: [1, 0, 0], turnDeg: 0 } })
    doc = run(doc, { type: 'keepAsNew', id: 'v', name: 'V', parts: ['stand', 'visible'] })
    doc = run(doc, { type: 'keepAsNew', id: 'w', name: 'W', parts: ['lens'] })
    const file = { sha256: sha('b'), sizeBytes: 20, name: 'hall.glb', fileBox: null, unitM: 1, up: 'y' as const }
    const next = run(doc, { type: 'replaceModel', modelId: '1', file, renamed: { 'hall/Table': 'hall/Set/Table' } })
    expect(next.models[0]).toMatchObject({ key: 'hall', sha256: sha('b'), place: AT_ORIGIN })
    expect(next.models[0]!.moved[0]!.path).toBe('hall/Set/Table')
    expect(next.working.visible.hidden).toEqual(['hall/Set/Table', 'hall/Door'])
    expect(next.viewpoints[0]!.parts.visible!.hidden).toEqual(['hall/Set/Table', 'hall/Door'])
    // what names none of them is the very same value
    expect(next.viewpoints[1]).toBe(doc.viewpoints[1])
    expect(next.working.stand).toBe(doc.working.stand)
    const undone = undo(next, remembered(EMPTY_HISTORY, doc, next))!
    expect(undone.document).toBe(doc)
  })
  it('an aim that a newer file renamed goes back with undo and again with redo, wherever the camera went since', () => {
    const aim = (x: number, nodeId: string) => ({ ...start().working.stand, station: [x, 0, 1.6] as const, aim: { kind: 'object' as const, nodeId, offset: [0, 0, 0] as const, topBearingDeg: 0 } }) // prettier-ignore
    const doc = run(start(), { type: 'moveCamera', changes: { stand: aim(1, 'hall/Table') }, label: 'Aimed' })
    const file = { sha256: sha('b'), sizeBytes: 20, name: 'hall.glb', fileBox: null, unitM: 1, up: 'y' as const }
    const next = run(doc, { type: 'replaceModel', modelId: '1', file, renamed: { 'hall/Table': 'hall/Set/Table' } })
    const renamed = { 'hall/Table': 'hall/Set/Table', 'hall/Door': 'hall/Set/Door' }
    const history = remembered(EMPTY_HISTORY, doc, next, renamed)
    const moved = run(next, { type: 'moveCamera', changes: { stand: aim(5, 'hall/Set/Table') }, label: 'Moved' })
    const back = undo(moved, history)!
    const named = (d: ProjectDocument) => [d.working.stand, ...d.trail.steps.map((s) => s.stand)].flatMap((s) => (s.aim.kind === 'object' ? [s.aim.nodeId] : [])) // prettier-ignore
    expect(new Set(named(back.document))).toEqual(new Set(['hall/Table']))
    expect(back.document.working.stand.station[0]).toBe(5)
    expect(new Set(named(redo(back.document, back.history)!.document))).toEqual(new Set(['hall/Set/Table']))
    // also what is first aimed at after the newer file came, also after a reload
    const later = run(moved, { type: 'moveCamera', changes: { stand: aim(6, 'hall/Set/Door') }, label: 'Aimed' })
    const kept = unpackHistory(later, packHistory(later, history, 10))
    for (const h of [history, kept]) {
      const old = undo(later, h)!
      expect(named(old.document).sort()).toEqual(['hall/Door', 'hall/Door', 'hall/Table', 'hall/Table'])
      expect(named(redo(old.document, old.history)!.document)).toContain('hall/Set/Door')
    }
    expect(named((withoutEdit(later, history.past[0]!) as { value: typeof later }).value)).toContain('hall/Door')
  })
  it.each(['removeModel', 'replaceModel'] as const)('what is aimed at and goes by %s: no picture moves', (type) => {
    const there = new Map([['hall/Table', [3, 4, 0.8] as const]])
    const centreOf = (id: string, o: readonly number[]) => {
      const c = there.get(id)
      return c ? ([c[0] + o[0]!, c[1] + o[1]!, c[2] + o[2]!] as const) : null
    }
    const stand = { ...start().working.stand, aim: { kind: 'object', nodeId: 'hall/Table', offset: [0, 0, 1], topBearingDeg: 0 } } as const // prettier-ignore
    let doc = run(start(), { type: 'moveCamera', changes: { stand }, label: 'Aimed' })
    doc = run(doc, { type: 'keepAsNew', id: 'v', name: 'V', parts: ['stand'] })
    const before = poseOfStand(doc.working.stand, centreOf)
    const lost = lostAims(doc, (id) => id.startsWith('hall/'), centreOf)
    const file = { sha256: sha('b'), sizeBytes: 20, name: 'hall.glb', fileBox: null, unitM: 1, up: 'y' as const }
    const next = run(doc, type === 'removeModel' ? { type, modelId: '1', lost } : { type, modelId: '1', file, renamed: {}, lost }) // prettier-ignore
    there.clear()
    expect(poseOfStand(next.working.stand, centreOf)).toEqual(before)
    expect(poseOfStand(next.viewpoints[0]!.parts.stand!, centreOf)).toEqual(before)
    expect(changedParts(next)).toEqual([])
    expect(projectSchema.safeParse(next).success).toBe(true)
    // the object is followed again as soon as it is back
    const undone = undo(next, remembered(EMPTY_HISTORY, doc, next))!.document
    expect(changedParts(undone)).toEqual([])
    expect(undone.working.stand).toEqual(doc.working.stand)
  })
  it('the command says which objects a newer file renamed, for undo to know', () => {
    const file = { sha256: sha('b'), sizeBytes: 20, name: 'hall.glb', fileBox: null, unitM: 1, up: 'y' as const }
    const renamed = { 'hall/Table': 'hall/Set/Table' }
    const r = applyCommand(start(), { type: 'replaceModel', modelId: '1', file, renamed })
    expect(r.ok && r.value.renamed).toEqual(renamed)
  })
})

describe('a document of version 1', () => {
  const old = () => {
    const { models, ...doc } = start()
    const [m] = models
    const plain = { id: m!.id, name: m!.name, sha256: m!.sha256, sizeBytes: m!.sizeBytes }
    return JSON.parse(
      JSON.stringify({
        ...doc,
        schemaVersion: 1,
        models: [plain, { ...plain, id: 'second' }],
        working: {
          ...doc.working,
          visible: { hidden: ['Hall/Roof'] },
          stand: {
            ...doc.working.stand,
            aim: { kind: 'object', nodeId: 'Hall/Lamp', offset: [0, 0, 0], topBearingDeg: 0 },
          },
        },
        viewpoints: [{ id: 'v', name: 'V', locked: false, parts: { visible: { hidden: ['Hall/Roof', 'Hall'] } } }],
      }),
    ) as unknown
  }
  it('is read: its model gets a key, and every object’s id begins with it', () => {
    const r = readProjectDocument(old())
    if (!r.ok) throw new Error(r.message)
    expect(r.value.schemaVersion).toBe(4)
    // only the first model was ever shown
    expect(r.value.models).toEqual([{ ...model('1', 'hall.glb') }])
    expect(r.value.working.visible.hidden).toEqual(['hall/Hall/Roof'])
    expect(r.value.working.stand.aim).toMatchObject({ kind: 'object', nodeId: 'hall/Hall/Lamp' })
    expect(r.value.viewpoints[0]!.parts.visible!.hidden).toEqual(['hall/Hall/Roof', 'hall/Hall'])
  })
  it('that is damaged is still refused with the field that is wrong', () => {
    expect(readProjectDocument({ ...(old() as object), name: '' })).toMatchObject({ ok: false, message: /“name”/ })
  })
})
