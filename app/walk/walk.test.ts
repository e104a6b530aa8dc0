// @vitest-environment happy-dom
import { mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { defineComponent, h, nextTick } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { UNMOVED } from '#core/math'
import { reportOf, type ModelClip } from '#core/reel'
import { aimAt, movedOf, projectSchema, type ProjectDocument } from '#model'
import { closeInMemory, openInMemory } from '../../tests/support/app.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { LateSelect } from '../controls/late-select.ts'
import NumberField from '../controls/NumberField.vue'
import ClipsBox from './ClipsBox.vue'
import ComfortBox from './ComfortBox.vue'
import { useFilm } from './film.ts'
import { whatTurns } from './turning.ts'
import ReelList from './ReelList.vue'
import ShotPanel from './ShotPanel.vue'
import ShotViewpoints from './ShotViewpoints.vue'

let view: VueWrapper
let film: ReturnType<typeof useFilm>
const doc = (): ProjectDocument => useProject().document!
const said = (): string => useNotices().list.at(-1)?.text ?? ''
/** All boxes of the view, without the picture. */
const Boxes = defineComponent({
  setup() {
    film = useFilm()
    return () => [h(ReelList), h(ShotPanel), h(ComfortBox)]
  },
})
const press = async (text: string): Promise<void> => {
  const found = view.findAll('button').filter((b) => b.text() === text)
  if (found.length === 0) throw new Error(`no button “${text}”`)
  await found[0]!.trigger('click')
  await nextTick()
}
async function type(label: string, text: string): Promise<void> {
  const id = view
    .findAll('label')
    .find((l) => l.text().startsWith(label))!
    .attributes('for')!
  const input = view.find(`[id="${id}"]`)
  await input.setValue(text)
  await input.trigger('keydown', { key: 'Enter' })
  await nextTick()
}
function keepAll(): void {
  const p = useProject()
  for (const [i, x] of [1, 3, 5].entries()) {
    p.run({ type: 'moveCamera', changes: { stand: aimAt([x, 1, 1.6], [x + 1, 3, 1.4]) }, label: 'Moved' })
    p.run({ type: 'keepAsNew', id: `v${i}`, name: `View ${i}`, parts: ['stand', 'lens'] })
  }
}
beforeEach(async () => {
  await openInMemory()
  view = mount(Boxes, { global: { plugins: [PrimeVue], stubs: { LateSelect: true } }, attachTo: document.body })
})
afterEach(async () => {
  expect(projectSchema.safeParse(doc()).success).toBe(true)
  view.unmount()
  await closeInMemory()
})

describe('a first reel', () => {
  it('needs viewpoints, which is said', async () => {
    for (const name of ['Hold each viewpoint', 'Walk through them', 'Turntable']) {
      await press(name)
      expect(said()).toMatch(/Keep|keep/)
    }
    expect(doc().reels ?? []).toEqual([])
  })
  it('holds or pushes between all of them in one command, under a name of its own; undo takes it back', async () => {
    keepAll()
    await press('Hold each viewpoint')
    await press('Hold each viewpoint')
    expect(doc().reels!.map((r) => r.name)).toEqual(['Viewpoints', 'Viewpoints 2'])
    expect(film.reel.value.durationS).toBe(9)
    useProject().undoEdit()
    expect(doc().reels).toHaveLength(1)
    await press('Push from one to the next')
    expect(film.part.value!.cuts).toHaveLength(5)
    expect(film.part.value!.name).toBe('From one to the next')
  })
  it('leads back to the first viewpoint where that is asked for', async () => {
    keepAll()
    await nextTick()
    await view.findAll('label').find((l) => l.text().startsWith('lead back'))!.find('input').setValue(true) // prettier-ignore
    await press('Push from one to the next')
    expect(film.part.value!.cuts).toHaveLength(7)
    expect(film.findings.value.filter((f) => f.kind === 'starts' || f.kind === 'ends')).toEqual([])
    film.go(0)
    await press('Split here')
    expect(said()).toMatch(/go to a moment within one/)
    expect(doc().shots!.at(-1)).toMatchObject({ kind: 'push', fromId: 'v2', toId: 'v0' })
    await press('Walk through them')
    expect(doc().shots!.at(-1)).toMatchObject({ kind: 'travel', isClosed: true })
  })
  it('plays without objects that no model has any more, and says so', async () => {
    keepAll()
    await press('Walk through them')
    expect(film.faults.value).toEqual([])
    const walk = doc().shots!.at(-1)!
    useProject().run({ type: 'putReels', shots: [{ ...walk, gaze: { kind: 'object', objectId: 'room/Gone/Vase' }, watchId: 'room/Set/Bench' } as never] }) // prettier-ignore
    expect(film.faults.value.map((f) => f.message)).toEqual(['“Walk” plays without “Vase”: no model has it any more.'])
    expect(film.reel.value.durationS).toBeGreaterThan(1)
  })
  it('is taken out with its shots, and undo brings both back', async () => {
    keepAll()
    await press('Walk through them')
    expect([doc().reels!.length, doc().shots!.length]).toEqual([1, 1])
    await press('Take out')
    expect([doc().reels!.length, doc().shots!.length]).toEqual([0, 0])
    expect(said()).toMatch(/“Walk” is taken out/)
    useProject().undoEdit()
    expect([doc().reels!.length, doc().shots!.length]).toEqual([1, 1])
  })
})

describe('a turntable', () => {
  const table = () => doc().shots!.find((s) => s.kind === 'turntable')!
  beforeEach(async () => {
    keepAll()
    await press('Turntable')
  })
  it('goes round a typed place or what is chosen, and begins where it is said', async () => {
    await type('Round east', '2')
    expect(table().pivot[0]).toBe(2)
    await press('Round what is chosen')
    expect(said()).toMatch(/Choose what it goes round/)
    useView().selection = ['room/Set/Bench']
    await press('Round what is chosen')
    expect(table().pivot).toEqual([3.5, 1.5, 0.225])
    await type('Begins at', '90')
    const { station, aim } = film.shown.value!.setup.stand
    expect(station[0]).toBeGreaterThan(3.5)
    expect(station[1]).toBeCloseTo(1.5, 9)
    expect(aim).toMatchObject({ kind: 'direction', bearingDeg: 270 })
    await press('Begin as kept')
    expect(table()).not.toHaveProperty('from')
  })
  it('lets things turn: those chosen, else all that does not stand around them', async () => {
    const tick = () => view.findAll('label').find((l) => l.text().startsWith('things turn'))!.find('input').trigger('change') // prettier-ignore
    useView().selection = ['room/Set/Bench']
    await tick()
    expect(table()).toMatchObject({ spins: ['room/Set/Bench'] })
    await tick()
    expect(table()).not.toHaveProperty('spins')
    useView().selection = []
    const node = (id: string, kind: string | null, parentId: string | null = null) => ({ id, parentId, kind })
    expect(whatTurns([node('m', null), node('m/A', null, 'm'), node('m/A/B', null, 'm/A'), node('m/Back', 'surroundings', 'm'), node('n', null)])).toEqual(['m/A', 'n']) // prettier-ignore
    await tick()
    expect(table()).toHaveProperty('spins')
  })
  it('is copied as a shot of its own; once more is the same one', async () => {
    await press('Once more')
    await press('Copy')
    expect([doc().shots!.length, film.part.value!.cuts.length]).toEqual([2, 3])
    await type('Lasts', '4')
    expect(
      doc()
        .shots!.map((s) => (s as { durationS: number }).durationS)
        .sort(),
    ).toEqual([10, 4])
  })
})

describe('times', () => {
  it('are shown and typed in seconds, frames or timecode, as chosen; kept for the next time', async () => {
    keepAll()
    await press('Hold each viewpoint')
    const lasts = () => (view.findAllComponents(NumberField).find((f) => f.props('label') === 'Lasts')!.find('input').element as HTMLInputElement).value // prettier-ignore
    expect(lasts()).toBe('3.00')
    await press('frames')
    expect(lasts()).toBe('75')
    await type('Lasts', '80')
    expect(film.cut.value && film.reel.value.durationS).toBeCloseTo(9.2, 9)
    await press('code')
    expect(lasts()).toBe('00:00:03:05')
    await type('Lasts', '4:12')
    expect(film.reel.value.durationS).toBeCloseTo(6 + 4.48, 9)
    // what is none stays to be mended, with the reason
    await type('Lasts', '4:40')
    expect(view.text()).toContain('Frames go from 0 to 24 at this rate.')
    expect(film.reel.value.durationS).toBeCloseTo(6 + 4.48, 9)
    await press('s')
    expect(localStorage.getItem('yoroi.walk.times')).toBe('seconds')
    await type('Lasts', '100f')
    expect(lasts()).toBe('4.00')
  })
})

describe('the model’s own animation', () => {
  const still = { translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] } as const
  const tracks = [{ path: 'translation', steps: 'LINEAR', timesS: Float32Array.from([0, 2]), values: Float32Array.from([0, 0, 0, 0, 0, 1]) }] as const // prettier-ignore
  const clip: ModelClip = { modelKey: 'room', name: 'Rise', durationS: 2, nodes: [{ objectId: 'room/Table', above: UNMOVED, rest: still, tracks }] } // prettier-ignore
  it('is offered where there is any, plays on the reel’s time, and is told where it is gone', async () => {
    keepAll()
    await press('Hold each viewpoint')
    expect(view.text()).not.toContain('own animation')
    const stage = useStage()
    const facts = stage.facts!
    stage.facts = { ...facts, clips: [clip] }
    await nextTick()
    film.go(1.5)
    const box = view.findComponent(ClipsBox)
    box.findComponent(LateSelect).vm.$emit('update:modelValue', 0)
    await nextTick()
    expect(film.part.value!.plays).toMatchObject([{ modelKey: 'room', clip: 'Rise', fromS: 1.5, speed: 1, repeat: 'once' }]) // prettier-ignore
    await type('Speed', '0.5')
    const up = (t: number): number => {
      film.go(t)
      const [m] = movedOf(film.shown.value!.setup.visible)
      return m && 'affine' in m ? m.affine[11]! : 0
    }
    expect([up(1), up(3.5), up(8)]).toEqual([0, 0.5, 1])
    await press('back')
    expect(up(6.5)).toBeCloseTo(0.75, 9)
    // a newer file without it: the reel plays on
    stage.facts = facts
    await nextTick()
    expect([up(3.5), box.text().includes('no clip of this name')]).toEqual([0, true])
    await box.findAll('button').find((b) => b.text() === 'take out')!.trigger('click') // prettier-ignore
    expect(film.part.value).not.toHaveProperty('plays')
  })
})

describe('the moment', () => {
  beforeEach(async () => {
    keepAll()
    await press('Push from one to the next')
  })
  it('shows what the shot does: the viewpoint at its place, its Setup with the take’s camera', () => {
    expect(film.shown.value!.setup.stand.station).toEqual([1, 1, 1.6])
    film.go(film.reel.value.durationS)
    expect(film.shown.value!.setup.stand.station).toEqual([5, 1, 1.6])
    const { exposure } = film.shown.value!.setup
    expect(exposure.ev100).toBeCloseTo(doc().working.exposure.ev100, 9)
    film.go(5)
    const { station } = film.shown.value!.setup.stand
    expect(station[0]).toBeGreaterThan(1)
    expect(station[0]).toBeLessThan(3)
  })
  it('goes by frames, stays within the reel, and begins again where it ended', () => {
    film.go(-4)
    film.step(1)
    expect(film.timeS.value).toBeCloseTo(1 / 25, 9)
    film.go(1e6)
    film.step(1)
    expect(film.timeS.value).toBe(film.reel.value.durationS)
    film.play()
    expect([film.isPlaying.value, film.timeS.value]).toEqual([true, 0])
    film.stop()
  })
  it('a viewpoint that is gone is told with the shot, and the rest has its own time', async () => {
    const whole = film.reel.value.durationS
    useProject().run({ type: 'deleteViewpoint', viewpointId: 'v1' })
    await nextTick()
    expect(film.faults.value).toHaveLength(3)
    expect(film.reel.value.durationS).toBeLessThan(whole)
    film.cutId.value = film.part.value!.cuts[film.faults.value[0]!.cut]!.id
    await nextTick()
    expect(view.find('[data-testid=shot]').text()).toMatch(/no longer there/)
    // another viewpoint mends it
    const part = film.shot.value!
    expect(part).toMatchObject({ kind: 'push', toId: 'v1' })
    view.findComponent(ShotViewpoints).findAllComponents(LateSelect)[1]!.vm.$emit('update:modelValue', 'v2')
    await nextTick()
    expect(film.faults.value).toHaveLength(2)
    expect(view.find('[data-testid=shot]').text()).not.toMatch(/no longer there/)
  })
})

describe('the shot at hand', () => {
  beforeEach(async () => {
    keepAll()
    await press('Hold each viewpoint')
  })
  const names = (): string[] => film.part.value!.cuts.map((c) => doc().shots!.find((s) => s.id === c.shotId)!.name)
  it('is put earlier and later, shown once more, and taken out', async () => {
    await press('Later')
    expect(names()).toEqual(['View 1', 'View 0', 'View 2'])
    await press('Earlier')
    expect(names()).toEqual(['View 0', 'View 1', 'View 2'])
    await press('Once more')
    expect(names()).toEqual(['View 0', 'View 0', 'View 1', 'View 2'])
    expect(film.reel.value.durationS).toBe(12)
  })
  it('shows a number while it is dragged; it is one edit at the end, and none when it is let go', async () => {
    const field = view.findAllComponents(NumberField).find((f) => f.props('label') === 'Lasts')!
    const before = doc()
    field.vm.$emit('live', 6)
    expect(film.reel.value.durationS).toBe(12)
    expect(doc()).toBe(before)
    field.vm.$emit('cancel', 3)
    expect(film.reel.value.durationS).toBe(9)
    field.vm.$emit('live', 8)
    field.vm.$emit('settle')
    await nextTick()
    expect(film.reel.value.durationS).toBe(14)
    useProject().undoEdit()
    expect(doc().shots).toEqual(before.shots)
  })
  it('takes its numbers, and refuses what is none', async () => {
    await type('Lasts', '5')
    expect(film.reel.value.durationS).toBe(11)
    await type('Lasts', '-1')
    expect(film.reel.value.durationS).toBe(11)
    await type('Dissolves for', '2')
    expect(film.reel.value.durationS).toBe(9)
    await type('Creeps nearer', '10')
    expect(film.shot.value).toMatchObject({ kind: 'hold', creep: 0.1 })
  })
})

describe('comfort', () => {
  it('is told beside the reel and leads to its place', async () => {
    keepAll()
    const p = useProject()
    p.run({ type: 'moveCamera', changes: { stand: aimAt([5, 1, 1.6], [0, -9, 1.6]) }, label: 'Moved' })
    p.run({ type: 'keepAsNew', id: 'v3', name: 'Back', parts: ['stand', 'lens'] })
    await press('Push from one to the next')
    const found = view.find('[data-testid=comfort]')
    expect(found.text()).toMatch(/Swings 1\d\d° in one go/)
    await found.findAll('button')[0]!.trigger('click')
    expect(film.timeS.value).toBeCloseTo(film.findings.value[0]!.fromS, 9)
  })
  it('is the worker’s where there is a model: the newest answer, of this reel alone', async () => {
    keepAll()
    const finding = { kind: 'clearance', cut: 0, fromS: 0, toS: 1, value: 0.1, limit: 0.35, unit: 'm', text: 'Passes 0.10 m from something.' } as const // prettier-ignore
    const report = vi.spyOn(useStage().rays, 'reelReport').mockImplementation(async (asked, farM) => {
      const plain = reportOf(asked)
      return farM === null ? plain : { ...plain, findings: [finding], beside: { clearanceM: plain.motion.timeS, heightM: plain.motion.timeS } } // prettier-ignore
    })
    await press('Push from one to the next')
    await vi.waitFor(() => expect(film.findings.value).toEqual([finding]))
    expect(film.beside.value!.heightM).toHaveLength(film.motion.value.timeS.length)
    // another reel has none of it, not even for a moment
    report.mockImplementation(() => new Promise(() => undefined))
    await press('Hold each viewpoint')
    expect(film.findings.value).toEqual([])
  })
})
