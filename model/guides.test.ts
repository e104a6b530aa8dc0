import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cropMoved } from '#core/framing'
import {
  aimAt,
  applyCommand,
  frameSchema,
  GUIDE_COLOURS,
  GUIDE_KINDS,
  newProject,
  projectSchema,
  readProjectDocument,
} from './index.ts'

const project = () => newProject({ name: 'Old', subject: 'room', stand: aimAt([0, 0, 1], [0, 3, 1]), models: [] })

describe('a document of version 3', () => {
  it('is read: each frame’s one guide becomes a list, wherever the frame is kept', () => {
    const now = project()
    const withGuide = (guides: string) => ({ ...now.working, frame: { ...now.working.frame, guides } })
    const viewpoints = [{ id: 'v', name: 'One', parts: { frame: withGuide('none').frame }, locked: false }]
    const old = { ...now, schemaVersion: 3, working: withGuide('diagonals'), viewpoints }
    const r = readProjectDocument(JSON.parse(JSON.stringify(old)))
    if (!r.ok) throw new Error(r.message)
    expect(r.value.working.frame.guides).toEqual([{ kind: 'diagonals', colour: 'white', strength: 0.4 }])
    expect(r.value.viewpoints[0]!.parts.frame!.guides).toEqual([])
    expect(r.value.schemaVersion).toBe(4)
  })
})

describe('a frame', () => {
  it('with whatever guides, mask and shapes the panel and drags can make of it is taken, and validates', () => {
    const guide = fc.record({
      kind: fc.constantFrom(...GUIDE_KINDS),
      colour: fc.constantFrom(...GUIDE_COLOURS),
      strength: fc.integer({ min: 1, max: 20 }).map((n) => n / 20),
      across: fc.integer({ min: 1, max: 24 }),
      stepM: fc.double({ min: 0.001, max: 1000, noNaN: true }),
    })
    const share = fc.integer({ min: 0, max: 49 }).map((n) => n / 100)
    const crop = fc.record({
      id: fc.uuid(),
      width: fc.double({ min: 0.05, max: 20, noNaN: true }),
      height: fc.constant(1),
      x: fc.constant(0),
      y: fc.constant(0),
    })
    fc.assert(
      fc.property(
        fc.uniqueArray(guide, { selector: (g) => g.kind }),
        fc.record({ left: share, right: share, top: share, bottom: share, fold: share }),
        fc.array(crop, { maxLength: 12 }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (guides, mask, crops, by) => {
          const doc = project()
          const moved = crops.map((c) => cropMoved(doc.working.frame, c, by, -by))
          const frame = { ...doc.working.frame, guides, mask, crops: moved, guidesInPicture: true }
          const r = applyCommand(doc, { type: 'moveCamera', changes: { frame }, label: 'Frame' })
          if (!r.ok) throw new Error(r.message)
          expect(r.value.document.working.frame.crops).toEqual(moved)
          expect(projectSchema.safeParse(r.value.document).success).toBe(true)
        },
      ),
      { numRuns: 200 },
    )
  })
  it('refuses shapes past 1:20, guides without strength, planes without a direction', () => {
    const { frame } = project().working
    const wrong = [
      { crops: [{ id: 'a', width: 21, height: 1, x: 0, y: 0 }] },
      { guides: [{ kind: 'thirds', colour: 'white', strength: 0 }] },
      { guides: [{ kind: 'metres', colour: 'white', strength: 1, plane: { point: [0, 0, 0], normal: [0, 0, 0] } }] },
      { mask: { left: 0.5, right: 0, top: 0, bottom: 0, fold: 0 } },
    ]
    for (const w of wrong) expect(frameSchema.safeParse({ ...frame, ...w }).success).toBe(false)
  })
})
