// Was a bare number meant in another unit?
// Model: a length a hundred times out of what is usual there, typed without a unit, is asked about, in the unit that brings it
// nearest to what is usual.

import type { LengthUnit } from './units.ts'

const UNITS: readonly { readonly unit: 'mm' | 'cm' | 'm' | 'in' | 'ft'; readonly metres: number }[] = [
  { unit: 'mm', metres: 0.001 },
  { unit: 'cm', metres: 0.01 },
  { unit: 'm', metres: 1 },
  { unit: 'in', metres: 0.0254 },
  { unit: 'ft', metres: 0.3048 },
]
const BARE: Record<LengthUnit, number> = { mm: 0.001, cm: 0.01, m: 1, 'ft-in': 0.3048 }
const HUNDREDFOLD = 100

export interface LikelierUnit {
  /** As it would be typed, like “1500 mm”. */
  readonly text: string
  readonly valueM: number
}

/**
 * The likelier reading of a bare number that is a hundred times larger than what is usual (`usualM`, metres, above nought), or, with
 * `smallToo`, a hundred times smaller; null when it is not an outlier, has a unit, or no other unit fits better.
 */
export function likelierUnit(typed: string, unit: LengthUnit, usualM: number, smallToo = false): LikelierUnit | null {
  const bare = /^[+-]?(\d+[.,]?\d*|[.,]\d+)$/.exec(typed.trim().replace('−', '-'))
  if (!bare || !(usualM > 0)) return null
  const number = Number(bare[0].replace(',', '.'))
  const ratio = (m: number): number => Math.abs(m) / usualM
  const now = ratio(number * BARE[unit])
  if (number === 0 || !(now >= HUNDREDFOLD || (smallToo && now <= 1 / HUNDREDFOLD))) return null
  const away = (m: number): number => Math.abs(Math.log(ratio(m)))
  // feet and inches only where they are the project's
  const candidates = UNITS.filter((u) => unit === 'ft-in' || (u.unit !== 'in' && u.unit !== 'ft'))
  const [best] = [...candidates].sort((a, b) => away(number * a.metres) - away(number * b.metres))
  const valueM = number * best!.metres
  if (away(valueM) >= away(number * BARE[unit]) || ratio(valueM) >= HUNDREDFOLD) return null
  return { text: `${bare[0].replace(',', '.')} ${best!.unit}`, valueM }
}
