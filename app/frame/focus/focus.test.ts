// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { closeInMemory, openInMemory } from '../../../tests/support/app.ts'
import { useFocusing } from '../../stores/focusing.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { appearanceOf, evOf, useStage } from '../../stores/stage.ts'
import { useExposure } from '../exposure/exposure.ts'
import { useExposurePicks } from '../exposure/exposure-picks.ts'
import { usePicking } from '../straighten/picking.ts'
import { useTables } from '../exposure/tables.ts'
import { useFocusPicks, wantedBlurPx } from './focus-picks.ts'
import { useFocusSnaps } from './focus-snaps.ts'
import { useFocus } from './focus.ts'

let scope: EffectScope
let focus: ReturnType<typeof useFocus>
let exposure: ReturnType<typeof useExposure>
let picking: ReturnType<typeof usePicking>
const part = () => useProject().document!.working.focus
/** So far ahead of the camera, along its axis. */
const ahead = (m: number): [number, number, number] => {
  const { station, bearingDeg: b, tiltDeg: t } = useProject().camera!.pose
  const r = Math.PI / 180
  return [station[0] + m * Math.sin(b * r) * Math.cos(t * r), station[1] + m * Math.cos(b * r) * Math.cos(t * r), station[2] + m * Math.sin(t * r)] // prettier-ignore
}
const said = (): string =>
  useNotices()
    .list.map((n) => n.text)
    .join(' ')

beforeEach(async () => {
  await openInMemory()
  scope = effectScope()
  scope.run(() => {
    picking = usePicking()
    focus = useFocus()
    exposure = useExposure()
    useFocusPicks()
    useExposurePicks()
  })
})
afterEach(async () => {
  scope.stop()
  await closeInMemory()
})

describe('the focus', () => {
  it('switched on shows something of it: an f-number at which it can be seen, and says so', () => {
    focus.switchOn()
    expect(part().on).toBe(true)
    expect(focus.blurPx(focus.at.value!.distanceM * 2)).toBeGreaterThanOrEqual(Math.min(12, focus.blurPx(focus.at.value!.distanceM * 2, 1.4))) // prettier-ignore
    focus.switchOn()
    expect(part().on).toBe(false)
    expect(useFocusing().blur(useProject().workingShown!)).toBeUndefined()
  })
  it('on a clicked place: its depth along the axis; places picked lately are listed', () => {
    picking.begin('focus-point')
    picking.take(ahead(2.5), null)
    expect(part().mode).toMatchObject({ kind: 'point' })
    expect(focus.at.value).toEqual({ distanceM: expect.closeTo(2.5, 9), trouble: null })
    expect(focus.recent.value).toHaveLength(1)
    expect(useFocusing().blur(useProject().workingShown!)!.focusM).toBeCloseTo(2.5, 9)
    // behind the camera: a clear word, nothing changes
    expect(focus.focusOn(ahead(-1), null)).toBe(false)
    expect(focus.at.value!.distanceM).toBeCloseTo(2.5, 9)
  })
  it('from here to there: what is told to be sharp reaches from one to the other', () => {
    picking.begin('focus-between')
    picking.take(ahead(6), null)
    picking.take(ahead(2), null)
    expect(focus.at.value!.distanceM).toBeCloseTo(3, 9)
    expect(focus.sharp.value!.nearM).toBeCloseTo(2, 6)
    expect(focus.sharp.value!.farM).toBeCloseTo(6, 6)
    expect(said()).toMatch(/Sharp from 2\.00 m to 6\.00 m/)
  })
  it('so much blur at a place gives the f-number; what no lens can do is said', () => {
    focus.set({ on: true, mode: { kind: 'distance', distanceM: 2 } })
    wantedBlurPx.value = 10
    picking.begin('focus-blur')
    picking.take(ahead(5), null)
    expect(focus.blurPx(5)).toBeCloseTo(10, 6)
    const before = part().fNumber
    expect(focus.blurredThere(ahead(2), 10)).toBe(false)
    expect(focus.blurredThere(ahead(2.001), 5000)).toBe(false)
    expect(part().fNumber).toBe(before)
  })
  it('an object that is gone keeps its last distance, and says so', () => {
    useProject().run({ type: 'setPart', part: 'focus', value: { ...part(), on: true, mode: { kind: 'object', nodeId: 'room/gone', at: 'centre', offsetM: 0, lastM: 4.2 } } }) // prettier-ignore
    expect(focus.at.value!.distanceM).toBe(4.2)
  })
  it('so it does when it was never picked anew: the distance that it had from here', () => {
    const stage = useStage()
    const [x, y, z] = ahead(5)
    const box = { min: [x - 1, y - 1, z - 1], max: [x + 1, y + 1, z + 1] }
    stage.byId.set('room/vase', {
      id: 'room/vase',
      name: 'Vase',
      box,
      axes: [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ],
    } as never)
    expect(focus.focusOnObject('room/vase')).toBe(true)
    expect(part().mode).toMatchObject({ lastM: expect.closeTo(5, 9) })
    focus.set({ mode: { ...(part().mode as object), at: 'centre', offsetM: 0.4 } as never })
    expect(focus.at.value!.distanceM).toBeCloseTo(5.4, 9)
    stage.byId.delete('room/vase')
    expect(useFocusing().at(useProject().workingShown!).distanceM).toBeCloseTo(5.4, 9)
  })
  it('goes with an object that a state moves; what the camera aims at does too, as a viewpoint with the state has it', () => {
    const project = useProject()
    const [x, y, z] = ahead(5)
    const box = { min: [x - 1, y - 1, z - 1], max: [x + 1, y + 1, z + 1] }
    const axes = [[1, 0, 0], [0, 1, 0], [0, 0, 1]] // prettier-ignore
    useStage().byId.set('room/vase', { id: 'room/vase', name: 'Vase', box, axes } as never)
    expect(focus.focusOnObject('room/vase')).toBe(true)
    focus.set({ mode: { ...(part().mode as object), at: 'centre' } as never })
    const away = ahead(7)
    const moveM = away.map((v, i) => v - [x, y, z][i]!) as [number, number, number]
    project.run({ type: 'putObjectState', state: { id: 'far', objectId: 'room/vase', name: 'Far', moveM, turnDeg: 0, hinge: [0, 0, 0] } }) // prettier-ignore
    const visible = { ...project.working!.visible, states: ['far'] }
    const kept = { ...project.working!, visible }
    expect(focus.at.value!.distanceM).toBeCloseTo(5, 9)
    expect(project.centresIn(kept)('room/vase', [0, 0, 0])![0]).toBeCloseTo(away[0], 9)
    project.run({ type: 'setPart', part: 'visible', value: visible })
    expect(focus.at.value!.distanceM).toBeCloseTo(7, 9)
    const aim = { kind: 'object', nodeId: 'room/vase', offset: [0, 0, 1], topBearingDeg: 0 } as const
    project.move({ stand: { ...project.working!.stand, aim } }, 'Aimed')
    const up = Math.atan2(away[2] + 1 - project.working!.stand.station[2], Math.hypot(away[0] - project.working!.stand.station[0], away[1] - project.working!.stand.station[1])) // prettier-ignore
    expect(project.camera!.pose.tiltDeg).toBeCloseTo((up * 180) / Math.PI, 9)
  })
  it('refuses f/0, a distance below nought, blades without end; the old value stays', () => {
    const before = part()
    for (const changes of [
      { fNumber: 0 },
      { mode: { kind: 'distance', distanceM: -1 } },
      { aperture: { blades: 40, rotationDeg: 0, roundness: 0 } },
    ] as const)
      // prettier-ignore
      expect(focus.set(changes as never)).toBe(false)
    expect(part()).toEqual(before)
  })
  it('one goes to the hyperfocal distance by one click', () => {
    focus.set({ on: true })
    const { hyperfocalM } = focus.sharp.value!
    focus.toHyperfocal()
    expect(focus.at.value!.distanceM).toBe(hyperfocalM)
    expect(focus.sharp.value!.farM).toBe(Infinity)
  })
})

describe('the exposure', () => {
  const working = () => useProject().document!.working
  it('set as a camera keeps what is seen; f/16, 1/125 s and ISO 100 are EV 14.97', () => {
    exposure.set({ ev100: 9.5 })
    exposure.byMode('photographic')
    expect(evOf(working())).toBeCloseTo(9.5, 9)
    expect(appearanceOf(working()).exposure.ev100).toBeCloseTo(9.5, 9)
    exposure.set({ iso: 100, shutterS: 1 / 125, fNumber: 16 })
    expect(evOf(working())).toBeCloseTo(14.966, 3)
    exposure.byMode('direct')
    expect(working().exposure.ev100).toBe(15)
  })
  it('shares the focus part’s f-number until it has one of its own', () => {
    exposure.byMode('photographic')
    const before = evOf(working())
    focus.set({ fNumber: working().focus.fNumber * 2 })
    expect(evOf(working())).toBeCloseTo(before + 2, 9)
  })
  it('refuses ISO 0, no shutter, a light of 500 K', () => {
    for (const changes of [{ iso: 0 }, { shutterS: 0 }, { whiteBalance: { kelvin: 500, tint: 0 } }])
      expect(exposure.set(changes)).toBe(false)
  })
})

describe('what catches the focus while it is dragged', () => {
  it('is the aim, a place picked before, and things in the picture; nothing behind the camera', () => {
    picking.begin('focus-point')
    picking.take(ahead(1.75), null)
    const lines = scope.run(() => useFocusSnaps())!()
    expect(lines.some((l) => l.label === 'aim')).toBe(true)
    expect(lines.some((l) => Math.abs(l.at - 1.75) < 1e-9)).toBe(true)
    expect(lines.every((l) => l.at > 0 && l.label !== '')).toBe(true)
  })
})

describe('colour tables of a project', () => {
  const cube = (text: string, name = 'warm.cube') => new File([text], name)
  const WARM = `LUT_3D_SIZE 2\n${Array.from({ length: 8 }, (_, i) => `${i & 1} ${(i >> 1) & 1} 0.5`).join('\n')}\n`
  const exposed = () => useProject().document!.working.exposure
  it('are brought in, chosen, taken out; the same twice is one; what is broken changes nothing', async () => {
    const tables = scope.run(() => useTables())!
    await tables.bring(cube(WARM))
    expect(tables.list.value.map((t) => [t.name, t.size])).toEqual([['warm', 2]])
    expect(exposed().finish?.table).toEqual({ id: tables.list.value[0]!.id, strength: 1 })
    expect(appearanceOf(useProject().workingShown!, false, { tables: useProject().document!.tables }).table).toMatchObject({ size: 2 }) // prettier-ignore
    await tables.bring(cube(WARM, 'again.cube'))
    expect(tables.list.value).toHaveLength(1)
    await tables.bring(cube('nothing', 'odd.cube'))
    expect(tables.said.value).toMatch(/^odd\.cube was not taken\./)
    expect(tables.chosen.value?.name).toBe('warm')
    // taken out under a viewpoint that names it: told, and the picture is as without
    const before = exposed()
    tables.takeOut(tables.list.value[0]!.id)
    expect(tables.list.value).toEqual([])
    useProject().run({ type: 'setPart', part: 'exposure', value: before })
    expect(tables.isGone.value).toBe(true)
    expect(appearanceOf(useProject().workingShown!, false, { tables: [] }).table).toBeUndefined()
  })
  it('eight at most', async () => {
    const tables = scope.run(() => useTables())!
    for (let i = 0; i < 9; i++) await tables.bring(cube(WARM.replaceAll('0.5', `0.${i + 1}`), `t${i}.cube`))
    expect(tables.list.value).toHaveLength(8)
    expect(tables.said.value).toMatch(/8 tables at most/)
  })
})
