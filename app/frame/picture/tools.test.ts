// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { poseOfStand, projectPoint } from '#core/camera'
import { windowOf } from '#core/framing'
import { distance, type Vec3 } from '#core/math'
import { aimAt } from '#model'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useOutside } from '../outside/outside.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePictureTools } from './tools.ts'
import { useWheel } from './wheel.ts'

const WIDTH = 600
const HEIGHT = 400
let scope: EffectScope
let tools: ReturnType<typeof usePictureTools>
let wheel: ReturnType<typeof useWheel>
let picture: HTMLElement
/** What lies under the pointer in these tests. */
const UNDER: Vec3 = [5, 1.5, 1.2]

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  await openInMemory()
  const stage = useStage()
  vi.spyOn(stage.rays, 'pick').mockResolvedValue({
    point: UNDER,
    normal: [-1, 0, 0],
    distanceM: 4,
    nodeId: 'room/Set/Table',
    nodeName: 'Table',
  })
  vi.spyOn(stage.rays, 'pickFloor').mockResolvedValue({
    point: [3, 2, 0],
    normal: [0, 0, 1],
    distanceM: 3,
    nodeId: 'room',
    nodeName: 'Floor',
  })
  vi.spyOn(stage.rays, 'floorBelow').mockResolvedValue(null)
  vi.spyOn(stage.rays, 'freeWay').mockImplementation(async (_f, _d, far) => far)
  picture = document.createElement('div')
  document.body.append(picture)
  vi.spyOn(picture, 'getBoundingClientRect').mockReturnValue(new DOMRect(0, 0, WIDTH, HEIGHT))
  scope = effectScope()
  scope.run(() => {
    tools = usePictureTools(ref({ width: WIDTH, height: HEIGHT }))
    wheel = useWheel(tools)
  })
  picture.addEventListener('pointerdown', (e) => tools.down(e))
  picture.addEventListener('wheel', (e) => void wheel.wheel(e))
  useView().forSubject('room')
  useView().holdLevel = false
})
afterEach(async () => {
  scope.stop()
  picture.remove()
  useOutside().forget()
  vi.useRealTimers()
  await closeInMemory()
})

const settle = async (): Promise<void> => {
  for (let i = 0; i < 6; i++) await Promise.resolve()
  await new Promise((r) => requestAnimationFrame(() => r(null)))
  for (let i = 0; i < 6; i++) await Promise.resolve()
}
async function drag(
  by: [number, number],
  options: PointerEventInit & { end?: 'up' | 'Escape' | 'none' } = {},
): Promise<void> {
  const { end = 'up', ...init } = options
  const at = (x: number, y: number) => ({
    pointerId: 1,
    clientX: x,
    clientY: y,
    bubbles: true,
    cancelable: true,
    ...init,
  })
  picture.dispatchEvent(new PointerEvent('pointerdown', at(300, 200)))
  await settle()
  window.dispatchEvent(new PointerEvent('pointermove', at(300 + by[0], 200 + by[1])))
  await settle()
  if (end === 'Escape') window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', cancelable: true }))
  else if (end === 'up') window.dispatchEvent(new PointerEvent('pointerup', at(300 + by[0], 200 + by[1])))
  await settle()
}
const label = () => useProject().document!.trail.steps.at(-1)!.label
const camera = () => useProject().camera!

describe('drags', () => {
  it('turn the direction of view; the station stays; one step', async () => {
    const before = camera().pose
    await drag([60, 0])
    expect(label()).toBe('Turned')
    expect(camera().pose.station).toEqual(before.station)
    expect(camera().pose.bearingDeg).toBeLessThan(before.bearingDeg)
  })
  it('with Shift go round what is under the pointer, at the same distance', async () => {
    const before = distance(camera().pose.station, UNDER)
    await drag([80, 30], { shiftKey: true })
    expect(label()).toBe('Orbited')
    expect(distance(camera().pose.station, UNDER)).toBeCloseTo(before, 9)
  })
  it('with the right button slide: the grabbed point follows the pointer', async () => {
    const at = projectPoint(camera(), UNDER)!
    await drag([45, -20], { button: 2 })
    expect(label()).toBe('Slid')
    const now = projectPoint(camera(), UNDER)!
    const k = camera().frame.widthPx / WIDTH
    expect(now.xPx - at.xPx).toBeCloseTo(45 * k, 4)
    expect(now.yPx - at.yPx).toBeCloseTo(-20 * k, 4)
  })
  it('let go by Esc restore the start bit for bit and leave no step', async () => {
    const p = useProject()
    const { document: before, working } = p
    for (const init of [{}, { shiftKey: true }, { button: 2 }]) {
      await drag([70, 20], { ...init, end: 'Escape' })
      expect(p.live).toBeNull()
      expect(p.working).toBe(working)
      expect(p.document).toBe(before)
    }
  })
  it('a click selects and moves nothing; with Shift it adds; again it takes away', async () => {
    const before = useProject().document
    const view = useView()
    await drag([0, 0])
    expect(view.selection).toEqual(['room/Set/Table'])
    vi.mocked(useStage().rays.pick).mockResolvedValue({
      point: UNDER,
      normal: [0, 0, 1],
      distanceM: 1,
      nodeId: 'room/Walls',
      nodeName: 'Walls',
    })
    await drag([0, 0], { shiftKey: true })
    expect(view.selection).toEqual(['room/Set/Table', 'room/Walls'])
    await drag([0, 0], { shiftKey: true })
    expect(view.selection).toEqual(['room/Set/Table'])
    vi.mocked(useStage().rays.pick).mockResolvedValue(null)
    await drag([0, 0])
    expect(view.selection).toEqual([])
    expect(useProject().document).toBe(before)
  })
  it('with Ctrl draw a band: its corners go to the rays in the frame’s pixels', async () => {
    const inBand = vi.spyOn(useStage().rays, 'inBand').mockResolvedValue(['room/Set/Bench'])
    await drag([120, 80], { ctrlKey: true, end: 'none' })
    expect(tools.band.value).toEqual({ x: 300, y: 200, width: 120, height: 80 })
    window.dispatchEvent(new PointerEvent('pointerup', { pointerId: 1, clientX: 420, clientY: 280 }))
    await settle()
    expect(tools.band.value).toBeNull()
    const k = camera().frame.widthPx / WIDTH
    expect(inBand.mock.calls[0]![1]).toEqual({ a: [300 * k, 200 * k], b: [420 * k, 280 * k] })
    expect(useView().selection).toEqual(['room/Set/Bench'])
  })
  it('with Stand chosen go to the floor under the pointer at eye height, level', async () => {
    useView().tool = 'stand'
    await drag([0, 0])
    await settle()
    // the document has it at once; what is shown flies there
    expect(poseOfStand(useProject().document!.working.stand)).toMatchObject({ station: [3, 2, 1.58], tiltDeg: 0 })
    await expect.poll(() => camera().pose.station[0]).toBe(3)
    expect(useView().tool).toBe('turn')
  })
  it('move the view from outside while that is open, never the project', async () => {
    const p = useProject()
    const outside = useOutside()
    await outside.step()
    expect(outside.on).toBe(true)
    const before = p.document
    const from = outside.camera!.pose
    await drag([50, 0])
    expect(outside.camera!.pose.bearingDeg).not.toBe(from.bearingDeg)
    expect(p.document).toBe(before)
    outside.standHere('kept')
    expect(label()).toBe('Stood here')
    expect(p.working!.lens).toBe(before!.working.lens)
    expect(outside.former!.pose).toEqual(poseOfStand(before!.working.stand))
  })
  it('stand here takes what the frame’s window shows from outside', async () => {
    const outside = useOutside()
    outside.frame = { ...outside.frame, widthPx: 900, heightPx: 900 }
    await outside.step()
    await drag([30, 10])
    const from = outside.camera!
    outside.standHere('taken')
    const window = windowOf(from.frame, camera().frame)
    const k = camera().frame.widthPx / window.widthPx
    for (const p of [[4, 1.5, 1.2], [3, 2, 0.5]] as const) {
      const [seen, now] = [projectPoint(from, p)!, projectPoint(camera(), p)!]
      expect(now.xPx).toBeCloseTo((seen.xPx - window.xPx) * k, 6)
      expect(now.yPx).toBeCloseTo((seen.yPx - window.yPx) * k, 6)
    } // prettier-ignore
  })
  it('the camera, or what is selected, is found from outside', async () => {
    const outside = useOutside()
    await outside.step()
    const isSeen = (p: Vec3): boolean => {
      const at = projectPoint(outside.camera!, p)
      return (
        !!at &&
        at.depthM > 0 &&
        at.xPx > 0 &&
        at.xPx < outside.frame.widthPx &&
        at.yPx > 0 &&
        at.yPx < outside.frame.heightPx
      )
    }
    outside.framing = { ...outside.framing!, stand: aimAt([300, 0, 2], [301, 0, 2]) }
    outside.bringCamera()
    expect(isSeen(camera().pose.station)).toBe(true)
    outside.framing = { ...outside.framing!, stand: aimAt([300, 0, 2], [300, 1, 2]) }
    outside.bringSelection()
    expect(outside.framing!.stand.station[0]).toBe(300)
    useView().selection = ['room/Set/Table']
    outside.bringSelection()
    expect([isSeen([1, 1, 0]), isSeen([2, 2, 0.75])]).toEqual([true, true])
  })
})

describe('the wheel', () => {
  const turn = async (deltaY: number, init: WheelEventInit = {}): Promise<void> => {
    // the environment's constructor forgets modifiers and places
    const e = new WheelEvent('wheel', { deltaY, clientX: 300, clientY: 200, cancelable: true, ...init })
    for (const k of ['altKey', 'shiftKey'] as const) Object.defineProperty(e, k, { value: init[k] ?? false })
    Object.defineProperties(e, { clientX: { value: 300 }, clientY: { value: 200 } })
    picture.dispatchEvent(e)
    await settle()
  }
  const rest = async (): Promise<void> => {
    vi.advanceTimersByTime(400)
    await nextTick()
  }
  it('goes a tenth of the way to what is under the pointer; a burst is one step', async () => {
    const p = useProject()
    const before = distance(camera().pose.station, UNDER)
    await turn(-100)
    expect(distance(camera().pose.station, UNDER)).toBeCloseTo(before * 0.9, 9)
    await turn(-100)
    expect(p.document!.trail.steps).toHaveLength(1)
    await rest()
    expect(p.document!.trail.steps).toHaveLength(2)
    expect(label()).toBe('Moved')
  })
  it('from far off, over nothing, goes a tenth of the way to the model', async () => {
    const middle = [3, 2, 1.5] as const
    useProject().move({ stand: aimAt([3, -5000, 1.6], [3, -4995, 1.6]) }, 'Stood')
    vi.mocked(useStage().rays.pick).mockResolvedValue(null)
    const before = distance(camera().pose.station, middle)
    await turn(-100)
    expect(distance(camera().pose.station, middle)).toBeCloseTo(before * 0.9, 3)
  })
  it('with the level kept goes forward level and stops 30 cm before a wall', async () => {
    useView().holdLevel = true
    vi.mocked(useStage().rays.freeWay).mockResolvedValue(0.4)
    await turn(-300)
    expect(camera().pose.station[2]).toBe(1.6)
    const gone = Math.hypot(camera().pose.station[0] - 1, camera().pose.station[1] - 1)
    expect(gone).toBeCloseTo(0.1, 9)
    await rest()
    await turn(-300, { shiftKey: true })
    await rest()
    expect(Math.hypot(camera().pose.station[0] - 1, camera().pose.station[1] - 1)).toBeGreaterThan(0.5)
  })
  it('with Alt changes the focal length and holds the subject’s size', async () => {
    const width = (): number => projectPoint(camera(), [4, 1.5, 1.6])!.xPx - projectPoint(camera(), [4, 0.5, 1.6])!.xPx
    const before = width()
    await turn(-100, { altKey: true })
    expect(camera().lens.focalMm).toBeGreaterThan(24)
    expect(width()).toBeCloseTo(before, 6)
  })
  it('a burst let go restores the start exactly', async () => {
    const p = useProject()
    const { working } = p
    await turn(-100)
    expect(wheel.cancel()).toBe(true)
    expect(p.working).toBe(working)
    expect(wheel.cancel()).toBe(false)
    await rest()
    expect(p.document!.trail.steps).toHaveLength(1)
  })
  it('sideways scrolls of a trackpad slide', async () => {
    await turn(0, { deltaX: 60 })
    await rest()
    expect(label()).toBe('Slid')
  })
  it('arrow keys do what the tool does, plus and minus go to and fro', async () => {
    const press = async (key: string): Promise<void> => {
      wheel.key(new KeyboardEvent('keydown', { key, cancelable: true }))
      await settle()
      await rest()
    }
    await press('ArrowRight')
    expect(label()).toBe('Turned')
    useView().tool = 'orbit'
    await press('ArrowLeft')
    expect(label()).toBe('Orbited')
    await press('+')
    expect(label()).toBe('Moved')
    useView().tool = 'slide'
    await press('ArrowUp')
    expect(label()).toBe('Slid')
  })

  it('with the tool for picking, arrows move a shown place and Enter selects what is there', async () => {
    const view = useView()
    view.tool = 'pick'
    await nextTick()
    const press = (key: string): boolean => {
      const e = new KeyboardEvent('keydown', { key, cancelable: true })
      picture.addEventListener('keydown', tools.spotKey, { once: true })
      picture.dispatchEvent(e)
      return e.defaultPrevented
    }
    expect(press('ArrowUp')).toBe(true)
    expect(tools.spot.value).not.toBeNull()
    expect(press('Enter')).toBe(true)
    await vi.waitFor(() => expect(view.selection).toEqual(['room/Set/Table']))
    view.tool = 'turn'
    await nextTick()
    expect(press('ArrowUp')).toBe(false)
    expect(tools.spot.value).toBeNull()
  })
})
