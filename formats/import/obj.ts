// How is an OBJ file read?
// Model: one pass over its lines; what is wrong is named by its line. Faces of any number of corners are cut properly, lines and
// points beside them are passed over. Keywords in either case, numbers below nought, continued lines, colours behind the corners.
// Source: Wavefront OBJ as commonly documented (common practice).
// Rejected: three's loader: it fans concave faces, drops an object's faces when a line follows them, and knows no CR alone.

import { AppError } from '#core/base'
import { statedUnit, type FileUnit } from '#core/placing'
import type { DraftObject } from './draft.ts'
import { materialsOf } from './mtl.ts'
import { unit } from './normals.ts'
import { Doubles, eachLine, linearOf, textOf, words } from './numbers.ts'
import { newell, triangulate } from './polygons.ts'
import type { PickedFile } from './types.ts'

export interface ReadObj {
  readonly objects: readonly DraftObject[]
  readonly missingTextures: readonly string[]
  readonly stated: FileUnit | null
}

/** Faces of one material in one object, three corners each. */
class Part {
  readonly positions = new Doubles()
  readonly normals = new Doubles()
  readonly uvs = new Doubles()
  readonly colours = new Doubles()
  hasUvs = false
  hasColours = false
  readonly materialName: string
  constructor(materialName: string) {
    this.materialName = materialName
  }
}
interface Obj {
  readonly name: string
  readonly parts: Map<string, Part>
}

export function readObj(main: PickedFile, others: readonly PickedFile[]): ReadObj {
  const text = textOf(main.bytes)
  const reader = new ObjReader()
  let joined = ''
  let comments = ''
  eachLine(text, (raw, number) => {
    // a backslash at its end: the line goes on
    if (raw.endsWith('\\')) {
      joined += `${raw.slice(0, -1)} `
      return
    }
    const line = joined + raw
    joined = ''
    if (number < 100 && line.startsWith('#')) comments += `${line}\n`
    reader.line(line, number)
  })
  const library = materialsOf(reader.libraries, others)
  const objects = reader.objects
    .filter((o) => o.parts.size > 0)
    .map((o, i) => ({
      name: o.name || `Object ${i + 1}`,
      parts: [...o.parts.values()].map((p) => ({
        material: library.material(p.materialName),
        positions: p.positions.values(),
        normals: Float32Array.from(p.normals.values()),
        uvs: p.hasUvs ? Float32Array.from(p.uvs.values()) : null,
        colours: p.hasColours ? Float32Array.from(p.colours.values()) : null,
        indices: null,
      })),
    }))
  return { objects, missingTextures: library.missing, stated: statedUnit(comments) }
}

const SIZE = { v: 3, vt: 2, vn: 3 } as const

class ObjReader {
  readonly libraries: string[] = []
  readonly objects: Obj[] = []
  private readonly v = new Doubles()
  private readonly vt = new Doubles()
  private readonly vn = new Doubles()
  /** Linear RGB of each corner; filled up with white once one corner has a colour. */
  private readonly vc = new Doubles()
  private object: Obj = this.begin('')
  private material = ''
  private part: Part | null = null

  line(line: string, number: number): void {
    const [word, ...rest] = words(line)
    switch (word?.toLowerCase()) {
      case 'v':
        this.position(rest, line, number)
        break
      case 'vt':
        this.numbers(this.vt, [rest[0], rest[1] ?? '0'], line, number)
        break
      case 'vn':
        this.numbers(this.vn, rest.slice(0, 3), line, number, 3)
        break
      case 'f':
        this.face(rest, number)
        break
      case 'o':
      case 'g':
        this.object = this.begin(rest.join(' '))
        this.part = null
        break
      case 'usemtl':
        this.material = rest.join(' ')
        this.part = null
        break
      case 'mtllib':
        this.libraries.push(rest.join(' '))
        break
    }
  }

  private begin(name: string): Obj {
    const o = { name, parts: new Map<string, Part>() }
    this.objects.push(o)
    return o
  }

  private numbers(
    into: Doubles,
    texts: readonly (string | undefined)[],
    line: string,
    number: number,
    least = 1,
  ): void {
    const values = texts.map(Number)
    if (values.length < least || !values.every((v) => Number.isFinite(v)) || texts.some((t) => !t))
      throw new AppError('model-unreadable', `Line ${number}: “${line.trim().slice(0, 60)}” is not a position.`)
    for (const v of values) into.push(v)
  }

  private position(rest: readonly string[], line: string, number: number): void {
    this.numbers(this.v, rest.slice(0, 3), line, number, 3)
    const rgb = rest.length >= 6 ? rest.slice(-3).map(Number) : null
    const count = this.v.length / 3
    if (!rgb?.every((c) => Number.isFinite(c))) return
    // values of a byte are written too
    const full = Math.max(...rgb) > 1 ? 255 : 1
    while (this.vc.length < (count - 1) * 3) this.vc.push(1)
    for (const c of rgb) this.vc.push(linearOf(Math.min(1, Math.max(0, c / full))))
  }

  /** Where a corner's number (from 1, or below nought from the end) points; null where it is left out. */
  private index(text: string | undefined, kind: keyof typeof SIZE, corner: string, number: number): number | null {
    if (!text) return null
    const count = this[kind].length / SIZE[kind]
    const n = Number.parseInt(text, 10)
    const at = n < 0 ? count + n : n - 1
    if (at >= 0 && at < count) return at
    const what = { v: 'corner', vt: 'texture point', vn: 'normal' }[kind]
    const shown = (kind === 'v' ? corner.split('/')[0]! : corner).slice(0, 20)
    throw new AppError('model-unreadable', `Line ${number}: a face names ${what} ${shown}, but there are ${count}.`)
  }

  private face(corners: readonly string[], number: number): void {
    if (corners.length < 3) return
    const at = corners.map((corner) => {
      const [v, vt, vn] = corner.split('/')
      const position = this.index(v || 'none', 'v', corner, number)!
      return { v: position, vt: this.index(vt, 'vt', corner, number), vn: this.index(vn, 'vn', corner, number) }
    })
    const p = (i: number, k: number): number => this.v.at(at[i]!.v * 3 + k)
    const flat = unit(...newell(at.length, p))
    const part = this.partNow()
    const hasUvs = at.every((c) => c.vt !== null)
    const hasColours = this.vc.length > 0
    for (const i of triangulate(at.length, p)) {
      const c = at[i]!
      for (let k = 0; k < 3; k++) part.positions.push(p(i, k))
      const own = c.vn === null ? null : ([0, 1, 2].map((k) => this.vn.at(c.vn! * 3 + k)) as [number, number, number])
      for (const n of own && Math.hypot(...own) > 0 ? unit(...own) : flat) part.normals.push(n)
      // OBJ counts v from the bottom, glTF from the top
      part.uvs.push(hasUvs ? this.vt.at(c.vt! * 2) : 0)
      part.uvs.push(hasUvs ? 1 - this.vt.at(c.vt! * 2 + 1) : 0)
      for (let k = 0; k < 3; k++) part.colours.push(c.v * 3 + k < this.vc.length ? this.vc.at(c.v * 3 + k) : 1)
    }
    part.hasUvs ||= hasUvs
    part.hasColours ||= hasColours
  }

  private partNow(): Part {
    if (this.part) return this.part
    const { parts } = this.object
    let part = parts.get(this.material)
    if (!part) parts.set(this.material, (part = new Part(this.material)))
    return (this.part = part)
  }
}
