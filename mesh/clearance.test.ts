// How far a way lies from walls and things, against closed forms and a plain look at every triangle; eyes over floors and up a stair.
import { Triangle, Vector3 } from 'three'
import { beforeAll, describe, expect, it } from 'vitest'
import { seededRandom } from '#core/base'
import type { Vec3 } from '#core/math'
import { FLOOR_STEP_M, onFloor, type TravelStop } from '#core/reel'
import { ALL_SHOWN } from '#core/section'
import { loadGlb } from '#formats/scene'
import { Pen } from '../scripts/demo-data/kit.ts'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { hiding } from '../tests/support/cameras.ts'
import { glbOf, roomGlb } from '../tests/support/models.ts'
import { clearances } from './clearance.ts'
import { MeshScene, soupOf } from './index.ts'
import { eyeHeights } from './walk.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}
const ORIGIN: Vec3 = [0, 0, 0]
let room: MeshScene
beforeAll(async () => void (room = await sceneOf(roomGlb())))

describe('clearance', () => {
  it('is the distance to wall, corner of a table and floor (closed forms), no more than asked', () => {
    const places = Float64Array.from([0.3, 2, 1.6, 2.3, 1.3, 0.85, 5, 3, 0.2, 1.2, 2, 1.6])
    const told = clearances(room, places, ORIGIN, 1, ALL_SHOWN)
    expect(told[0]).toBeCloseTo(0.3, 5)
    expect(told[1]).toBeCloseTo(Math.hypot(0.2, 0.2, 0.1), 5)
    expect(told[2]).toBeCloseTo(0.2, 5)
    expect(told[3]).toBe(1)
    // what is hidden is not there
    expect(clearances(room, places, ORIGIN, 1, hiding('Room/Table'))[1]).toBeCloseTo(0.85, 5)
    // far away the same
    const far: Vec3 = [5e5, 2e5, 300]
    const moved = places.map((v, i) => v + far[i % 3]!)
    expect(clearances(room, moved, far, 1, ALL_SHOWN)[0]).toBeCloseTo(0.3, 5)
  })
  it('agrees with a look at every triangle of the hall', async () => {
    const hall = await sceneOf(hallModel().bytes)
    const random = seededRandom(7)
    const places = Float64Array.from({ length: 60 }, (_, i) => [14, 8, 5][i % 3]! * random())
    const told = clearances(hall, places, ORIGIN, 3, ALL_SHOWN)
    const { positions: p, indices } = hall.soup
    const [t, at, near] = [new Triangle(), new Vector3(), new Vector3()]
    for (let k = 0; k < 20; k++) {
      at.fromArray(places, 3 * k)
      let best = 3
      for (let i = 0; i < indices.length; i += 3) {
        t.setFromAttributeAndIndices({ getX: (j: number) => p[3 * j]!, getY: (j: number) => p[3 * j + 1]!, getZ: (j: number) => p[3 * j + 2]! } as never, indices[i]!, indices[i + 1]!, indices[i + 2]!) // prettier-ignore
        best = Math.min(best, t.closestPointToPoint(at, near).distanceTo(at))
      }
      expect(told[k]).toBeCloseTo(best, 4)
    }
  }, 60_000)
})

describe('the eye along a way', () => {
  /** A floor, a stair of ten steps of 0.17 by 0.28 m from x = 3, and a landing. */
  const stair = () => {
    const pen = new Pen('House', { kind: 'floor' }).use('oak').box(0, 0, -0.2, 3, 2, 0, { bevel: 0 })
    for (let i = 0; i < 10; i++) pen.box(3 + i * 0.28, 0, -0.2, 3 + (i + 1) * 0.28, 2, (i + 1) * 0.17, { bevel: 0 })
    return glbOf([{ name: 'Set', children: [pen.box(5.8, 0, -0.2, 9, 2, 1.7, { bevel: 0 }).node()] }])
  }
  const way = Array.from({ length: 81 }, (_, i): Vec3 => [0.5 + i * FLOOR_STEP_M, 1, 1.58])
  it('lies over the floor at eye height, step by step; over nothing it is not told', async () => {
    const scene = await sceneOf(stair())
    const told = eyeHeights(scene, way, { eyeHeightM: 1.58 })
    expect(told[0]).toBeCloseTo(1.58, 5)
    expect(told.at(-1)).toBeCloseTo(1.7 + 1.58, 5)
    expect(Math.max(...told.slice(1).map((h, i) => h! - told[i]!))).toBeLessThan(0.18)
    expect(eyeHeights(scene, [[20, 1, 1.6]])).toEqual([null])
    // a table is walked through, not climbed
    const past = Array.from({ length: 31 }, (_, i): Vec3 => [1.5 + i * 0.1, 2, 1.58])
    for (const h of eyeHeights(room, past, { eyeHeightM: 1.58 })) expect(h).toBeCloseTo(1.58, 5)
  })
  it('makes a ramp of the stair: level before and after it, never steeper than it, within a step of the floor', async () => {
    const scene = await sceneOf(stair())
    const heightsM = eyeHeights(scene, way, { eyeHeightM: 1.58 })
    const stop = (x: number): TravelStop => ({ station: [x, 1, 1.58] as Vec3, holdS: 0, look: null })
    const [a, b] = onFloor({ stops: [stop(0.5), stop(8.5)], places: way, heightsM, stopsM: [0, 8] })
    expect(a!.station[2]).toBeCloseTo(1.58, 5)
    expect(b!.station[2]).toBeCloseTo(3.28, 5)
    const points = [a!.station, ...a!.via!, b!.station]
    for (let i = 1; i < points.length; i++) {
      const slope = (points[i]![2] - points[i - 1]![2]) / (points[i]![0] - points[i - 1]![0])
      expect(slope).toBeGreaterThan(-1e-6)
      expect(slope).toBeLessThan(0.17 / 0.28 + 0.05)
      const floor = heightsM[Math.round((points[i]![0] - 0.5) / FLOOR_STEP_M)]!
      expect(Math.abs(points[i]![2] - floor)).toBeLessThan(0.3)
    }
    // on a level floor there is nothing to follow
    const level = onFloor({ stops: [stop(0.5), stop(2)], places: way.slice(0, 16), heightsM: heightsM.slice(0, 16), stopsM: [0, 1.5] }) // prettier-ignore
    expect(level.map((s) => s.via)).toEqual([[], []])
  })
})
