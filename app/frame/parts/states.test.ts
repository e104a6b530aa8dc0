// @vitest-environment happy-dom
// States of the chosen object: made, held, numbered, named, taken out; a viewpoint keeps which one holds.
import { mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { nextTick } from 'vue'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { movedOf, projectSchema, setupAsShown, shownOf } from '#model'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import StatesBox from './StatesBox.vue'

let view: VueWrapper
const press = async (text: string): Promise<void> => {
  await view.findAll('button').find((b) => b.text() === text)!.trigger('click')
  await nextTick()
} // prettier-ignore
async function type(label: string, text: string): Promise<void> {
  const id = view.findAll('label').find((l) => l.text().startsWith(label))!.attributes('for')! // prettier-ignore
  const input = view.find(`[id="${id}"]`)
  await input.setValue(text)
  await input.trigger('keydown', { key: 'Enter' })
  await nextTick()
}
const moved = () => shownOf(setupAsShown(useProject().working!, useProject().document)).moved
beforeEach(async () => {
  await openInMemory()
  useView().selection = ['room/Set/Door']
  view = mount(StatesBox, { global: { plugins: [PrimeVue] }, attachTo: document.body })
})
afterEach(async () => {
  expect(projectSchema.safeParse(useProject().document).success).toBe(true)
  view.unmount()
  useView().selection = []
  await closeInMemory()
})

describe('states of an object', () => {
  it('a new one holds at once; its numbers move the object; as in its file nothing is moved', async () => {
    expect(moved()).toBeUndefined()
    await press('New state')
    await type('Turned', '90')
    await type('Up by', '0.1')
    expect(moved()).toMatchObject([{ objectId: 'room/Set/Door', turnDeg: 90, moveM: [0, 0, 0.1] }])
    await press('as in its file')
    expect(moved()).toBeUndefined()
    await press('open')
    expect(moved()).toHaveLength(1)
  })
  it('a viewpoint keeps which one holds, and a recall brings it back; undo takes back each', async () => {
    const p = useProject()
    await press('New state')
    p.run({ type: 'keepAsNew', id: 'v', name: 'Open', parts: ['stand', 'visible'] })
    await press('as in its file')
    p.run({ type: 'recall', viewpointId: 'v', stamp: { id: 's', at: '2026-01-01T00:00:00.000Z' } })
    await nextTick()
    expect(moved()).toHaveLength(1)
    p.undoEdit()
    expect(moved()).toBeUndefined()
  })
  it('of two states of one object one holds; taken out, it moves nothing and the rest stays', async () => {
    await press('New state')
    await press('New state')
    expect(useProject().document!.objectStates!.map((s) => s.name)).toEqual(['open', 'open 2'])
    expect(useProject().working!.visible.states).toHaveLength(1)
    await press('Take state out')
    expect(moved()).toBeUndefined()
    expect(useProject().document!.objectStates).toHaveLength(1)
    expect(movedOf(useProject().working!.visible)).toEqual([])
  })
  it('is there for one chosen object only', async () => {
    useView().selection = ['a', 'b']
    await nextTick()
    expect(view.find('[data-testid=states]').exists()).toBe(false)
  })
})
