// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { aimAt } from '#model'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import TrailList from '../TrailList.vue'
import SetupStrip from './SetupStrip.vue'
import { useThumbs } from '../thumbs/thumbs.ts'

const stand = (x: number) => aimAt([x, 1, 1.6], [x + 3, 1, 1.6])
class Picture {
  closed = false
  close(): void {
    this.closed = true
  }
}
beforeEach(async () => {
  vi.stubGlobal('ImageBitmap', Picture)
  await openInMemory()
  vi.spyOn(useStage().rays, 'floorBelow').mockResolvedValue({
    point: [1, 1, 0],
    normal: [0, 0, 1],
    distanceM: 1.6,
    nodeId: 'room',
    nodeName: 'Floor',
  })
})
afterEach(async () => {
  await closeInMemory()
  vi.unstubAllGlobals()
})
const turn = async (): Promise<void> => {
  for (let i = 0; i < 8; i++) await Promise.resolve()
}

describe('small pictures', () => {
  let scope: EffectScope
  let thumbs: ReturnType<typeof useThumbs>
  beforeEach(() => {
    scope = effectScope()
    scope.run(() => (thumbs = useThumbs()))
  })
  afterEach(() => scope.stop())
  const setup = () => useProject().working!

  it('are drawn once for the same framing, by the framing’s own shape', async () => {
    const draw = vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(new Picture() as unknown as ImageBitmap)
    expect(thumbs.picture(setup())).toBeNull()
    expect(thumbs.picture(setup())).toBeNull()
    await turn()
    expect(thumbs.picture({ ...setup() })).toBeInstanceOf(Picture)
    expect(draw).toHaveBeenCalledTimes(1)
    const { widthPx, heightPx } = draw.mock.calls[0]![1]
    expect(widthPx / heightPx).toBeCloseTo(setup().frame.widthPx / setup().frame.heightPx, 1)
  })
  it('stay as they are when something changes that is not in them', async () => {
    const draw = vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(new Picture() as unknown as ImageBitmap)
    const framing = setup()
    thumbs.picture(framing)
    await turn()
    useProject().run({ type: 'setPart', part: 'exposure', value: { ...framing.exposure, compensationEv: 1 } })
    expect(setup().exposure.compensationEv).toBe(1)
    await nextTick()
    expect(thumbs.picture(framing)).toBeInstanceOf(Picture)
    await turn()
    expect(draw).toHaveBeenCalledTimes(1)
  })
  it('are not asked for what only flashes by, and are for what stays', async () => {
    vi.useFakeTimers()
    const draw = vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(new Picture() as unknown as ImageBitmap)
    const flashing = effectScope()
    const seen = flashing.run(() => thumbs.shownPicture(setup))!
    expect(seen.value).toBeNull()
    await vi.advanceTimersByTimeAsync(100)
    expect(seen.value).toBeNull()
    flashing.stop()
    await vi.advanceTimersByTimeAsync(1000)
    expect(draw).not.toHaveBeenCalled()
    const staying = scope.run(() => thumbs.shownPicture(setup))!
    expect(staying.value).toBeNull()
    await vi.advanceTimersByTimeAsync(200)
    expect(staying.value).toBeNull()
    await vi.advanceTimersByTimeAsync(10)
    vi.useRealTimers()
    expect(draw).toHaveBeenCalledTimes(1)
    expect(staying.value).toMatchObject({ bitmap: expect.any(Picture), isOld: false })
  })
  it('stay, marked as old, until they are drawn anew: when something is hidden and when the light changes', async () => {
    vi.useFakeTimers()
    let answer: (() => void) | null = null
    const made: Picture[] = []
    vi.spyOn(useStage(), 'thumbnail').mockImplementation(
      () =>
        new Promise((done) => {
          answer = () => {
            made.push(new Picture())
            done(made.at(-1) as unknown as ImageBitmap)
          }
        }),
    )
    const drawn = async (): Promise<void> => {
      await vi.advanceTimersByTimeAsync(200)
      expect(shown.value?.isOld ?? true).toBe(true)
      await turn()
      answer!()
      await vi.advanceTimersByTimeAsync(10)
      expect(shown.value).toEqual({ bitmap: made.at(-1), isOld: false })
    }
    const shown = scope.run(() => thumbs.shownPicture(() => useProject().working))!
    expect(shown.value).toBeNull()
    await drawn()
    useProject().run({ type: 'setPart', part: 'visible', value: { hidden: ['room/Walls'] } })
    expect(shown.value).toEqual({ bitmap: made[0], isOld: true })
    await drawn()
    useStage().lightEpoch++
    await nextTick()
    expect(shown.value).toEqual({ bitmap: made[1], isOld: true })
    expect(made[1]!.closed).toBe(false)
    await drawn()
    expect(made[1]!.closed).toBe(true)
    vi.useRealTimers()
  })
  it('wait for the light; other light has them drawn anew, and the old ones are let go', async () => {
    const stage = useStage()
    const draw = vi.spyOn(stage, 'thumbnail').mockImplementation(async () => new Picture() as unknown as ImageBitmap)
    stage.light = 0.5
    thumbs.picture(setup())
    await turn()
    expect(draw).not.toHaveBeenCalled()
    stage.light = null
    thumbs.picture(setup())
    await turn()
    const old = thumbs.picture(setup()) as unknown as Picture
    stage.lightEpoch++
    await nextTick()
    thumbs.picture(setup())
    await turn()
    expect(draw).toHaveBeenCalledTimes(2)
    expect(old.closed).toBe(true)
  })
  it('an answer to a request from before other light is thrown away and asks for nothing', async () => {
    const stage = useStage()
    const answers: ((b: ImageBitmap | null) => void)[] = []
    const draw = vi.spyOn(stage, 'thumbnail').mockImplementation(() => new Promise((r) => answers.push(r)))
    thumbs.picture(setup())
    await turn()
    stage.lightEpoch++
    await nextTick()
    thumbs.picture(setup())
    await turn()
    expect(draw).toHaveBeenCalledTimes(2)
    // the stage let the first go because the second has the same key
    answers[0]!(null)
    await turn()
    thumbs.picture(setup())
    await turn()
    expect(draw).toHaveBeenCalledTimes(2)
    answers[1]!(new Picture() as unknown as ImageBitmap)
    await turn()
    expect(thumbs.picture(setup())).toBeInstanceOf(Picture)
  })
  it('a near cut, like every part that the registry marks, makes it another picture; haze, which nothing draws yet, does not', async () => {
    const draw = vi
      .spyOn(useStage(), 'thumbnail')
      .mockImplementation(async () => new Picture() as unknown as ImageBitmap)
    const shows = async (s: ReturnType<typeof setup>): Promise<void> => {
      thumbs.picture(s)
      await turn()
    }
    await shows(setup())
    const { cut, look } = setup()
    await shows({ ...setup(), cut: { ...cut, near: { on: true, distanceM: 0.4 } } })
    expect(draw).toHaveBeenCalledTimes(2)
    expect(draw.mock.calls[1]![1].appearance.shown.cuts.nearM).toBe(0.4)
    await shows({ ...setup(), look: { ...look, haze: { ...look.haze, visibilityM: 90 } } })
    expect(draw).toHaveBeenCalledTimes(2)
  })
  it('what is on the screen is never dropped; what is dropped is closed, and nothing is drawn over and over', async () => {
    const made: Picture[] = []
    const draw = vi.spyOn(useStage(), 'thumbnail').mockImplementation(async () => {
      made.push(new Picture())
      return made.at(-1) as unknown as ImageBitmap
    })
    const framing = (x: number) => ({ ...setup(), stand: stand(x) })
    const held = effectScope()
    const shown = held.run(() => [0, 1, 2].map((x) => thumbs.shownPicture(() => framing(x))))!
    const look = (): unknown[] => shown.map((p) => p.value?.bitmap)
    look()
    await new Promise((r) => setTimeout(r, 170))
    look()
    await turn()
    const first = look()
    expect(first.every((p) => p instanceof Picture)).toBe(true)
    for (let x = 10; x < 400; x++) {
      thumbs.picture(framing(x))
      await turn()
    }
    expect(look()).toEqual(first)
    expect(draw).toHaveBeenCalledTimes(393)
    // as many as are kept stay open, and those on the screen
    expect(made.filter((p) => !p.closed).length).toBeLessThanOrEqual(203)
    held.stop()
    expect(made.slice(0, 3).every((p) => p.closed)).toBe(true)
  })
  it('one that fails is not asked for again until light or model change', async () => {
    const draw = vi.spyOn(useStage(), 'thumbnail').mockRejectedValue(new Error('no memory'))
    for (let i = 0; i < 3; i++) {
      expect(thumbs.picture(setup())).toBeNull()
      await turn()
    }
    expect(draw).toHaveBeenCalledTimes(1)
  })
})

describe('the Setup strip', () => {
  const strip = () => mount(SetupStrip, { global: { plugins: [PrimeVue] }, attachTo: document.body })
  const cell = (w: ReturnType<typeof strip>, part: string) => w.get(`[data-testid=cell-${part}]`)
  it('shows each part’s value in short and opens its panel', async () => {
    const w = strip()
    await turn()
    await nextTick()
    expect(cell(w, 'stand').text()).toMatch(/1\.60 m.*level/)
    expect(cell(w, 'lens').text()).toContain('24 mm')
    expect(cell(w, 'frame').text()).toContain('3:2')
    expect(cell(w, 'visible').text()).toContain('all shown')
    await cell(w, 'visible').trigger('click')
    expect(useView().panel).toBe('visible')
    w.unmount()
  })
  it('a new viewpoint takes along what is hidden and cut away', async () => {
    const w = strip()
    const project = useProject()
    const { cut } = project.working!
    project.run({ type: 'setPart', part: 'visible', value: { hidden: ['room/Walls'] } })
    project.run({ type: 'setPart', part: 'cut', value: { ...cut, near: { on: true, distanceM: 2 } } })
    useView().keeping = 'new'
    await nextTick()
    await nextTick()
    const ticked = ['stand', 'lens', 'frame', 'cut', 'visible', 'focus'].map((p) => cell(w, p).attributes('aria-pressed') ?? cell(w, p).attributes('aria-checked')) // prettier-ignore
    expect(ticked).toEqual(['true', 'true', 'true', 'true', 'true', 'false'])
    useView().keeping = null
    w.unmount()
  })
  it('keeps the ticked parts as a new viewpoint, then marks what changed, and puts it back', async () => {
    const p = useProject()
    const w = strip()
    useView().keeping = 'new'
    await nextTick()
    expect(cell(w, 'lens').attributes('aria-pressed')).toBe('true')
    await cell(w, 'lens').trigger('click')
    await w.get('#new-name').setValue('From the door')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Keep')!
      .trigger('click')
    expect(Object.keys(p.document!.viewpoints[0]!.parts)).toEqual(['stand', 'frame'])
    expect(w.get('.keep').attributes('title')).toBe('As in “From the door”')
    // a lens it does not keep is a change too: against what it was when the viewpoint was made
    p.move({ lens: { ...p.working!.lens, focalMm: 35 } }, 'Lens')
    p.move({ stand: stand(2) }, 'Moved')
    await nextTick()
    expect(w.get('.keep').attributes('title')).toBe('Changed since “From the door”: Stand, Lens')
    await w.get('.more').trigger('click')
    await turn()
    const item = [...document.querySelectorAll('[role=menuitem]')].find((i) => i.textContent === 'Put back')!
    item.querySelector('a, button, div')!.dispatchEvent(new MouseEvent('click', { bubbles: true }))
    expect(p.working!.stand.station[0]).toBe(1)
    expect(p.working!.lens.focalMm).toBe(24)
    w.unmount()
  })
  it('Esc ends keeping and is for others otherwise', async () => {
    const w = strip()
    const seen = vi.fn()
    document.body.addEventListener('keydown', seen)
    useView().keeping = 'new'
    await nextTick()
    await cell(w, 'stand').trigger('keydown', { key: 'Escape' })
    expect(useView().keeping).toBeNull()
    expect(seen).not.toHaveBeenCalled()
    await cell(w, 'stand').trigger('keydown', { key: 'Escape' })
    expect(seen).toHaveBeenCalledTimes(1)
    document.body.removeEventListener('keydown', seen)
    w.unmount()
  })
})

describe('the trail with pictures', () => {
  it('lists steps newest first, marks the present one, jumps by click, closes by Esc', async () => {
    vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(null)
    const p = useProject()
    for (const x of [2, 3, 4]) p.move({ stand: stand(x) }, `To ${x}`)
    const w = mount(TrailList, { global: { plugins: [PrimeVue] }, attachTo: document.body })
    expect(w.find('[data-testid=trail]').exists()).toBe(false)
    useView().trail = true
    await nextTick()
    const steps = () => w.findAll('[data-testid=trail-step]')
    expect(steps().map((s) => s.find('.label').text())).toEqual(['To 4', 'To 3', 'To 2', 'Start'])
    expect(steps()[0]!.attributes('aria-current')).toBe('true')
    const edits = p.canUndo
    await steps()[2]!.trigger('click')
    expect(p.working!.stand.station[0]).toBe(2)
    expect(p.document!.trail.at).toBe(1)
    expect(p.canUndo).toBe(edits)
    expect(steps()[2]!.attributes('aria-current')).toBe('true')
    for (const [key, at] of [['End', 3], ['Home', 0], ['ArrowDown', 1]] as const) {
      await w.get('[data-testid=trail]').trigger('keydown', { key })
      expect(document.activeElement).toBe(steps()[at]!.element)
    } // prettier-ignore
    await w.get('[data-testid=trail]').trigger('keydown', { key: 'Escape' })
    expect(useView().trail).toBe(false)
    w.unmount()
  })
  it('of many steps shows the newest, and the rest when asked', async () => {
    vi.spyOn(useStage(), 'thumbnail').mockResolvedValue(null)
    const p = useProject()
    for (let i = 0; i < 30; i++) p.move({ stand: stand(2 + i / 10) }, `Step ${i}`)
    const w = mount(TrailList, { global: { plugins: [PrimeVue] }, attachTo: document.body })
    useView().trail = true
    await nextTick()
    expect(w.findAll('[data-testid=trail-step]')).toHaveLength(20)
    await w.get('.more').trigger('click')
    expect(w.findAll('[data-testid=trail-step]')).toHaveLength(31)
    w.unmount()
  })
})
