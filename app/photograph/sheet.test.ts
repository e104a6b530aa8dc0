// @vitest-environment happy-dom
import { mount, type VueWrapper } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { closeInMemory, openInMemory } from '../../tests/support/app.ts'
import { drawnOn, photoOfRoom, settled, SITE } from '../../tests/support/photograph.ts'
import { api } from '../api/client.ts'
import { useProject } from '../stores/project.ts'
import { useMatch } from './match.ts'
import PhotoSheet from './PhotoSheet.vue'
import { usePhotoTools } from './tools.ts'

vi.mock('#workers', async () => (await import('../../tests/support/photograph.ts')).workersInTest())
vi.mock('@vueuse/core', async (original) => {
  const { ref } = await import('vue')
  return { ...(await original<object>()), useElementSize: () => ({ width: ref(1228), height: ref(828) }) }
})

/** The window shows the photograph at two fifths, 14 pixels in. */
const K = 0.4
const MARGIN = 14
let sheet: VueWrapper
let tools: ReturnType<typeof usePhotoTools>
const drawn = () => drawnOn(useProject().document!)
const Holder = {
  components: { PhotoSheet },
  setup() {
    const { photoId } = useMatch()
    photoId.value = SITE
    tools = usePhotoTools()
    return {}
  },
  template: '<PhotoSheet />',
}
beforeEach(async () => {
  await openInMemory({ photos: [photoOfRoom({ lines: [{ id: 'l', bundleId: 'up', points: [[500, 500], [520, 1500]] }] })] }) // prettier-ignore
  vi.spyOn(api, 'asset').mockResolvedValue(new Uint8Array(8) as never)
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue({ drawImage: () => undefined } as never)
  sheet = mount(Holder, { global: { plugins: [PrimeVue], stubs: { LoupePane: true, ModelOver: true } }, attachTo: document.body }) // prettier-ignore
  await nextTick()
  await settled()
  await nextTick()
  tools.snaps.value = false
})
afterEach(async () => {
  sheet.unmount()
  await closeInMemory()
})
const box = () => sheet.find('[data-testid=photograph]')
const at = (x: number, y: number) => ({ clientX: MARGIN + x * K, clientY: MARGIN + y * K, button: 0, pointerId: 1 })
async function press(x: number, y: number, keys: Partial<PointerEventInit> = {}): Promise<void> {
  box().element.dispatchEvent(new PointerEvent('pointerdown', { ...at(x, y), bubbles: true, ...keys }))
  await nextTick()
}
async function release(x: number, y: number): Promise<void> {
  window.dispatchEvent(new PointerEvent('pointermove', { ...at(x, y), bubbles: true }))
  window.dispatchEvent(new PointerEvent('pointerup', { ...at(x, y), bubbles: true }))
  await settled()
  await nextTick()
}
const key = async (name: string, more: object = {}): Promise<void> => {
  await box().trigger('keydown', { key: name, ...more })
  await settled()
}

describe('the photograph under a hand', () => {
  it('a stroke is a line of the chosen direction where it was drawn', async () => {
    tools.bundleId.value = 'north'
    await press(1000, 1000)
    await release(1400, 1100)
    const line = drawn().lines.at(-1)!
    expect(line.bundleId).toBe('north')
    line.points.flat().forEach((v, i) => expect(v).toBeCloseTo([1000, 1000, 1400, 1100][i]!, 6))
  })
  it('a press near an end takes hold of it', async () => {
    await press(503, 498)
    expect(tools.chosen.value).toEqual({ kind: 'line', id: 'l' })
    await release(553, 548)
    expect(drawn().lines).toHaveLength(1)
    drawn().lines[0]!.points[0]!.forEach((v) => expect(v).toBeCloseTo(550, 6))
  })
  it('Shift puts one more place on the line that is chosen', async () => {
    tools.chosen.value = { kind: 'line', id: 'l' }
    await press(512, 1000, { shiftKey: true })
    expect(drawn().lines[0]!.points).toHaveLength(3)
    expect(drawn().lines[0]!.points[1]![0]).toBeCloseTo(512, 6)
  })
  it('a stroke too short to be one is none', async () => {
    await press(1000, 1000)
    await release(1004, 1003)
    expect(drawn().lines).toHaveLength(1)
  })
  it('the scale is a length where it is dragged and an eye height where it is clicked', async () => {
    tools.tool.value = 'scale'
    await press(1000, 1800)
    await release(1000, 1800)
    expect(drawn().scale).toMatchObject({ kind: 'eye' })
    await press(1000, 1000)
    await release(1400, 1000)
    expect(drawn().scale).toMatchObject({ kind: 'length' })
  })
})

describe('the photograph by keys alone', () => {
  beforeEach(() => void (tools.chosen.value = { kind: 'line', id: 'l' }))
  it('arrows move the end that is held, ten with Shift, a tenth with Alt; Space takes the other', async () => {
    await key('ArrowRight')
    await key('ArrowDown', { shiftKey: true })
    await key('ArrowLeft', { altKey: true })
    expect(drawn().lines[0]!.points[0]![0]).toBeCloseTo(500.9, 9)
    expect(drawn().lines[0]!.points[0]![1]).toBeCloseTo(510, 9)
    await key(' ')
    await key('ArrowUp')
    expect(drawn().lines[0]!.points[1]).toEqual([520, 1499])
  })
  it('Delete takes out what is chosen, and undo brings it back', async () => {
    await key('Delete')
    expect(drawn().lines).toEqual([])
    useProject().undoEdit()
    expect(drawn().lines).toHaveLength(1)
  })
  it('Enter closes a mask of three corners, Escape lets one go', async () => {
    tools.tool.value = 'mask'
    for (const [x, y] of [[100, 100], [900, 100]] as const) await press(x, y) // prettier-ignore
    await key('Enter')
    expect(drawn().masks ?? []).toEqual([])
    await press(100, 900)
    await key('Enter')
    expect(drawn().masks).toHaveLength(1)
    await press(100, 100)
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
    for (const [x, y] of [[900, 100], [100, 900]] as const) await press(x, y) // prettier-ignore
    await key('Enter')
    expect(drawn().masks).toHaveLength(1)
  })
})
