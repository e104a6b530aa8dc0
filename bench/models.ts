// Large models made by code for the benches: many bent tori, the same every time.
import { writeGlb, type GltfNode } from '#formats/gltf'
import { seededRandom } from '#core/base'

const RINGS = 112
const SIDES = 112

function torus(name: string, x: number, y: number, seed: number): GltfNode {
  const rng = seededRandom(seed)
  const wave = 2 + Math.floor(rng() * 5)
  const n = (RINGS + 1) * (SIDES + 1)
  const positions = new Float32Array(n * 3)
  const normals = new Float32Array(n * 3)
  const uvs = new Float32Array(n * 2)
  const colours = new Uint8Array(n * 4).fill(200)
  const indices = new Uint32Array(RINGS * SIDES * 6)
  let k = 0
  for (let i = 0; i <= RINGS; i++)
    for (let j = 0; j <= SIDES; j++) {
      const u = (2 * Math.PI * i) / RINGS
      const v = (2 * Math.PI * j) / SIDES
      const r = 0.16 * (1 + 0.25 * Math.sin(wave * u) * Math.cos(wave * v))
      const at = (i * (SIDES + 1) + j) * 3
      positions.set(
        [x + (0.42 + r * Math.cos(v)) * Math.cos(u), y + (0.42 + r * Math.cos(v)) * Math.sin(u), 0.4 + r * Math.sin(v)],
        at,
      )
      normals.set([Math.cos(v) * Math.cos(u), Math.cos(v) * Math.sin(u), Math.sin(v)], at)
      uvs.set([i / RINGS, j / SIDES], (at / 3) * 2)
      if (i === RINGS || j === SIDES) continue
      const a = at / 3
      const b = a + SIDES + 1
      indices.set([a, b, b + 1, a, b + 1, a + 1], k)
      k += 6
    }
  return { name, primitives: [{ material: 'clay', positions, normals, uvs, colours, indices }] }
}

/** A field of tori, 25,088 triangles each. */
export function tori(count: number, shift = 0): Uint8Array {
  const side = Math.ceil(Math.sqrt(count))
  const nodes = Array.from({ length: count }, (_, i) =>
    torus(`Torus ${i}`, (i % side) * 1.3 + shift, Math.floor(i / side) * 1.3, i + 1),
  )
  return writeGlb({
    nodes: [{ name: 'Field', children: nodes }],
    materials: [{ name: 'clay', baseColour: [0.6, 0.55, 0.5, 1], roughness: 0.7, metallic: 0 }],
    images: [],
    generator: 'bench',
  })
}
/** 40 tori: 1,003,520 triangles. */
export const millionGlb = (): Uint8Array => tori(40)
