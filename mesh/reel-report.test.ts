// The check of a reel as the worker answers it: rates by the shots, clearance and heights by the model, wherever it lies in the world.
import { beforeAll, describe, expect, it } from 'vitest'
import type { Vec3 } from '#core/math'
import { COMFORT_LIMITS, type ReportAsked, type Shot, type TravelShot } from '#core/reel'
import { ALL_SHOWN, type Shown } from '#core/section'
import { loadGlb } from '#formats/scene'
import { cameraOf, hiding } from '../tests/support/cameras.ts'
import { roomGlb } from '../tests/support/models.ts'
import { ask, MeshScene, soupOf, type Placed } from './index.ts'

let scene: MeshScene
beforeAll(async () => {
  const { soup, facts } = soupOf(await loadGlb(roomGlb(), { textures: false }))
  scene = new MeshScene(soup, facts)
})
const { pose, lens, frame } = cameraOf({})
const take = { pose, lens, focusM: null, fNumber: 8, ev: 9 }
const along = (stations: readonly Vec3[]): TravelShot => ({ kind: 'travel', view: take, isClosed: false, speedsMps: [0.5], gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 }, stops: stations.map((station) => ({ station, holdS: 1.5, look: null })) }) // prettier-ignore
const asked = (shot: Shot): ReportAsked => ({ cuts: [{ shot, dissolveS: 0 }], fps: 25, lenses: [{ lens, frame }], limits: COMFORT_LIMITS }) // prettier-ignore

describe('the report of a reel in a model', () => {
  it('tells heights over the floor, and a way that passes a wall at 0.3 m, with its place', () => {
    const at: Placed = { scene, origin: [0, 0, 0] }
    const { beside, findings, motion } = ask(at, 'reelReport', [asked(along([[0.3, 2, 1.6], [0.3, 3, 1.6]])), 2, [hiding('Room/Table')]]) // prettier-ignore
    expect(beside!.clearanceM).toHaveLength(motion.timeS.length)
    for (let k = 0; k < motion.timeS.length; k++) {
      expect(beside!.clearanceM[k]).toBeCloseTo(0.3, 5)
      expect(beside!.heightM[k]).toBeCloseTo(1.6, 5)
    }
    const near = findings.find((f) => f.kind === 'clearance')!
    expect(near).toMatchObject({ cut: 0, limit: COMFORT_LIMITS.clearanceM, unit: 'm' })
    expect(near.value).toBeCloseTo(0.3, 5)
  })
  it('is the same where the model lies far away', () => {
    const far: Vec3 = [5e5, 2e5, 300]
    const moved = ([[0.3, 2, 1.6], [0.3, 3, 1.6]] as const).map((p) => p.map((v, i) => v + far[i]!) as unknown as Vec3) // prettier-ignore
    const r = ask({ scene, origin: far }, 'reelReport', [asked(along(moved)), 2, [hiding('Room/Table')]])
    expect(r.beside!.clearanceM[10]).toBeCloseTo(0.3, 4)
    expect(r.beside!.heightM[10]).toBeCloseTo(1.6, 4)
  })
  it('each frame is judged by what its cut hides, and with things where they stand in it', () => {
    const at: Placed = { scene, origin: [0, 0, 0] }
    const past = along([[2.3, 1, 1.2], [2.3, 3, 1.2]]) // prettier-ignore
    // 0.2 m beside the table's edge and 0.45 m above it
    const besideM = Math.hypot(0.2, 0.45)
    const worst = (shots: readonly Shot[], shown: readonly Shown[]): number[] => {
      const { beside, motion } = ask(at, 'reelReport', [{ ...asked(past), cuts: shots.map((shot) => ({ shot, dissolveS: 0 })) }, 2, shown]) // prettier-ignore
      return shots.map((_, c) => Math.min(...Array.from(beside!.clearanceM).filter((_v, k) => motion.cut[k] === c)))
    }
    const [shownM, hiddenM] = worst([past, past], [ALL_SHOWN, hiding('Room/Table')])
    expect(shownM).toBeCloseTo(besideM, 4)
    expect(hiddenM).toBeGreaterThan(0.99)
    const up = { objectId: 'Room/Table', moveM: [0, 0, 0.45] as Vec3, turnDeg: 0, hinge: [0, 0, 0] as Vec3 }
    expect(worst([{ ...past, placed: [up] }], [ALL_SHOWN])[0]).toBeCloseTo(0.2, 4)
    // it goes away before it is passed: nearest at the beginning
    const away = { from: null, to: { ...up, moveM: [2.4, 0, 0] as Vec3 }, fromShare: 0, toShare: 0.2 }
    expect(worst([{ ...past, objects: [away] }], [ALL_SHOWN])[0]).toBeCloseTo(Math.hypot(0.2, 0.5, 0.45), 4)
  })
  it('a way through a wall is told by its name, once for its two faces; what is hidden or has moved away is no wall', () => {
    const at: Placed = { scene, origin: [0, 0, 0] }
    const out = along([[3, 2, 1.6], [3, 6, 1.6]]) // prettier-ignore
    const told = (shot: Shot, shown: Shown) =>
      ask(at, 'reelReport', [asked(shot), 2, [shown]])
        .findings.filter((f) => f.kind === 'through' || f.kind === 'clearance')
        .map((f) => f.text)
    expect(told(out, ALL_SHOWN)).toEqual(['Goes through “Walls”.'])
    expect(told(out, hiding('Room/Walls'))).toEqual([])
    const away = { objectId: 'Room/Walls', moveM: [0, 0, 9] as Vec3, turnDeg: 0, hinge: [0, 0, 0] as Vec3 }
    expect(told({ ...out, placed: [away] }, ALL_SHOWN)).toEqual([])
    // lengthwise through a board
    const low = along([[2, 2, 0.72], [4, 2, 0.72]]) // prettier-ignore
    expect(told(low, ALL_SHOWN)).toEqual(['Goes through “Table”.'])
  })
  it('without a distance rates alone are told, and of a reel that cannot be filmed nothing', () => {
    const at: Placed = { scene, origin: [0, 0, 0] }
    const quick = ask(at, 'reelReport', [
      asked(
        along([
          [0.3, 2, 1.6],
          [0.3, 3, 1.6],
        ]),
      ),
      null,
      [ALL_SHOWN],
    ])
    expect(quick.beside).toBeNull()
    expect(quick.findings.some((f) => f.kind === 'clearance')).toBe(false)
    const none = ask(at, 'reelReport', [asked(along([])), 2, [ALL_SHOWN]])
    expect([none.motion.timeS.length, none.findings, none.beside]).toEqual([0, [], null])
  })
})
