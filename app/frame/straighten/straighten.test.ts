// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { aimPointOf, poseOfStand, projectPoint, toCamera } from '#core/camera'
import { boxCentre, boxCorners, distance, type Vec3 } from '#core/math'
import type { FeatureHit, Hit } from '#mesh'
import { aimAt } from '#model'
import { closeInMemory, openInMemory, roomFacts } from '../../../tests/support/app.ts'
import { useMeasurements } from '../measure/measurements.ts'
import { useFraming } from '../camera/framing.ts'
import { useHoldLevel } from '../camera/hold-level.ts'
import { usePointer } from '../camera/pointer.ts'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { newStamp, useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { outlineNodes, tileCamera } from './view-tiles.ts'
import { useFitting } from './fitting.ts'
import { useMeasuredViews, VIEWS } from './measured-views.ts'
import { usePicking } from './picking.ts'
import { useStandMoves } from './stand-moves.ts'
import { useStraighten } from './straighten.ts'

const hit = (changes: Partial<FeatureHit> = {}): FeatureHit => ({
  point: [5, 4, 1],
  normal: [0, -1, 0],
  distanceM: 3,
  nodeId: 'room/Walls',
  nodeName: 'Walls',
  feature: 'surface',
  ...changes,
})
let scope: EffectScope
let framing: ReturnType<typeof useFraming>
let moves: ReturnType<typeof useStandMoves>
let fitting: ReturnType<typeof useFitting>
let measured: ReturnType<typeof useMeasuredViews>
let straighten: ReturnType<typeof useStraighten>
let picking: ReturnType<typeof usePicking>
let pointer: ReturnType<typeof usePointer>
const table = roomFacts.nodes[3]!

beforeEach(async () => {
  localStorage.clear()
  await openInMemory()
  const stage = useStage()
  vi.spyOn(stage.rays, 'floorBelow').mockResolvedValue(hit({ point: [1, 1, 0], normal: [0, 0, 1] }))
  vi.spyOn(stage.rays, 'pick').mockResolvedValue(hit())
  vi.spyOn(stage.rays, 'pickFeature').mockResolvedValue(hit())
  vi.spyOn(stage.rays, 'wallAlong').mockResolvedValue(null)
  scope = effectScope()
  scope.run(() => {
    framing = useFraming()
    moves = useStandMoves()
    fitting = useFitting()
    measured = useMeasuredViews()
    straighten = useStraighten()
    picking = usePicking()
    pointer = usePointer()
  })
  useView().forSubject('room')
  await nextTick()
  await nextTick()
})
afterEach(async () => {
  scope.stop()
  await closeInMemory()
})
const doc = () => useProject().document!
const stand = () => doc().working.stand
const pose = () => poseOfStand(stand(), centreOf)
const label = () => doc().trail.steps.at(-1)!.label
const measuredFits = () => {
  const at = boxCorners(roomFacts.box).map((c) => projectPoint(useProject().camera!, c)!)
  const { widthPx, heightPx } = doc().working.frame
  return at.every((p) => p.xPx > 0 && p.xPx < widthPx && p.yPx > 0 && p.yPx < heightPx)
}
const told = () =>
  useNotices()
    .list.map((n) => n.text)
    .join(' ')

describe('moves by numbers', () => {
  it('a station’s coordinate carries the aim along unless the station alone is to move', () => {
    const before = aimPointOf(stand().aim)!
    useProject().move({ stand: moves.stationAt(1, 2.5)! }, 'Station')
    expect(aimPointOf(stand().aim)).toEqual([before[0], before[1] + 1.5, before[2]])
    useView().stationAlone = true
    useProject().move({ stand: moves.stationAt(0, 2)! }, 'Station')
    expect(aimPointOf(stand().aim)).toEqual([before[0], before[1] + 1.5, before[2]])
  })
  it('eye heights are over the floor below', () => {
    moves.eyeAt(1.2)
    expect(stand().station[2]).toBeCloseTo(1.2, 9)
    expect(pose().tiltDeg).toBeCloseTo(0, 9)
  })
  it('an eye height typed before the new floor is known waits for it', async () => {
    // a tread under the next station, told late
    let tell = (_: FeatureHit): void => undefined
    vi.mocked(useStage().rays.floorBelow).mockReturnValue(new Promise((r) => (tell = r)))
    useProject().move({ stand: moves.stationAt(1, 2.5)! }, 'Station')
    moves.eyeAt(1.58)
    await new Promise((r) => setTimeout(r))
    expect(stand().station[2]).toBeCloseTo(1.6, 9)
    tell(hit({ point: [1, 2.5, 0.17], normal: [0, 0, 1] }))
    await expect.poll(() => stand().station[2]).toBeCloseTo(1.75, 9)
  })
  it.each([
    ['front', 0],
    ['left', 90],
    ['back', 180],
    ['right', 270],
  ] as const)('from the %s the object is seen square, in the frame', (side, bearing) => {
    useView().selection = [table.id]
    expect(moves.from(side)).toBe(true)
    expect(pose().bearingDeg).toBeCloseTo(bearing, 9)
    const at = boxCorners(table.box).map((c) => projectPoint(useProject().camera!, c)!)
    for (const p of at) {
      expect(p.xPx).toBeGreaterThan(0.049 * doc().working.frame.widthPx)
      expect(p.xPx).toBeLessThan(0.951 * doc().working.frame.widthPx)
    }
    // looks from that side: the middle lies ahead
    expect(toCamera(pose(), boxCentre(table.box))[2]).toBeLessThan(0)
  })
  it('above the model it looks straight down, north up', () => {
    useView().selection = [table.id]
    moves.overModel()
    expect(pose()).toMatchObject({ tiltDeg: -90, bearingDeg: 0 })
    expect(stand().station[2]).toBeGreaterThan(3)
    expect(useView().selection).toEqual([table.id])
  })
  it('aligns on an axis, and refuses to make one point of station and aim', () => {
    moves.align(0)
    expect(told()).toContain('one point')
    useProject().move({ stand: { ...stand(), aim: { kind: 'point', point: [4, 3, 2], topBearingDeg: 0 } } }, 'Aim')
    moves.align(2)
    expect(pose().tiltDeg).toBeCloseTo(0, 9)
    moves.align(1)
    expect(pose().bearingDeg).toBeCloseTo(90, 9)
  })
  it('nudges along the view or the world, station, aim or both', () => {
    useView().nudgeM = 0.5
    const [s, a] = [stand().station, aimPointOf(stand().aim)!]
    // the view looks east: a step forward goes east
    moves.nudge([0, 1, 0], 'view', 'both')
    expect(stand().station).toEqual([expect.closeTo(s[0] + 0.5), expect.closeTo(s[1]), s[2]])
    moves.nudge([0, 1, 0], 'world', 'station')
    expect(stand().station[1]).toBeCloseTo(s[1] + 0.5, 9)
    expect(aimPointOf(stand().aim)![1]).toBeCloseTo(a[1], 9)
    moves.nudge([0, 0, 1], 'world', 'aim')
    expect(aimPointOf(stand().aim)![2]).toBeCloseTo(a[2] + 0.5, 9)
  })
  it('goes round the aim, or the selection, by angles; it keeps its place in the picture; rolls by quarter turns', () => {
    const away = distance(stand().station, aimPointOf(stand().aim)!)
    expect(moves.pivot.value!.what).toBe('the aim')
    useProject().move({ stand: moves.roundTo(0, -20)! }, 'Went round')
    expect(distance(stand().station, aimPointOf(stand().aim)!)).toBeCloseTo(away, 9)
    expect(pose().bearingDeg).toBeCloseTo(0, 9)
    expect(pose().tiltDeg).toBeCloseTo(-20, 9)
    useView().selection = ['room/Set/Table']
    const middle = boxCentre(roomFacts.nodes[3]!.box)
    const before = projectPoint(useProject().camera!, middle)!
    useProject().move({ stand: moves.roundTo(140, -35)! }, 'Went round')
    const after = projectPoint(useProject().camera!, middle)!
    expect([after.xPx, after.yPx, after.depthM]).toEqual([before.xPx, before.yPx, before.depthM].map((v) => expect.closeTo(v, 6))) // prettier-ignore
    useView().selection = []
    for (const want of [90, 180, -90, 0]) {
      moves.rollBy(90)
      expect(stand().rollDeg).toBeCloseTo(want, 9)
    }
  })
  it('takes over a copied stand or three numbers, and tells what is neither', () => {
    expect(moves.paste('2, 3, 1.7')).toBe(true)
    expect(stand().station).toEqual([2, 3, 1.7])
    const copied = JSON.stringify({ stand: { ...stand(), rollDeg: 3 } })
    moves.rollBy(90)
    expect(moves.paste(copied)).toBe(true)
    expect(stand().rollDeg).toBe(3)
    expect(moves.paste('{"stand": {"station": [1, 2]}}')).toBe(false)
    expect(moves.paste('hello there friend')).toBe(false)
    expect(told()).toContain('no stand')
    const before = stand()
    expect(moves.paste('1e9 0 0')).toBe(false)
    expect(told()).toContain('within 10,000,000 m')
    expect(stand()).toEqual(before)
  })
  it('copies the whole stand to the clipboard and pastes it from there', async () => {
    let clip = ''
    vi.stubGlobal('navigator', {
      clipboard: { writeText: async (t: string) => void (clip = t), readText: async () => clip },
    })
    await moves.copy()
    const kept = stand()
    moves.rollBy(90)
    await moves.pasteFromClipboard()
    expect(stand()).toEqual(kept)
    vi.unstubAllGlobals()
  })
})

describe('aims', () => {
  it('an object becomes the aim without the picture moving, and is followed when it moves', async () => {
    const before = pose()
    useView().selection = [table.id]
    await moves.aimAtObjectAhead()
    expect(stand().aim.kind).toBe('object')
    expect(pose().bearingDeg).toBeCloseTo(before.bearingDeg, 6)
    expect(pose().tiltDeg).toBeCloseTo(before.tiltDeg, 6)
    // the table goes two metres north: the camera turns after it
    const nodes = roomFacts.nodes.map((n) =>
      n.id === table.id ? { ...n, box: { min: [1, 3, 0] as Vec3, max: [2, 4, 0.75] as Vec3 } } : n,
    )
    useStage().facts = { ...roomFacts, nodes }
    expect(useProject().camera!.pose.bearingDeg).not.toBeCloseTo(before.bearingDeg, 1)
  })
  it('the selected object’s middle is looked at', () => {
    useView().selection = [table.id]
    moves.aimAtSelected()
    const [x, y] = toCamera(pose(), boxCentre(table.box))
    expect([x, y]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)])
  })
  it('with nothing on the sight line it says so', async () => {
    vi.spyOn(useStage().rays, 'pick').mockResolvedValue(null)
    await moves.aimAtObjectAhead()
    expect(told()).toContain('No object lies on the sight line')
  })
})

describe('straightening', () => {
  const turnedTo = (bearingDeg: number, tiltDeg = 0): void =>
    void useProject().move({ stand: { ...stand(), aim: { kind: 'direction', bearingDeg, tiltDeg } } }, 'Turned')
  it('squares up to the nearest of the building’s directions', () => {
    turnedTo(38)
    useView().mainBearingDeg = 17
    straighten.squareNearest()
    expect(pose().bearingDeg).toBeCloseTo(17, 9)
    turnedTo(100)
    straighten.squareNearest()
    expect(pose().bearingDeg).toBeCloseTo(107, 9)
    expect(label()).toBe('Squared up')
  })
  it('under the pointer a flat wall counts; small things are passed through to the wall behind', async () => {
    turnedTo(20)
    await pointer.hover(useProject().camera!, 500, 400)
    await straighten.squareUnderPointer()
    expect(pose().bearingDeg).toBeCloseTo(0, 9)
    // five rays that meet five directions: something bent, before a wall at 30 degrees
    turnedTo(20)
    let n = 0
    vi.spyOn(useStage().rays, 'pick').mockImplementation(async () => {
      const a = 0.9 * n++
      return hit({ normal: [Math.sin(a), Math.cos(a), 0] })
    })
    const wall: Hit = hit({ normal: [-0.5, -Math.sqrt(0.75), 0] })
    vi.spyOn(useStage().rays, 'wallAlong').mockResolvedValue(wall)
    await straighten.squareUnderPointer()
    expect(pose().bearingDeg).toBeCloseTo(30, 6)
  })
  it('the pointer away from the picture means the nearest direction', async () => {
    turnedTo(12)
    pointer.leave()
    await straighten.squareUnderPointer()
    expect(pose().bearingDeg).toBeCloseTo(0, 9)
  })
  it('levels, and a parallel picture only loses its roll', () => {
    turnedTo(10, -8)
    framing.level()
    expect(pose().tiltDeg).toBe(0)
    expect(doc().working.lens.riseMm).toBeLessThan(0)
    framing.tiltBack()
    expect(pose().tiltDeg).toBeCloseTo(-8, 6)
    framing.switchProjection('parallel')
    useProject().move({ stand: { ...stand(), rollDeg: 4 } }, 'Roll')
    framing.level()
    expect(stand().rollDeg).toBe(0)
    expect(pose().tiltDeg).toBeCloseTo(-8, 6)
  })
  it('centres on what is selected, and asks for one thing', () => {
    straighten.centreSelected('cross')
    expect(told()).toContain('Select one object')
    useView().selection = ['room/Set/Bench']
    straighten.centreSelected('cross')
    const at = projectPoint(useProject().camera!, boxCentre(roomFacts.nodes[4]!.box))!
    expect(at.xPx).toBeCloseTo(doc().working.frame.widthPx / 2, 6)
  })
})

describe('clicks that are asked for', () => {
  const click = () => picking.click(useProject().camera!, [600, 400], 4)
  it('square, centre, horizon and aims take one click; measuring and fits go on', async () => {
    for (const what of ['square', 'centre', 'aim-point', 'aim-object', 'main-direction'] as const) {
      picking.begin(what)
      expect(picking.ask.value).not.toBe('')
      await click()
      expect(useView().picking).toBeNull()
    }
    expect(useView().mainBearingDeg).toBeCloseTo(0, 9)
    picking.begin('fit-points')
    await click()
    await click()
    expect(useView().picking).toBe('fit-points')
    expect(useMeasurements().fitPoints).toHaveLength(2)
    picking.begin('measure')
    await click()
    expect(picking.ask.value).toContain('second')
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValue(hit({ point: [5, 4, 3] }))
    await click()
    expect(useMeasurements().list[0]!.riseM).toBe(2)
    picking.end()
    expect(useView().picking).toBeNull()
  })
  it('the horizon needs a level camera, and keeps the subject', async () => {
    picking.begin('horizon')
    await click()
    expect(stand().station[2]).toBe(1)
    expect(told()).toContain('The horizon is at 1.00 m')
  })
  it('floors are no walls, and nothing there is told', async () => {
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValue(hit({ normal: [0, 0, 1] }))
    vi.spyOn(useStage().rays, 'pick').mockResolvedValue(hit({ normal: [0, 0, 1] }))
    picking.begin('main-direction')
    await click()
    expect(told()).toContain('floor or a roof')
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValue(null)
    picking.begin('centre')
    await click()
    expect(told()).toContain('Nothing is there')
    picking.begin('square')
    picking.take([1, 1, 1], null)
    expect(told()).toContain('needs a surface')
  })
  it('the same button again lets go, and the mark follows the pointer', async () => {
    picking.begin('measure')
    await picking.hover(useProject().camera!, [10, 10], 4)
    expect(picking.mark.value?.nodeId).toBe('room/Walls')
    picking.leave()
    expect(picking.mark.value).toBeNull()
    picking.begin('measure')
    expect(useView().picking).toBeNull()
  })
})

describe('fitting', () => {
  it('margins change their unit and stay what they are', () => {
    fitting.margins.value = { unit: '%', left: 5, right: 2.5, top: 10, bottom: 0 }
    const before = fitting.sides.value
    fitting.marginUnit('px')
    const { widthPx, heightPx } = doc().working.frame
    expect(fitting.margins.value).toMatchObject({ left: 0.05 * widthPx, top: 0.1 * heightPx })
    expect(fitting.sides.value.right).toBeCloseTo(before.right, 6)
    fitting.marginUnit('%')
    expect(fitting.margins.value.left).toBeCloseTo(5, 6)
  })
  it('fills the frame with picked points before the selection, and keeps the eye’s height in rooms', async () => {
    useView().selection = [table.id]
    expect(fitting.target.value!.what).toBe('“Table”')
    useMeasurements().addFitPoint([4, 0.2, 1.58])
    useMeasurements().addFitPoint([4, 2.2, 1.58])
    expect(fitting.target.value!.what).toBe('2 picked points')
    const z = stand().station[2]
    expect(await fitting.fit()).toBe(true)
    expect(stand().station[2]).toBeCloseTo(z, 9)
    const x = [0.2, 2.2].map((y) => projectPoint(useProject().camera!, [4, y, 1.58])!.xPx / doc().working.frame.widthPx)
    expect(Math.min(...x)).toBeCloseTo(0.05, 6)
    expect(Math.max(...x)).toBeCloseTo(0.95, 6)
  })
  it('by lens and shift from where the camera stands', async () => {
    useView().selection = ['room/Set/Bench']
    const { station } = stand()
    await fitting.fit('focal+shift')
    expect(stand().station).toEqual(station)
    expect(label()).toBe('Tight fit')
  })
  it('refusals are told and change nothing', async () => {
    const before = doc()
    useView().selection = ['room']
    await fitting.fit('focal')
    expect(doc()).toBe(before)
    expect(told()).toContain('behind the camera')
  })
  it('asks before the eye passes a wall, and stands back through it when told to', async () => {
    useView().selection = ['room/Set/Bench']
    const before = doc()
    const wall = vi.spyOn(useStage().rays, 'wallAlong').mockResolvedValue(hit({ point: [0.4, 1, 1], normal: [1, 0, 0], distanceM: 0.2, nodeName: 'West wall' })) // prettier-ignore
    useProject().move({ lens: { ...doc().working.lens, focalMm: 200 } }, 'Longer')
    expect(await fitting.fit()).toBe(false)
    expect(doc().working.stand).toBe(before.working.stand)
    const notice = useNotices().list.at(-1)!
    expect(notice.text).toMatch(/beyond “West wall”/)
    // the target itself is no wall in the way of standing back
    notice.action!.run()
    await vi.waitFor(() => expect(label()).toBe('Stood back through the wall'))
    expect(wall.mock.calls.at(-1)![2].hidden).toContain('room/Set/Bench')
    expect(doc().working.cut.near.madeBy).toBe('standBack')
  })
  it('the cut of standing back is offered to be left when a viewpoint without one is recalled', async () => {
    const project = useProject()
    project.run({ type: 'keepAsNew', id: 'v', name: 'Plain', parts: ['stand', 'lens'] })
    useView().selection = ['room/Set/Bench']
    vi.spyOn(useStage().rays, 'wallAlong').mockResolvedValue(hit({ point: [2.5, 1, 1], normal: [1, 0, 0] }))
    project.move({ lens: { ...doc().working.lens, focalMm: 200 } }, 'Longer')
    await fitting.standBack()
    project.run({ type: 'keepAsNew', id: 'w', name: 'Back', parts: ['stand', 'lens', 'cut'] })
    project.run({ type: 'recall', viewpointId: 'v', stamp: newStamp() })
    const notice = useNotices().list.at(-1)!
    expect(notice.text).toMatch(/“Plain” keeps no cut/)
    notice.action!.run()
    expect(doc().working.cut.near).toMatchObject({ on: false })
    expect(doc().working.cut.near.madeBy).toBeUndefined()
    project.run({ type: 'recall', viewpointId: 'w', stamp: newStamp() })
    expect(doc().working.cut.near.on).toBe(true)
    expect(useNotices().list.at(-1)!.text).not.toMatch(/“Back” keeps no cut/)
  })
  it('stands back in the room when no wall is in the way, through it when one is', async () => {
    useView().selection = ['room/Set/Bench']
    await fitting.standBack()
    expect(label()).toBe('Stood back')
    expect(doc().working.cut.near.on).toBe(false)
    // the wall at x = 3 between the bench and the camera
    useProject().move({ lens: { ...doc().working.lens, focalMm: 200 } }, 'Longer')
    vi.spyOn(useStage().rays, 'wallAlong').mockResolvedValue(hit({ point: [2.5, 1, 1], normal: [1, 0, 0] }))
    await fitting.standBack()
    expect(label()).toBe('Stood back through the wall')
    expect(doc().working.cut.near).toMatchObject({ on: true })
    expect(doc().working.cut.near.distanceM).toBeCloseTo(2.5 - stand().station[0] + 0.001, 6)
    expect(fitting.nearCut.value).not.toBeNull()
    fitting.clearNearCut()
    expect(fitting.nearCut.value).toBeNull()
  })
})

describe('measured views', () => {
  it.each(VIEWS.map((v) => [v.label, v.view] as const))(
    '%s shows all of the model within its margins',
    (_label, view) => {
      expect(measured.show(view)).toBe(true)
      const camera = useProject().camera!
      const { widthPx: w, heightPx: h } = camera.frame
      const at = boxCorners(roomFacts.box).map((c) => projectPoint(camera, c)!)
      const room = [
        Math.min(...at.map((p) => p.xPx)) / w,
        1 - Math.max(...at.map((p) => p.xPx)) / w,
        Math.min(...at.map((p) => p.yPx)) / h,
        1 - Math.max(...at.map((p) => p.yPx)) / h,
      ]
      expect(Math.min(...room)).toBeCloseTo(0.05, 6)
      expect(stand().rollDeg).toBe(0)
      expect(useHoldLevel().value).toBe(false)
    },
  )
  it('at a scale the width of view is the scale’s, and what does not fit is told', () => {
    measured.scale.value = 1
    measured.show({ kind: 'plan' })
    const { frame, lens } = doc().working
    expect((lens.projection as { widthM: number }).widthM).toBeCloseTo((frame.widthPx * 0.0254) / frame.densityPpi, 9)
    expect(told()).toContain('larger than the frame')
  })
  it('what does not fit at a scale offers a frame of its size on paper', () => {
    measured.scale.value = 50
    useProject().move({ frame: { ...doc().working.frame, widthPx: 300, heightPx: 200, densityPpi: 300 } }, 'Small')
    measured.show({ kind: 'elevation', quarter: 0 })
    const notice = useNotices().list.at(-1)!
    // 6 m at 1 : 50 are 120 mm, with 5 % at each side 133.3; 3 m are 60, with margins 66.7
    expect(notice.text).toContain('133 × 67 mm of paper')
    notice.action!.run()
    const { frame, lens } = doc().working
    expect([frame.widthPx, frame.heightPx]).toEqual([
      Math.ceil((120 / 0.9 / 25.4) * 300),
      Math.ceil((60 / 0.9 / 25.4) * 300),
    ])
    expect((lens.projection as { widthM: number }).widthM).toBeCloseTo((frame.widthPx / 300) * 0.0254 * 50, 9)
    expect(measuredFits()).toBe(true)
    // larger than any frame: told, not offered
    measured.scale.value = 1
    measured.show({ kind: 'elevation', quarter: 0 })
    expect(useNotices().list.at(-1)!.action).toBeNull()
  })
  it('straight down on a picked point from a typed height', () => {
    picking.begin('over')
    useView().overHeightM = 2.5
    picking.take([2, 3, 0.8], null)
    expect(stand().station).toEqual([2, 3, 3.3])
    expect(pose().tiltDeg).toBe(-90)
    expect(useView().picking).toBeNull()
  })
  it('hold level is as it was when one comes back from a measured view', () => {
    const level = useHoldLevel()
    expect(level.value).toBe(true)
    measured.show({ kind: 'isometric', corner: 0 })
    expect(level.value).toBe(false)
    useProject().trail(-1)
    expect(level.value).toBe(true)
  })
  it('past the reach of real lenses squaring up asks: by turning, or by shift all the same', () => {
    useProject().move(
      { stand: aimAt([1, 1, 1.6], [3, 3, 1.6]), lens: { ...doc().working.lens, focalMm: 100 } },
      'Slanted',
    )
    const before = stand()
    expect(straighten.squareTo([-1, 0, 0])).toBe(false)
    expect(stand()).toBe(before)
    const notice = useNotices().list.at(-1)!
    expect(notice.text).toMatch(/a cross of .100\.0 mm/)
    notice.other!.run()
    expect(Math.abs(doc().working.lens.crossMm)).toBeCloseTo(100, 6)
    useProject().trail(-1)
    notice.action!.run()
    expect([doc().working.lens.crossMm, pose().bearingDeg]).toEqual([0, 90])
    // within reach it does not ask
    useProject().move({ stand: aimAt([1, 1, 1.6], [3, 1.1, 1.6]) }, 'Nearly square')
    expect(straighten.squareTo([-1, 0, 0])).toBe(true)
  })
  it('a free axonometry by its axes; angles that cannot be are refused', () => {
    expect(measured.showAngles(30, 30)).toBe(true)
    expect(pose().tiltDeg).toBeCloseTo(-35.264, 3)
    expect(measured.showAngles(50, 45)).toBe(false)
    expect(told()).toContain('less than 90')
  })
  it('views are those of a building that is turned', () => {
    useView().mainBearingDeg = 17
    measured.show({ kind: 'elevation', quarter: 1 })
    expect(pose().bearingDeg).toBeCloseTo(107, 9)
  })
  it('small pictures are of the large things of the model, all of them within the square, in every view', () => {
    const nodes = useStage().facts!.nodes
    const drawn = outlineNodes(nodes)
    expect(drawn.map((n) => n.id)).toEqual(['room/Walls'])
    // of a product of small parts all are drawn
    const parts = [0, 1, 2, 3, 4, 5].map((i) => ({ ...drawn[0]!, box: { min: [i, 0, 0], max: [i + 0.5, 0.5, 0.5] } as const })) // prettier-ignore
    expect(outlineNodes(parts)).toHaveLength(6)
    for (const { view } of VIEWS) {
      const camera = tileCamera(view, 17, drawn[0]!.box, 96)
      const at = boxCorners(drawn[0]!.box).map((c) => projectPoint(camera, c)!)
      for (const { xPx, yPx } of at) expect([xPx >= 0, xPx <= 96, yPx >= 0, yPx <= 96]).toEqual(Array(4).fill(true))
      expect(Math.max(...at.map((p) => p.xPx)) - Math.min(...at.map((p) => p.xPx))).toBeGreaterThan(20)
    }
  })
})
