// Is this a whole, readable GLB file, before anything is built from it?
// Model: container header, chunk table, JSON, and every accessor's range are checked; each refusal names what is wrong and what
// to do. Source: gltf2 (sections 4.4 and 3.6).

import { ok, refused, type Result } from '#core/base'

export type GlbReason =
  'empty' | 'not-glb' | 'old-version' | 'truncated' | 'bad-json' | 'missing-buffer' | 'out-of-range' | 'no-mesh'

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
interface Json {
  accessors?: Accessor[]
  bufferViews?: { buffer?: number; byteOffset?: number; byteLength?: number; byteStride?: number }[]
  buffers?: { byteLength?: number; uri?: string }[]
  meshes?: { primitives?: { attributes?: Record<string, number>; indices?: number; mode?: number }[] }[]
  nodes?: unknown[]
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
    return refused('old-version', `This is a GLB of version ${view.getUint32(4, true)}; export it as glTF 2.0.`)
  return ok({ lengthBytes: view.getUint32(8, true) })
}

/** What a complete GLB holds, or why it cannot be read. */
export function inspectGlb(bytes: Uint8Array): Result<GlbFacts, GlbReason> {
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
  let json: Json
  try {
    json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(20, 20 + jsonLength))) as Json
  } catch {
    return refused('bad-json', 'The file’s description cannot be read. Export it again.')
  }
  if (typeof json !== 'object' || json === null) return refused('bad-json', 'The file’s description is not an object.')
  const binAt = 20 + jsonLength
  const binLength = binAt + 8 <= bytes.length ? view.getUint32(binAt, true) : 0
  if (binAt + 8 + binLength > bytes.length && binLength > 0)
    return refused('truncated', 'The file’s binary part is cut off. Export or copy it again.')
  const bin = checkBuffers(json, binLength)
  if (bin) return bin
  const range = checkAccessors(json)
  if (range) return range
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

function checkBuffers(json: Json, binLength: number): Result<never, GlbReason> | null {
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

function checkAccessors(json: Json): Result<never, GlbReason> | null {
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

function countTriangles(json: Json): number {
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
