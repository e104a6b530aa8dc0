import { describe, expect, it } from 'vitest'
import { byMaterial, byStorey, SURROUNDINGS, type GroupedNode } from './index.ts'

const node = (id: string, z: readonly [number, number], more: Partial<GroupedNode> = {}): GroupedNode => ({
  id,
  kind: null,
  storey: null,
  box: { min: [0, 0, z[0]], max: [1, 1, z[1]] },
  materials: ['oak'],
  ...more,
})
const STOREYS = [
  { name: 'First floor', heightM: 3.1 },
  { name: 'Ground floor', heightM: 0 },
]

describe('objects by storey', () => {
  it('stand on the highest floor that is not above their foot; slabs belong to what they bear', () => {
    const groups = byStorey(
      [
        node('m/Table', [0, 0.75]),
        node('m/Tall wall', [0, 6]),
        node('m/Slab', [2.8, 3.1]),
        node('m/Rail', [3.1, 4.1]),
        node('m/Footing', [-1.2, 0]),
        node('m/Group', [0, 6], { materials: [] }),
        node('m/Tree', [0, 9], { kind: 'surroundings' }),
        node('m/Lamp', [2.2, 2.6], { storey: 'First floor' }),
        node('m/Sign', [0, 1], { storey: 'a name that no floor has' }),
      ],
      STOREYS,
    )
    expect(groups.map((g) => [g.label, g.ids])).toEqual([
      ['Ground floor', ['m/Table', 'm/Tall wall', 'm/Footing', 'm/Sign']],
      ['First floor', ['m/Slab', 'm/Rail', 'm/Lamp']],
      [SURROUNDINGS, ['m/Tree']],
    ])
  })
  it('a model without floors has no storeys', () => expect(byStorey([node('m/A', [0, 1])], [])).toEqual([]))
})

describe('objects by material', () => {
  it('by name; in several models each stands apart', () => {
    const one = [node('m/B', [0, 1], { materials: ['steel', 'oak'] }), node('m/A', [0, 1])]
    expect(byMaterial(one).map((g) => [g.label, g.ids])).toEqual([
      ['oak', ['m/B', 'm/A']],
      ['steel', ['m/B']],
    ])
    const two = byMaterial([...one, node('n/C', [0, 1])])
    expect(two.map((g) => g.label)).toEqual(['oak (m)', 'oak (n)', 'steel (m)'])
  })
})
