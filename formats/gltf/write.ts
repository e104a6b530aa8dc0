// How is a scene written as a GLB file?
// Model: glTF 2.0 binary container, one buffer, float positions, normals and texture coordinates, 8-bit colours, 32-bit indices.
// Space: callers hand over world metres with Z up; the file has Y up as glTF demands, (x, y, z) -> (x, z, -y).
// Source: gltf2 (ISO/IEC 12113).

export interface GltfMaterial {
  readonly name: string
  /** Linear RGBA. */
  readonly baseColour: readonly [number, number, number, number]
  readonly roughness: number
  readonly metallic: number
  readonly emissive?: readonly [number, number, number]
  readonly emissiveStrength?: number
  /** Name of an image that multiplies the base colour. */
  readonly image?: string
  readonly blend?: boolean
  readonly doubleSided?: boolean
}

export interface GltfPrimitive {
  readonly material: string
  readonly positions: Float32Array
  readonly normals: Float32Array
  readonly uvs: Float32Array
  readonly colours: Uint8Array
  readonly indices: Uint32Array
}

export interface GltfNode {
  readonly name: string
  readonly extras?: Readonly<Record<string, unknown>>
  readonly primitives?: readonly GltfPrimitive[]
  readonly children?: readonly GltfNode[]
}

export interface GltfImage {
  readonly name: string
  readonly png: Uint8Array
}

export interface GltfScene {
  readonly nodes: readonly GltfNode[]
  readonly materials: readonly GltfMaterial[]
  readonly images: readonly GltfImage[]
  readonly generator: string
}

const FLOAT = 5126
const UNSIGNED_INT = 5125
const UNSIGNED_BYTE = 5121
type Json = Record<string, unknown>

/** Collects binary views on 4-byte boundaries. */
class BufferBuilder {
  readonly views: Json[] = []
  readonly accessors: Json[] = []
  private readonly chunks: Uint8Array[] = []
  length = 0

  view(data: Uint8Array, target?: number): number {
    this.views.push({ buffer: 0, byteOffset: this.length, byteLength: data.length, ...(target ? { target } : {}) })
    this.chunks.push(data)
    this.length += data.length
    const pad = (4 - (this.length % 4)) % 4
    if (pad) this.chunks.push(new Uint8Array(pad))
    this.length += pad
    return this.views.length - 1
  }

  accessor(
    data: Float32Array | Uint32Array | Uint8Array,
    type: string,
    size: number,
    extra: Json = {},
    target = 34962,
  ): number {
    const componentType =
      data instanceof Float32Array ? FLOAT : data instanceof Uint32Array ? UNSIGNED_INT : UNSIGNED_BYTE
    const bufferView = this.view(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), target)
    this.accessors.push({ bufferView, componentType, count: data.length / size, type, ...extra })
    return this.accessors.length - 1
  }

  bytes(): Uint8Array {
    const out = new Uint8Array(this.length)
    let at = 0
    for (const c of this.chunks) {
      out.set(c, at)
      at += c.length
    }
    return out
  }
}

/** Z up -> Y up, in a new array of triples. */
function turned(v: Float32Array): Float32Array {
  const out = new Float32Array(v.length)
  for (let i = 0; i < v.length; i += 3) {
    out[i] = v[i]!
    out[i + 1] = v[i + 2]!
    out[i + 2] = -v[i + 1]!
  }
  return out
}

function bounds(v: Float32Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < v.length; i++) {
    min[i % 3] = Math.min(min[i % 3]!, v[i]!)
    max[i % 3] = Math.max(max[i % 3]!, v[i]!)
  }
  return { min, max }
}

const materialJson = (m: GltfMaterial, texture: number | undefined): Json => ({
  name: m.name,
  pbrMetallicRoughness: {
    baseColorFactor: m.baseColour,
    metallicFactor: m.metallic,
    roughnessFactor: m.roughness,
    ...(texture === undefined ? {} : { baseColorTexture: { index: texture } }),
  },
  ...(m.emissive ? { emissiveFactor: m.emissive } : {}),
  ...(m.emissiveStrength
    ? { extensions: { KHR_materials_emissive_strength: { emissiveStrength: m.emissiveStrength } } }
    : {}),
  ...(m.blend ? { alphaMode: 'BLEND' } : {}),
  ...(m.doubleSided ? { doubleSided: true } : {}),
})

/** The GLB's bytes; the same scene always gives the same bytes. RangeError when a primitive names an unknown material or image. */
export function writeGlb(scene: GltfScene): Uint8Array {
  const buffer = new BufferBuilder()
  const imageAt = new Map(scene.images.map((im, i) => [im.name, i]))
  const materialAt = new Map(scene.materials.map((m, i) => [m.name, i]))
  const images = scene.images.map((im) => ({ name: im.name, mimeType: 'image/png', bufferView: buffer.view(im.png) }))
  const find = (map: Map<string, number>, key: string, what: string): number => {
    const i = map.get(key)
    if (i === undefined) throw new RangeError(`writeGlb: ${what} = ${key} is not in the scene`)
    return i
  }
  const materials = scene.materials.map((m) => materialJson(m, m.image ? find(imageAt, m.image, 'image') : undefined))
  const nodes: Json[] = []
  const meshes: Json[] = []

  const primitiveJson = (p: GltfPrimitive): Json => {
    const positions = turned(p.positions)
    return {
      material: find(materialAt, p.material, 'material'),
      attributes: {
        POSITION: buffer.accessor(positions, 'VEC3', 3, bounds(positions)),
        NORMAL: buffer.accessor(turned(p.normals), 'VEC3', 3),
        TEXCOORD_0: buffer.accessor(p.uvs, 'VEC2', 2),
        COLOR_0: buffer.accessor(p.colours, 'VEC4', 4, { normalized: true }),
      },
      indices: buffer.accessor(p.indices, 'SCALAR', 1, {}, 34963),
    }
  }
  const addNode = (n: GltfNode): number => {
    const json: Json = { name: n.name }
    const at = nodes.push(json) - 1
    if (n.extras) json['extras'] = n.extras
    if (n.primitives?.length)
      json['mesh'] = meshes.push({ name: n.name, primitives: n.primitives.map(primitiveJson) }) - 1
    if (n.children?.length) json['children'] = n.children.map(addNode)
    return at
  }
  const roots = scene.nodes.map(addNode)
  const emissive = scene.materials.some((m) => m.emissiveStrength)
  const json = {
    asset: { version: '2.0', generator: scene.generator },
    scene: 0,
    scenes: [{ nodes: roots }],
    nodes,
    meshes,
    materials,
    ...(images.length
      ? {
          images,
          samplers: [{ magFilter: 9729, minFilter: 9987 }],
          textures: images.map((_, source) => ({ source, sampler: 0 })),
        }
      : {}),
    ...(emissive ? { extensionsUsed: ['KHR_materials_emissive_strength'] } : {}),
    accessors: buffer.accessors,
    bufferViews: buffer.views,
    buffers: [{ byteLength: buffer.length }],
  }
  return assemble(new TextEncoder().encode(JSON.stringify(json)), buffer.bytes())
}

function assemble(json: Uint8Array, bin: Uint8Array): Uint8Array {
  const jsonLength = Math.ceil(json.length / 4) * 4
  const out = new Uint8Array(12 + 8 + jsonLength + 8 + bin.length)
  const view = new DataView(out.buffer)
  view.setUint32(0, 0x46546c67, true)
  view.setUint32(4, 2, true)
  view.setUint32(8, out.length, true)
  view.setUint32(12, jsonLength, true)
  view.setUint32(16, 0x4e4f534a, true)
  out.fill(0x20, 20, 20 + jsonLength)
  out.set(json, 20)
  view.setUint32(20 + jsonLength, bin.length, true)
  view.setUint32(24 + jsonLength, 0x004e4942, true)
  out.set(bin, 28 + jsonLength)
  return out
}
