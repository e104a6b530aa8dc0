// The fixture house as a scene, turned about the upright.
import { readFileSync } from 'node:fs'
import { BufferAttribute, BufferGeometry, Group, Mesh, MeshStandardMaterial } from 'three'
import { MeshScene, soupOf } from '#mesh'

interface Piece {
  readonly kind: string
  readonly name: string
  readonly positions: readonly number[]
  readonly indices: readonly number[]
}

/** Walls, slabs and roof; `turnDeg` clockwise seen from above, `marked` says their kinds. */
export function house(turnDeg: number, marked: boolean): MeshScene {
  const pieces = JSON.parse(
    readFileSync(new URL('../fixtures/buildings/house.json', import.meta.url), 'utf8'),
  ) as Piece[]
  const root = new Group()
  const [c, s] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)]
  for (const p of pieces) {
    const at = new Float32Array(p.positions.length)
    for (let i = 0; i < at.length; i += 3) {
      const [x, y] = [p.positions[i]!, p.positions[i + 1]!]
      at.set([c * x + s * y, c * y - s * x, p.positions[i + 2]!], i)
    }
    const geometry = new BufferGeometry()
    geometry.setAttribute('position', new BufferAttribute(at, 3))
    geometry.setIndex([...p.indices])
    const mesh = new Mesh(geometry, new MeshStandardMaterial())
    mesh.name = p.name
    if (marked) mesh.userData['kind'] = p.kind
    root.add(mesh)
  }
  const { soup, facts } = soupOf(root)
  return new MeshScene(soup, facts)
}
