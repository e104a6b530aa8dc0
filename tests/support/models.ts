// Small models for tests, made by the project's own writer.
import { writeGlb, type GltfNode } from '#formats/gltf'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { MATERIALS } from '../../scripts/demo-data/surfaces.ts'

export const glbOf = (nodes: readonly GltfNode[]): Uint8Array =>
  writeGlb({ nodes, materials: MATERIALS.map(({ image: _image, ...m }) => m), images: [], generator: 'test' })

/** A room of 6 x 4 x 3 m with a marked floor, four walls and a table of 0.75 m. */
export function roomNodes(): GltfNode[] {
  const floor = new Pen('Floor', { kind: 'floor', storey: 'Ground floor' })
    .use('oak')
    .box(0, 0, -0.2, 6, 4, 0, { bevel: 0 })
  const walls = new Pen('Walls', { kind: 'wall' }).use('plaster')
  walls.box(-0.3, -0.3, 0, 0, 4.3, 3, { bevel: 0 }).box(6, -0.3, 0, 6.3, 4.3, 3, { bevel: 0 })
  walls.box(0, -0.3, 0, 6, 0, 3, { bevel: 0 }).box(0, 4, 0, 6, 4.3, 3, { bevel: 0 })
  const table = new Pen('Table', { kind: 'furniture' }).use('walnut').box(2.5, 1.5, 0.7, 3.5, 2.5, 0.75, { bevel: 0 })
  return [{ name: 'Room', children: [floor.node(), walls.node(), table.node()] }]
}
export const roomGlb = (): Uint8Array => glbOf(roomNodes())
