// @vitest-environment happy-dom
import { effectScope, nextTick, type EffectScope } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { projectPoint } from '#core/camera'
import { bundleDirection } from '#model/photo'
import { MATCH_LIMITS, type PhotoMatchPart } from '#model'
import { closeInMemory, openInMemory } from '../../tests/support/app.ts'
import {
  drawnOn,
  isTaken,
  pairsSeen,
  SITE,
  photoOfRoom,
  seen,
  settled,
  TRUTH,
  truthCamera,
} from '../../tests/support/photograph.ts'
import { api } from '../api/client.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useDrawing } from './drawing.ts'
import { useMatch } from './match.ts'
import { useMeasures } from './measures.ts'
import { usePicks } from './picks.ts'
import { usePhotoTools } from './tools.ts'

vi.mock('#workers', async () => (await import('../../tests/support/photograph.ts')).workersInTest())

let scope: EffectScope
let matching: ReturnType<typeof useMatch>
let tools: ReturnType<typeof usePhotoTools>
let draw: ReturnType<typeof useDrawing>
let picks: ReturnType<typeof usePicks>
let measures: ReturnType<typeof useMeasures>
async function open(changes: Partial<PhotoMatchPart> = {}): Promise<void> {
  await openInMemory({ photos: [photoOfRoom(changes)] })
  vi.spyOn(api, 'asset').mockResolvedValue(new Uint8Array(8) as never)
  scope = effectScope()
  scope.run(() => {
    matching = useMatch()
    tools = usePhotoTools()
    draw = useDrawing()
    picks = usePicks()
    measures = useMeasures()
  })
  matching.photoId.value = SITE
  await nextTick()
  await settled()
  tools.snaps.value = false
}
const now = (): PhotoMatchPart => drawnOn(useProject().document!)
const said = (): string => useNotices().list.at(-1)?.text ?? ''
beforeEach(() => open())
afterEach(async () => {
  expect(isTaken(now())).toBe(true)
  matching.photoId.value = null
  scope.stop()
  await closeInMemory()
})

describe('what is drawn on a photograph', () => {
  it('is a line of the chosen direction, bent by places along it, each an edit that undo takes back', async () => {
    tools.bundleId.value = 'east'
    await draw.addLine([100, 100], [900, 120], 1)
    const [line] = now().lines
    expect(line).toMatchObject({ bundleId: 'east', points: [[100, 100], [900, 120]] }) // prettier-ignore
    expect(tools.chosen.value).toEqual({ kind: 'line', id: line!.id })
    draw.bendLine(line!.id, [700, 119])
    draw.bendLine(line!.id, [300, 108])
    expect(now().lines[0]!.points.map((p) => p[0])).toEqual([100, 300, 700, 900])
    useProject().undoEdit()
    expect(now().lines[0]!.points).toHaveLength(3)
    draw.remove({ kind: 'line', id: line!.id })
    expect(now().lines).toEqual([])
    expect(tools.chosen.value).toBeNull()
  })
  it('masks need three corners, and lists end somewhere, which is said', () => {
    draw.addMask([[0, 0], [1, 1]]) // prettier-ignore
    expect(now().masks ?? []).toEqual([])
    draw.addMask([[0, 0], [90, 0], [0, 90]]) // prettier-ignore
    expect(now().masks).toHaveLength(1)
    const pairs = Array.from({ length: MATCH_LIMITS.pairs }, (_, i) => ({ id: `q${i}`, world: [i, 0, 0] as const, image: [i, 5] as const })) // prettier-ignore
    matching.change({ pairs })
    draw.addPair([1, 2, 3], [4, 5])
    expect(now().pairs).toHaveLength(MATCH_LIMITS.pairs)
    expect(said()).toMatch(/room for 200/)
  })
  it('a drag shows another match, and is one edit at its end', async () => {
    const before = useProject().canUndo
    matching.show({ ...now(), lines: [{ id: 'l', bundleId: 'east', points: [[0, 0], [9, 9]] }] }) // prettier-ignore
    expect(matching.match.value!.lines).toHaveLength(1)
    expect(now().lines).toHaveLength(0)
    matching.cancel()
    expect(matching.match.value!.lines).toHaveLength(0)
    expect(useProject().canUndo).toBe(before)
  })
})

describe('how large it is', () => {
  const EDGE = [[2, 2, 0.75], [2, 1, 0.75]] as const // prettier-ignore
  it('an edge of the model drawn along in the photograph scales and places it, whichever way it is drawn', async () => {
    const [a, b] = EDGE.map((p) => seen(p)) as [readonly [number, number], readonly [number, number]]
    const way = [b[0] - a[0], b[1] - a[1]] as const
    for (const [from, to] of [
      [a, b],
      [b, a],
    ] as const) {
      // prettier-ignore
      draw.setEdge(from, to, { ends: EDGE, way })
      const { scale, bundles } = now()
      expect(bundles).toHaveLength(3)
      if (scale?.kind !== 'length') throw new Error('no length')
      expect(scale.bundleId).toBe('north')
      expect(scale.lengthM).toBeCloseTo(1, 9)
      // the north direction runs from the nearer end to the farther one
      expect(scale.at).toEqual([2, 1, 0.75])
      expect(scale.from).toEqual(b)
      expect(scale.to).toEqual(a)
    }
  })
  it('one that runs as no direction does makes its own, and none where there is no room', () => {
    const edge = [[1, 1, 0.75], [2, 2, 0]] as const // prettier-ignore
    draw.setEdge(seen(edge[0]), seen(edge[1]), { ends: edge, way: [1, 1] })
    const own = now().bundles.at(-1)!
    expect(own.name).toBe('Edge')
    const d = bundleDirection(own)
    expect(d[0]).toBeCloseTo(d[1], 12)
    expect(d[2]).toBeCloseTo(-0.75 / Math.hypot(1, 1, 0.75), 9)
    matching.change({ bundles: Array.from({ length: MATCH_LIMITS.bundles }, (_, i) => ({ id: `b${i}`, name: 'B', bearingDeg: i, tiltDeg: 0 })), scale: undefined }) // prettier-ignore
    draw.setEdge(seen(edge[0]), seen(edge[1]), { ends: edge, way: [1, 1] })
    expect(now().scale).toBeUndefined()
    expect(said()).toMatch(/none runs as this edge/)
  })
  it('the eye height and a typed length keep what was known before', () => {
    draw.setFoot([1500, 1900])
    expect(now().scale).toMatchObject({ kind: 'eye', foot: [1500, 1900], heightM: useProject().document!.eyeHeightM ?? 1.58 }) // prettier-ignore
    tools.bundleId.value = 'up'
    draw.setLength([10, 10], [10, 400])
    expect(now().scale).toMatchObject({ kind: 'length', bundleId: 'up', lengthM: 1 })
  })
})

describe('with the camera found', () => {
  const hit = (point: readonly [number, number, number], nodeId = 'room/Set/Table') => ({ point, normal: [0, 0, 1] as const, distanceM: 2, nodeId, nodeName: 'Table' }) // prettier-ignore
  beforeEach(async () => {
    matching.change({ pairs: pairsSeen() })
    await settled()
    await vi.waitFor(() => expect(matching.solved.value?.tellsStation).toBe(true))
  })
  it('it is the camera that took it', () => {
    const at = projectPoint(matching.camera.value!, [4, 2, 0.45])!
    const truth = projectPoint(truthCamera, [4, 2, 0.45])!
    expect(Math.hypot(at.xPx - truth.xPx, at.yPx - truth.yPx)).toBeLessThan(0.01)
    expect(matching.solved.value!.estimate.lens.focalPx).toBeCloseTo(TRUTH.focalPx, 2)
  })
  it('objects are chosen by a click, more by Shift, and none beside the model', async () => {
    const pick = vi.spyOn(useStage().rays, 'pick')
    pick.mockResolvedValueOnce(hit([1, 1, 0.75]))
    await picks.chooseAt([1500, 1000], false)
    expect(useView().selection).toEqual(['room/Set/Table'])
    expect(tools.overlay.value).toBe('chosen')
    pick.mockResolvedValueOnce(hit([3, 1, 0.4], 'room/Set/Bench'))
    await picks.chooseAt([1600, 1000], true)
    expect(useView().selection).toEqual(['room/Set/Table', 'room/Set/Bench'])
    pick.mockResolvedValueOnce(hit([1, 1, 0.75]))
    await picks.chooseAt([1500, 1000], true)
    expect(useView().selection).toEqual(['room/Set/Bench'])
    pick.mockResolvedValueOnce(null)
    await picks.chooseAt([5, 5], false)
    expect(useView().selection).toEqual([])
  })
  it('a length that begins on the model is as long as the table is, on the ground it is not', async () => {
    const [from, to] = [seen([1, 1, 0.75]), seen([2, 1, 0.75])]
    tools.bundleId.value = 'east'
    draw.addMeasure(from, to, await picks.surfaceAt(from))
    const long = [...measures.told.value.values()][0]!
    expect(long.ok && Math.abs(long.value.lengthM - 1) > 0.2).toBe(true)
    draw.remove(tools.chosen.value!)
    tools.measuresOn.value = 'model'
    vi.spyOn(useStage().rays, 'pick').mockResolvedValueOnce(hit([1, 1, 0.75]))
    draw.addMeasure(from, to, await picks.surfaceAt(from))
    const [told] = [...measures.told.value.values()]
    expect(told!.ok && told!.value.lengthM).toBeCloseTo(1, 4)
  })
  it('a shadow’s top and tip tell where the sun stands', async () => {
    // the shadow of a corner of the table, of a sun in the south-west
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValueOnce({ ...hit([2, 2, 0.75]), feature: 'corner' })
    vi.spyOn(useStage().rays, 'pick').mockResolvedValueOnce(hit([2.5, 2.5, 0], 'room/Walls'))
    await picks.shadowAt(seen([2, 2, 0.75]), 5)
    await picks.shadowAt(seen([2.5, 2.5, 0]), 5)
    const { bearingDeg, elevationDeg, on } = useProject().working!.look.sun
    expect([on, bearingDeg]).toEqual([true, 225])
    expect(elevationDeg).toBeCloseTo((Math.atan2(0.75, Math.hypot(0.5, 0.5)) * 180) / Math.PI, 9)
    expect(said()).toMatch(/The sun stands at 225\.0°, 46\.7° high/)
  })
  it('a tip above the top is no shadow, and nothing changes', async () => {
    const before = useProject().working!.look.sun
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValueOnce({ ...hit([2, 2, 0.45]), feature: 'corner' })
    vi.spyOn(useStage().rays, 'pick').mockResolvedValueOnce(hit([2.5, 2.5, 0.75]))
    await picks.shadowAt(seen([2, 2, 0.45]), 5)
    await picks.shadowAt(seen([2.5, 2.5, 0.75]), 5)
    expect(useProject().working!.look.sun).toEqual(before)
    expect(said()).toMatch(/below the top/)
  })
  it('a click proposes the nearest corner; a corner that waits comes first', async () => {
    vi.spyOn(useStage().rays, 'pickFeature').mockResolvedValueOnce({ ...hit([4, 2, 0.45]), feature: 'corner' })
    await picks.placeInPhoto([1800, 1200], 9)
    expect(now().pairs.at(-1)).toMatchObject({ world: [4, 2, 0.45], image: [1800, 1200] })
    picks.begin([1, 1, 0.75])
    expect(picks.expected()![0]).toBeCloseTo(seen([1, 1, 0.75])[0], 1)
    await picks.placeInPhoto([1801, 1201], 9)
    expect(now().pairs.at(-1)).toMatchObject({ world: [1, 1, 0.75], image: [1801, 1201] })
    expect(tools.pendingWorld.value).toBeNull()
  })
})

describe('without a camera', () => {
  it('what needs one says so', async () => {
    await picks.chooseAt([5, 5], false)
    expect(said()).toMatch(/Find the camera first/)
    await picks.shadowAt([5, 5], 5)
    expect(said()).toMatch(/Find the camera first/)
    await picks.placeInPhoto([5, 5], 5)
    expect(said()).toMatch(/corner in the model first/)
    expect(picks.expected()).toBeNull()
  })
})
