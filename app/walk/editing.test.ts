// @vitest-environment happy-dom
// What hands do to a walk and to curves: every gesture one edit that the schema takes.
import { mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { defineComponent, h, nextTick } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Vec3 } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { filmed } from '#core/reel'
import { aimAt, projectSchema, type ProjectDocument, type ShotPart } from '#model'
import { LateSelect } from '../controls/late-select.ts'
import { closeInMemory, openInMemory } from '../../tests/support/app.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import AimBox from './AimBox.vue'
import { useAiming } from './aiming.ts'
import { easedPart, useEasing } from './easing.ts'
import { useFilm } from './film.ts'
import KeysBox from './KeysBox.vue'
import ReelList from './ReelList.vue'
import ReelRuler from './ReelRuler.vue'
import { VIEWPOINT_DRAG } from './dragged-viewpoint.ts'
import TravelPanel from './TravelPanel.vue'
import { useWalking, type Travel } from './walking.ts'

let view: VueWrapper
let walking: ReturnType<typeof useWalking>
let film: ReturnType<typeof useFilm>
let easing: ReturnType<typeof useEasing>
let aiming: ReturnType<typeof useAiming>
const doc = (): ProjectDocument => useProject().document!
const Boxes = defineComponent({
  setup() {
    walking = useWalking()
    film = useFilm()
    easing = useEasing()
    aiming = useAiming()
    return () => [h(ReelList), h(ReelRuler), walking.travel.value ? h(TravelPanel) : null, h(AimBox), h(KeysBox)]
  },
})
const press = async (text: string): Promise<void> => {
  const found = view.findAll('button').filter((b) => b.text() === text)
  if (found.length === 0) throw new Error(`no button “${text}”`)
  await found[0]!.trigger('click')
  await nextTick()
}
const own = (): Travel => doc().shots!.find((s): s is Travel => s.kind === 'travel')!
const stations = (): readonly Vec3[] => own().stops.map((s) => s.station)
beforeEach(async () => {
  sessionStorage.clear()
  await openInMemory()
  const p = useProject()
  p.run({ type: 'moveCamera', changes: { stand: aimAt([1, 1, 1.6], [2, 3, 1.4]) }, label: 'Moved' })
  p.run({ type: 'keepAsNew', id: 'v0', name: 'Begin', parts: ['stand', 'lens'] })
  // over a floor that lies at nought
  vi.spyOn(useStage().rays, 'eyeHeights').mockImplementation(async (places) => places.map(() => 1.6))
  view = mount(Boxes, { global: { plugins: [PrimeVue], stubs: { LateSelect: true } }, attachTo: document.body })
})
afterEach(async () => {
  expect(projectSchema.safeParse(doc()).success).toBe(true)
  view.unmount()
  await closeInMemory()
})
async function drawn(): Promise<void> {
  await press('Draw a walk')
  for (const at of [[0, 0, 1.6], [4, 0, 1.6], [4, 3, 1.6], [8, 3, 1.6]] as const) await walking.add(at) // prettier-ignore
}

describe('a walk by hand', () => {
  it('says what it needs, takes stops one by one, rests at its ends only, and is filmed', async () => {
    await press('Draw a walk')
    expect(film.faults.value[0]!.message).toMatch(/needs stops/)
    await walking.add([0, 0, 1.6])
    expect(film.faults.value[0]!.message).toMatch(/second one/)
    await walking.add([0, 0.01, 1.6])
    expect(useNotices().list.at(-1)!.text).toMatch(/already/)
    await walking.add([4, 0, 1.6])
    await walking.add([4, 3, 1.6])
    expect(own().stops.map((s) => s.holdS > 0)).toEqual([true, false, true])
    expect(film.faults.value).toEqual([])
    expect(film.reel.value.durationS).toBeGreaterThan(7)
  })
  it('a stop is inserted where the way is, moved, taken out; each is one edit', async () => {
    await drawn()
    const before = stations()
    await walking.insertAt(2)
    expect(own().stops).toHaveLength(5)
    expect(stations()[1]![0]).toBeCloseTo(2, 0)
    useProject().undoEdit()
    expect(stations()).toEqual(before)
    walking.drag(1, [5, 0.5, 1.6])
    expect(stations()).toEqual(before)
    expect(walking.travel.value!.stops[1]!.station).toEqual([5, 0.5, 1.6])
    await walking.drop()
    expect(stations()[1]).toEqual([5, 0.5, 1.6])
    walking.drag(1, [9, 9, 1.6])
    walking.cancel()
    expect(walking.travel.value!.stops[1]!.station).toEqual([5, 0.5, 1.6])
    await walking.remove(2)
    expect(own().stops).toHaveLength(3)
  })
  it('smooth leaves the chosen stop, ends and rests; the frame’s stand becomes a stop', async () => {
    await drawn()
    walking.stopId.value = own().stops[2]!.id
    await walking.smooth()
    expect(stations()[0]).toEqual([0, 0, 1.6])
    expect(stations()[2]).toEqual([4, 3, 1.6])
    // half way to the middle of its neighbours
    expect(stations()[1]!.slice(0, 2)).toEqual([3, 0.75])
    await press('Set it to the frame’s stand')
    expect(stations()[2]).toEqual([1, 1, 1.6])
    expect(own().stops[2]!.look!.bearingDeg).toBeCloseTo((Math.atan2(1, 2) * 180) / Math.PI, 6)
    await press('Add the frame’s stand')
    expect(own().stops).toHaveLength(5)
  })
  it('a stop is given a direction as the way goes there, which a handle turns and a button takes away', async () => {
    await drawn()
    const plain = own()
    walking.stopId.value = plain.stops[1]!.id
    await nextTick()
    await press('Give it a direction')
    await vi.waitFor(() => expect(film.dragged.value).toBeNull())
    const { station, tangentM } = own().stops[1]!
    const before = walking.way.value!
    const [x, y] = before.route.at(before.stopsM[1]!).way
    expect(Math.abs(x * tangentM![1] - y * tangentM![0])).toBeLessThan(0.05)
    await walking.change(walking.withStop(1, { tangentM: [0.8, 0, 0] }))
    const w = walking.way.value!
    expect(Math.abs(w.route.at(w.stopsM[1]!).way[0])).toBeGreaterThan(0.9)
    expect(own().stops[1]!.station).toEqual(station)
    await press('Take its direction away')
    await vi.waitFor(() => expect(film.dragged.value).toBeNull())
    expect(own().stops).toEqual(plain.stops)
  })
  it('the picture takes stops over its floor, looks at a place or a thing; without a floor it says so', async () => {
    await drawn()
    const { rays } = useStage()
    const camera = useProject().camera!
    const hit = {
      point: [6, 6, 0.2] as Vec3,
      normal: [0, 0, 1] as Vec3,
      distanceM: 3,
      nodeId: 'a/Table',
      nodeName: 'Table',
    }
    walking.tool.value = 'stop'
    vi.spyOn(rays, 'pickFloor').mockResolvedValueOnce(hit).mockResolvedValueOnce(null)
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    expect(own().stops).toHaveLength(5)
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    expect(useNotices().list.at(-1)!.text).toMatch(/no floor/)
    walking.tool.value = 'look'
    vi.spyOn(rays, 'pick').mockResolvedValue(hit)
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    expect(own().gaze).toEqual({ kind: 'point', point: [6, 6, 0.2] })
    walking.tool.value = 'object'
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    expect(own().gaze).toEqual({ kind: 'object', objectId: 'a/Table' })
    expect(walking.tool.value).toBeNull()
  })
})

describe('ease to fit', () => {
  it('shows before and after, takes it as one edit, or leaves it; new stops have ids of their own', async () => {
    await drawn()
    const [beforeS, before] = [film.reel.value.durationS, doc()]
    expect(film.findings.value.length).toBeGreaterThan(0)
    await easing.ease()
    expect(doc()).toBe(before)
    expect(film.reel.value.durationS).toBeGreaterThan(beforeS)
    expect(film.findings.value).toEqual([])
    easing.showsAfter.value = false
    expect(film.reel.value.durationS).toBe(beforeS)
    easing.take()
    expect(film.findings.value).toEqual([])
    expect(new Set(own().stops.map((s) => s.id)).size).toBe(own().stops.length)
    useProject().undoEdit()
    expect(film.reel.value.durationS).toBe(beforeS)
    await easing.ease()
    easing.drop()
    expect(film.reel.value.durationS).toBe(beforeS)
  })
  it('one finding is mended alone; a walk round a thing becomes a turntable', async () => {
    await drawn()
    useProject().run({ type: 'setProject', changes: { comfortLimits: { walkMps: 0.5 } } })
    const run = film.findings.value.find((f) => f.kind === 'walk')!
    await easing.mend(run)
    expect(film.findings.value.some((f) => f.kind === 'walk')).toBe(false)
    const ring = Array.from({ length: 8 }, (_, i): Vec3 => [3 * Math.cos(i * 0.8), 3 * Math.sin(i * 0.8), 1.6])
    await walking.change({ stops: ring.map((station, i) => ({ id: `r${i}`, station, holdS: 0, look: null, speedMps: 0.5 })), isClosed: true, gaze: { kind: 'point', point: [0, 0, 1] } }) // prettier-ignore
    const circle = film.findings.value.find((f) => f.kind === 'circle')!
    expect(circle.value).toBeGreaterThan(340)
    await easing.mend(circle)
    const table = doc().shots!.find((s) => s.kind === 'turntable')!
    expect(table).toMatchObject({ pivot: [0, 0, 1], direction: -1 })
    expect(film.shown.value!.take.pose.station[0]).toBeCloseTo(3, 1)
  })
  it('a part keeps what easing does not know of it', () => {
    const part: ShotPart = {
      id: 's',
      name: 'S',
      kind: 'hold',
      viewpointId: 'v0',
      durationS: 2,
      creep: 0,
      keys: { ev: [{ at: 0, value: 1 }] },
    }
    const eased = easedPart(part, { kind: 'hold', durationS: 5, keys: { progress: [{ at: 0, value: 0 }] } } as never)
    expect(eased).toMatchObject({ durationS: 5, keys: { ev: [{ at: 0, value: 1 }], progress: [{ at: 0, value: 0 }] } })
  })
})

describe('the reel as a whole', () => {
  it('lasts as long as is typed, with the walk in it; a viewpoint dropped on the ruler is cut to there, and back', async () => {
    await drawn()
    const field = view
      .findAll('label')
      .find((l) => l.text().startsWith('Reel lasts'))!
      .attributes('for')!
    const input = view.find(`[id="${field}"]`)
    await input.setValue('30')
    await input.trigger('keydown', { key: 'Enter' })
    await nextTick()
    expect(film.reel.value.durationS).toBeCloseTo(30, 2)
    const host = view.find('[data-testid=ruler]').element as HTMLElement
    vi.spyOn(host, 'getBoundingClientRect').mockReturnValue({ left: 0, width: 300 } as DOMRect)
    const data = new Map([[VIEWPOINT_DRAG, 'v0']])
    const drop = Object.assign(new Event('drop', { bubbles: true, cancelable: true }), { clientX: 0, dataTransfer: { getData: (k: string) => data.get(k) ?? '' } }) // prettier-ignore
    view.find('[data-testid=reel-ruler]').element.dispatchEvent(drop)
    await nextTick()
    expect(film.part.value!.cuts).toHaveLength(2)
    expect(film.reel.value.durationS).toBeCloseTo(33, 2)
  })
  it('a key is put where the moment is, typed, and taken out; the shot without keys is as it was', async () => {
    await drawn()
    const plain = own()
    film.go(film.reel.value.durationS / 2)
    await nextTick()
    await press('Key here')
    expect(own().keys!.focusM).toMatchObject([{ at: expect.closeTo(0.5, 6) }])
    await press('Exposure')
    await press('Key here')
    expect(own().keys!.ev).toMatchObject([{ value: 0 }])
    await press('Take key out')
    expect(own().keys!.ev).toBeUndefined()
    await press('Focus')
    await press('1')
    await press('Take key out')
    expect(own()).toEqual(plain)
  })
  it('the aim goes through places at moments of its own; a thing is kept in view, or let go', async () => {
    await drawn()
    const plain = own()
    const camera = useProject().camera!
    const pick = vi.spyOn(useStage().rays, 'pick')
    const at = async (share: number, point: Vec3): Promise<void> => {
      film.go(film.reel.value.durationS * share)
      await nextTick()
      await press('Aim at a place now')
      pick.mockResolvedValueOnce({ point, normal: [0, 0, 1], nodeId: 'a/Box', distanceM: 3, far: false } as never)
      await walking.inPicture(camera, 300, 200, ALL_SHOWN)
      await nextTick()
    }
    await at(0.75, [5, 5, 1])
    await at(0.25, [5, 0, 1])
    await at(0.75, [6, 6, 1])
    expect(own().aim!.map((k) => [Number(k.at.toFixed(3)), k.point])).toEqual([[0.25, [5, 0, 1]], [0.75, [6, 6, 1]]]) // prettier-ignore
    expect(walking.tool.value).toBeNull()
    aiming.live(0, { at: 0.9, point: [4, 4, 4] })
    expect(doc().shots).toContainEqual(own())
    aiming.drop()
    // never past its neighbour
    expect(own().aim!.map((k) => k.at < 0.75 && k.point)[0]).toEqual([4, 4, 4])
    pick.mockResolvedValueOnce(null)
    await press('Keep a thing in view')
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    expect(useNotices().list.at(-1)!.text).toMatch(/Nothing of the model/)
    pick.mockResolvedValueOnce({ point: [0, 0, 0], nodeId: 'a/Box' } as never)
    await walking.inPicture(camera, 300, 200, ALL_SHOWN)
    await nextTick()
    expect(own().watchId).toBe('a/Box')
    await press('let go')
    aiming.remove(1)
    aiming.remove(0)
    expect(own()).toEqual(plain)
  })
  it('an object’s states are chosen and move in the shot; one that is taken out moves nothing', async () => {
    await drawn()
    const p = useProject()
    p.run({ type: 'putObjectState', state: { id: 'open', name: 'open', objectId: 'a/Door', moveM: [0, 0, 0], turnDeg: 90, hinge: [1, 1, 0] } }) // prettier-ignore
    await nextTick()
    const moves = view.findAllComponents(LateSelect).find((c) => c.vm.$attrs['aria-label'] === 'A thing that moves in this shot')! // prettier-ignore
    ;(moves.vm.$attrs['onUpdate:modelValue'] as (id: string) => void)('open')
    await nextTick()
    expect(own().motions).toMatchObject([{ stateId: 'open', opens: true, toShare: 1 }])
    film.go(film.reel.value.durationS)
    expect(film.shown.value!.take.moved).toMatchObject([{ objectId: 'a/Door', turnDeg: 90 }])
    p.run({ type: 'removeObjectState', stateId: 'open' })
    expect(own().motions).toEqual([])
    const shot = film.resolved.value!.cuts[0]!.shot
    expect(filmed(shot).ok).toBe(true)
    useView().selection = []
  })
})
