// What number did the person type, and how is one shown?
// Model: a recursive-descent reading of sums with units ("1.2 m + 35 cm", `5'11 1/2"`, "3 * 24"); lengths come back in
// metres, a bare number is in the unit passed in.
// Rejected: handing the text to a script evaluator (it would run whatever was typed).

import { refused, ok, type Result } from './result.ts'

export type LengthUnit = 'mm' | 'cm' | 'm' | 'ft-in'
export type QuantityKind = 'length' | 'angle' | 'sensor' | 'plain'
export type QuantityReason = 'empty' | 'syntax' | 'unit' | 'not-finite'

const METRES: Record<string, number> = {
  mm: 0.001,
  cm: 0.01,
  m: 1,
  km: 1000,
  in: 0.0254,
  ft: 0.3048,
  '"': 0.0254,
  "'": 0.3048,
}
const BARE: Record<LengthUnit, number> = { mm: 0.001, cm: 0.01, m: 1, 'ft-in': 0.3048 }

const scaleOf = (unit: string, kind: QuantityKind): number | null => {
  if (kind === 'length') return METRES[unit] ?? null
  if (kind === 'sensor') return METRES[unit] === undefined ? null : METRES[unit] * 1000
  if (kind === 'angle') return unit === 'deg' || unit === '°' ? 1 : unit === 'rad' ? 180 / Math.PI : null
  return unit === 'px' ? 1 : null
}

class Reader {
  private at = 0
  private readonly text: string
  private readonly kind: QuantityKind
  private readonly bare: number
  constructor(text: string, kind: QuantityKind, bare: number) {
    this.text = text
    this.kind = kind
    this.bare = bare
  }

  readAll(): number {
    const v = this.sum()
    this.skip()
    if (this.at < this.text.length) throw new SyntaxError(this.text.slice(this.at))
    return v
  }

  private skip(): void {
    while (this.text[this.at] === ' ') this.at++
  }
  private take(re: RegExp): string | null {
    this.skip()
    const m = re.exec(this.text.slice(this.at))
    if (!m) return null
    this.at += m[0].length
    return m[0]
  }

  private sum(): number {
    let v = this.product()
    for (let op = this.take(/^[+-]/); op; op = this.take(/^[+-]/)) v += (op === '+' ? 1 : -1) * this.product()
    return v
  }

  private product(): number {
    let v = this.signed()
    for (let op = this.take(/^[*/]/); op; op = this.take(/^[*/]/)) {
      // the second factor of a product is a plain count, not a length
      const sign = this.take(/^-/) ? -1 : 1
      const n = this.take(/^(\d+\.?\d*|\.\d+)/)
      if (n === null) throw new SyntaxError(this.text.slice(this.at))
      v = op === '*' ? v * sign * Number(n) : v / (sign * Number(n))
    }
    return v
  }

  private signed(): number {
    if (this.take(/^-/)) return -this.signed()
    if (this.take(/^\+/)) return this.signed()
    if (this.take(/^\(/)) {
      const v = this.sum()
      if (!this.take(/^\)/)) throw new SyntaxError('a bracket is not closed')
      return v
    }
    return this.quantity()
  }

  /** One number with its unit; feet may be followed by inches, inches by a fraction. */
  private quantity(): number {
    const n = this.take(/^(\d+ +\d+\/\d+|\d+\/\d+(?= *["i])|(\d+\.?\d*|\.\d+)(e[+-]?\d+)?)/)
    if (n === null) throw new SyntaxError(this.text.slice(this.at))
    const value = readMixed(n)
    const unit = this.take(/^(mm|cm|km|m|in|ft|deg|rad|px|°|"|')/)
    if (unit === null) return value * this.bare
    const scale = scaleOf(unit, this.kind)
    if (scale === null) throw new UnitError(unit)
    let v = value * scale
    if ((unit === "'" || unit === 'ft') && this.kind === 'length') {
      const inches = this.take(/^(\d+ +\d+\/\d+|\d+\/\d+|\d+\.?\d*) *("|in)?/)
      if (inches !== null) v += readMixed(inches.replace(/("|in)/, '').trim()) * 0.0254
    }
    return v
  }
}
class UnitError extends Error {}

const readMixed = (s: string): number =>
  s
    .split(/ +/)
    .map((part) => {
      const [a, b] = part.split('/')
      return b === undefined ? Number(a) : Number(a) / Number(b)
    })
    .reduce((x, y) => x + y, 0)

/**
 * The typed quantity: metres for lengths, degrees for angles, millimetres for sensor lengths, the number itself otherwise.
 * A decimal comma is read as a point. Refused with a sentence when empty, not readable, in a wrong unit or not finite.
 */
export function parseQuantity(
  text: string,
  kind: QuantityKind,
  bareUnit: LengthUnit = 'm',
): Result<number, QuantityReason> {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/[’′]/g, "'")
    .replace(/[”″]/g, '"')
    .replace(/−/g, '-')
    .replace(/(\d),(\d)/g, '$1.$2')
  if (clean === '') return refused('empty', 'Type a number.')
  try {
    const v = new Reader(clean, kind, kind === 'length' ? BARE[bareUnit] : 1).readAll()
    return Number.isFinite(v) ? ok(v) : refused('not-finite', `“${text.trim()}” is not a finite number.`)
  } catch (e) {
    if (e instanceof UnitError) return refused('unit', `“${e.message}” is not a unit that fits here.`)
    return refused('syntax', `“${text.trim()}” could not be read as a number.`)
  }
}

/** A length in metres as the project's unit writes it, without the unit's name (ft-in carries its marks). */
export function formatLength(metres: number, unit: LengthUnit): string {
  if (unit === 'mm') return unsignedNought((metres * 1000).toFixed(0))
  if (unit === 'cm') return unsignedNought((metres * 100).toFixed(1))
  if (unit === 'm') return metreText(metres)
  const sixteenths = Math.round((Math.abs(metres) / 0.0254) * 16)
  const feet = Math.floor(sixteenths / 192)
  const inches = Math.floor((sixteenths % 192) / 16)
  let num = sixteenths % 16
  let den = 16
  while (num > 0 && num % 2 === 0) {
    num /= 2
    den /= 2
  }
  return `${metres < 0 && sixteenths > 0 ? '-' : ''}${feet}'${inches}${num ? ` ${num}/${den}` : ''}"`
}

/**
 * A length and its plus and minus (one sigma, metres, at least nought) with the unit: as many digits as give the plus and minus two that
 * mean something (GUM 7.2.6), up to a micrometre. Feet and inches have theirs in decimal inches.
 */
export function formatWithSigma(metres: number, sigmaM: number, unit: LengthUnit): string {
  const perM = { m: 1, cm: 100, mm: 1000, 'ft-in': 1 / 0.0254 }[unit]
  const sigma = sigmaM * perM
  const most = Math.max(0, Math.round(Math.log10(1e6 / perM)))
  const digits = sigma > 0 ? Math.min(most, Math.max(0, 1 - Math.floor(Math.log10(sigma)))) : most
  const spread = sigma.toFixed(digits)
  return unit === 'ft-in'
    ? `${formatLength(metres, unit)} ± ${spread}"`
    : `${(metres * perM).toFixed(digits)} ± ${spread} ${unit}`
}

/** Hundredths; below them tenths of a millimetre, unless those are nought too. */
function metreText(metres: number): string {
  const fine = Math.abs(metres) < 0.0095 ? metres.toFixed(4) : metres.toFixed(2)
  return Number(fine) === 0 ? '0.00' : fine
}
const unsignedNought = (fixed: string): string => (Number(fixed) === 0 ? fixed.replace('-', '') : fixed)

export const lengthSuffix = (unit: LengthUnit): string => (unit === 'ft-in' ? '' : unit)

/** A number with the article that it is read with, first in a sentence: "A 24", "An 85", "An 18". */
export const articled = (number: string): string => `${/^(8|11(?!\d)|18(?!\d))/.test(number) ? 'An' : 'A'} ${number}`
