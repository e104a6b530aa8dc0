// Small models for tests, made by the project's own writer.
import { WebIO } from '@gltf-transform/core'
import { writeGlb, type GltfMaterial, type GltfNode } from '#formats/gltf'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { MATERIALS } from '../../scripts/demo-data/surfaces.ts'

export const glbOf = (nodes: readonly GltfNode[], more: readonly GltfMaterial[] = []): Uint8Array =>
  writeGlb({
    nodes,
    materials: [...MATERIALS.map(({ image: _image, ...m }) => m), ...more],
    images: [],
    generator: 'test',
  })

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

/** The GLB with a clip in which a node goes by so much (the file's axes, Y up) in so many seconds. */
export async function withClip(
  glb: Uint8Array,
  clip: { readonly name: string; readonly node: string; readonly by: readonly [number, number, number]; readonly seconds: number }, // prettier-ignore
): Promise<Uint8Array> {
  const io = new WebIO()
  const doc = await io.readBinary(glb as Uint8Array<ArrayBuffer>)
  const root = doc.getRoot()
  const node = root.listNodes().find((n) => n.getName() === clip.node)!
  const [x, y, z] = node.getTranslation()
  const accessor = (type: 'SCALAR' | 'VEC3', v: readonly number[]) =>
    doc.createAccessor().setType(type).setArray(Float32Array.from(v)).setBuffer(root.listBuffers()[0]!)
  const sampler = doc
    .createAnimationSampler()
    .setInput(accessor('SCALAR', [0, clip.seconds]))
    .setOutput(accessor('VEC3', [x, y, z, x + clip.by[0], y + clip.by[1], z + clip.by[2]]))
  const channel = doc.createAnimationChannel().setTargetNode(node).setTargetPath('translation').setSampler(sampler)
  doc.createAnimation(clip.name).addSampler(sampler).addChannel(channel)
  return io.writeBinary(doc)
}

/** The GLB with a scale (the file's axes, Y up) on its node of that name. */
export function withScale(glb: Uint8Array, name: string, scale: readonly [number, number, number]): Uint8Array {
  const view = new DataView(glb.buffer, glb.byteOffset, glb.byteLength)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as { nodes: { name?: string; scale?: readonly number[] }[] } // prettier-ignore
  for (const n of json.nodes) if (n.name === name) n.scale = scale
  const text = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(text.length / 4) * 4
  const rest = glb.subarray(20 + length)
  const out = new Uint8Array(20 + padded + rest.length).fill(0x20)
  out.set(glb.subarray(0, 20))
  out.set(text, 20)
  out.set(rest, 20 + padded)
  const head = new DataView(out.buffer)
  head.setUint32(8, out.length, true)
  head.setUint32(12, padded, true)
  return out
}
