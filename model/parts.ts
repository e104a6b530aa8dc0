// Which parts has a Setup, what is known of each, and how are they read, written and compared one by one?

import { z } from 'zod'
import type { Lens, Stand } from '#core/camera'
import {
  backdropSchema,
  cutSchema,
  exposureSchema,
  focusSchema,
  frameSchema,
  hazeSchema,
  lensSchema,
  standSchema,
  styleSchema,
  sunSchema,
  visibleSchema,
} from './part-schemas.ts'

export type Subject = 'room' | 'product'

interface PartDef<S extends z.ZodType> {
  readonly schema: S
  /** As the interface calls it. */
  readonly label: string
  /** Which history restores it: the trail of camera moves, or undo. */
  readonly history: 'trail' | 'edits'
  /** Whether the stage is handed it beside the camera and what is shown. */
  readonly stage: boolean
  /** What is drawn anew when it changes; thumbnails are known by all parts that change them. */
  readonly redraws: { readonly picture: boolean; readonly strips: boolean; readonly thumbnail: boolean }
  /** What a new project begins with. */
  readonly initial: (subject: Subject, stand: Stand) => z.output<S>
}
const part = <S extends z.ZodType, const T extends boolean>(
  def: Omit<PartDef<S>, 'stage'> & { readonly stage: T },
): Omit<PartDef<S>, 'stage'> & { readonly stage: T } => def

const ALL = { picture: true, strips: true, thumbnail: true } as const
const PICTURES = { picture: true, strips: false, thumbnail: true } as const
const NOTHING = { picture: false, strips: false, thumbnail: false } as const

/** Where the near and far cut lie as long as nobody has set them. */
export const UNSET_CUT_M = { near: 0.1, far: 100 } as const

/** The lens a new stand begins with: 24 mm for rooms, 70 mm for products (practice), on 36 x 24 mm. */
export const newLens = (subject: Subject): Lens => ({
  projection: { kind: 'perspective' },
  focalMm: subject === 'room' ? 24 : 70,
  sensorMm: { width: 36, height: 24 },
  sensorUse: 'acrossWidth',
  riseMm: 0,
  crossMm: 0,
  distortion: null,
})

/**
 * The parts of a Setup, in the order of the work: the one list that schema, strip, panels, keeping, comparing, what the stage is
 * handed and what thumbnails are known by come from. A name with a point in it is a part of a group that has one cell (`look`).
 */
export const PART_TABLE = {
  stand: part({
    schema: standSchema,
    label: 'Stand',
    history: 'trail',
    stage: false,
    redraws: PICTURES,
    initial: (_, stand) => stand,
  }),
  lens: part({
    schema: lensSchema,
    label: 'Lens',
    history: 'trail',
    stage: false,
    redraws: PICTURES,
    initial: newLens,
  }),
  frame: part({
    schema: frameSchema,
    label: 'Frame',
    history: 'trail',
    stage: false,
    redraws: PICTURES,
    initial: () => ({
      widthPx: 2400,
      heightPx: 1600,
      densityPpi: 300,
      guides: [{ kind: 'thirds' as const, colour: 'white' as const, strength: 0.4 }],
    }),
  }),
  cut: part({
    schema: cutSchema,
    label: 'Cut',
    history: 'edits',
    stage: false,
    redraws: ALL,
    initial: () => ({
      near: { on: false, distanceM: UNSET_CUT_M.near },
      far: { on: false, distanceM: UNSET_CUT_M.far },
      cuts: [],
      face: 'solid' as const,
    }),
  }),
  focus: part({
    schema: focusSchema,
    label: 'Focus',
    history: 'edits',
    stage: false,
    redraws: PICTURES,
    initial: () => ({
      on: false,
      fNumber: 8,
      mode: { kind: 'aim' as const },
      aperture: { blades: 0, rotationDeg: 0, roundness: 1 },
      criterion: { kind: 'circle' as const, cocMm: 0.03 },
    }),
  }),
  exposure: part({
    schema: exposureSchema,
    label: 'Exposure',
    history: 'edits',
    stage: true,
    redraws: PICTURES,
    initial: () => ({
      mode: 'direct' as const,
      ev100: 9,
      compensationEv: 0,
      iso: 100,
      shutterS: 0.01,
      whiteBalance: { kelvin: 6504, tint: 0 },
      vignetting: false,
      tone: 'neutral' as const,
    }),
  }),
  visible: part({
    schema: visibleSchema,
    label: 'Visible',
    history: 'edits',
    stage: false,
    redraws: ALL,
    initial: () => ({ hidden: [] as string[] }),
  }),
  'look.style': part({
    schema: styleSchema,
    label: 'Style',
    history: 'edits',
    stage: false,
    redraws: NOTHING,
    initial: () => ({ kind: 'finished' as const }),
  }),
  'look.sun': part({
    schema: sunSchema,
    label: 'Sun',
    history: 'edits',
    stage: true,
    redraws: PICTURES,
    initial: () => ({ on: true, bearingDeg: 128, elevationDeg: 42, shadow: true }),
  }),
  'look.haze': part({
    schema: hazeSchema,
    label: 'Haze',
    history: 'edits',
    stage: false,
    redraws: NOTHING,
    initial: () => ({ on: false, visibilityM: 200 }),
  }),
  'look.backdrop': part({
    schema: backdropSchema,
    label: 'Backdrop',
    history: 'edits',
    stage: true,
    redraws: PICTURES,
    initial: () => ({ kind: 'sky' as const, colour: [0.8, 0.8, 0.8] as const }),
  }),
} as const

type Table = typeof PART_TABLE
export type PartName = keyof Table
export type PartValue<P extends PartName> = z.output<Table[P]['schema']>
/** Parts that the stage is handed beside camera and what is shown. */
export type StagePart = { [P in PartName]: Table[P]['stage'] extends true ? P : never }[PartName]

export const PARTS = Object.keys(PART_TABLE) as PartName[]
export const partNameSchema = z.enum(PARTS as [PartName, ...PartName[]])
/** Parts that the trail of camera moves restores. */
export const CAMERA_PARTS = ['stand', 'lens', 'frame'] as const satisfies readonly PartName[]
export type CameraPart = (typeof CAMERA_PARTS)[number]
/** Parts that undo restores. */
export type EditPart = Exclude<PartName, CameraPart>
export const EDIT_PARTS = PARTS.filter((p): p is EditPart => PART_TABLE[p].history === 'edits')
export const STAGE_PARTS = PARTS.filter((p): p is StagePart => PART_TABLE[p].stage)
/** Parts beside the camera's that change the picture. */
export const PICTURE_PARTS = EDIT_PARTS.filter((p) => PART_TABLE[p].redraws.picture)
export const THUMBNAIL_PARTS = PARTS.filter((p) => PART_TABLE[p].redraws.thumbnail)

type Grouped<G extends string> = { [P in PartName as P extends `${G}.${infer K}` ? K : never]: PartValue<P> }
/** Everything the camera is doing. */
export type Setup = { [P in PartName as P extends `${string}.${string}` ? never : P]: PartValue<P> } & {
  look: Grouped<'look'>
}
/** A viewpoint keeps only the parts that stand here. */
export type KeptParts = { [P in PartName]?: PartValue<P> | undefined }

/** The cells of the strip: parts that stand alone, and groups of parts. */
export type CellName = PartName extends infer P ? (P extends `${infer G}.${string}` ? G : P) : never
export const cellOf = (p: PartName): CellName => p.split('.')[0] as CellName
export const CELLS = [...new Set(PARTS.map(cellOf))]
export const partsOfCell = (cell: CellName): PartName[] => PARTS.filter((p) => cellOf(p) === cell)
const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)
export const cellLabel = (cell: CellName): string =>
  cell in PART_TABLE ? PART_TABLE[cell as PartName].label : capital(cell)
export const partLabel = (p: PartName): string => PART_TABLE[p].label

const byPart = <T>(value: (p: PartName) => T): Record<PartName, T> =>
  Object.fromEntries(PARTS.map((p) => [p, value(p)])) as Record<PartName, T>

export const keptPartsSchema = z.object(
  byPart((p) => PART_TABLE[p].schema.optional()),
) as unknown as z.ZodType<KeptParts>
export const setupSchema = z.object(
  Object.fromEntries(
    CELLS.map((cell) => [
      cell,
      cell in PART_TABLE
        ? PART_TABLE[cell as PartName].schema
        : z.object(Object.fromEntries(partsOfCell(cell).map((p) => [p.slice(cell.length + 1), PART_TABLE[p].schema]))),
    ]),
  ),
) as unknown as z.ZodType<Setup>

/** A whole Setup around a stand. */
export const newSetup = (subject: Subject, stand: Stand): Setup =>
  PARTS.reduce((setup, p) => withPart(setup, p, PART_TABLE[p].initial(subject, stand) as never), { look: {} } as Setup)

export const isCameraPart = (p: PartName): p is CameraPart => PART_TABLE[p].history === 'trail'

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
