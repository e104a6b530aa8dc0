// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, effectScope, nextTick, ref, type EffectScope } from 'vue'
import { aimPointOf, poseOfStand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { cameraOf } from '../../../tests/support/cameras.ts'
import { useMeasurements } from '../measure/measurements.ts'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { usePlanDrags } from './plan-drags.ts'
import { useSideDrags } from './side-drags.ts'
import type { Strip } from '../../drawings/strip.ts'

/** Plan at 50 px a metre, north up; Side looking north, x to the right, height up: the same page. */
const PX = 50
const planPoint = (e: { clientX: number; clientY: number }): Vec3 => [e.clientX / PX, -e.clientY / PX, 0]
const sidePoint = (e: { clientX: number; clientY: number }): Vec3 => [e.clientX / PX, 1, -e.clientY / PX]
const strip = (toWorld: Strip['toWorld'], bearingDeg: number, tiltDeg: number): Strip =>
  ({
    toWorld,
    metresPerPx: ref(1 / PX),
    camera: ref(cameraOf({ station: [0, 0, 0], bearingDeg, tiltDeg })),
    slideStrip: (e: PointerEvent, click: () => unknown = () => undefined) => {
      window.addEventListener('pointerup', () => click(), { once: true })
      void e
    },
  }) as unknown as Strip

let scope: EffectScope
let plan: ReturnType<typeof usePlanDrags>
let side: ReturnType<typeof useSideDrags>
/** A pointer event at metres of the strip. */
const at = (x: number, y: number, more: PointerEventInit = {}, type = 'pointermove'): PointerEvent =>
  new PointerEvent(type, {
    button: 0,
    pointerId: 1,
    bubbles: true,
    cancelable: true,
    clientX: x * PX,
    clientY: -y * PX,
    ...more,
  })

beforeEach(async () => {
  localStorage.clear()
  vi.stubGlobal('requestAnimationFrame', (f: () => void) => (f(), 0))
  await openInMemory()
  const stage = useStage()
  vi.spyOn(stage.rays, 'floorBelow').mockResolvedValue({ point: [1, 1, 0], normal: [0, 0, 1], distanceM: 1, nodeId: 'room', nodeName: 'Floor' }) // prettier-ignore
  vi.spyOn(stage.rays, 'pick').mockResolvedValue({ point: [2, 2, 0.75], normal: [0, 0, 1], distanceM: 1, nodeId: 'room/Set/Table', nodeName: 'Table' }) // prettier-ignore
  stage.walls = {
    mainBearingDeg: 0,
    share: 1,
    walls: [],
    centreLines: [
      { point: [3, 2, 0], bearingDeg: 90 },
      { point: [3, 2, 0], bearingDeg: 180 },
    ],
  }
  scope = effectScope()
  scope.run(() => {
    useFraming()
    plan = usePlanDrags(
      strip(planPoint, 0, -90),
      computed(() => useStage().storeys[0] ?? null),
      computed(() => 1.2),
    )
    side = useSideDrags(strip(sidePoint, 0, 0))
  })
  useView().forSubject('room')
  for (let i = 0; i < 3; i++) await nextTick()
})
afterEach(async () => {
  scope.stop()
  vi.unstubAllGlobals()
  await closeInMemory()
})
const stand = () => useProject().working!.stand
const aim = () => aimPointOf(stand().aim)!
const pose = () => poseOfStand(stand())

describe('Plan', () => {
  it('the station is caught by the room’s centre lines, shown as guides; Alt lets it go free', () => {
    plan.begin('station')
    plan.dragStation(at(2.94, 2.06), false)
    expect(stand().station.slice(0, 2)).toEqual([3, 2])
    expect(plan.guides.value.map((g) => g.label)).toEqual(['centre line', 'centre line'])
    plan.dragStation(at(2.94, 2.06, { altKey: true }), false)
    expect(stand().station[0]).toBeCloseTo(2.94, 9)
    expect(plan.guides.value).toEqual([])
    plan.cancel()
    expect(stand().station).toEqual([1, 1, 1.6])
  })
  it('round values catch where no line does; Shift holds to one axis', () => {
    plan.begin('station')
    plan.dragStation(at(4.55, 0.56), false)
    expect(stand().station[0]).toBeCloseTo(4.6, 9)
    expect(stand().station[1]).toBeCloseTo(0.6, 9)
    plan.dragStation(at(4.5, 1.3, { shiftKey: true }), false)
    expect(stand().station[1]).toBe(1)
    plan.done('Station moved')
    expect(useProject().document!.trail.steps.at(-1)!.label).toBe('Station moved')
  })
  it('the aim is caught square to the building, also where that is turned', () => {
    plan.begin('aim')
    plan.dragAim(at(4, 1.05))
    expect(pose().bearingDeg).toBeCloseTo(90, 9)
    expect(plan.guides.value[0]!.label).toBe('square')
    useView().mainBearingDeg = 17
    const rad = (17.8 * Math.PI) / 180
    plan.dragAim(at(1 + 5 * Math.sin(rad), 1 + 5 * Math.cos(rad)))
    expect(pose().bearingDeg).toBeCloseTo(17, 9)
    plan.dragAim(at(1 + 5 * Math.sin(rad), 1 + 5 * Math.cos(rad), { altKey: true }))
    expect(pose().bearingDeg).toBeCloseTo(17.8, 6)
    plan.cancel()
  })
  it('an edge of the cone is the focal length whose ray passes there', () => {
    plan.begin('edge')
    // from (1, 1) looking east: 2 m ahead and 1 m to the left is half the used sensor over f
    plan.dragEdge(at(3, 2, { altKey: true }), 0)
    expect(useProject().working!.lens.focalMm).toBeCloseTo(36, 9)
    plan.done('Focal length')
  })
  it('nudges station and aim', () => {
    const before = aim()
    plan.nudge(0.01, 0, false)
    expect(aim()[0]).toBeCloseTo(before[0] + 0.01, 9)
    plan.nudgeAim(0, -0.1)
    expect(aim()[1]).toBeCloseTo(before[1] - 0.1, 9)
  })
  it('with Stand a drag draws station and aim at the chosen height', async () => {
    useView().tool = 'stand'
    useView().standHeightM = 1.2
    void plan.down(at(4, 3, {}, 'pointerdown'))
    window.dispatchEvent(at(5, 3.02))
    window.dispatchEvent(at(5, 3.02, {}, 'pointerup'))
    for (let i = 0; i < 5; i++) await nextTick()
    expect(stand().station).toEqual([4, 3, 1.2])
    expect(pose()).toMatchObject({ bearingDeg: 90, tiltDeg: 0 })
    expect(useView().tool).toBe('turn')
  })
  it('a click that was asked for picks what lies below the cut; a fit’s point lies at the eye’s height', async () => {
    useView().picking = 'fit-points'
    void plan.down(at(4, 3, {}, 'pointerdown'))
    window.dispatchEvent(at(4, 3, {}, 'pointerup'))
    await nextTick()
    expect(useMeasurements().fitPoints).toEqual([[4, 3, 1.6]])
    useView().picking = 'measure'
    void plan.down(at(2, 2, {}, 'pointerdown'))
    window.dispatchEvent(at(2, 2, {}, 'pointerup'))
    for (let i = 0; i < 3; i++) await nextTick()
    expect(useMeasurements().from![2]).toBe(0.75)
    useView().picking = 'aim-point'
    void plan.down(at(2, 2, {}, 'pointerdown'))
    window.dispatchEvent(at(2, 2, {}, 'pointerup'))
    for (let i = 0; i < 3; i++) await nextTick()
    expect(aim()).toEqual([2, 2, 0.75])
  })
})

describe('Side', () => {
  it('the eye is caught at usual heights, the aim level with it', () => {
    side.begin('eye')
    side.dragEye(at(1, 1.23))
    expect(stand().station[2]).toBeCloseTo(1.2, 9)
    expect(side.guides.value[0]!.label).toBe('seated')
    side.done('Eye height')
    side.begin('aim')
    side.dragAim(at(4, 1.17))
    expect(aim()[2]).toBeCloseTo(1.2, 9)
    expect(side.guides.value[0]!.label).toBe('level')
    side.dragAim(at(4, 0.437, { altKey: true }))
    expect(aim()[2]).toBeCloseTo(0.437, 9)
    side.cancel()
    side.nudgeEye(0.01)
    side.nudgeAim(-0.01)
    expect(aim()[2]).toBeCloseTo(1.2, 9)
  })
  it('with Stand a drag draws a view up or down, and straight down too', () => {
    const draw = (x: number, y: number, more: PointerEventInit = {}): void => {
      useView().tool = 'stand'
      side.down(at(3, 2, {}, 'pointerdown'))
      window.dispatchEvent(at(x, y, more))
      window.dispatchEvent(at(x, y, more, 'pointerup'))
    }
    draw(4, 1, { altKey: true })
    expect(pose()).toMatchObject({ bearingDeg: expect.closeTo(90, 9), tiltDeg: expect.closeTo(-45, 9) })
    expect(stand().station).toEqual([3, 1, 2])
    draw(3.02, 0.2)
    expect(pose().tiltDeg).toBe(-90)
    // the picture's top keeps the bearing there was
    expect(pose().bearingDeg).toBeCloseTo(90, 9)
    draw(5, 2.4, { shiftKey: true })
    expect(pose()).toMatchObject({ bearingDeg: 90, tiltDeg: 0 })
  })
  it('a click that was asked for lies in the plane of the station', () => {
    useView().picking = 'fit-points'
    side.down(at(4, 2.5, {}, 'pointerdown'))
    window.dispatchEvent(at(4, 2.5, {}, 'pointerup'))
    expect(useMeasurements().fitPoints).toEqual([[4, 1, 2.5]])
  })
})
