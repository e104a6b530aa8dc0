// How is a PLY file read?
// Model: the header says what follows; every element is read, text or binary of either order of bytes. Faces of any number of
// corners are cut properly; strips of triangles are read too. Source: PLY by its Stanford description (common practice).
// Rejected: three's loader: faces of more than four corners are dropped, concave ones of four cut wrongly.

import { AppError } from '#core/base'
import { statedUnit } from '#core/placing'
import { PLAIN_MATERIAL, type DraftObject } from './draft.ts'
import { areSound, cornerNormals } from './normals.ts'
import { linearOf, words } from './numbers.ts'
import { triangulate } from './polygons.ts'
import type { ReadScan } from './stl.ts'
import { headOf, stemOf, type PickedFile } from './types.ts'

const broken = (message: string): AppError => new AppError('model-unreadable', message)

type Kind = 'int8' | 'uint8' | 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'float64'
const KINDS: Readonly<Record<string, Kind>> = {
  char: 'int8', int8: 'int8', uchar: 'uint8', uint8: 'uint8', short: 'int16', int16: 'int16', ushort: 'uint16', uint16: 'uint16',
  int: 'int32', int32: 'int32', uint: 'uint32', uint32: 'uint32', float: 'float32', float32: 'float32', double: 'float64', float64: 'float64',
} // prettier-ignore
const BYTES: Readonly<Record<Kind, number>> = { int8: 1, uint8: 1, int16: 2, uint16: 2, int32: 4, uint32: 4, float32: 4, float64: 8 } // prettier-ignore

interface Property {
  readonly name: string
  readonly kind: Kind
  /** Kind of the count, for a list. */
  readonly count: Kind | null
}
interface Element {
  readonly name: string
  readonly count: number
  readonly properties: Property[]
}
interface Header {
  readonly format: 'ascii' | 'little' | 'big'
  readonly elements: readonly Element[]
  readonly text: string
  readonly bodyAt: number
}

export function readPly(main: PickedFile): ReadScan {
  const header = headerOf(main.bytes)
  const faces = header.elements.find((e) => e.name === 'face' || e.name === 'tristrips')
  if (!faces || faces.count === 0) throw broken('It holds points without faces. Export a surface mesh.')
  const next = header.format === 'ascii' ? textSource(main.bytes, header) : binarySource(main.bytes, header)
  const mesh = new PlyMesh()
  for (const element of header.elements) readElement(element, next, mesh)
  return { objects: mesh.objects(stemOf(main.name)), stated: statedUnit(header.text) }
}

const HEADER_LIMIT = 65_536

function headerOf(bytes: Uint8Array): Header {
  const start = headOf(bytes, HEADER_LIMIT)
  const end = /end_header[ \t]*(\r\n|\n|\r)/i.exec(start)
  if (!end) throw broken('Its header has no end: it is cut off, or not a PLY file.')
  const text = start.slice(0, end.index)
  const elements: Element[] = []
  let format: Header['format'] = 'ascii'
  for (const line of text.split(/\r\n|\n|\r/)) {
    const w = words(line)
    const word = w[0]?.toLowerCase()
    if (word === 'format') format = /little/i.test(w[1] ?? '') ? 'little' : /big/i.test(w[1] ?? '') ? 'big' : 'ascii'
    if (word === 'element') elements.push({ name: (w[1] ?? '').toLowerCase(), count: countOf(w[2]), properties: [] })
    if (word === 'property') elements.at(-1)?.properties.push(propertyOf(w, line))
  }
  return { format, elements, text, bodyAt: end.index + end[0].length }
}

function countOf(text: string | undefined): number {
  const n = Number(text)
  if (!Number.isInteger(n) || n < 0 || n > 2 ** 31)
    throw broken(`Its header promises “${(text ?? '').slice(0, 20)}” of something, which is no count.`)
  return n
}
function propertyOf(w: readonly string[], line: string): Property {
  const kind = (t: string | undefined): Kind => {
    const k = KINDS[t?.toLowerCase() ?? '']
    if (!k) throw broken(`Its header has a line that is not understood: “${line.trim().slice(0, 60)}”.`)
    return k
  }
  if (w[1]?.toLowerCase() === 'list') return { count: kind(w[2]), kind: kind(w[3]), name: (w[4] ?? '').toLowerCase() }
  return { count: null, kind: kind(w[1]), name: (w[2] ?? '').toLowerCase() }
}

/** Gives the next value of a kind; NaN past the end. */
type Source = (kind: Kind) => number

function textSource(bytes: Uint8Array, header: Header): Source {
  let at = header.bodyAt
  return () => {
    while (at < bytes.length && bytes[at]! <= 32) at++
    const from = at
    while (at < bytes.length && bytes[at]! > 32) at++
    if (from === at) return NaN
    let text = ''
    for (let i = from; i < at && i < from + 40; i++) text += String.fromCharCode(bytes[i]!)
    return Number(text)
  }
}
function binarySource(bytes: Uint8Array, header: Header): Source {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const little = header.format === 'little'
  let at = header.bodyAt
  return (kind) => {
    const from = at
    at += BYTES[kind]
    if (at > bytes.length) return NaN
    switch (kind) {
      case 'int8': return view.getInt8(from)
      case 'uint8': return view.getUint8(from)
      case 'int16': return view.getInt16(from, little)
      case 'uint16': return view.getUint16(from, little)
      case 'int32': return view.getInt32(from, little)
      case 'uint32': return view.getUint32(from, little)
      case 'float32': return view.getFloat32(from, little)
      case 'float64': return view.getFloat64(from, little)
    } // prettier-ignore
  }
}

const FACE_LISTS = new Set(['vertex_indices', 'vertex_index'])

function readElement(element: Element, next: Source, mesh: PlyMesh): void {
  const isVertex = element.name === 'vertex'
  const columns = isVertex ? mesh.columns(element) : null
  for (let i = 0; i < element.count; i++)
    for (const [c, p] of element.properties.entries()) {
      if (p.count === null) {
        const v = next(p.kind)
        if (columns) columns[c]!(v, p.kind)
        // one value past the end is enough to know
        if (Number.isNaN(v) && !isVertex) throw cutOff(element, i)
        continue
      }
      const n = next(p.count)
      if (!Number.isInteger(n) || n < 0) throw cutOff(element, i)
      const list: number[] = []
      for (let k = 0; k < n; k++) {
        const v = next(p.kind)
        if (Number.isNaN(v)) throw cutOff(element, i)
        list.push(v)
      }
      if (element.name === 'face' && FACE_LISTS.has(p.name)) mesh.face(list, i)
      else if (element.name === 'tristrips') mesh.strips(list, i)
    }
  if (isVertex) mesh.checkCorners(element)
}
const WORDS: Readonly<Record<string, string>> = { vertex: 'corners', face: 'faces' }
const cutOff = (e: Element, at: number): AppError =>
  broken(`It is cut off: ${at} of ${e.count} ${WORDS[e.name] ?? e.name} are there. Copy it again.`)

class PlyMesh {
  private count = 0
  private positions = new Float64Array(0)
  private normals: Float32Array | null = null
  private uvs: Float32Array | null = null
  private colours: Float32Array | null = null
  private readonly indices: number[] = []

  /** For each property of the corners, what takes its next value. */
  columns(element: Element): ((v: number, kind: Kind) => void)[] {
    const n = element.count
    this.count = n
    this.positions = new Float64Array(n * 3)
    const has = (...names: string[]): boolean => names.every((name) => element.properties.some((p) => p.name === name))
    if (!has('x', 'y', 'z')) throw broken('Its corners have no x, y and z.')
    if (has('nx', 'ny', 'nz')) this.normals = new Float32Array(n * 3)
    if (has('red', 'green', 'blue')) this.colours = new Float32Array(n * 3)
    const uv = (['u,v', 's,t', 'texture_u,texture_v', 'texture_s,texture_t'] as const).map((t) => t.split(',')).find((t) => has(...t)) // prettier-ignore
    if (uv) this.uvs = new Float32Array(n * 2)
    return element.properties.map((p) => {
      let i = 0
      const into = (array: Float32Array | Float64Array | null, size: number, k: number) => (v: number) =>
        void (array && (array[i++ * size + k] = v))
      const xyz = ['x', 'y', 'z'].indexOf(p.name)
      if (xyz >= 0) return into(this.positions, 3, xyz)
      const normal = ['nx', 'ny', 'nz'].indexOf(p.name)
      if (normal >= 0) return into(this.normals, 3, normal)
      const rgb = ['red', 'green', 'blue'].indexOf(p.name)
      if (rgb >= 0) {
        const put = into(this.colours, 3, rgb)
        return (v, kind) => put(linearOf(Math.min(1, Math.max(0, v / (kind.startsWith('float') ? 1 : 255)))))
      }
      if (uv?.includes(p.name)) {
        const k = uv.indexOf(p.name)
        // v counts from the bottom here, from the top in glTF
        const put = into(this.uvs, 2, k)
        return k === 1 ? (v) => put(1 - v) : put
      }
      return () => undefined
    })
  }

  checkCorners(element: Element): void {
    const wrong = this.positions.findIndex((v) => !Number.isFinite(v))
    if (wrong >= 0) throw cutOff(element, Math.floor(wrong / 3))
  }

  face(corners: readonly number[], number: number): void {
    for (const c of corners) this.check(c, number)
    for (const i of triangulate(corners.length, (i, k) => this.positions[corners[i]! * 3 + k]!))
      this.indices.push(corners[i]!)
  }

  /** Strips of triangles, ended by -1; every second one turns the other way. */
  strips(corners: readonly number[], number: number): void {
    let from = 0
    for (let i = 0; i < corners.length; i++) {
      if (corners[i]! < 0) {
        from = i + 1
        continue
      }
      this.check(corners[i]!, number)
      if (i - from < 2) continue
      const [a, b, c] = [corners[i - 2]!, corners[i - 1]!, corners[i]!]
      this.indices.push(...((i - from) % 2 === 0 ? [a, b, c] : [b, a, c]))
    }
  }
  private check(corner: number, face: number): void {
    if (!(corner >= 0 && corner < this.count))
      throw broken(`Face ${face + 1} names corner ${corner}, but there are ${this.count}.`)
  }

  objects(name: string): DraftObject[] {
    if (this.count === 0 || this.indices.length === 0) return []
    const indices = Uint32Array.from(this.indices)
    const normals = this.normals && areSound(this.normals) ? this.normals : cornerNormals(Float32Array.from(this.positions), indices) // prettier-ignore
    const { colours } = this
    const material = { ...PLAIN_MATERIAL, colour: colours ? ([1, 1, 1, 1] as const) : PLAIN_MATERIAL.colour }
    const uvs = this.uvs?.every(Number.isFinite) ? this.uvs : null
    return [{ name, parts: [{ material, positions: this.positions, normals, uvs, colours, indices }] }]
  }
}
