import {
  DoubleSide,
  Group,
  Mesh,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  Texture,
  Vector3,
} from 'three'
import { describe, expect, it } from 'vitest'
import { collect } from '../../mesh/nodes.ts'
import { readMaterials } from './materials.ts'

const read = <T>(material: T, count = 1): Mesh[] => {
  const root = new Group()
  for (let i = 0; i < count; i++) root.add(new Mesh(undefined, material as never))
  readMaterials(root)
  return root.children as Mesh[]
}

describe('materials of a file', () => {
  it('that transmit are clear, by how much they transmit; light and rays pass them', () => {
    const [glass] = read(new MeshPhysicalMaterial({ transmission: 1, opacity: 1 }))
    const m = glass!.material as MeshPhysicalMaterial
    expect([m.transparent, m.opacity]).toEqual([true, expect.closeTo(0.08, 9)])
    const [frosted] = read(new MeshPhysicalMaterial({ transmission: 0.5 }))
    expect((frosted!.material as MeshPhysicalMaterial).opacity).toBeCloseTo(0.54, 9)
    const root = new Group()
    root.add(glass!)
    expect(collect(root).pieces[0]!.clear).toBe(true)
    const [plain] = read(new MeshPhysicalMaterial({ transmission: 0 }))
    expect((plain!.material as MeshPhysicalMaterial).transparent).toBe(false)
  })
  it('without light of their own keep colour, texture, holes and sides; shared ones stay shared', () => {
    const map = new Texture()
    const made = read(
      new MeshBasicMaterial({ name: 'Sign', map, color: 0x336699, alphaTest: 0.4, side: DoubleSide }),
      2,
    )
    const m = made[0]!.material as MeshStandardMaterial
    expect(made[1]!.material).toBe(m)
    expect(m).toBeInstanceOf(MeshStandardMaterial)
    expect([m.name, m.map, m.alphaTest, m.side, m.color.getHex()]).toEqual(['Sign', map, 0.4, DoubleSide, 0x336699])
  })
  it('have their textures’ scale and offset worked in, with a turn and without', () => {
    const map = new Texture()
    map.repeat.set(4, 2)
    map.offset.set(0.25, 0.5)
    read(new MeshStandardMaterial({ map }))
    const at = new Vector3(0.5, 0.5, 1).applyMatrix3(map.matrix)
    expect([at.x, at.y]).toEqual([0.5 * 4 + 0.25, 0.5 * 2 + 0.5])
  })
})
