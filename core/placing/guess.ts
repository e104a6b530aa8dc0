// In which unit and with which axis up was a file most likely written?
// Model: glTF says metres and Y up, and is believed unless the size is absurd; the other formats say nothing, so a unit is chosen
// that gives a plausible size, and the axis along which the thing stands on a flat base, or the format's usual one. A unit named
// in the file's comments goes before all. The person sees the result beside a door and decides. (Practice, no standard.)

export type FileUnit = 'mm' | 'cm' | 'm' | 'in' | 'ft'
/** Metres. Inch and foot are exact by the international yard (1959). */
export const UNIT_M: Readonly<Record<FileUnit, number>> = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254, ft: 0.3048 }

export interface GuessInput {
  readonly kind: 'glTF' | 'OBJ' | 'STL' | 'PLY'
  /** Extents in file units along the file's x, y, z. */
  readonly size: readonly [number, number, number]
  /** Share of the footprint (0..1 and more) that lies flat at the very bottom, when y or z is up. */
  readonly base: { readonly y: number; readonly z: number }
  readonly stated: FileUnit | null
}
export interface FileUnitGuess {
  readonly unit: FileUnit
  readonly up: 'y' | 'z'
  readonly unitWhy: string
  readonly upWhy: string
}

const PLAUSIBLE = { least: 0.02, most: 300 } as const
/** Units tried in this order, each with the extents (file units) it is usual for. */
const USUAL: Readonly<Record<GuessInput['kind'], readonly (readonly [FileUnit, number, number])[]>> = {
  glTF: [['m', PLAUSIBLE.least, 500], ['mm', 500, 3e5], ['cm', 500, 3e4]],
  OBJ: [['m', 0.02, 40], ['cm', 40, 1500], ['mm', 1500, 3e5]],
  STL: [['mm', 8, 3e5], ['m', 0.02, 8]],
  PLY: [['m', 0.02, 20], ['mm', 20, 3e5]],
} // prettier-ignore
/** A base this much flatter along the unusual axis speaks against the usual one. */
const FLATTER = 4

export function guessUnit(input: GuessInput): FileUnitGuess {
  const longest = Math.max(...input.size)
  const usualUp = input.kind === 'glTF' || input.kind === 'OBJ' ? 'y' : 'z'
  const other = usualUp === 'y' ? 'z' : 'y'
  const turned = input.kind !== 'glTF' && input.base[other] > 0.2 && input.base[other] > FLATTER * input.base[usualUp]
  const up = turned ? other : usualUp
  const upWhy = turned
    ? 'it stands on a flat base that way'
    : input.kind === 'glTF'
      ? 'as glTF says'
      : `usual for ${input.kind}`
  if (input.stated) return { unit: input.stated, up, unitWhy: 'as the file says', upWhy }
  const row = USUAL[input.kind].find(([, least, most]) => longest >= least && longest < most)
  if (!row) {
    // far from everything usual: the unit that comes nearest to a thing of a metre
    const units = Object.keys(UNIT_M) as FileUnit[]
    const off = (u: FileUnit): number => Math.abs(Math.log(longest * UNIT_M[u]))
    const unit =
      input.kind === 'glTF' && longest < PLAUSIBLE.least ? 'm' : units.reduce((a, b) => (off(b) < off(a) ? b : a))
    return {
      unit,
      up,
      unitWhy: unit === 'm' && input.kind === 'glTF' ? 'as glTF says' : 'nearest to a usual size',
      upWhy,
    }
  }
  const asSaid = input.kind === 'glTF' && row[0] === 'm'
  return { unit: row[0], up, unitWhy: asSaid ? 'as glTF says' : 'from its size', upWhy }
}

/** The unit that a comment of a text format names (“# units: mm”, “File units = millimeters”), or null. */
export function statedUnit(comments: string): FileUnit | null {
  const found =
    /\bunits?\b\s*(?:[:=]|is|are|in)?\s*["']?(millimet\w+|centimet\w+|met(?:er|re)s?|inch\w*|feet|foot|mm|cm|m|in|ft)\b/i.exec(
      comments,
    )
  const word = found?.[1]?.toLowerCase()
  if (!word) return null
  if (word.startsWith('milli') || word === 'mm') return 'mm'
  if (word.startsWith('centi') || word === 'cm') return 'cm'
  if (word.startsWith('in')) return 'in'
  if (word.startsWith('f')) return 'ft'
  return 'm'
}
