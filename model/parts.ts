// Which parts has a Setup, and how are they read, written and compared one by one?

import type { KeptParts, Setup } from './schema.ts'

/** Parts that the trail of camera moves restores. */
export const CAMERA_PARTS = ['stand', 'lens', 'frame'] as const
/** Parts that undo restores. */
export const EDIT_PARTS = [
  'cut',
  'focus',
  'exposure',
  'visible',
  'look.style',
  'look.sun',
  'look.haze',
  'look.backdrop',
] as const
export type CameraPart = (typeof CAMERA_PARTS)[number]
export type EditPart = (typeof EDIT_PARTS)[number]
export type PartName = CameraPart | EditPart
export const PARTS: readonly PartName[] = [...CAMERA_PARTS, ...EDIT_PARTS]

export type PartValue<P extends PartName> = NonNullable<KeptParts[P]>

export const isCameraPart = (p: PartName): p is CameraPart => (CAMERA_PARTS as readonly string[]).includes(p)

export function getPart<P extends PartName>(setup: Setup, part: P): PartValue<P> {
  if (part.startsWith('look.')) return setup.look[part.slice(5) as keyof Setup['look']] as PartValue<P>
  return setup[part as keyof Setup] as unknown as PartValue<P>
}

export function withPart<P extends PartName>(setup: Setup, part: P, value: PartValue<P>): Setup {
  if (part.startsWith('look.')) return { ...setup, look: { ...setup.look, [part.slice(5)]: value } }
  return { ...setup, [part]: value }
}

/** The setup with the kept parts merged in (only those of `only`, when given); every other part keeps its identity. */
export function mergeParts(setup: Setup, kept: KeptParts, only: readonly PartName[] = PARTS): Setup {
  let next = setup
  for (const part of PARTS) {
    const value = kept[part]
    if (value !== undefined && only.includes(part) && !sameJson(getPart(setup, part), value))
      next = withPart(next, part, value)
  }
  return next
}

export function pickParts(setup: Setup, parts: readonly PartName[]): KeptParts {
  return Object.fromEntries(PARTS.filter((p) => parts.includes(p)).map((p) => [p, getPart(setup, p)])) as KeptParts
}

export const keptNames = (kept: KeptParts): PartName[] => PARTS.filter((p) => kept[p] !== undefined)

/** Structural equality of JSON values; 0 and -0 are the same. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) !== Array.isArray(b)) return false
  const keys = Object.keys(a)
  if (keys.length !== Object.keys(b).length) return false
  return keys.every((k) => k in b && sameJson((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]))
}

export interface Difference {
  readonly part: PartName
  /** Path of the field within the part, like `aim.point.0`. */
  readonly path: string
  readonly a: unknown
  readonly b: unknown
}

/** Every field in which two setups differ, part by part. */
export function compareSetups(a: Setup, b: Setup, parts: readonly PartName[] = PARTS): Difference[] {
  const found: Difference[] = []
  const walk = (part: PartName, path: string, x: unknown, y: unknown): void => {
    if (sameJson(x, y)) return
    const both = typeof x === 'object' && typeof y === 'object' && x !== null && y !== null
    if (!both || Array.isArray(x) !== Array.isArray(y)) {
      found.push({ part, path, a: x, b: y })
      return
    }
    for (const k of new Set([...Object.keys(x), ...Object.keys(y)]))
      walk(part, path ? `${path}.${k}` : k, (x as Record<string, unknown>)[k], (y as Record<string, unknown>)[k])
  }
  for (const part of parts) walk(part, '', getPart(a, part), getPart(b, part))
  return found
}
