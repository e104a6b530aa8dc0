// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { poseOfStand, projectPoint } from '#core/camera'
import { boxCorners } from '#core/math'
import { closeInMemory, openInMemory, roomFacts } from '../../../tests/support/app.ts'
import VisiblePanel from '../parts/VisiblePanel.vue'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useHiding } from './hiding.ts'
import { useSelection } from './selection.ts'

let scope: EffectScope
let s: ReturnType<typeof useSelection>
let f: ReturnType<typeof useFitting>
let h: ReturnType<typeof useHiding>
beforeEach(async () => {
  await openInMemory()
  scope = effectScope()
  scope.run(() => {
    s = useSelection()
    f = useFitting()
    h = useHiding()
  })
})
afterEach(async () => {
  scope.stop()
  await closeInMemory()
})

describe('the selection', () => {
  it('goes up to parents, and to everything of the same material of the same model', () => {
    s.select(['room/Set/Table'])
    expect(s.materials.value).toEqual(['oak'])
    s.selectSameMaterial()
    expect(useView().selection).toEqual(['room/Set/Table', 'room/Set/Bench'])
    s.selectParent()
    expect(useView().selection).toEqual(['room/Set'])
    s.selectParent()
    s.selectParent()
    expect(useView().selection).toEqual(['room'])
    expect(s.canParent.value).toBe(false)
  })
  it('loses what went with its model', async () => {
    s.select(['room/Set/Table', 'room/Walls'])
    useStage().facts = { ...roomFacts, nodes: roomFacts.nodes.filter((n) => n.id !== 'room/Set/Table') }
    await nextTick()
    expect(useView().selection).toEqual(['room/Walls'])
  })
})

describe('people', () => {
  it('are marked and unmarked as an edit', async () => {
    const p = useProject()
    s.select(['room/Set/Table'])
    const w = mount(VisiblePanel, { global: { plugins: [PrimeVue] } })
    const box = () => w.get<HTMLInputElement>('.person input')
    await box().trigger('change')
    expect(p.document!.people).toEqual(['room/Set/Table'])
    expect(box().element.checked).toBe(true)
    s.select(['room/Set/Table', 'room/Set/Bench'])
    await nextTick()
    expect(box().element.checked).toBe(false)
    await box().trigger('change')
    expect(p.document!.people).toEqual(['room/Set/Table', 'room/Set/Bench'])
    await box().trigger('change')
    expect(p.document!.people).toEqual([])
    p.undoEdit()
    expect(p.document!.people).toEqual(['room/Set/Table', 'room/Set/Bench'])
    w.unmount()
  })
})

describe('hiding', () => {
  const hidden = () => [...useProject().shown.hidden].sort()
  it('and showing are edits that undo takes back', () => {
    const p = useProject()
    h.hide(['room/Set', 'room/Walls'])
    expect(hidden()).toEqual(['room/Set', 'room/Walls'])
    h.show(['room/Set'])
    expect(hidden()).toEqual(['room/Walls'])
    p.undoEdit()
    p.undoEdit()
    expect(hidden()).toEqual([])
    expect(p.document!.trail.steps).toHaveLength(1)
  })
  it('one thing below what is hidden is shown alone', () => {
    h.hide(['room/Set'])
    h.show(['room/Set/Table'])
    expect(hidden()).toEqual(['room/Set/Bench'])
    expect(h.isGone('room/Set/Bench')).toBe(true)
    expect(h.isGone('room/Set/Table')).toBe(false)
  })
  it('isolating hides all but the selection, and again brings back what was', () => {
    h.hide(['room/Walls'])
    s.select(['room/Set/Table'])
    h.isolate()
    expect(h.isIsolated.value).toBe(true)
    for (const n of roomFacts.nodes) if (n.materials.length > 0) expect(h.isGone(n.id)).toBe(n.id !== 'room/Set/Table')
    h.isolate()
    expect(hidden()).toEqual(['room/Walls'])
    // a change meanwhile makes it an isolation no more
    h.isolate()
    h.showAll()
    expect(h.isIsolated.value).toBe(false)
  })
  it('a material or a storey goes at once; part of it shows as in part', () => {
    const oak = h.materials.value.find((g) => g.label === 'oak')!
    expect(oak.ids).toEqual(['room/Set/Table', 'room/Set/Bench'])
    h.hide(['room/Set/Bench'])
    expect(h.showing(oak.ids)).toBe('some')
    h.hide(oak.ids)
    expect(h.showing(oak.ids)).toBe('none')
    h.show(oak.ids)
    expect(h.showing(oak.ids)).toBe('all')
  })
  it('by sets: they combine, are kept per viewpoint, and change in all of them', () => {
    const p = useProject()
    h.addSet('Seats', ['room/Set/Bench'])
    h.addSet('Shell', ['room/Walls'])
    const [seats, shell] = h.sets.value
    h.switchSet(seats!, true)
    h.switchSet(shell!, true)
    expect(hidden()).toEqual(['room/Set/Bench', 'room/Walls'])
    p.run({ type: 'keepAsNew', id: 'v', name: 'V', parts: ['visible'] })
    h.switchSet(shell!, false)
    expect(hidden()).toEqual(['room/Set/Bench'])
    s.select(['room/Set/Table'])
    h.change(h.sets.value[0]!, 'in')
    expect(hidden()).toEqual(['room/Set/Bench', 'room/Set/Table'])
    p.run({ type: 'recall', viewpointId: 'v', stamp: { id: 's', at: 'now' } })
    expect(hidden()).toEqual(['room/Set/Bench', 'room/Set/Table', 'room/Walls'])
    // one thing of a set that is shown again dissolves the set here, and leaves the rest hidden
    h.show(['room/Set/Table'])
    expect(hidden()).toEqual(['room/Set/Bench', 'room/Walls'])
    expect(h.isOff(h.sets.value[0]!)).toBe(false)
    // deleted, what it hid stays hidden where it was
    h.drop(h.sets.value[1]!)
    expect(hidden()).toEqual(['room/Set/Bench', 'room/Walls'])
    expect(p.document!.viewpoints[0]!.parts.visible!.hidden).toEqual(['room/Walls'])
  })
})

describe('tight fit', () => {
  it('fills the frame with the selection to 5 %, the direction of view kept', async () => {
    const p = useProject()
    const before = poseOfStand(p.working!.stand)
    s.select(['room/Set/Table'])
    await f.fit()
    expect(p.document!.trail.steps.at(-1)!.label).toBe('Tight fit')
    const camera = p.camera!
    expect(camera.pose.bearingDeg).toBeCloseTo(before.bearingDeg, 9)
    expect(camera.pose.tiltDeg).toBeCloseTo(before.tiltDeg, 9)
    const at = boxCorners(roomFacts.nodes[3]!.box).map((c) => projectPoint(camera, c)!)
    const x = at.map((c) => c.xPx / camera.frame.widthPx)
    const y = at.map((c) => c.yPx / camera.frame.heightPx)
    const room = [Math.min(...x), 1 - Math.max(...x), Math.min(...y), 1 - Math.max(...y)]
    expect(Math.min(...room)).toBeCloseTo(0.05, 6)
  })
  it('of nothing selected takes the whole model', async () => {
    await f.fit()
    const camera = useProject().camera!
    for (const c of boxCorners(roomFacts.box)) {
      const at = projectPoint(camera, c)!
      expect(at.xPx).toBeGreaterThan(0)
      expect(at.xPx).toBeLessThan(camera.frame.widthPx)
    }
  })
})

describe('the tree of objects', () => {
  const panel = () => mount(VisiblePanel, { global: { plugins: [PrimeVue] } })
  it('stands open down to where there is a choice, finds names, and hides by its ticks', async () => {
    const w = panel()
    await nextTick()
    expect(w.text()).toContain('Walls')
    expect(w.text()).not.toContain('Bench')
    await w.get('input[type=search]').setValue('BEN')
    expect(w.text()).toContain('Bench')
    expect(w.text()).not.toContain('Walls')
    await w.get('input[aria-label="Show Bench"]').setValue(false)
    expect(useProject().working!.visible.hidden).toEqual(['room/Set/Bench'])
    // what is found goes at once, and comes back
    const all = (words: RegExp) =>
      w
        .findAll('button')
        .find((b) => words.test(b.text()))!
        .trigger('click')
    await all(/Show\s+the one found/)
    expect(useProject().working!.visible.hidden).toEqual([])
    await all(/Hide\s+the one found/)
    expect(useProject().working!.visible.hidden).toEqual(['room/Set/Bench'])
    await w.get('input[type=search]').setValue('nothing like it')
    expect(w.text()).toContain('No object of this name')
    await w.get('input[type=search]').setValue('')
    expect(w.text()).toContain('1 hidden')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Show all')!
      .trigger('click')
    expect(useProject().working!.visible.hidden).toEqual([])
  })
  it('moves one object by typed lengths, and puts it back', async () => {
    s.select(['room/Set/Table'])
    const w = panel()
    await nextTick()
    const field = w
      .findAll('input')
      .find((i) => i.element.id && w.find(`label[for="${i.element.id}"]`).text() === 'North')!
    await field.setValue('25 cm')
    await field.trigger('keydown', { key: 'Enter' })
    await field.trigger('blur')
    expect(useProject().document!.models[0]!.moved).toEqual([
      { path: 'room/Set/Table', moveM: [0, 0.25, 0], turnDeg: 0 },
    ])
    await nextTick()
    await w
      .findAll('button')
      .find((b) => b.text() === 'Back to its place')!
      .trigger('click')
    expect(useProject().document!.models[0]!.moved).toEqual([])
  })
})
