// Is this a whole, readable GLB file, before anything is built from it?
// Model: container header, chunk table, JSON, and every accessor's range are checked; each refusal names what is wrong and what
// to do. Source: gltf2 (sections 4.4 and 3.6).

import { ok, refused, type Result } from '#core/base'

export type GlbReason =
  | 'empty'
  | 'not-glb'
  | 'old-version'
  | 'truncated'
  | 'bad-json'
  | 'wrong-type'
  | 'endless'
  | 'missing-buffer'
  | 'out-of-range'
  | 'no-mesh'

export interface GlbFacts {
  readonly sizeBytes: number
  readonly nodes: number
  readonly meshes: number
  readonly triangles: number
  readonly extensionsRequired: readonly string[]
}

interface Accessor {
  bufferView?: number
  byteOffset?: number
  count?: number
  componentType?: number
  type?: string
}
export interface GltfJson {
  asset?: { version?: string }
  scene?: number
  scenes?: { nodes?: number[] }[]
  extensionsUsed?: string[]
  images?: { uri?: string }[]
  textures?: unknown[]
  materials?: object[]
  accessors?: Accessor[]
  bufferViews?: { buffer?: number; byteOffset?: number; byteLength?: number; byteStride?: number }[]
  buffers?: { byteLength?: number; uri?: string }[]
  meshes?: { primitives?: { attributes?: Record<string, number>; indices?: number; mode?: number }[] }[]
  nodes?: { children?: number[]; mesh?: number }[]
  extensionsRequired?: string[]
}

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
const TYPE_SIZE: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 }

/** The first bytes alone decide whether an upload can be a GLB at all. Needs at least 12 bytes. */
export function glbHeader(head: Uint8Array): Result<{ lengthBytes: number }, GlbReason> {
  if (head.length < 12)
    return refused(head.length === 0 ? 'empty' : 'truncated', 'The file is empty or cut off. Export it again.')
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  if (view.getUint32(0, true) !== 0x46546c67)
    return refused('not-glb', 'This is not a GLB file. Export the model as binary glTF (.glb) and try again.')
  if (view.getUint32(4, true) !== 2)
    return refused(
      'old-version',
      `This is a GLB of version ${view.getUint32(4, true)}, which is no longer read. Export it as glTF 2.0.`,
    )
  return ok({ lengthBytes: view.getUint32(8, true) })
}

/** The description and the binary part of a complete GLB, or why they cannot be had. */
export function glbParts(bytes: Uint8Array): Result<{ json: GltfJson; bin: Uint8Array | null }, GlbReason> {
  const head = glbHeader(bytes)
  if (!head.ok) return head
  if (head.value.lengthBytes > bytes.length)
    return refused(
      'truncated',
      `The file is cut off: ${bytes.length} of ${head.value.lengthBytes} bytes are there. Export or copy it again.`,
    )
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const jsonLength = bytes.length >= 20 ? view.getUint32(12, true) : 0
  if (jsonLength === 0 || view.getUint32(16, true) !== 0x4e4f534a || 20 + jsonLength > bytes.length)
    return refused('bad-json', 'The file’s description is missing or cut off. Export it again.')
  let json: GltfJson
  try {
    json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(20, 20 + jsonLength))) as GltfJson
  } catch {
    return refused('bad-json', 'The file’s description cannot be read. Export it again.')
  }
  if (typeof json !== 'object' || json === null) return refused('bad-json', 'The file’s description is not an object.')
  const binAt = 20 + jsonLength
  const binLength = binAt + 8 <= bytes.length ? view.getUint32(binAt, true) : 0
  if (binAt + 8 + binLength > bytes.length && binLength > 0)
    return refused('truncated', 'The file’s binary part is cut off. Export or copy it again.')
  return ok({ json, bin: binLength > 0 ? bytes.subarray(binAt + 8, binAt + 8 + binLength) : null })
}

/** What a complete GLB holds, or why it cannot be read. */
export function inspectGlb(bytes: Uint8Array): Result<GlbFacts, GlbReason> {
  const parts = glbParts(bytes)
  if (!parts.ok) return parts
  const { json, bin } = parts.value
  const sound = checkGltf(json)
  if (!sound.ok) return sound
  const wrong = checkBuffers(json, bin?.length ?? 0) ?? checkAccessors(json)
  if (wrong) return wrong
  const triangles = countTriangles(json)
  if (triangles === 0) return refused('no-mesh', 'The file holds no triangles. Export the model with its meshes.')
  return ok({
    sizeBytes: bytes.length,
    nodes: json.nodes?.length ?? 0,
    meshes: json.meshes?.length ?? 0,
    triangles,
    extensionsRequired: json.extensionsRequired ?? [],
  })
}

const LISTS = [
  'accessors',
  'bufferViews',
  'buffers',
  'meshes',
  'nodes',
  'scenes',
  'images',
  'materials',
  'textures',
] as const

/** Whether a description of either container has the shape of glTF 2.0 and a tree of nodes that ends. */
export function checkGltf(json: GltfJson): Result<true, GlbReason> {
  const wrong = (what: string) => refused('wrong-type', `The file’s description is damaged: ${what}. Export it again.`)
  if (typeof json !== 'object' || json === null || Array.isArray(json)) return wrong('it is not an object')
  const version = json.asset?.version
  if (typeof version !== 'string') return wrong('it names no glTF version')
  if (!version.startsWith('2'))
    return refused('old-version', `This is glTF of version ${version.slice(0, 10)}; export it as glTF 2.0.`)
  const lists = json as Record<string, unknown>
  for (const name of LISTS) {
    const list = lists[name]
    if (list === undefined) continue
    if (!Array.isArray(list) || list.some((v) => typeof v !== 'object' || v === null || Array.isArray(v)))
      return wrong(`“${name}” is not a list of objects`)
  }
  const at = (i: unknown, list: readonly unknown[] | undefined): boolean =>
    typeof i === 'number' && Number.isInteger(i) && i >= 0 && i < (list?.length ?? 0)
  if (json.scene !== undefined && !at(json.scene, json.scenes)) return wrong('its scene does not exist')
  const parents = new Set<number>()
  for (const [i, n] of (json.nodes ?? []).entries()) {
    if (n.mesh !== undefined && !at(n.mesh, json.meshes)) return wrong(`node ${i} names a mesh that does not exist`)
    if (n.children !== undefined && !Array.isArray(n.children)) return wrong(`node ${i} has no list of children`)
    for (const c of n.children ?? []) {
      if (!at(c, json.nodes)) return wrong(`node ${i} names a child that does not exist`)
      if (parents.has(c) || c === i)
        return refused('endless', `Node ${c} lies below two others or itself. Export it again.`)
      parents.add(c)
    }
  }
  for (const [i, m] of (json.meshes ?? []).entries()) {
    if (!Array.isArray(m.primitives)) return wrong(`mesh ${i} has no list of parts`)
    for (const p of m.primitives) {
      if (typeof p !== 'object' || p === null) return wrong(`mesh ${i} has a part that is none`)
      const data = [...Object.values(p.attributes ?? {}), ...(p.indices === undefined ? [] : [p.indices])]
      if (!data.every((k) => at(k, json.accessors))) return wrong(`mesh ${i} names data that does not exist`)
    }
  }
  const fault = nameFault(json) ?? numberFault(json)
  if (fault) return wrong(fault)
  for (const [i, m] of (json.materials ?? []).entries()) {
    const fault = materialFault(m, (t) => at(t, json.textures))
    if (fault) return wrong(`material ${i}: ${fault}`)
  }
  for (const [i, a] of (json.accessors ?? []).entries())
    if (typeof a.count !== 'number' || !Number.isInteger(a.count) || a.count < 1 || !TYPE_SIZE[a.type ?? ''])
      return wrong(`accessor ${i} has no proper count or type`)
  return endless(json) ?? ok(true)
}

/** Names are texts wherever they stand: readers take them for such. */
function nameFault(json: GltfJson): string | null {
  for (const list of [...LISTS, 'animations', 'cameras', 'skins', 'samplers'] as const) {
    const items = (json as Record<string, unknown>)[list]
    if (!Array.isArray(items)) continue
    for (const [i, item] of items.entries()) {
      const name = (item as { name?: unknown } | null)?.name
      if (name !== undefined && typeof name !== 'string') return `number ${i} of “${list}” has a name that is no text`
    }
  }
  return null
}

const PLACING = { matrix: 16, translation: 3, rotation: 4, scale: 3 } as const

/** Places of nodes and layouts of data are numbers, as many as they must be. */
function numberFault(json: GltfJson): string | null {
  const isCount = (v: unknown): boolean => v === undefined || (typeof v === 'number' && Number.isInteger(v) && v >= 0)
  for (const [i, n] of (json.nodes ?? []).entries())
    for (const [key, count] of Object.entries(PLACING)) {
      const v = (n as Record<string, unknown>)[key]
      if (v === undefined) continue
      if (!Array.isArray(v) || v.length !== count || !v.every((x) => typeof x === 'number' && Number.isFinite(x)))
        return `the ${key} of node ${i} is not ${count} numbers`
    }
  for (const [i, v] of (json.bufferViews ?? []).entries())
    if (![v.buffer, v.byteOffset, v.byteLength, v.byteStride].every(isCount))
      return `buffer view ${i} has no proper numbers`
  for (const [i, a] of (json.accessors ?? []).entries())
    if (![a.bufferView, a.byteOffset].every(isCount) || !(a.componentType! in COMPONENT_BYTES))
      return `accessor ${i} has no proper numbers`
  for (const [i, b] of (json.buffers ?? []).entries())
    if (!isCount(b.byteLength) || (b.uri !== undefined && typeof b.uri !== 'string')) return `buffer ${i} is not proper`
  for (const [i, m] of (json.images ?? []).entries())
    if (m.uri !== undefined && typeof m.uri !== 'string') return `image ${i} has an address that is no text`
  for (const key of ['extensionsUsed', 'extensionsRequired'] as const) {
    const v: unknown = json[key]
    if (v !== undefined && (!Array.isArray(v) || !v.every((e) => typeof e === 'string')))
      return `“${key}” is not a list of names`
  }
  return null
}

function materialFault(material: object, isTexture: (i: unknown) => boolean): string | null {
  for (const [key, value] of Object.entries(material)) {
    if (key === 'extras') continue
    const group = key === 'pbrMetallicRoughness' || key === 'extensions' || key.endsWith('Texture')
    if (!group) continue
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return `“${key}” is not an object`
    if (key.endsWith('Texture') && !isTexture((value as { index?: unknown }).index))
      return `“${key}” names a picture that does not exist`
    if (key === 'pbrMetallicRoughness') {
      const inner = materialFault(value, isTexture)
      if (inner) return inner
    }
  }
  return null
}

/** A ring of nodes: with one parent each, a ring is what no root leads to. */
function endless(json: GltfJson): Result<never, GlbReason> | null {
  const nodes = json.nodes ?? []
  const below = new Set(nodes.flatMap((n) => n.children ?? []))
  let open = nodes.flatMap((_, i) => (below.has(i) ? [] : [i]))
  let reached = 0
  while (open.length > 0) {
    reached += open.length
    open = open.flatMap((i) => nodes[i]!.children ?? [])
  }
  if (reached === nodes.length) return null
  return refused('endless', 'Some nodes lie below themselves, so that the model has no end. Export it again.')
}

function checkBuffers(json: GltfJson, binLength: number): Result<never, GlbReason> | null {
  for (const [i, b] of (json.buffers ?? []).entries()) {
    if (b.uri !== undefined && !b.uri.startsWith('data:'))
      return refused(
        'missing-buffer',
        `The file refers to “${b.uri.slice(0, 80)}”, which is not in it. Export as one binary GLB.`,
      )
    if (b.uri === undefined && (i > 0 || (b.byteLength ?? 0) > binLength))
      return refused('missing-buffer', 'The file’s binary part is missing or too short. Export it again.')
  }
  return null
}

function checkAccessors(json: GltfJson): Result<never, GlbReason> | null {
  const views = json.bufferViews ?? []
  for (const [i, v] of views.entries()) {
    const buffer = json.buffers?.[v.buffer ?? -1]
    if (!buffer || (v.byteOffset ?? 0) + (v.byteLength ?? 0) > (buffer.byteLength ?? 0))
      return refused('out-of-range', `Buffer view ${i} points outside its buffer. Export the model again.`)
  }
  for (const [i, a] of (json.accessors ?? []).entries()) {
    if (a.bufferView === undefined) continue
    const v = views[a.bufferView]
    const element = (COMPONENT_BYTES[a.componentType ?? 0] ?? NaN) * (TYPE_SIZE[a.type ?? ''] ?? NaN)
    const need = (a.byteOffset ?? 0) + (v?.byteStride ?? element) * ((a.count ?? 0) - 1) + element
    if (!v || !Number.isFinite(need) || need > (v.byteLength ?? 0))
      return refused('out-of-range', `Accessor ${i} points outside its data. Export the model again.`)
  }
  return null
}

function countTriangles(json: GltfJson): number {
  let n = 0
  for (const m of json.meshes ?? [])
    for (const p of m.primitives ?? []) {
      if ((p.mode ?? 4) < 4) continue
      const at = p.indices ?? p.attributes?.['POSITION'] ?? -1
      const count = json.accessors?.[at]?.count ?? 0
      n += (p.mode ?? 4) === 4 ? Math.floor(count / 3) : Math.max(0, count - 2)
    }
  return n
}
