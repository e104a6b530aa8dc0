// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { CUT_KINDS, isRemoved } from '#core/section'
import { projectPoint } from '#core/camera'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { squared, useCutLine } from './cut-line.ts'
import { useCutPicks } from './cut-picks.ts'
import { MOST_CUTS, useCuts } from './cuts.ts'
import { useSections } from './section-here.ts'

let scope: EffectScope
let cuts: ReturnType<typeof useCuts>
let sections: ReturnType<typeof useSections>
let line: ReturnType<typeof useCutLine>
let picking: ReturnType<typeof usePicking>
const part = () => useProject().document!.working.cut
const take = (
  point: readonly [number, number, number],
  normal: readonly [number, number, number] | null = null,
): void => picking.take(point, normal && { nodeId: 'room/Walls', normal })

beforeEach(async () => {
  await openInMemory()
  scope = effectScope()
  scope.run(() => {
    picking = usePicking()
    cuts = useCuts()
    sections = useSections()
    line = useCutLine()
    useCutPicks()
  })
  cuts.chosenId.value = null
})
afterEach(async () => {
  scope.stop()
  await closeInMemory()
})

describe('the list of cuts', () => {
  it('new ones of each kind go through what one works on, with a letter of their own; each is one edit', () => {
    CUT_KINDS.forEach((k) => expect(cuts.add(k)).not.toBeNull())
    expect(part().cuts.map((c) => c.name)).toEqual(['A', 'B', 'C', 'D', 'E', 'F'])
    expect(cuts.chosen.value?.name).toBe('F')
    useProject().undoEdit()
    expect(part().cuts).toHaveLength(5)
  })
  it('all are switched off together and remember which were on; a new one switches them on again', () => {
    cuts.add('level')
    cuts.add('box')
    cuts.change({ ...part().cuts[1]!, on: false })
    cuts.switchAll()
    expect(useProject().shown.cuts.list).toEqual([])
    cuts.switchAll()
    expect(useProject().shown.cuts.list.map((c) => c.name)).toEqual(['A'])
    cuts.switchAll()
    cuts.add('upright')
    expect(useProject().shown.cuts.list.map((c) => c.name)).toEqual(['A', 'C'])
  })
  it('what is selected is left whole, and cut again', () => {
    cuts.add('level')
    useView().selection = ['room/Set/Table']
    cuts.leaveWhole()
    cuts.leaveWhole()
    expect(useProject().shown.cuts.whole).toEqual(['room/Set/Table'])
    cuts.cutAgain('room/Set/Table')
    expect(useProject().shown.cuts.whole).toBeUndefined()
  })
  it('too many, or a locked part: a clear word, nothing changes', () => {
    for (let i = 0; i < MOST_CUTS; i++) cuts.add('level')
    expect(cuts.add('level')).toBeNull()
    expect(part().cuts).toHaveLength(MOST_CUTS)
    expect(useNotices().list.at(-1)!.text).toMatch(/64 cuts/)
    useProject().run({ type: 'lockPart', part: 'cut', locked: true })
    expect(cuts.add('level')).toBeNull()
    expect(useNotices().list.at(-1)!.text).toMatch(/locked/)
  })
})

describe('places that are clicked', () => {
  it('along a wall: upright, the side of the click goes; along a roof: a free plane', () => {
    picking.begin('cut-through')
    take([6, 2, 1], [-1, 0, 0])
    expect(part().cuts[0]).toMatchObject({ kind: 'upright', point: [6, 2, 1], bearingDeg: 90 })
    expect(isRemoved(part().cuts[0]!, [5, 2, 1])).toBe(true)
    picking.begin('cut-through')
    take([3, 2, 3], [0, 0.6, 0.8])
    expect(part().cuts[1]).toMatchObject({ kind: 'free', normal: [0, 0.6, 0.8] })
    expect(useView().picking).toBeNull()
  })
  it('between two things: at the middle, facing the first', () => {
    picking.begin('cut-between')
    take([1, 2, 1])
    expect(useView().picking).toBe('cut-between')
    take([5, 2, 1])
    expect(part().cuts[0]).toMatchObject({ kind: 'upright', point: [3, 2, 1] })
    expect(isRemoved(part().cuts[0]!, [2, 2, 1])).toBe(true)
    expect(isRemoved(part().cuts[0]!, [4, 2, 1])).toBe(false)
  })
  it('a near cut held by a place stays there when the camera moves', async () => {
    const project = useProject()
    picking.begin('near-place')
    take([3, 1, 1])
    expect(project.shown.cuts.nearM).toBeCloseTo(2, 9)
    const { stand } = project.document!.working
    project.move({ stand: { ...stand, station: [2, 1, 1.6] } }, 'Moved')
    await nextTick()
    expect(project.shown.cuts.nearM).toBeCloseTo(1, 9)
  })
  it('a line in Plan: two places upright, more stepped, at right angles; Enter ends it', () => {
    line.draw()
    take([0, 2, 0])
    take([3, 2.1, 0])
    take([3.1, 3, 0])
    take([6, 3.2, 0])
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', cancelable: true }))
    expect(part().cuts[0]).toMatchObject({ kind: 'stepped', points: [[0, 2], [3, 2], [3, 3], [6, 3]] }) // prettier-ignore
    line.draw()
    take([1, 0, 0])
    take([1, 4, 0])
    line.finish()
    expect(part().cuts[1]).toMatchObject({ kind: 'upright' })
    // its left goes
    expect(isRemoved(part().cuts[1]!, [0.5, 2, 1])).toBe(true)
    line.draw()
    take([1, 0, 0])
    line.finish()
    expect(part().cuts).toHaveLength(2)
    expect(squared([[0, 0]], [1, 1], 0)).toEqual([1, 1])
  })
})

describe('in one step', () => {
  it('section here: level, square, the model’s section fills the frame; its notice takes both back', () => {
    const project = useProject()
    const before = project.document!.working
    expect(sections.sectionHere([3, 2, 1], null, 'perspective')).toBe(true)
    const c = project.camera!
    expect(c.pose).toMatchObject({ bearingDeg: 90, tiltDeg: 0, rollDeg: 0 })
    const px = [[3, 0, 0], [3, 4, 3], [3, 4, 0], [3, 0, 3]].map((p) => projectPoint(c, p as never)!) // prettier-ignore
    for (const p of px) {
      expect(p.xPx).toBeGreaterThan(-0.5)
      expect(p.xPx).toBeLessThan(c.frame.widthPx + 0.5)
      expect(p.yPx).toBeGreaterThan(-0.5)
      expect(p.yPx).toBeLessThan(c.frame.heightPx + 0.5)
    }
    expect(project.document!.trail.steps.at(-1)!.label).toBe('Sectional perspective')
    useNotices().list.at(-1)!.action!.run()
    expect(project.document!.working.cut).toEqual(before.cut)
    expect(project.document!.working.stand).toEqual(before.stand)
  })
  it('plan of this storey: parallel, cut over its floor, at the largest standard scale that holds it', () => {
    const project = useProject()
    expect(sections.planOfStorey()).toBe(true)
    expect(part().cuts).toMatchObject([{ kind: 'level', heightM: 1.2, on: true }])
    const { lens, frame } = project.document!.working
    expect(lens.projection.kind).toBe('parallel')
    const scale = lens.projection.kind === 'parallel' ? lens.projection.widthM / ((frame.widthPx / frame.densityPpi) * 0.0254) : 0 // prettier-ignore
    expect(scale).toBeCloseTo(50, 6)
    // again: the same cut serves
    expect(sections.planOfStorey()).toBe(true)
    expect(part().cuts).toHaveLength(1)
  })
  it('where the usual height misses the model, as with a product, the plan is cut through the subject', () => {
    const project = useProject()
    project.run({ type: 'setProject', changes: { planCutM: 40 } })
    expect(sections.planOfStorey()).toBe(true)
    const { min, max } = useStage().facts!.box
    const [cut] = part().cuts
    expect(cut).toMatchObject({ kind: 'level' })
    expect(cut?.kind === 'level' && cut.heightM > min[2] && cut.heightM < max[2]).toBe(true)
    expect(useNotices().list.at(-1)!.text).toMatch(/cut through the subject at a height of/)
  })
})

describe('a plane through three places', () => {
  it('takes away what lies on the camera’s side; on one line they make none, and are asked for again', async () => {
    picking.begin('cut-three')
    take([7, 7, 7])
    // what was begun and left is forgotten
    picking.end()
    await nextTick()
    picking.begin('cut-three')
    await nextTick()
    for (const p of [[1, 3, 0], [2, 3, 0], [3, 3, 0]] as const) take(p) // prettier-ignore
    expect(part().cuts).toHaveLength(0)
    for (const p of [[1, 3, 0], [2, 3, 0], [1, 3, 2]] as const) take(p) // prettier-ignore
    const [cut] = part().cuts
    expect(cut).toMatchObject({ kind: 'free', point: [1, 3, 0] })
    expect(isRemoved(cut!, useProject().camera!.pose.station)).toBe(true)
    expect(useView().picking).toBeNull()
  })
})
