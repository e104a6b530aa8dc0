// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { nextTick } from 'vue'
import { describe, expect, it } from 'vitest'
import AnglePair from './AnglePair.vue'
import AxisFields from './AxisFields.vue'
import NumberField from './NumberField.vue'

const field = (props: Record<string, unknown>) => {
  const w = mount(NumberField, {
    props: { label: 'Eye height', modelValue: 1.58, kind: 'length', ...props },
    global: { plugins: [PrimeVue] },
  })
  const input = w.find('input')
  const type = async (text: string): Promise<void> => {
    await input.setValue(text)
    await input.trigger('keydown', { key: 'Enter' })
    await nextTick()
  }
  return {
    w,
    input,
    type,
    shown: () => (input.element as HTMLInputElement).value,
    changes: () => (w.emitted('change') ?? []).map((e) => e[0]),
  }
}

describe('a number field', () => {
  it('takes units and sums, in the base unit', async () => {
    const f = field({})
    await f.type('1 m + 60cm')
    expect(f.changes()).toEqual([1.6])
    await f.type(`5'11 1/2"`)
    expect(f.changes()[1]).toBeCloseTo(1.8161, 9)
  })
  it('reads a bare number in the project’s unit and shows it so', async () => {
    const f = field({ unit: 'mm' })
    expect(f.shown()).toBe('1580')
    await f.type('1600')
    expect(f.changes()).toEqual([1.6])
  })
  it('keeps the old value and says why when it cannot read or take the text', async () => {
    const f = field({ min: 0 })
    await f.type('tall')
    expect(f.w.text()).toContain('“tall” could not be read')
    await f.type('-1')
    expect(f.w.text()).toContain('At least 0.00 m')
    expect(f.changes()).toEqual([])
    await f.input.trigger('keydown', { key: 'Escape' })
    expect(f.shown()).toBe('1.58')
  })
  it('shows the new value after Enter while the field keeps the focus', async () => {
    const f = field({})
    await f.type('1.7')
    await f.w.setProps({ modelValue: 1.7 })
    await nextTick()
    expect(f.shown()).toBe('1.70')
  })
  it('is stepped by arrows, tenfold with Shift, a tenth with Alt, within its limits', async () => {
    const f = field({ step: 0.01, max: 1.6 })
    await f.input.trigger('keydown', { key: 'ArrowUp' })
    await f.input.trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    await f.input.trigger('keydown', { key: 'ArrowDown', altKey: true })
    expect(f.changes()).toEqual([1.59, 1.6, 1.579])
  })
  it('puts the old value back where a number is outside its limits, and tells the limit', async () => {
    const f = field({ min: 0, max: 100 })
    await f.type('-1')
    expect([f.shown(), f.w.get('[role=alert]').text()]).toEqual(['1.58', 'At least 0.00 m.'])
    await f.type('500')
    expect([f.shown(), f.w.get('[role=alert]').text()]).toEqual(['1.58', 'At most 100.00 m.'])
    const far = field({})
    await far.type('1e9')
    expect([far.shown(), far.w.get('[role=alert]').text()]).toEqual(['1.58', 'At most 10000000.00 m.'])
    expect([...f.changes(), ...far.changes()]).toEqual([])
    // where the other field spoke, this one is silent
    expect(f.w.find('[role=alert]').exists()).toBe(false)
  })
  it('keeps asking about a unit beside the old value when it is left without an answer', async () => {
    const f = field({ usualM: 1.6, positive: true })
    await f.type('160')
    const ask = f.w.get('[role=alertdialog]')
    await f.input.trigger('blur')
    expect(f.shown()).toBe('1.58')
    await ask.findAll('button')[0]!.trigger('click')
    expect(f.changes()).toEqual([1.6])
    await f.type('160')
    await field({}).type('tall')
    expect(f.w.find('[role=alertdialog]').exists()).toBe(false)
  })
  it('signs what can be negative and resets on a double click of its label', async () => {
    const f = field({ kind: 'sensor', sign: true, modelValue: 2.1, suffix: 'mm', resetTo: 0 })
    expect(f.shown()).toBe('+2.10')
    await f.w.find('label').trigger('dblclick')
    expect(f.changes()).toEqual([0])
  })
})

describe('a number dragged by its label', () => {
  const dragged = async (ends: (target: Window) => void) => {
    const w = mount(NumberField, {
      props: { label: 'Near', modelValue: 2, step: 0.5, max: 4 },
      global: { plugins: [PrimeVue] },
      attachTo: document.body,
    })
    const at = (type: string, x: number) => new PointerEvent(type, { clientX: x, clientY: 5, button: 0, pointerId: 1, bubbles: true }) // prettier-ignore
    w.get('label').element.dispatchEvent(at('pointerdown', 10))
    window.dispatchEvent(at('pointermove', 16))
    window.dispatchEvent(at('pointermove', 40))
    ends(window)
    return w
  }
  it('shows its number on the way, within its limits, and settles once', async () => {
    const w = await dragged((t) =>
      t.dispatchEvent(new PointerEvent('pointerup', { clientX: 40, clientY: 5, pointerId: 1 })),
    )
    expect(w.emitted('live')!.at(-1)).toEqual([4])
    expect(w.emitted('settle')).toHaveLength(1)
    expect(w.emitted('change')).toBeUndefined()
  })
  it('tells with Esc where it began', async () => {
    const w = await dragged((t) => t.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' })))
    expect(w.emitted('cancel')).toEqual([[2]])
    expect(w.emitted('settle')).toBeUndefined()
  })
})

describe('three lengths along the axes', () => {
  it('tell which one changed, in metres', async () => {
    const w = mount(AxisFields, {
      props: { labels: ['East', 'North', 'Up'], value: [1, 2, 3], unit: 'cm', resetTo: 0 },
      global: { plugins: [PrimeVue] },
    })
    const inputs = w.findAll('input')
    expect(inputs.map((i) => (i.element as HTMLInputElement).value)).toEqual(['100.0', '200.0', '300.0'])
    await inputs[1]!.setValue('55')
    await inputs[1]!.trigger('keydown', { key: 'Enter' })
    expect(w.emitted('change')).toEqual([[1, 0.55]])
    await w.findAll('label')[2]!.trigger('dblclick')
    expect(w.emitted('change')!.at(-1)).toEqual([2, 0])
  })
})

describe('two angles', () => {
  it('go out together; what is no number is nought', async () => {
    const w = mount(AnglePair, {
      props: { start: [15, 0], labels: ['Turn', 'Rise'], action: 'Go', title: 'Goes round' },
    })
    await w.get('input[aria-label=Rise]').setValue('12.5')
    await w.get('form').trigger('submit')
    await w.get('input[aria-label=Turn]').setValue('')
    await w.get('form').trigger('submit')
    expect(w.emitted('go')).toEqual([
      [15, 12.5],
      [0, 12.5],
    ])
  })
})
