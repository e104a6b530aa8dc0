// A colour table (.cube): read, kept as text in a document, looked up.
// Model: a cube of colours over the red, green and blue of the finished picture (0..1, or the domain that the file states), red fastest;
// between its places trilinear. Kept in 16 bits a channel over 0..1: within 1/131070 of the file at its places.
// Source: cube-lut-1.0 (the format, published 2013). Rejected: one-dimensional tables, which a tone curve serves better.

export interface ColourTable {
  /** Places a side. */
  readonly size: number
  /** Red, green, blue of each place, 0..1; red fastest. */
  readonly values: Float32Array
}
export const TABLE_SIDE = { least: 2, most: 33, read: 129 } as const

export type CubeRead =
  | { readonly ok: true; readonly table: ColourTable; readonly title: string; readonly note: string }
  | { readonly ok: false; readonly message: string }

const no = (message: string): CubeRead => ({ ok: false, message })
/** As many lines are looked at: a cube of 129, its head and comments. */
const MOST_LINES = 2_200_000

interface Head {
  size: number
  title: string
  min: readonly number[]
  max: readonly number[]
}

/** Reads a file of text. A larger cube than is kept is read at fewer places, which is said. */
export function readCube(text: string): CubeRead {
  const lines = text.split(/\r\n|\r|\n/, MOST_LINES)
  const head: Head = { size: 0, title: '', min: [0, 0, 0], max: [1, 1, 1] }
  const values: number[] = []
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i]!.trim()
    if (line === '' || line.startsWith('#')) continue
    const fault =
      /^[A-Z_]/i.test(line) && !/^[+-]?(nan|inf)/i.test(line) ? headLine(head, line) : colourLine(values, line)
    if (fault) return no(`Line ${i + 1}: ${fault}`)
    if (head.size > 0 && values.length > head.size ** 3 * 3) return no(`Line ${i + 1}: more colours than LUT_3D_SIZE ${head.size} has places.`) // prettier-ignore
  }
  if (head.size === 0) return no('It has no LUT_3D_SIZE.')
  const wanted = head.size ** 3 * 3
  if (values.length !== wanted)
    return no(`It has ${Math.floor(values.length / 3)} colours where LUT_3D_SIZE ${head.size} wants ${wanted / 3}.`)
  if (head.min.some((v, k) => !(v < head.max[k]!))) return no('Its domain ends before it begins.')
  return kept(head, Float32Array.from(values))
}

function headLine(head: Head, line: string): string | null {
  const [word, ...rest] = line.split(/\s+/)
  const numbers = rest.map(Number)
  switch (word!.toUpperCase()) {
    case 'TITLE':
      head.title = line.slice(5).trim().replace(/^"|"$/g, '').slice(0, 80)
      return null
    case 'LUT_3D_SIZE': {
      const n = numbers[0]!
      if (!Number.isInteger(n) || n < TABLE_SIDE.least || n > TABLE_SIDE.read) return `a size of ${TABLE_SIDE.least} to ${TABLE_SIDE.read} is wanted.` // prettier-ignore
      head.size = n
      return null
    }
    case 'LUT_1D_SIZE':
      return 'it is a one-dimensional table; a cube (LUT_3D_SIZE) is wanted.'
    case 'DOMAIN_MIN':
    case 'DOMAIN_MAX':
      if (numbers.length !== 3 || !numbers.every(Number.isFinite)) return `${word} wants three numbers.`
      if (word!.toUpperCase() === 'DOMAIN_MIN') head.min = numbers
      else head.max = numbers
      return null
    default:
      // what programs add of their own is passed over
      return /^(LUT_3D_INPUT_RANGE|LUT_IN_VIDEO_RANGE|LUT_OUT_VIDEO_RANGE)$/i.test(word!) || !/\d/.test(line)
        ? null
        : `“${word!.slice(0, 30)}” is not known.`
  }
}
function colourLine(values: number[], line: string): string | null {
  const parts = line.split(/\s+/)
  if (parts.length !== 3) return 'three numbers are wanted.'
  for (const p of parts) {
    const v = Number(p)
    if (p === '' || !Number.isFinite(v)) return `“${p.slice(0, 20)}” is not a number.`
    values.push(Math.min(1, Math.max(0, v)))
  }
  return null
}

/** Over 0..1 and at places that are kept. */
function kept(head: Head, values: Float32Array): CubeRead {
  const isPlain = head.min.every((v) => v === 0) && head.max.every((v) => v === 1)
  const { title } = head
  if (isPlain && head.size <= TABLE_SIDE.most) return { ok: true, table: { size: head.size, values }, title, note: '' }
  const from: ColourTable = { size: head.size, values }
  const size = Math.min(head.size, TABLE_SIDE.most)
  const out = new Float32Array(size ** 3 * 3)
  const at = (i: number, k: number): number => (i / (size - 1) - head.min[k]!) / (head.max[k]! - head.min[k]!)
  for (let b = 0, o = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++, o += 3) out.set(lookUp(from, [at(r, 0), at(g, 1), at(b, 2)]), o)
  const note =
    head.size > size ? `Its ${head.size} places a side are read at ${size}.` : 'Its domain is read at 0 to 1.'
  return { ok: true, table: { size, values: out }, title, note }
}

/** The colour that a table gives for one of 0..1 (what lies beyond is held at the border): trilinear. */
export function lookUp(
  { size, values }: ColourTable,
  rgb: readonly [number, number, number],
): [number, number, number] {
  const base: number[] = []
  const part: number[] = []
  for (const v of rgb) {
    const t = Math.min(1, Math.max(0, v)) * (size - 1)
    const i = Math.min(size - 2, Math.floor(t))
    base.push(i)
    part.push(t - i)
  }
  const out: [number, number, number] = [0, 0, 0]
  for (let corner = 0; corner < 8; corner++) {
    let weight = 1
    let at = 0
    for (let k = 2; k >= 0; k--) {
      const up = (corner >> k) & 1
      weight *= up ? part[k]! : 1 - part[k]!
      at = at * size + base[k]! + up
    }
    if (weight > 0) for (let c = 0; c < 3; c++) out[c]! += weight * values[at * 3 + c]!
  }
  return out
}

/** As the document keeps it. */
export function packTable({ values }: ColourTable): string {
  const bytes = new Uint8Array(values.length * 2)
  values.forEach((v, i) => {
    const n = Math.round(Math.min(1, Math.max(0, v)) * 65535)
    bytes[i * 2] = n & 255
    bytes[i * 2 + 1] = n >> 8
  })
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}
/** A file's cube as the document keeps it, or why it was not taken. */
export type KeptCube =
  | { readonly ok: true; readonly size: number; readonly data: string; readonly title: string; readonly note: string }
  | { readonly ok: false; readonly message: string }
export function keptCube(text: string): KeptCube {
  const read = readCube(text)
  if (!read.ok) return read
  const { table, title, note } = read
  return { ok: true, size: table.size, data: packTable(table), title, note }
}
/** Null where the text is not that of a table of this size. */
export function unpackTable(size: number, data: string): ColourTable | null {
  let text: string
  try {
    text = atob(data)
  } catch {
    return null
  }
  if (text.length !== size ** 3 * 6) return null
  const values = new Float32Array(text.length / 2)
  for (let i = 0; i < values.length; i++)
    values[i] = (text.charCodeAt(i * 2) | (text.charCodeAt(i * 2 + 1) << 8)) / 65535
  return { size, values }
}
