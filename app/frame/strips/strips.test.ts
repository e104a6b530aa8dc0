// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Vec3 } from '#core/math'
import { aimAt } from '#model'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { cameraOf } from '../../../tests/support/cameras.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { coneOf } from '../../drawings/cones.ts'
import PlacingHandle from './PlacingHandle.vue'
import ViewpointCones from './ViewpointCones.vue'

/** A plan at 10 px a metre, north up. */
const toPx = (p: Vec3) => ({ x: 100 + p[0] * 10, y: 100 - p[1] * 10 })
const toWorld = (e: { clientX: number; clientY: number }): Vec3 => [(e.clientX - 100) / 10, (100 - e.clientY) / 10, 0]
const plugins = { global: { plugins: [PrimeVue] } }

beforeEach(async () => {
  await openInMemory()
  vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(null)
})
afterEach(closeInMemory)

describe('the cone', () => {
  it('opens by the lens about the bearing, its sides as long as asked', () => {
    // 24 mm on 36 mm: 73.74 degrees (handbook-1)
    const cone = coneOf(
      cameraOf({ station: [1, 2, 1.6], bearingDeg: 30, tiltDeg: 0 }, {}, [600, 400]),
      'left-right',
      toPx,
      50,
    )!
    const bearing = cone.edges.map((e) => (Math.atan2(e.dx, -e.dy) * 180) / Math.PI)
    expect(bearing[1]! - bearing[0]!).toBeCloseTo(73.74, 2)
    expect((bearing[0]! + bearing[1]!) / 2).toBeCloseTo(30, 6)
    for (const e of cone.edges) {
      expect([e.x, e.y]).toEqual([110, 80])
      expect(Math.hypot(e.dx, e.dy)).toBeCloseTo(1, 9)
    }
  })
  it('is wider to the side that cross shows', () => {
    const camera = cameraOf({ station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0 }, { crossMm: 6 }, [600, 400])
    const [l, r] = coneOf(camera, 'left-right', toPx, 50)!.edges
    expect(-l.dx / -l.dy).toBeCloseTo(12 / 24, 6)
    expect(r.dx / -r.dy).toBeCloseTo(24 / 24, 6)
  })
  it('does not exist where a ray looks straight along the drawing', () => {
    const flat = (p: Vec3) => ({ x: p[0], y: 0 * p[1] })
    const ahead = cameraOf({ station: [0, 0, 0], bearingDeg: 0, tiltDeg: 0 }, { crossMm: 18 }, [600, 400])
    expect(coneOf(ahead, 'left-right', flat, 10)).toBeNull()
  })
})

describe('all viewpoints as cones', () => {
  it('stand where they look from, leave out the present one, and are recalled by click or Enter', async () => {
    const p = useProject()
    p.run({ type: 'keepAsNew', id: 'a', name: 'Door', parts: ['stand'] })
    p.move({ stand: aimAt([4, 3, 1.6], [1, 1, 1.6]) }, 'Moved')
    p.run({ type: 'keepAsNew', id: 'b', name: 'Window', parts: ['stand'] })
    const w = mount(ViewpointCones, { props: { across: 'left-right', toPx, width: 300, height: 200 }, ...plugins })
    expect(w.findAll('.mark')).toHaveLength(0)
    useView().allCones = true
    await nextTick()
    const [mark] = w.findAll('.mark')
    expect(mark!.text()).toContain('Door')
    expect(mark!.get('.hit').attributes()).toMatchObject({ cx: '110', cy: '90' })
    await mark!.trigger('pointerenter')
    expect(w.find('foreignObject').exists()).toBe(true)
    await mark!.trigger('click')
    expect(p.recalled!.name).toBe('Door')
    expect(w.findAll('.mark').map((m) => m.text())).toEqual(['Window'])
    await w.get('.mark').trigger('keydown', { key: 'Enter' })
    expect(p.recalled!.name).toBe('Window')
    useView().allCones = false
  })
})

describe('the selected object in Plan', () => {
  const handle = () => mount(PlacingHandle, { props: { toPx, toWorld }, attachTo: document.body, ...plugins })
  async function drag(w: ReturnType<typeof handle>, by: [number, number], init: PointerEventInit = {}): Promise<void> {
    const el = w.get('[data-testid=plan-object]').element
    const at = (x: number, y: number) => ({ pointerId: 1, clientX: x, clientY: y, bubbles: true, ...init })
    el.dispatchEvent(new PointerEvent('pointerdown', at(115, 85)))
    // the first move is where it was grabbed
    for (const k of [0.001, 1]) {
      window.dispatchEvent(new PointerEvent('pointermove', at(115 + by[0] * k, 85 + by[1] * k + (k < 1 ? 4 : 0))))
      await new Promise((r) => requestAnimationFrame(() => r(null)))
    }
    window.dispatchEvent(new PointerEvent('pointerup', at(115 + by[0], 85 + by[1])))
    await nextTick()
  }
  it('is moved as one edit that undo takes back; arrows nudge by a centimetre', async () => {
    const p = useProject()
    useView().selection = ['room/Set/Table']
    const w = handle()
    await drag(w, [30, 0], { shiftKey: true })
    const [m] = p.document!.models[0]!.moved
    expect(m!.path).toBe('room/Set/Table')
    expect(m!.moveM[0]).toBeCloseTo(3, 1)
    expect(m!.moveM[1]).toBe(0)
    p.undoEdit()
    expect(p.document!.models[0]!.moved).toEqual([])
    await w.get('[data-testid=plan-object]').trigger('keydown', { key: 'ArrowUp' })
    expect(p.document!.models[0]!.moved[0]!.moveM).toEqual([0, 0.01, 0])
    expect(p.document!.trail.steps).toHaveLength(1)
    w.unmount()
  })
  it('a whole model is placed by it', async () => {
    useView().selection = ['room']
    const w = handle()
    await w.get('[data-testid=plan-object]').trigger('keydown', { key: 'ArrowRight', shiftKey: true })
    expect(useProject().document!.models[0]!.place.position).toEqual([0.1, 0, 0])
    w.unmount()
  })
  it('is not there for none or for several', async () => {
    const w = handle()
    expect(w.find('[data-testid=placing]').exists()).toBe(false)
    useView().selection = ['room/Set/Table', 'room/Walls']
    await nextTick()
    expect(w.find('[data-testid=placing]').exists()).toBe(false)
    w.unmount()
  })
})
