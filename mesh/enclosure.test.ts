import { beforeAll, describe, expect, it } from 'vitest'
import { loadGlb } from '#formats/scene'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { hiding } from '../tests/support/cameras.ts'
import { Pen } from '../scripts/demo-data/kit.ts'
import { glbOf, roomGlb } from '../tests/support/models.ts'
import { MeshScene, soupOf } from './index.ts'
import { enclosed, underSky } from './enclosure.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}

describe('out of doors', () => {
  let hall: MeshScene
  beforeAll(async () => void (hall = await sceneOf(hallModel().bytes)))

  it('is the ground before a building, close to its walls too, and above its roof', () => {
    expect(underSky(hall, [9, -14, 1.6])).toBe(true)
    expect(underSky(hall, [9, -0.8, 1.6])).toBe(true)
    expect(underSky(hall, [9, 4.5, 20])).toBe(true)
  })
  it('is no place inside, under the roof lights neither', () => {
    for (let x = 1.5; x < 17; x += 1.5)
      for (const y of [1.5, 4, 7]) expect(underSky(hall, [x, y, 1.6]), `${x}, ${y}`).toBe(false)
  })
  it('is a room without a ceiling, and one whose roof is hidden; a cut changes nothing', async () => {
    const room = await sceneOf(roomGlb())
    expect(underSky(room, [3, 2, 1.6])).toBe(true)
    const cut = hiding()
    expect(underSky(hall, [9, 4, 1.6], { ...cut, cuts: { ...cut.cuts, nearM: 3 } })).toBe(false)
    const roofs = hall.facts.nodes.filter((n) => n.box.min[2] > 3 && n.parentId !== null).map((n) => n.id)
    expect(underSky(hall, [9, 4, 1.6], hiding(...roofs))).toBe(true)
  })
})

describe('enclosed', () => {
  it('is a room with a roof and one without, a court too; the ground before a building is not', async () => {
    const hall = await sceneOf(hallModel().bytes)
    expect(enclosed(hall, [9, 4, 1.6])).toBe(true)
    expect(enclosed(hall, [9, -14, 1.6])).toBe(false)
    expect(enclosed(await sceneOf(roomGlb()), [3, 2, 1.6])).toBe(true)
  })
  it('is nothing inside a solid: a block of a building, a figure', async () => {
    const solid = (x: number, z: number) =>
      glbOf([new Pen('Block').use('stone').box(-x, -x, 0, x, x, z, { bevel: 0 }).node()])
    expect(enclosed(await sceneOf(solid(6, 9)), [0, 0, 1.6])).toBe(false)
    expect(enclosed(await sceneOf(solid(0.2, 1.5)), [0, 0, 0.7])).toBe(false)
  })
})
