// @vitest-environment happy-dom
import { mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { aimPointOf, poseOfStand } from '#core/camera'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useMeasurements } from '../measure/measurements.ts'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import CutPanel from './CutPanel.vue'
import FramePanel from './FramePanel.vue'
import LensPanel from './LensPanel.vue'
import StandPanel from './StandPanel.vue'

let w: VueWrapper
const plugins = { global: { plugins: [PrimeVue] } }
beforeEach(async () => {
  localStorage.clear()
  await openInMemory()
  const floor = { point: [1, 1, 0], normal: [0, 0, 1], distanceM: 1.6, nodeId: 'room', nodeName: 'Floor' } as const
  vi.spyOn(useStage().rays, 'floorBelow').mockResolvedValue(floor)
  useView().forSubject('room')
})
afterEach(async () => {
  w.unmount()
  await closeInMemory()
})
async function open(panel: object): Promise<void> {
  w = mount(panel, plugins)
  for (let i = 0; i < 4; i++) await nextTick()
}
const field = (label: string) => {
  const l = w.findAll('label').find((x) => x.text() === label)
  if (!l) throw new Error(`no field “${label}”`)
  return w.get(`[id="${l.attributes('for')}"]`)
}
async function type(label: string, text: string): Promise<void> {
  await field(label).setValue(text)
  await field(label).trigger('keydown', { key: 'Enter' })
  await nextTick()
}
const button = (text: string | RegExp) => {
  const b = w.findAll('button').find((x) => (typeof text === 'string' ? x.text() === text : text.test(x.text())))
  if (!b) throw new Error(`no button “${text}”`)
  return b
}
const tab = (name: string) => button(name).trigger('click')
const stand = () => useProject().document!.working.stand
const pose = () => poseOfStand(stand(), centreOf)
const label = () => useProject().document!.trail.steps.at(-1)!.label

describe('the place in numbers', () => {
  it('types station, direction and aim; heights in any unit', async () => {
    await open(StandPanel)
    await type('East (x)', '120 cm')
    await type('Height (z)', '1.7')
    await type('Bearing', '45')
    await type('Tilt', '-10')
    await type('Roll', '2')
    expect(stand().station).toEqual([1.2, 1, 1.7])
    expect(pose()).toMatchObject({ bearingDeg: expect.closeTo(45, 9), tiltDeg: expect.closeTo(-10, 9), rollDeg: 2 })
    await type('Aim, height', '0.9')
    expect(aimPointOf(stand().aim)![2]).toBe(0.9)
    await type('Distance', '2 m')
    const p = aimPointOf(stand().aim)!
    expect(Math.hypot(...p.map((v, k) => v - stand().station[k]!))).toBeCloseTo(2, 9)
  })
  it('eye heights by preset and typed, the project’s own kept from what is there', async () => {
    await open(StandPanel)
    await button(/^seated/).trigger('click')
    expect(stand().station[2]).toBeCloseTo(1.2, 9)
    await type('Eye height', '1.65')
    expect(stand().station[2]).toBeCloseTo(1.65, 9)
    await nextTick()
    await button('keep as own').trigger('click')
    expect(useProject().document!.eyeHeightM).toBeCloseTo(1.65, 9)
  })
  it('asks about a number a thousand times too large, and takes either answer', async () => {
    await open(StandPanel)
    await type('Eye height', '1500')
    expect(stand().station[2]).toBeCloseTo(1.6, 9)
    await button('1500 mm').trigger('click')
    expect(stand().station[2]).toBeCloseTo(1.5, 9)
    await type('Eye height', '1500')
    await field('Eye height').trigger('keydown', { key: 'Escape' })
    expect(w.find('[role=alertdialog]').exists()).toBe(false)
    expect(stand().station[2]).toBeCloseTo(1.5, 9)
  })
  it('the aim as direction and point, the picture kept', async () => {
    await open(StandPanel)
    const before = pose()
    await button('direction').trigger('click')
    expect(stand().aim).toMatchObject({ kind: 'direction' })
    expect(pose()).toEqual(before)
    await button('point').trigger('click')
    expect(stand().aim.kind).toBe('point')
    expect(pose().bearingDeg).toBeCloseTo(before.bearingDeg, 9)
  })
  it('offsets of an object aimed at are along its own axes', async () => {
    useView().selection = ['room/Set/Table']
    await open(StandPanel)
    await button('Selected').trigger('click')
    await nextTick()
    expect(w.get('[data-testid=aim-object]').text()).toBe('Table')
    await type('Offset, z', '0.5')
    expect(aimPointOf(stand().aim, centreOf)![2]).toBeCloseTo(0.375 + 0.5, 9)
  })
  it('three numbers pasted into a field are the station', async () => {
    await open(StandPanel)
    const data = { getData: () => '2\t3\t1.5' }
    const e = Object.assign(new Event('paste', { bubbles: true, cancelable: true }), { clipboardData: data })
    field('East (x)').element.dispatchEvent(e)
    expect(stand().station).toEqual([2, 3, 1.5])
    // a single length is for the field itself
    const one = Object.assign(new Event('paste', { bubbles: true, cancelable: true }), {
      clipboardData: { getData: () => `5'11 1/2"` },
    })
    field('East (x)').element.dispatchEvent(one)
    expect(one.defaultPrevented).toBe(false)
  })
  it('steps, sides, alignment and orbit have their buttons; bare numbers follow the unit', async () => {
    await open(StandPanel)
    await button(/Step up/).trigger('click')
    expect(stand().station[2]).toBeCloseTo(1.7, 9)
    await button('height').trigger('click')
    expect(label()).toBe('Aligned on height')
    await type('From above by', '20')
    expect(label()).toBe('Went round')
    expect(pose().tiltDeg).toBeCloseTo(-20, 9)
    await button(/On a point/).trigger('click')
    expect(useView().picking).toBe('over')
    await button('front').trigger('click')
    expect(label()).toBe('From the front')
    await button('over all').trigger('click')
    expect(pose().tiltDeg).toBe(-90)
    await button('mm').trigger('click')
    expect(useProject().document!.unit).toBe('mm')
    await type('East (x)', '2500')
    expect(stand().station[0]).toBeCloseTo(2.5, 9)
  })
})

describe('the other pages', () => {
  it('are reached by click and by arrow keys', async () => {
    await open(StandPanel)
    await w.get('[role=tablist]').trigger('keydown', { key: 'ArrowRight' })
    expect(useView().standTab).toBe('straighten')
    await w.get('[role=tablist]').trigger('keydown', { key: 'ArrowLeft' })
    await w.get('[role=tablist]').trigger('keydown', { key: 'ArrowLeft' })
    expect(useView().standTab).toBe('views')
  })
  it('straighten tells what converges, levels, and asks for clicks', async () => {
    useProject().move({ stand: { ...stand(), aim: { kind: 'direction', bearingDeg: 90, tiltDeg: -5 } } }, 'Tilt')
    await open(StandPanel)
    await tab('Straighten')
    expect(w.get('[data-testid=convergence]').text()).toMatch(/Two-point.*verticals −3\.75° \+3\.75°, 105 px/s)
    await button(/^Level/).trigger('click')
    expect(pose().tiltDeg).toBe(0)
    await nextTick()
    expect(w.get('[data-testid=convergence]').text()).toContain('One-point')
    await button('Tilt again').trigger('click')
    expect(pose().tiltDeg).toBeCloseTo(-5, 6)
    await button(/To a wall/).trigger('click')
    expect(useView().picking).toBe('square')
    await button('Click a wall…').trigger('click')
    expect(useView().picking).toBe('main-direction')
    useView().mainBearingDeg = 12
    await nextTick()
    expect(w.text()).toContain('+12.00°, picked')
    await button('as found').trigger('click')
    await button('To the nearest direction').trigger('click')
    expect(label()).toBe('Squared up')
  })
  it('fit has margins at each side, points to clear, and what was measured', async () => {
    await open(StandPanel)
    await tab('Fit')
    expect(w.get('[data-testid=fit-target]').text()).toBe('the model')
    await type('Left', '10')
    await button('All as left').trigger('click')
    expect((field('Bottom').element as HTMLInputElement).value).toBe('10.0')
    await button('pixels').trigger('click')
    expect((field('Left').element as HTMLInputElement).value).toBe(
      String(Math.round(useProject().document!.working.frame.widthPx / 10)),
    )
    useMeasurements().addFitPoint([3, 1, 1])
    await nextTick()
    expect(w.get('[data-testid=fit-target]').text()).toBe('one picked point')
    await w
      .findAll('button')
      .filter((b) => b.text() === 'Clear')[0]!
      .trigger('click')
    expect(w.get('[data-testid=fit-target]').text()).toBe('the model')
    useMeasurements().add([0, 0, 0])
    useMeasurements().add([3, 4, 0])
    await nextTick()
    expect(w.get('.measured').text()).toMatch(/5\.00 m.*x \+3\.00 y \+4\.00 z 0\.00/s)
    await button(/Remove measure 1/).trigger('click')
    expect(w.find('.measured').exists()).toBe(false)
    await button('Tight fit').trigger('click')
    expect(label()).toBe('Tight fit')
  })
  it('views: a tile shows it, axes and scale are told', async () => {
    await open(StandPanel)
    await tab('Views')
    await button(/Isometric looking north-east:/).trigger('click')
    await nextTick()
    expect(label()).toMatch(/^Isometric/)
    expect(w.get('[aria-label="Axes as drawn"]').text()).toMatch(/\+30\.0°.*0\.8165/s)
    await type('Scale 1 :', '50')
    const { lens, frame } = useProject().document!.working
    expect((lens.projection as { widthM: number }).widthM).toBeCloseTo(
      (50 * frame.widthPx * 0.0254) / frame.densityPpi,
      9,
    )
    await button('90°').trigger('click')
    await button(/Cabinet: the depth/).trigger('click')
    expect(pose().bearingDeg).toBe(90)
    await button('Perspective').trigger('click')
    expect(useProject().document!.working.lens.projection.kind).toBe('perspective')
  })
})

describe('cuts', () => {
  it('near and far are switched on where something is, typed, and are edits', async () => {
    await open(CutPanel)
    const cut = () => useProject().document!.working.cut
    const tick = (label: string) => w.findAll('label.tick').find((l) => l.text().startsWith(label))!.find('input').trigger('change') // prettier-ignore
    await tick('Near cut')
    // through the subject
    expect(cut().near).toEqual({ on: true, distanceM: 3 })
    await nextTick()
    await type('Near at', '62 cm')
    expect(cut().near.distanceM).toBeCloseTo(0.62, 9)
    await tick('Far cut')
    // beyond the model, which ends 5 m ahead
    expect(cut().far).toEqual({ on: true, distanceM: 5.1 })
    await tick('Near cut')
    expect(cut().near).toEqual({ on: false, distanceM: 0.62 })
    useProject().undoEdit()
    expect(cut().near.on).toBe(true)
  })
  it('with the cut locked standing back changes nothing', async () => {
    await open(CutPanel)
    useProject().run({ type: 'lockPart', part: 'cut', locked: true })
    const before = useProject().document!.working
    await button('Stand back through the wall').trigger('click')
    await nextTick()
    expect(useProject().document!.working).toBe(before)
  })
})

describe('the lens and the frame in numbers', () => {
  it('focal length, shift, sensor use and size held', async () => {
    await open(LensPanel)
    await type('Focal length', '35')
    await type('Rise', '4')
    await type('Cross', '-2')
    expect(useProject().document!.working.lens).toMatchObject({ focalMm: 35, riseMm: 4, crossMm: -2 })
    await type('Focal length', '3')
    expect(w.get('[role=alert]').text()).toContain('At least')
    await button('fits height').trigger('click')
    expect(useProject().document!.working.lens.sensorUse).toBe('acrossHeight')
    const before = stand().station
    useView().holdSubject = true
    await type('Focal length', '50')
    expect(label()).toBe('Focal length, size held')
    expect(stand().station).not.toEqual(before)
    await type('Rise', '12')
    await type('Cross', '20')
    await nextTick()
    expect(w.text()).toContain('No shift lens has an image circle of')
    await button('Parallel').trigger('click')
    await nextTick()
    await type('Scale 1 :', '20')
    expect(useProject().document!.working.lens.projection.kind).toBe('parallel')
  })
  it('shapes keep the long side, turning takes the sensor along', async () => {
    await open(FramePanel)
    const { frame: before } = useProject().document!.working
    await button('16:9').trigger('click')
    const frame = () => useProject().document!.working.frame
    expect(frame()).toMatchObject({ widthPx: before.widthPx, heightPx: Math.round((before.widthPx * 9) / 16) })
    await type('Width', '1600')
    expect(frame()).toMatchObject({ widthPx: 1600, heightPx: 900 })
    await w.get('label.tick input').setValue(false)
    await type('Height', '800')
    expect(frame()).toMatchObject({ widthPx: 1600, heightPx: 800 })
    await type('Density', '150')
    expect((field('Print width').element as HTMLInputElement).value).toBe('270.9')
    await type('Print width', '254')
    expect(frame()).toMatchObject({ widthPx: 1500, heightPx: 800 })
    await type('Print width', '270.9333')
    await button(/upright/i).trigger('click')
    expect(frame()).toMatchObject({ widthPx: 800, heightPx: 1600 })
    expect(useProject().document!.working.lens.sensorMm).toEqual({ width: 24, height: 36 })
    const guide = (name: string) =>
      w
        .findAll('label.name')
        .find((l) => l.text() === name)!
        .get('input')
    await guide('thirds').trigger('change')
    await guide('grid of fields').trigger('change')
    await guide('golden section').trigger('change')
    expect(frame().guides.map((g) => g.kind)).toEqual(['golden', 'fields'])
    await w.findAll('button.colour')[0]!.trigger('click')
    await type('Fields across', '6')
    expect(frame().guides).toMatchObject([{ colour: 'black' }, { across: 6, colour: 'white' }])
    await guide('metre grid on a plane').trigger('change')
    expect(useView().picking).toBe('metre-grid')
  })
})
