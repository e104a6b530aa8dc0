// @vitest-environment happy-dom
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { fieldOfView, projectPoint, type Lens } from '#core/camera'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import LensPanel from '../parts/LensPanel.vue'
import WindowMarks from '../strips/WindowMarks.vue'
import LensStrip from './LensStrip.vue'

let w: VueWrapper
const plugins = { global: { plugins: [PrimeVue] } }
const lens = (): Lens => useProject().document!.working.lens
const label = () => useProject().document!.trail.steps.at(-1)!.label
const said = () => useNotices().list.map((n) => n.text).join(' ') // prettier-ignore
beforeEach(async () => {
  localStorage.clear()
  await openInMemory()
  useView().forSubject('room')
  vi.spyOn(useStage().rays, 'wallAlong').mockResolvedValue(null)
})
afterEach(async () => {
  w.unmount()
  await closeInMemory()
})
async function open(): Promise<void> {
  w = mount(LensPanel, plugins)
  await nextTick()
}
const field = (name: string) => {
  const l = w.findAll('label').find((x) => x.text() === name)
  if (!l) throw new Error(`no field “${name}”`)
  return w.get(`[id="${l.attributes('for')}"]`)
}
async function type(name: string, text: string): Promise<void> {
  await field(name).setValue(text)
  await field(name).trigger('keydown', { key: 'Enter' })
  await flushPromises()
}
const shown = (name: string): number => Number((field(name).element as HTMLInputElement).value.replace('−', '-'))

describe('the lens in all its words', () => {
  it('angles, width and height at the subject, and the equivalent are the focal length', async () => {
    await open()
    await type('Angle across', '60')
    expect(lens().focalMm).toBeCloseTo(18 / Math.tan(Math.PI / 6), 6)
    expect(shown('Focal length')).toBeCloseTo(31.2, 1)
    await type('Width there', '2')
    // the aim is 3 m ahead
    expect(lens().focalMm).toBeCloseTo((36 * 3) / 2, 6)
    expect(shown('Height there')).toBeCloseTo(4 / 3, 2)
    await type('Sensor width', '17.3')
    await type('Sensor height', '13')
    await type('On 36 × 24', '50')
    expect(lens().focalMm).toBeCloseTo((50 * Math.hypot(17.3, 13)) / Math.hypot(36, 24), 6)
    // another shape than 3:2: by width it is another number
    expect(shown('the same')).toBeCloseTo((lens().focalMm * 36) / 17.3, 0)
  })
  it('an angle of 0 or 180, and one that no lens has, leave the old value and are told beside the field', async () => {
    await open()
    const before = lens()
    for (const [text, words] of [['0', 'At least'], ['180', 'At most'], ['0.001', 'At least']] as const) {
      await type('Angle up', text)
      expect(lens()).toBe(before)
      expect(w.get('[role=alert]').text()).toContain(words)
    }
  }) // prettier-ignore
  it('with the subject held the station moves and the subject keeps its place and size', async () => {
    await open()
    const [a, b] = [[4, 1, 1.6], [4, 1.3, 1.6]] as const // prettier-ignore
    const at = () => [a, b].map((p) => projectPoint(useProject().camera!, p)!.xPx)
    const before = at()
    useView().holdSubject = true
    await type('Focal length', '85')
    expect(label()).toBe('Focal length, size held')
    at().forEach((x, i) => expect(x).toBeCloseTo(before[i]!, 6))
    // of a point nearer by, at its own depth
    useView().lensPoint = [2, 1, 1.6]
    const depth = () => projectPoint(useProject().camera!, [2, 1, 1.6])!.depthM
    const size = lens().focalMm / depth()
    await type('Focal length', '60')
    expect(lens().focalMm / depth()).toBeCloseTo(size, 9)
  })
  it('a wall that the station passes takes the near cut with it; nearer again it goes', async () => {
    await open()
    useView().holdSubject = true
    const wall = { point: [0, 1, 1], normal: [1, 0, 0], distanceM: 4, nodeId: 'room/Walls', nodeName: 'West wall' } as const
    vi.mocked(useStage().rays.wallAlong).mockResolvedValue(wall)
    await type('Focal length', '135')
    const near = () => useProject().document!.working.cut.near
    expect(near()).toMatchObject({ on: true, madeBy: 'standBack' })
    expect(said()).toContain('stands behind “West wall”')
    const [x] = useProject().camera!.pose.station
    expect(near().distanceM).toBeCloseTo(-x, 2)
    vi.mocked(useStage().rays.wallAlong).mockResolvedValue(null)
    await type('Focal length', '24')
    expect(near().on).toBe(false)
  }) // prettier-ignore
  it('rise in per cent of the picture is the same rise', async () => {
    await open()
    useView().shiftUnit = '%'
    await nextTick()
    await type('Rise', '25')
    expect(lens().riseMm).toBeCloseTo(6, 9)
    await w.get('[data-testid=sensor-picture] .picture').trigger('keydown', { key: 'ArrowRight', shiftKey: true })
    expect(lens()).toMatchObject({ crossMm: 1 })
    expect(lens().riseMm).toBeCloseTo(6, 9)
  })
  it('an oblique picture is shown as one, with its own numbers', async () => {
    const { working } = useProject().document!
    const projection = { kind: 'oblique', widthM: 6, angleDeg: 45, receding: 0.5 } as const
    useProject().move({ lens: { ...working.lens, projection } }, 'Cabinet')
    await open()
    expect(w.get('[role=radio][aria-checked=true]').text()).toBe('Oblique')
    await type('Shortened to', '1')
    expect(lens().projection).toEqual({ ...projection, receding: 1 })
    await type('Width of view', '9')
    expect(lens().projection).toMatchObject({ kind: 'oblique', widthM: 9, receding: 1 })
  })
})

describe('distortion', () => {
  it('is typed by its strength and its coefficients; what folds is refused with its radius', async () => {
    await open()
    await type('Strength', '-6')
    const { k1 } = lens().distortion!
    expect(k1).toBeLessThan(0)
    expect(w.find('[data-testid=distortion-grid]').exists()).toBe(true)
    const before = lens()
    await type('k1', '-0.5')
    expect(lens()).toBe(before)
    expect(w.text()).toMatch(/would fold \d+\.\d mm from the axis/)
    await type('k2', '0.01')
    expect(lens().distortion).toMatchObject({ k1, k2: 0.01 })
    expect(w.text()).not.toContain('would fold')
    await type('Strength', '0')
    expect(lens().distortion).toBeNull()
  })
  it('an angle typed is that of the picture as it is bent', async () => {
    await open()
    await type('Strength', '-3')
    await type('Angle across', '70')
    const { camera } = useProject()
    expect(fieldOfView(camera!.lens, camera!.frame).horizontalDeg).toBeCloseTo(70, 9)
  })
})

describe('five lenses side by side', () => {
  it('hold the subject’s size; one is taken by a click', async () => {
    vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(null)
    w = mount(LensStrip, plugins)
    await flushPromises()
    expect(w.findAll('button').map((b) => b.text().split(' mm')[0])).toEqual(['18', '24', '35', '50', '85', '×'])
    const size = lens().focalMm / 3
    await w.findAll('button')[4]!.trigger('click')
    expect(lens().focalMm).toBe(85)
    expect(label()).toBe('Focal length, size held')
    expect(85 / projectPoint(useProject().camera!, [4, 1, 1.6])!.depthM).toBeCloseTo(size, 9)
  })
})

describe('the window in Plan and Side', () => {
  it('is dragged for the rise, and its ends for the focal length, as the pointer goes', async () => {
    // Side: looking north at a camera that looks east; 50 px to the metre
    const toPx = (p: readonly number[]) => ({ x: 50 * p[0]!, y: 300 - 50 * p[2]! })
    const toWorld = (e: { clientX: number; clientY: number }) => [e.clientX / 50, 1, (300 - e.clientY) / 50] as const
    w = mount(WindowMarks, { props: { across: 'up', ends: true, toPx, toWorld }, ...plugins })
    const drag = async (testid: string, dy: number): Promise<void> => {
      const h = w.get(`[data-testid=${testid}]`)
      const [, x, y] = /translate\(([-\d.]+) ([-\d.]+)\)/.exec(h.attributes('transform')!)!
      const at = { clientX: Number(x), clientY: Number(y), pointerId: 1, button: 0 }
      await h.trigger('pointerdown', at)
      window.dispatchEvent(new PointerEvent('pointermove', { ...at, clientY: at.clientY + dy }))
      await new Promise((r) => requestAnimationFrame(r))
      window.dispatchEvent(new PointerEvent('pointerup', { ...at, clientY: at.clientY + dy }))
      await nextTick()
    }
    const depthM = 3 * 0.62
    const { focalMm } = lens()
    await drag('side-window', -20)
    // 0.4 m at that depth
    expect(lens().riseMm).toBeCloseTo(Math.round(((0.4 * focalMm) / depthM) * 20) / 20, 9)
    expect(label()).toBe('Rise')
    useProject().move({ lens: { ...lens(), riseMm: 0 } }, 'Rise')
    await nextTick()
    const half = (12 * depthM) / focalMm
    await drag('side-end-1', -15)
    expect(lens().focalMm).toBeCloseTo((12 * depthM) / (half + 0.3), 1)
  })
})
