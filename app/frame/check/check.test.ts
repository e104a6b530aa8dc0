// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Finding } from '#core/checks'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useCheck } from './check.ts'
import FrameCheck from './FrameCheck.vue'

const finding = (changes: Partial<Finding> = {}): Finding => ({
  id: 'almost-level',
  severity: 'warning',
  value: 0.4,
  limit: 1.5,
  unit: 'deg',
  message: 'Almost level: tilt 0.40°.',
  reason: 'So little looks like a slip, not like a choice.',
  show: { lines: [[[4, 1, 0], [4, 1, 3]]] }, // prettier-ignore
  ...changes,
})
let answer: readonly Finding[]
const settle = async (): Promise<void> => {
  await vi.advanceTimersByTimeAsync(400)
  await nextTick()
}
beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  await openInMemory()
  answer = [finding()]
  vi.spyOn(useStage(), 'check').mockImplementation(async () => answer)
  vi.spyOn(useStage().rays, 'floorBelow').mockResolvedValue(null)
})
afterEach(async () => {
  // what it shares with others ends with it
  useCheck().$dispose()
  await closeInMemory()
  vi.useRealTimers()
})

describe('the frame check', () => {
  it('has limits that are the project’s own, reset to what they were', async () => {
    useStage().storeys = [{ name: 'Ground floor', heightM: 0, areaM2: 24 }]
    const w = mount(FrameCheck, { global: { plugins: [PrimeVue] } })
    await settle()
    const field = w.findAll('label').find((l) => l.text().startsWith('Just cropped'))!
    const input = w.get(`[id="${field.attributes('for')}"]`)
    await input.setValue('20')
    await input.trigger('keydown', { key: 'Enter' })
    expect(useProject().document!.checkLimits).toEqual({ cropped: 20 })
    await settle()
    expect(vi.mocked(useStage().check).mock.calls.at(-1)![0].limits).toEqual({ cropped: 20 })
    await field.trigger('dblclick')
    expect(useProject().document!.checkLimits).toEqual({})
    w.unmount()
  })
  it('is worked out when the picture rests, not while it moves', async () => {
    const check = useCheck()
    await settle()
    const calls = vi.mocked(useStage().check).mock.calls.length
    expect(check.findings).toHaveLength(1)
    const p = useProject()
    p.show({ stand: { ...p.working!.stand, rollDeg: 1 } })
    await settle()
    expect(vi.mocked(useStage().check).mock.calls.length).toBe(calls)
    p.settle('Rolled')
    await settle()
    expect(vi.mocked(useStage().check).mock.calls.length).toBe(calls + 1)
    expect(vi.mocked(useStage().check).mock.calls.at(-1)![1]).toEqual({
      kind: 'room',
      eyeHeightM: 1.58,
      subjectId: null,
    })
  })
  it('tells its subject: what is aimed at, or the one thing selected', async () => {
    useCheck()
    useView().selection = ['room/Set/Table']
    await settle()
    expect(vi.mocked(useStage().check).mock.calls.at(-1)![1].subjectId).toBe('room/Set/Table')
  })
  it('lists findings with their reason, shows one at a time, and says when there are none', async () => {
    const w = mount(FrameCheck, { global: { plugins: [PrimeVue] } })
    await settle()
    expect(w.text()).toContain('1 found')
    expect(w.text()).toContain('So little looks like a slip')
    const button = (text: string) => w.findAll('button').find((b) => b.text() === text)!
    await button('Show').trigger('click')
    expect(useCheck().shown?.id).toBe('almost-level')
    // the same finding is still shown after the picture changed a little
    useProject().move({ stand: { ...useProject().working!.stand, rollDeg: 0.3 } }, 'Rolled')
    await settle()
    expect(useCheck().shown?.id).toBe('almost-level')
    await button('Shown').trigger('click')
    expect(useCheck().shown).toBeNull()
    answer = []
    useProject().move({ stand: { ...useProject().working!.stand, rollDeg: 0 } }, 'Rolled')
    await settle()
    expect(w.text()).toContain('nothing found')
    await w.get('button.head').trigger('click')
    expect(w.get('button.head').attributes('aria-expanded')).toBe('false')
    w.unmount()
  })
  it('mends as one step of the trail; hiding is an edit', async () => {
    const check = useCheck()
    const p = useProject()
    answer = [
      finding({ mend: { label: 'Level, keeping the framing', stand: { ...p.working!.stand, rollDeg: 7 } } }),
      finding({ id: 'subject-hidden', mend: { label: 'Hide “Bench”', hide: ['room/Set/Bench'] } }),
    ]
    await check.look()
    check.mend(0)
    expect(p.document!.trail.steps.at(-1)!.label).toBe('Level, keeping the framing')
    expect(p.document!.working.stand.rollDeg).toBe(7)
    check.mend(1)
    expect(p.document!.working.visible.hidden).toEqual(['room/Set/Bench'])
    expect(p.canUndo).toBe(true)
    check.mend(9)
    p.undoEdit()
    expect(p.document!.working.visible.hidden).toEqual([])
  })
})
