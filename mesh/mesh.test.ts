import { BoxGeometry, Group, Mesh } from 'three'
import { beforeAll, describe, expect, it } from 'vitest'
import { rayThrough } from '#core/camera'
import { irradiance } from '#core/optics'
import { ALL_SHOWN, type Cut } from '#core/section'
import { loadGlb } from '#formats/scene'
import { glbOf, roomGlb } from '../tests/support/models.ts'
import { cameraOf, hiding } from '../tests/support/cameras.ts'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { Pen } from '../scripts/demo-data/kit.ts'
import { lightAt } from './light.ts'
import { quickFacts } from './nodes.ts'
import { bakeLight, MeshScene, soupOf } from './index.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}

describe('a room', () => {
  let room: MeshScene
  beforeAll(async () => void (room = await sceneOf(roomGlb())))

  it('comes in with its size, its nodes by path, and Z up', () => {
    expect(room.facts.triangles).toBe(12 * 6)
    expect(room.facts.nodes.map((n) => n.id)).toEqual(['Room', 'Room/Floor', 'Room/Walls', 'Room/Table'])
    const [lo, hi] = [room.facts.box.min, room.facts.box.max]
    for (const [got, want] of [
      [lo, [-0.3, -0.3, -0.2]],
      [hi, [6.3, 4.3, 3]],
    ] as const)
      got.forEach((v, i) => expect(v).toBeCloseTo(want[i]!, 6))
  })
  it('a floor is found through the table that stands on it', () => {
    expect(room.floorBelow([3, 2, 1.6])).toMatchObject({
      nodeName: 'Floor',
      point: [3, 2, expect.closeTo(0, 6)],
      distanceM: expect.closeTo(1.65, 6),
    })
    const down = rayThrough(cameraOf({ station: [1, 2, 1.6], bearingDeg: 90, tiltDeg: -25 }, {}, [300, 200]), 150, 100)!
    expect(room.pick(down)!.nodeName).toBe('Table')
    expect(room.pickFloor(down)!.nodeName).toBe('Floor')
    expect(room.pick(down, hiding('Room/Table'))!.nodeName).toBe('Floor')
    expect(room.floorBelow([20, 20, 1])).toBeNull()
  })
  it('hits are at the distance of geometry, normals towards the eye', () => {
    const hit = room.pick({ origin: [3, 2, 1.5], direction: [0, 1, 0] })!
    expect(hit.distanceM).toBeCloseTo(2, 6)
    expect(hit.normal[1]).toBeCloseTo(-1, 6)
    // from inside a solid the surface met looks back at the eye too
    expect(room.pick({ origin: [3, 4.15, 1.5], direction: [0, 1, 0] })!.normal[1]).toBeCloseTo(-1, 6)
  })
  it('has one storey, at its marked floor', () => {
    expect(room.storeys()).toEqual([{ name: 'Ground floor', heightM: 0, areaM2: expect.closeTo(24, 6) }])
  })
})

it('an object with faces of its own beside its parts is measured with both', () => {
  const [root, model, body, knob] = [
    new Group(),
    new Group(),
    new Mesh(new BoxGeometry(2, 6, 4)),
    new Mesh(new BoxGeometry(1, 1, 1)),
  ]
  knob.position.set(0, 3.5, 0)
  model.add(body.add(knob))
  root.add(model)
  expect(quickFacts(root).box).toEqual({ min: [-1, -3, -2], max: [1, 4, 2] })
})

describe('storeys without marks', () => {
  it('are the heights where much of the plan can be stood on', async () => {
    const slab = (z: number) =>
      new Pen(`Slab ${z}`)
        .use('oak')
        .box(0, 0, z - 0.2, 10, 8, z, { bevel: 0 })
        .node()
    const shelf = new Pen('Shelf').use('oak').box(1, 1, 1, 2, 1.4, 1.04, { bevel: 0 }).node()
    const house = await sceneOf(glbOf([slab(0), slab(3.1), shelf]))
    expect(house.storeys().map((s) => [s.name, s.heightM])).toEqual([
      ['Lowest floor', 0],
      ['Floor 2', 3.1],
    ])
  })
})

describe('the hall of the demo', () => {
  let hall: MeshScene
  beforeAll(async () => void (hall = await sceneOf(hallModel().bytes)))

  it('is of the promised size, with its parts separately named and its floors found', () => {
    expect(hall.facts.triangles).toBeGreaterThan(150_000)
    expect(hall.facts.triangles).toBeLessThan(310_000)
    const names = hall.facts.nodes.map((n) => n.name)
    for (const n of [
      'Seed drawers, bay 1',
      'Rolling ladder',
      'Round sorting counter',
      'Stair',
      'Gallery floor',
      'Skylight 3',
      'Truss 5',
      'Brick pier 4',
      'West brick wall',
      'Germination lamp',
    ])
      expect(names).toContain(n)
    expect(hall.storeys().map((s) => [s.name, s.heightM])).toEqual([
      ['Ground floor', 0],
      ['Gallery', 2.9],
    ])
  })
  it('measures 18 x 9 m inside, 5.4 m to the tie beams’ corbels; the surroundings do not count', () => {
    const across = (from: readonly [number, number, number], d: readonly [number, number, number]) =>
      hall.pick({ origin: from, direction: d })!.distanceM
    // above the gallery's rail and below the beams nothing stands between the walls
    expect(across([9.2, 1.4, 4.5], [0, -1, 0]) + across([9.2, 1.4, 4.5], [0, 1, 0])).toBeGreaterThan(8.4)
    expect(hall.facts.box.max[0]).toBeLessThan(19)
    expect(hall.facts.box.max[2]).toBeGreaterThan(8)
  })
  it('can be stood on between two boards, on a tread of the stair and on the gallery', () => {
    expect(hall.floorBelow([9, 4.5, 1.6])!.point).toEqual([9, 4.5, expect.closeTo(0, 3)])
    expect(hall.floorBelow([3, 8.3, 3])!.point[2]).toBeCloseTo(2.9 * (9 / 17), 2)
    expect(hall.floorBelow([9, 7, 4.5])!.nodeName).toBe('Gallery floor')
  })
})

describe('baked light', () => {
  const sky = { sunBearingDeg: 180, sunElevationDeg: 40, sunLux: 0, skyLux: 10_000 }
  const level = (v: Awaited<ReturnType<typeof bakeLight>>, p: readonly [number, number, number]) =>
    irradiance(lightAt(v, p, 1), [0, 0, 1])
  it('gives open level ground the sky’s illuminance, and repeats exactly', async () => {
    const field = await sceneOf(
      glbOf([
        new Pen('Field', { kind: 'floor' }).use('stone').box(-20, -20, -1, 20, 20, 0, { bevel: 0 }).node(),
        new Pen('Post').use('oak').box(0, 0, 0, 0.1, 0.1, 3, { bevel: 0 }).node(),
      ]),
    )
    const v = await bakeLight(field, { sky, places: 300, raysPerPlace: 200 })
    expect(level(v, [5, 5, 2.4]) / 10_000).toBeGreaterThan(0.9)
    expect(level(v, [5, 5, 2.4]) / 10_000).toBeLessThan(1.1)
    const again = await bakeLight(field, { sky, places: 300, raysPerPlace: 200 })
    expect(again.channels[0]).toEqual(v.channels[0])
  })
  it('is darker in a room than over it, and stops when asked to', async () => {
    const room = await sceneOf(roomGlb())
    const v = await bakeLight(room, { sky, places: 200, raysPerPlace: 64 })
    expect(level(v, [3, 2, 0.6])).toBeLessThan(0.8 * level(v, [3, 2, 3.3]))
    const stop = bakeLight(room, { sky, pause: () => Promise.reject(new Error('enough')) })
    await expect(stop).rejects.toThrow('enough')
  })
  it('has no sky in a closed room whose walls have no thickness, in its corners neither', async () => {
    const { soup, facts } = soupOf(await loadGlb(glbOf([new Pen('Shell').use('plaster').box(0, 0, 0, 7, 5, 3, { bevel: 0 }).node()]), { textures: false })) // prettier-ignore
    // seen from inside alone
    const indices = soup.indices.map((_, i) => soup.indices[i - (i % 3) + 2 - (i % 3)]!)
    const v = await bakeLight(new MeshScene({ ...soup, indices }, facts), { sky, places: 900, raysPerPlace: 64 })
    for (const p of [
      [3.5, 2.5, 1.5],
      [0.05, 0.05, 0.05],
      [6.9, 2.5, 0.1],
      [3.5, 4.9, 2.9],
      [6.95, 4.95, 1],
    ] as const)
      // prettier-ignore
      expect(level(v, p), p.join()).toBeLessThan(20)
  })
  it('comes in where cuts let it: through walls that are cut away as if they were not there', async () => {
    const room = await sceneOf(roomGlb())
    const low: Cut = { id: 'a', name: 'A', on: true, reversed: false, kind: 'level', heightM: 0.1 }
    const shown = { ...ALL_SHOWN, cuts: { ...ALL_SHOWN.cuts, list: [low] } }
    const [closed, open] = [await bakeLight(room, { sky, places: 200, raysPerPlace: 64 }), await bakeLight(room, { sky, places: 200, raysPerPlace: 64, shown })] // prettier-ignore
    // by the north wall, which keeps the sky from it while it stands
    expect(level(open, [3, 3.7, 1])).toBeGreaterThan(1.2 * level(closed, [3, 3.7, 1]))
    expect(level(open, [3, 2, 4])).toBeCloseTo(level(closed, [3, 2, 4]), -4)
  })
})
