// How does a model read from a format other than glTF become a GLB?
// Model: readers fill this plain draft; the glTF library writes it. Coordinates and axes stay as they are in the file.

import { Document, WebIO, type Buffer, type Material, type Texture } from '@gltf-transform/core'

export interface DraftMaterial {
  readonly name: string
  /** Linear RGBA. */
  readonly colour: readonly [number, number, number, number]
  readonly roughness: number
  readonly metallic: number
  readonly emissive: readonly [number, number, number]
  readonly picture: { readonly name: string; readonly bytes: Uint8Array } | null
  readonly doubleSided: boolean
}
export interface DraftPart {
  readonly material: DraftMaterial
  /** In the file's own units and axes; doubles where the file has them. */
  readonly positions: Float32Array | Float64Array
  readonly normals: Float32Array | null
  readonly uvs: Float32Array | null
  /** Linear RGB for each vertex, 0..1. */
  readonly colours: Float32Array | null
  readonly indices: Uint32Array | null
}
export interface DraftObject {
  readonly name: string
  readonly parts: readonly DraftPart[]
}

export const PLAIN_MATERIAL: DraftMaterial = {
  name: 'Plain',
  colour: [0.6, 0.6, 0.58, 1],
  roughness: 0.7,
  metallic: 0,
  emissive: [0, 0, 0],
  picture: null,
  doubleSided: true,
}

const MIME: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
}
/** The media type of a picture's name; null for kinds that no browser shows. */
export const pictureType = (name: string): string | null =>
  MIME[name.slice(name.lastIndexOf('.') + 1).toLowerCase()] ?? null

/** Beyond this many times its own size from the origin, a model's corners would be shaken by 32-bit numbers. */
const FAR = 100

/** Where the corners are written about: the file's origin, or a whole-numbered point near the middle of a model far from it. */
function originOf(objects: readonly DraftObject[]): [number, number, number] {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const { positions: p } of objects.flatMap((o) => o.parts))
    for (let i = 0; i < p.length; i++) {
      const k = i % 3
      if (p[i]! < min[k]!) min[k] = p[i]!
      if (p[i]! > max[k]!) max[k] = p[i]!
    }
  const size = Math.max(...[0, 1, 2].map((k) => max[k]! - min[k]!))
  const far = Math.max(...[0, 1, 2].map((k) => Math.abs(max[k]! + min[k]!) / 2))
  if (!(far > FAR * size) || !Number.isFinite(far)) return [0, 0, 0]
  return [0, 1, 2].map((k) => Math.round((max[k]! + min[k]!) / 2)) as [number, number, number]
}

export function glbOfDraft(objects: readonly DraftObject[]): Promise<Uint8Array> {
  const origin = originOf(objects)
  const doc = new Document()
  doc.getRoot().getAsset().generator = 'Yoroi'
  const buffer = doc.createBuffer()
  const scene = doc.createScene()
  const materials = new Map<DraftMaterial, Material>()
  const pictures = new Map<Uint8Array, Texture>()
  const picture = (p: NonNullable<DraftMaterial['picture']>): Texture => {
    let t = pictures.get(p.bytes)
    if (!t) {
      t = doc.createTexture(p.name).setImage(p.bytes as Uint8Array<ArrayBuffer>)
      pictures.set(p.bytes, t.setMimeType(pictureType(p.name) ?? 'image/png'))
    }
    return t
  }
  const material = (m: DraftMaterial): Material => {
    let made = materials.get(m)
    if (made) return made
    made = doc
      .createMaterial(m.name)
      .setBaseColorFactor([...m.colour])
      .setRoughnessFactor(m.roughness)
      .setMetallicFactor(m.metallic)
      .setEmissiveFactor([...m.emissive])
      .setDoubleSided(m.doubleSided)
      .setAlphaMode(m.colour[3] < 1 ? 'BLEND' : 'OPAQUE')
    if (m.picture) made.setBaseColorTexture(picture(m.picture))
    materials.set(m, made)
    return made
  }
  for (const o of objects) {
    const mesh = doc.createMesh(o.name)
    for (const part of o.parts)
      mesh.addPrimitive(primitive(doc, buffer, part, origin).setMaterial(material(part.material)))
    scene.addChild(doc.createNode(o.name).setMesh(mesh).setTranslation(origin))
  }
  return new WebIO().writeBinary(doc)
}

type Elements = 'SCALAR' | 'VEC2' | 'VEC3'

function primitive(doc: Document, buffer: Buffer, part: DraftPart, origin: readonly [number, number, number]) {
  const { positions } = part
  const about =
    origin.some((v) => v !== 0) || positions instanceof Float64Array
      ? Float32Array.from(positions, (v, i) => v - origin[i % 3]!)
      : positions
  const accessor = (array: Float32Array | Uint32Array, type: Elements) =>
    doc
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer)
  const p = doc.createPrimitive().setAttribute('POSITION', accessor(about, 'VEC3'))
  if (part.normals) p.setAttribute('NORMAL', accessor(part.normals, 'VEC3'))
  if (part.uvs) p.setAttribute('TEXCOORD_0', accessor(part.uvs, 'VEC2'))
  if (part.colours) p.setAttribute('COLOR_0', accessor(part.colours, 'VEC3'))
  if (part.indices) p.setIndices(accessor(part.indices, 'SCALAR'))
  return p
}
