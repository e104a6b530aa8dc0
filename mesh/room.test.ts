import { describe, expect, it } from 'vitest'
import { loadGlb } from '#formats/scene'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { roomGlb } from '../tests/support/models.ts'
import { MeshScene, soupOf } from './index.ts'
import { roomAt } from './room.ts'

const sceneOf = async (glb: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(glb, { textures: false }))
  return new MeshScene(soup, facts)
}

describe('the room round a place', () => {
  it('is the same from anywhere in it, under a table too', async () => {
    const room = await sceneOf(roomGlb())
    for (const at of [
      [1, 1, 0],
      [3, 2, 0],
      [5, 3.5, 1.2],
    ] as const) {
      const found = roomAt(room, at, 0)!
      expect(found.sizeM[0]).toBeCloseTo(6, 3)
      expect(found.sizeM[1]).toBeCloseTo(4, 3)
      expect(found.centre[0]).toBeCloseTo(3, 3)
      expect(found.centre[1]).toBeCloseTo(2, 3)
    }
    expect(roomAt(room, [30, 2, 0], 0)).toBeNull()
  })
  it('of the hall reaches from wall to wall and to the glass', async () => {
    const hall = await sceneOf(hallModel().bytes)
    const found = roomAt(hall, [12, 3, 0], 0)!
    expect(found.sizeM[0]).toBeGreaterThan(17)
    expect(found.sizeM[0]).toBeLessThan(18.6)
    expect(found.sizeM[1]).toBeGreaterThan(8)
  })
})
