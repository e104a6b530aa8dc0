import { beforeAll, describe, expect, it } from 'vitest'
import { loadGlb } from '#formats/scene'
import { Pen, turn } from '../scripts/demo-data/kit.ts'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { hiding } from '../tests/support/cameras.ts'
import { house } from '../tests/support/house.ts'
import { glbOf, roomGlb } from '../tests/support/models.ts'
import { centreLines, MeshScene, soupOf } from './index.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}

describe('a real house’s walls', () => {
  it.each([
    [0, 0],
    [17, 17],
    [-31.4, -31.4],
    [60, -30],
    [107, 17],
  ])('turned by %d degrees its main direction is %d', (turnDeg, main) => {
    for (const marked of [true, false]) {
      const { mainBearingDeg, share } = house(turnDeg, marked).walls()
      expect(mainBearingDeg).toBeCloseTo(main, 3)
      expect(share).toBeGreaterThan(0.9)
    }
  })
  it('its planes are where the file has them: 12 by 10 m between the outer faces', () => {
    const { walls } = house(17, true).walls()
    const facing = (deg: number) =>
      walls
        .filter((w) => Math.abs(w.facesDeg - deg) < 0.1)
        .map((w) => w.point[0] * w.normal[0] + w.point[1] * w.normal[1])
    // outermost faces that look away from each other
    expect(Math.max(...facing(107)) + Math.max(...facing(287))).toBeCloseTo(12, 2)
    expect(Math.max(...facing(17)) + Math.max(...facing(197))).toBeCloseTo(10, 2)
    expect([...walls].sort((a, b) => b.areaM2 - a.areaM2)).toEqual(walls)
  })
  it('its storeys stand at 0 and 2.70 m, also when nothing is marked', () => {
    for (const turned of [0, 17]) {
      const heights = house(turned, false)
        .storeys()
        .map((s) => s.heightM)
      for (const want of [0, 2.7]) expect(heights.some((h) => Math.abs(h - want) < 0.011)).toBe(true)
    }
  })
})

describe('the demo’s hall', () => {
  let hall: MeshScene
  beforeAll(async () => void (hall = await sceneOf(hallModel().bytes)), 60_000)
  it('runs along the axes', () => {
    const { mainBearingDeg, share } = hall.walls()
    expect(mainBearingDeg).toBeCloseTo(0, 3)
    expect(share).toBeGreaterThan(0.8)
  })
  it('has a ground floor and the gallery at 2.90 m', () => {
    expect(hall.storeys().map((s) => s.heightM)).toEqual([0, 2.9])
  })
  it('knows its large level faces: floors and counters, none of a drawer', () => {
    const faces = hall.levels()
    expect(faces.length).toBeGreaterThan(3)
    expect(faces[0]!.areaM2).toBeGreaterThan(20)
    expect(faces.every((f, i) => i === 0 || f.areaM2 <= faces[i - 1]!.areaM2)).toBe(true)
    expect(faces.some((f) => /counter/i.test(f.nodeName) && f.heightM > 0.7 && f.heightM < 1.2)).toBe(true)
    expect(faces.some((f) => /drawer\b/i.test(f.nodeName) && f.areaM2 < 1)).toBe(false)
  })
})

describe('rooms and round things', () => {
  it('centre lines lie midway between facing walls', async () => {
    const lines = centreLines((await sceneOf(roomGlb())).walls())
    expect(lines).toHaveLength(2)
    const along = (deg: number) => lines.find((l) => Math.abs(l.bearingDeg - deg) < 1e-6)!
    // the room is 6 by 4 m inside
    expect(along(90).point[1]).toBeCloseTo(2, 5)
    expect(along(180).point[0]).toBeCloseTo(3, 5)
  })
  it('nothing prevails on a round tower; nothing upright has no walls', async () => {
    const tower = new Pen('Tower').use('plaster')
    for (let k = 0; k < 36; k++)
      tower.within(turn('z', k * 10.3), () => void tower.box(2, -0.2, 0, 2.1, 0.2, 3, { bevel: 0 }))
    const round = await sceneOf(glbOf([tower.node()]))
    expect(round.walls().mainBearingDeg).toBeNull()
    const { soup, facts } = round
    expect(new MeshScene({ ...soup, indices: new Uint32Array(0), opaqueTriangles: 0 }, facts).walls()).toEqual({
      mainBearingDeg: null,
      share: 0,
      walls: [],
    })
  })
})

describe('walls and levels along a ray', () => {
  it('passes furniture to the wall behind, marked or found by its plane', async () => {
    const room = await sceneOf(roomGlb())
    const ray = { origin: [1, 2, 0.72], direction: [1, 0, 0] } as const
    expect(room.pick(ray)!.nodeName).toBe('Table')
    expect(room.wallAlong(ray, 20)!.point[0]).toBeCloseTo(6, 5)
    expect(room.wallAlong(ray, 4)).toBeNull()
    expect(room.wallAlong(ray, 20, hiding('Room/Walls'))).toBeNull()
    // an unmarked house: the first of its large upright planes
    const plain = house(17, false)
    const c = plain.facts.box
    const eye = [(c.min[0] + c.max[0]) / 2, (c.min[1] + c.max[1]) / 2, 1.6] as const
    expect(plain.wallAlong({ origin: eye, direction: [1, 0, 0] }, 50)).not.toBeNull()
  })
  it('what can be stood on includes furniture, never an underside', async () => {
    const room = await sceneOf(roomGlb())
    const down = { origin: [3, 2, 2], direction: [0, 0, -1] } as const
    expect(room.pickLevel(down)!.nodeName).toBe('Table')
    expect(room.pickFloor(down)!.nodeName).toBe('Floor')
    expect(room.pickLevel({ origin: [3, 2, 0.3], direction: [0, 0, 1] })).toBeNull()
    expect(room.node('Room/Table')!.name).toBe('Table')
    expect(room.node('nowhere')).toBeUndefined()
  })
})
