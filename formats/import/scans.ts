// How are STL and PLY files read?
// Model: three's loaders parse; the counts that a file promises are checked first, so that a cut-off file is named as such.
// Source: STL and PLY as commonly documented (common practice; PLY by its Stanford description).

import { type BufferGeometry } from 'three'
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js'
import { STLLoader } from 'three/addons/loaders/STLLoader.js'
import { AppError } from '#core/base'
import { statedUnit, type FileUnit } from '#core/placing'
import { PLAIN_MATERIAL, type DraftObject } from './draft.ts'
import type { PickedFile } from './types.ts'

export interface ReadScan {
  readonly objects: readonly DraftObject[]
  readonly stated: FileUnit | null
}
const broken = (message: string): AppError => new AppError('model-unreadable', message)
const stem = (name: string): string => name.replace(/\.[^.]*$/, '') || 'Model'
const head = (bytes: Uint8Array, length: number): string => new TextDecoder('latin1').decode(bytes.subarray(0, length))
const bufferOf = (bytes: Uint8Array): ArrayBuffer =>
  bytes.byteLength === bytes.buffer.byteLength
    ? (bytes.buffer as ArrayBuffer)
    : (bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer)

/** Whether the bytes look like a binary STL: their length follows from the count of triangles (or the count is what misleads). */
export function isBinaryStl(bytes: Uint8Array): boolean {
  if (bytes.length < 84) return false
  const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)
  if (84 + 50 * n === bytes.length) return true
  return !/^\s*solid/.test(head(bytes, 80)) || !/\b(facet|endsolid)\b/.test(head(bytes, 2000))
}

export function readStl(main: PickedFile): ReadScan {
  const { bytes } = main
  if (isBinaryStl(bytes)) {
    const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)
    if (84 + 50 * n > bytes.length)
      throw broken(`It is cut off: ${Math.floor((bytes.length - 84) / 50)} of ${n} triangles are there. Copy it again.`)
  } else {
    const text = head(bytes, bytes.length)
    const facets = text.match(/\bfacet\s+normal\b/g)?.length ?? 0
    const ends = text.match(/\bendfacet\b/g)?.length ?? 0
    if (facets !== ends || (facets > 0 && !/\bendsolid\b/.test(text)))
      throw broken(`It is cut off: ${ends} of ${facets} triangles are whole. Copy or export it again.`)
  }
  let geometry: BufferGeometry
  try {
    geometry = new STLLoader().parse(bufferOf(bytes))
  } catch (e) {
    throw broken(`It is not a sound STL file (${e instanceof Error ? e.message : String(e)}).`)
  }
  return { objects: objectsOf(geometry, stem(main.name)), stated: statedUnit(head(bytes, 80)) }
}

export function readPly(main: PickedFile): ReadScan {
  const { bytes } = main
  const start = head(bytes, 20_000)
  const header = start.slice(0, Math.max(0, start.indexOf('end_header')))
  if (!header) throw broken('Its header has no end: it is cut off, or not a PLY file.')
  const promised = (element: string): number =>
    Number(new RegExp(`element\\s+${element}\\s+(\\d+)`).exec(header)?.[1] ?? 0)
  if (promised('face') === 0) throw broken('It holds points without faces. Export a surface mesh.')
  if (/format\s+ascii/.test(header)) {
    let lines = 0
    for (let i = header.length; i < bytes.length; i++) if (bytes[i] === 10) lines++
    const wanted = promised('vertex') + promised('face')
    if (lines < wanted) throw broken(`It is cut off: ${lines} of ${wanted} lines are there. Copy it again.`)
  }
  let geometry: BufferGeometry
  try {
    geometry = new PLYLoader().parse(bufferOf(bytes))
  } catch (e) {
    throw broken(
      `It is cut off or not a sound PLY file (${e instanceof Error ? e.message : String(e)}). Copy it again.`,
    )
  }
  const corners = geometry.getAttribute('position')?.count ?? 0
  if (geometry.index && corners < promised('vertex'))
    throw broken(`It is cut off: ${corners} of ${promised('vertex')} corners are there. Copy it again.`)
  return { objects: objectsOf(geometry, stem(main.name)), stated: statedUnit(header) }
}

function objectsOf(geometry: BufferGeometry, name: string): DraftObject[] {
  if (!geometry.getAttribute('position')) return []
  const n = geometry.getAttribute('position').count
  const { index } = geometry
  if (index) {
    const indices = index.array
    for (let i = 0; i < indices.length; i++)
      if (!(indices[i]! < n))
        throw broken(`Face ${Math.floor(i / 3) + 1} names corner ${indices[i]}, but there are ${n}.`)
  }
  // scans seldom have normals, and a facet's written normal is often nought
  const normal = geometry.getAttribute('normal')
  if (!normal || !soundNormals(normal.array as Float32Array)) geometry.computeVertexNormals()
  const array = (key: string): Float32Array | null =>
    (geometry.getAttribute(key)?.array as Float32Array | undefined) ?? null
  // colours may come as bytes: the attribute knows how they are meant
  const colour = geometry.getAttribute('color')
  const rgb =
    colour?.itemSize === 3
      ? Float32Array.from({ length: n * 3 }, (_, i) => colour.getComponent(Math.floor(i / 3), i % 3))
      : null
  return [
    {
      name,
      parts: [
        {
          material: { ...PLAIN_MATERIAL, colour: rgb ? [1, 1, 1, 1] : PLAIN_MATERIAL.colour },
          positions: array('position')!,
          normals: array('normal'),
          uvs: array('uv'),
          colours: rgb,
          indices: index ? Uint32Array.from(index.array) : null,
        },
      ],
    },
  ]
}

function soundNormals(normals: Float32Array): boolean {
  for (let i = 0; i < normals.length; i += 3) {
    const l = normals[i]! ** 2 + normals[i + 1]! ** 2 + normals[i + 2]! ** 2
    if (!(l > 0.5 && l < 2)) return false
  }
  return true
}
