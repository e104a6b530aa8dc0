// @vitest-environment happy-dom
import { axesOf } from '#core/camera'
import { dot } from '#core/math'
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { projectSegment } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { FeatureHit } from '#mesh'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useCheck } from '../check/check.ts'
import MeasureMarks from '../measure/MeasureMarks.vue'
import { useMeasurements } from '../measure/measurements.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import SnapGuides from '../strips/SnapGuides.vue'
import PickMarks from './PickMarks.vue'
import PictureAsk from './PictureAsk.vue'
import PictureFoot from './PictureFoot.vue'
import { usePointer } from '../camera/pointer.ts'

const plugins = { global: { plugins: [PrimeVue] } }
const hit: FeatureHit = {
  point: [4, 1, 0.9],
  normal: [0, 0, 1],
  distanceM: 3.1,
  nodeId: 'room/Set/Bench',
  nodeName: 'Bench',
  feature: 'edge',
}
let scope: EffectScope
beforeEach(async () => {
  await openInMemory()
  const stage = useStage()
  vi.spyOn(stage.rays, 'pick').mockResolvedValue(hit)
  vi.spyOn(stage.rays, 'pickFeature').mockResolvedValue(hit)
  vi.spyOn(stage, 'check').mockResolvedValue([])
  vi.spyOn(stage.rays, 'floorBelow').mockResolvedValue(null)
  scope = effectScope()
  useView().forSubject('room')
})
afterEach(async () => {
  scope.stop()
  useCheck().$dispose()
  await closeInMemory()
})

describe('the bar over the picture', () => {
  it('is not there until something is asked for, and lets go', async () => {
    const w = mount(PictureAsk, plugins)
    expect(w.find('.ask').exists()).toBe(false)
    useView().picking = 'horizon'
    await nextTick()
    expect(w.text()).toContain('for the horizon to pass through')
    await w.get('button').trigger('click')
    expect(useView().picking).toBeNull()
    w.unmount()
  })
  it('with Stand it takes a height, presets, furniture', async () => {
    useView().tool = 'stand'
    const w = mount(PictureAsk, plugins)
    const input = w.get('input[aria-label="Height to stand at"]')
    expect((input.element as HTMLInputElement).value).toBe('1.58')
    // setting tells input and change
    await input.setValue(`5'2"`)
    expect(useView().standHeightM).toBeCloseTo(1.5748, 4)
    await input.setValue('tall')
    expect((input.element as HTMLInputElement).value).toBe('1.57')
    const button = (text: string) => w.findAll('button').find((b) => b.text() === text)!
    await button('seated').trigger('click')
    expect(useView().standHeightM).toBe(1.2)
    await button('own').trigger('click')
    expect(useView().standHeightM).toBeNull()
    await w.get('input[type=checkbox]').setValue(true)
    expect(useView().onFurniture).toBe(true)
    await button('Done').trigger('click')
    expect(useView().tool).toBe('turn')
    w.unmount()
  })
})

describe('marks', () => {
  it('show the corner or edge that a click would take, with its height', async () => {
    const camera = useProject().camera!
    const picking = scope.run(() => usePicking())!
    const w = mount(PickMarks, { props: { camera, width: 600, height: 400 }, ...plugins })
    picking.begin('measure')
    await picking.hover(camera, [100, 100], 4)
    await nextTick()
    expect(w.get('[data-testid=pick-mark]').text()).toBe('edge of Bench, height 0.90 m')
    picking.end()
    await nextTick()
    expect(w.find('[data-testid=pick-mark]').exists()).toBe(false)
    w.unmount()
  })
  it('draw measured ways with their length, and points of a fit', async () => {
    const camera = useProject().camera!
    const toPx = (p: Vec3) => ({ x: p[0] * 10, y: p[1] * 10 })
    const line = (a: Vec3, b: Vec3) => projectSegment(camera, a, b)
    const w = mount(MeasureMarks, { props: { toPx, line }, ...plugins })
    const m = useMeasurements()
    m.add([4, 0, 0])
    await nextTick()
    expect(w.find('circle.from').exists()).toBe(true)
    m.add([4, 3, 4])
    m.addFitPoint([1, 2, 3])
    await nextTick()
    expect(w.text()).toBe('5.00 m, 4.00 m high')
    expect(w.get('path.point').attributes('d')).toBe('M5 20h10M10 15v10')
    // behind the camera nothing is drawn
    m.clear()
    m.add([-4, 0, 0])
    m.add([-4, 1, 0])
    await nextTick()
    expect(w.text()).toBe('')
    w.unmount()
  })
  it('guides run along what has caught a drag', () => {
    const guides = [
      { point: [2, 3, 0] as Vec3, bearingDeg: 0, label: 'centre line' },
      { point: [2, 3, 1.6] as Vec3, bearingDeg: null, label: 'level' },
    ]
    const toPx = (p: Vec3) => ({ x: p[0] * 10, y: 100 - p[1] * 10 })
    const w = mount(SnapGuides, { props: { guides, toPx, width: 200, height: 100 } })
    const paths = w.findAll('path').map((p) => p.attributes('d'))
    expect(paths[0]).toMatch(/^M20 \S+L20 \S+$/)
    expect(paths[1]).toBe('M0 70H200')
    expect(w.text()).toContain('centre line')
  })
})

describe('the readout under the pointer', () => {
  it('tells how far, what, how high and how wide the picture is there', async () => {
    const w = mount(PictureFoot, { props: { status: '' }, ...plugins })
    const pointer = scope.run(() => usePointer())!
    await pointer.hover(useProject().camera!, 300, 200)
    await nextTick()
    // 3 m ahead at 24 mm on 36 mm: 4.5 m wide
    expect(w.get('[data-testid=readout]').text()).toBe('3.08 m · 0.90 m high · 4.50 m wide · Bench')
    pointer.leave()
    await nextTick()
    expect(w.get('[data-testid=readout]').text()).toBe('')
    w.unmount()
  })
  it('beyond the far cut there is nothing', async () => {
    const cut = useProject().working!.cut
    useProject().run({ type: 'setPart', part: 'cut', value: { ...cut, far: { on: true, distanceM: 2 } } })
    const pointer = scope.run(() => usePointer())!
    const ask = vi.spyOn(useStage().rays, 'pick').mockResolvedValue(null)
    await pointer.hover(useProject().camera!, 300, 200)
    expect(pointer.probe.value).toBeNull()
    // the sight line that is asked ends there
    const [sight] = ask.mock.calls[0]!
    const along = 'farM' in sight ? sight.farM * dot(sight.direction, axesOf(useProject().camera!.pose).forward) : 0
    expect(along).toBeCloseTo(2, 9)
  })
})
