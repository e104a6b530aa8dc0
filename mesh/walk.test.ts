import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Vec3 } from '#core/math'
import { loadGlb } from '#formats/scene'
import { cameraOf, hiding } from '../tests/support/cameras.ts'
import { glbOf, roomGlb } from '../tests/support/models.ts'
import { Pen } from '../scripts/demo-data/kit.ts'
import { freeWay, MeshScene, nodesInBand, soupOf, walkStep, WALK_DEFAULTS } from './index.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}
const EYE = 1.58
const RADIUS = WALK_DEFAULTS.radiusM

describe('in a room of 6 x 4 m with a table', () => {
  let room: MeshScene
  beforeAll(async () => void (room = await sceneOf(roomGlb())))

  it('goes where it is told at exactly eye height', () => {
    const r = walkStep(room, [1, 1, EYE], [0.5, 0.25])
    expect(r).toMatchObject({ blocked: false, groundM: expect.closeTo(0, 6) })
    r.station.forEach((v, i) => expect(v).toBeCloseTo([1.5, 1.25, EYE][i]!, 6))
  })
  it('comes down onto its feet when it begins higher', () => {
    expect(walkStep(room, [1, 1, 1.75], [0.1, 0]).station[2]).toBeCloseTo(EYE, 6)
  })
  it('slides along a wall that it meets askew', () => {
    const r = walkStep(room, [5, 1, EYE], [2, 1])
    expect(r.blocked).toBe(true)
    expect(r.station[0]).toBeLessThan(6 - RADIUS + 0.07)
    expect(r.station[1]).toBeCloseTo(2, 3)
  })
  it('does not climb a table', () => {
    const r = walkStep(room, [1.5, 2, EYE], [3, 0])
    expect(r.station[0]).toBeLessThan(2.5)
    expect(r.station[2]).toBeCloseTo(EYE, 6)
  })
  it('any walk, however long, stays within the walls at eye height', () => {
    const step = fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }))
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
        let at: Vec3 = [1, 1, EYE]
        for (const s of steps) {
          at = walkStep(room, at, s).station
          expect(at[0]).toBeGreaterThan(0.02)
          expect(at[0]).toBeLessThan(5.98)
          expect(at[1]).toBeGreaterThan(0.02)
          expect(at[1]).toBeLessThan(3.98)
          expect(at[2]).toBeCloseTo(EYE, 5)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('passes through what is hidden', () => {
    expect(walkStep(room, [1.5, 2, EYE], [2.5, 0], { shown: hiding('Room/Table') })).toMatchObject({ blocked: false })
  })
  it('tells how far the way is free', () => {
    expect(freeWay(room, [1, 1, EYE], [0, 1, 0], 10, hiding())).toBeCloseTo(3, 6)
    expect(freeWay(room, [1, 1, EYE], [0, 1, 0], 2, hiding())).toBe(2)
  })
  it('a band sees between the cuts only, and in parallel pictures behind the station’s plane too', () => {
    const camera = cameraOf({ station: [0.5, 2, 1.6], bearingDeg: 90, tiltDeg: -15 }, {}, [600, 400])
    const all = { a: [0, 0], b: [600, 400] } as const
    const cut = (nearM: number | null, farM: number | null) => ({ ...hiding(), cuts: { nearM, farM, list: [] } })
    expect(nodesInBand(room, camera, all, cut(null, null))).toEqual(['Room/Table'])
    expect(nodesInBand(room, camera, all, cut(4, null))).toEqual([])
    expect(nodesInBand(room, camera, all, cut(null, 0.5))).toEqual([])
    // a cut that is on takes the table’s top away, whoever asks
    const level = { id: 'l', name: 'A', on: true, reversed: false, kind: 'level', heightM: 0.2 } as const
    const low = { ...hiding(), cuts: { nearM: null, farM: null, list: [level] } }
    expect(nodesInBand(room, camera, all, low)).toEqual([])
    expect(room.pick({ origin: [2, 2, 2.5], direction: [0, 0, -1] }, low)!.nodeName).toBe('Floor')
    const side = cameraOf(
      { station: [5.5, 2, 1], bearingDeg: 90, tiltDeg: 0 },
      { projection: { kind: 'parallel', widthM: 7 } },
      [600, 400],
    )
    expect(
      nodesInBand(room, side, all, { ...hiding('Room/Walls'), cuts: { nearM: null, farM: null, list: [] } }),
    ).toContain('Room/Table')
  })
  it('a band takes what lies wholly in it and is seen', () => {
    const camera = cameraOf({ station: [0.5, 2, 1.6], bearingDeg: 90, tiltDeg: -15 }, {}, [600, 400])
    expect(nodesInBand(room, camera, { a: [0, 0], b: [600, 400] }, hiding())).toEqual(['Room/Table'])
    expect(nodesInBand(room, camera, { a: [600, 400], b: [0, 0] }, hiding('Room/Table'))).toEqual([])
    expect(nodesInBand(room, camera, { a: [0, 0], b: [20, 20] }, hiding())).toEqual([])
    // behind a wall nothing is seen
    const outside = cameraOf({ station: [-3, 2, 1.6], bearingDeg: 90, tiltDeg: 0 }, {}, [600, 400])
    expect(nodesInBand(room, outside, { a: [0, 0], b: [600, 400] }, hiding())).toEqual([])
  })
})

describe('on a stair of twelve risers of 0.18 m', () => {
  let stair: MeshScene
  beforeAll(async () => {
    const pen = new Pen('Stair', { kind: 'floor' }).use('oak').box(-2, 0, -0.2, 0, 1.2, 0, { bevel: 0 })
    for (let i = 0; i < 12; i++) pen.box(i * 0.27, 0, 0, (i + 1) * 0.27, 1.2, (i + 1) * 0.18, { bevel: 0 })
    pen.box(12 * 0.27, 0, 1.9, 6, 1.2, 12 * 0.18, { bevel: 0 })
    stair = await sceneOf(glbOf([pen.node()]))
  })
  it('walks up and down again, the eye always at its height over the tread', () => {
    let at: Vec3 = [-1, 0.6, EYE]
    const heights = new Set<number>()
    for (let i = 0; i < 60; i++) {
      const r = walkStep(stair, at, [0.1, 0])
      expect(r.station[2] - r.groundM!).toBeCloseTo(EYE, 9)
      heights.add(Math.round(r.groundM! * 1000))
      at = r.station
    }
    expect(at[0]).toBeGreaterThan(4)
    expect(at[2]).toBeCloseTo(12 * 0.18 + EYE, 6)
    expect([...heights].sort((a, b) => a - b)).toEqual(Array.from({ length: 13 }, (_, i) => i * 180))
    for (let i = 0; i < 60; i++) at = walkStep(stair, at, [-0.1, 0]).station
    expect(at[2]).toBeCloseTo(EYE, 6)
  })
  it('stops at an edge with nothing a step below', () => {
    const r = walkStep(stair, [5, 0.6, 12 * 0.18 + EYE], [3, 0])
    expect(r.blocked).toBe(true)
    // a gap between boards of up to 2 cm is bridged
    expect(r.station[0]).toBeLessThan(6.03)
    expect(r.station[2]).toBeCloseTo(12 * 0.18 + EYE, 6)
  })
})

describe('from between the boards of a bookcase', () => {
  it('one goes out level, and never up from board to board', async () => {
    const floor = new Pen('Floor', { kind: 'floor' }).use('oak').box(0, 0, -0.2, 6, 6, 0, { bevel: 0 })
    const shelf = new Pen('Shelf', { kind: 'furniture' }).use('oak').box(1, 4.97, 0, 4, 5, 2.4, { bevel: 0 })
    for (let z = 0.35; z < 2.4; z += 0.35) shelf.box(1, 4, z, 4, 4.97, z + 0.02, { bevel: 0 })
    const scene = await sceneOf(glbOf([{ name: 'Room', children: [floor.node(), shelf.node()] }]))
    let at: Vec3 = [2.5, 4.5, EYE]
    for (let i = 0; i < 30; i++) {
      const next = walkStep(scene, at, [0.003, -0.05]).station
      expect(next[2]).toBeCloseTo(EYE, 6)
      at = next
    }
    expect(at[1]).toBeLessThan(3.6)
    // back again: the boards stop the way in
    const back = walkStep(scene, at, [0, 3])
    expect(back.station[2]).toBeCloseTo(EYE, 6)
    expect(back.blocked).toBe(true)
  })
})

describe('from behind the books of a bookcase', () => {
  it('one goes out past them, but not through the wall at its back', async () => {
    const floor = new Pen('Floor', { kind: 'floor' }).use('oak').box(0, 0, -0.2, 6, 6, 0, { bevel: 0 })
    const wall = new Pen('Wall', { kind: 'wall' }).use('oak').box(0, 5.01, 0, 6, 5.2, 3, { bevel: 0 })
    const shelf = new Pen('Shelf', { kind: 'furniture' }).use('oak').box(1, 4.97, 0, 4, 5, 2.4, { bevel: 0 })
    const books = new Pen('Books', { kind: 'furniture' }).use('brass')
    for (let z = 0.35; z < 2.4; z += 0.35) {
      shelf.box(1, 4.6, z, 4, 4.97, z + 0.02, { bevel: 0 })
      books.box(1.1, 4.6, z + 0.02, 3.9, 4.75, z + 0.3, { bevel: 0 })
    }
    const nodes = [floor, wall, shelf, books].map((p) => p.node())
    const scene = await sceneOf(glbOf([{ name: 'Room', children: nodes }]))
    let at: Vec3 = [2.5, 4.85, EYE]
    for (let i = 0; i < 40; i++) at = walkStep(scene, at, [0.002, -0.04]).station
    expect(at[1]).toBeLessThan(4)
    expect(at[2]).toBeCloseTo(EYE, 6)
    // the books stop the way in, the wall the way back
    expect(walkStep(scene, at, [0, 3]).station[1]).toBeLessThan(4.6)
    expect(walkStep(scene, [2.5, 4.85, EYE], [0, 1]).station[1]).toBeLessThan(5.01)
  })
})

describe('from over a bench', () => {
  it('higher than a step: one goes out level, and is not lifted onto it; over a kerb one stands on the kerb', async () => {
    const floor = new Pen('Floor', { kind: 'floor' }).use('oak').box(0, 0, -0.2, 6, 6, 0, { bevel: 0 })
    const bench = new Pen('Bench', { kind: 'furniture' }).use('oak').box(1, 1, 0, 3, 1.5, 0.42, { bevel: 0 })
    const kerb = new Pen('Kerb', { kind: 'stair' }).use('oak').box(1, 4, 0, 3, 4.5, 0.2, { bevel: 0 })
    const scene = await sceneOf(glbOf([{ name: 'Room', children: [floor.node(), bench.node(), kerb.node()] }]))
    let at: Vec3 = [2, 1.25, EYE]
    for (let i = 0; i < 20; i++) {
      at = walkStep(scene, at, [0.002, 0.04]).station
      expect(at[2]).toBeCloseTo(EYE, 6)
    }
    expect(at[1]).toBeGreaterThan(1.9)
    expect(walkStep(scene, [2, 4.25, EYE], [0, 0]).station[2]).toBeCloseTo(EYE + 0.2, 6)
  })
})
