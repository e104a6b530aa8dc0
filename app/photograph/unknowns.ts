// The unknowns of a photograph's camera as rows: what they are called, in which unit they are read and typed, where they start.
import type { Treatment, Unknown } from '#core/match'
import type { PhotoMatchPart } from '#model'
import type { SolvedCamera } from '#model/photo'

export interface UnknownField {
  readonly unknown: Unknown
  readonly label: string
  readonly suffix: string
  readonly digits: number
  /** Shown for one of the match's own units: pixels, degrees, metres. */
  readonly factor: number
  /** What is known of it where nobody has said how well, in the match's own unit. */
  readonly usualSd: number
}
export interface UnknownRow {
  readonly name: string
  readonly title: string
  readonly fields: readonly UnknownField[]
  /** Of few photographs: shown on demand, or where it is not held. */
  readonly isRare?: true
}

/** Rows for a photograph whose longer side has so many pixels. */
export function unknownRows(longPx: number, tellsStation: boolean): UnknownRow[] {
  const f = (unknown: Unknown, label: string, suffix: string, digits: number, usualSd: number, factor = 1): UnknownField => ({ unknown, label, suffix, digits, factor, usualSd }) // prettier-ignore
  return [
    { name: 'Focal length', title: 'In millimetres on 36 mm of the longer side', fields: [f('focalPx', 'Known focal', 'mm', 2, 0.05 * longPx, 36 / longPx)] },
    { name: 'Middle', title: 'Where the axis meets the photograph: off its middle by rise and cross, or where it was cropped', fields: [f('principalX', 'Middle across', 'px', 1, 0.02 * longPx), f('principalY', 'Middle down', 'px', 1, 0.02 * longPx)] },
    { name: 'Distortion', title: 'Radial, k1: below nought for barrel', fields: [f('k1', 'Known k1', '', 4, 0.05)] },
    { name: 'k2', title: 'Radial, of the fourth power', fields: [f('k2', 'Known k2', '', 4, 0.05)], isRare: true },
    { name: 'k3', title: 'Radial, of the sixth power', fields: [f('k3', 'Known k3', '', 4, 0.05)], isRare: true },
    { name: 'p1, p2', title: 'Tangential: a lens that does not stand square to its sensor', fields: [f('p1', 'Known p1', '', 5, 0.002), f('p2', 'Known p2', '', 5, 0.002)], isRare: true },
    { name: 'Bearing', title: 'Clockwise from north', fields: [f('bearingDeg', 'Known bearing', '°', 3, 1)] },
    { name: 'Tilt', title: 'Upward of level', fields: [f('tiltDeg', 'Known tilt', '°', 3, 0.5)] },
    { name: 'Roll', title: 'Clockwise as the photographer sees it', fields: [f('rollDeg', 'Known roll', '°', 3, 0.5)] },
    ...(tellsStation ? [{ name: 'Station', title: 'East, north, height', fields: [f('stationX', 'Known east', 'm', 3, 0.5), f('stationY', 'Known north', 'm', 3, 0.5), f('stationZ', 'Known height', 'm', 3, 0.1)] }] : []),
  ] // prettier-ignore
}

const STATION: readonly Unknown[] = ['stationX', 'stationY', 'stationZ']
const isLens = (u: Unknown): boolean => !u.endsWith('Deg') && !STATION.includes(u)
export const treatmentOf = (m: PhotoMatchPart, u: Unknown): Treatment =>
  m.treatments[u] ?? (isLens(u) ? 'fixed' : 'free')
export const kindOf = (m: PhotoMatchPart, u: Unknown): 'free' | 'near' | 'fixed' => {
  const t = treatmentOf(m, u)
  return typeof t === 'string' ? t : 'near'
}

type Valued = Pick<SolvedCamera, 'focalPx' | 'principal' | 'distortion'> & Partial<Pick<SolvedCamera, 'station' | 'bearingDeg' | 'tiltDeg' | 'rollDeg'>> // prettier-ignore
/** The value of an unknown in a camera, in its own unit. */
export function valueOf(c: Valued, u: Unknown): number {
  if (u === 'focalPx') return c.focalPx
  if (u === 'principalX') return c.principal[0]
  if (u === 'principalY') return c.principal[1]
  if (u === 'bearingDeg' || u === 'tiltDeg' || u === 'rollDeg') return c[u] ?? 0
  if (u === 'stationX' || u === 'stationY' || u === 'stationZ') return c.station?.[STATION.indexOf(u)] ?? 0
  return c.distortion[u]
}
const START: NonNullable<PhotoMatchPart['start']['pose']> = {
  station: [0, 0, 0],
  bearingDeg: 0,
  tiltDeg: 0,
  rollDeg: 0,
}
export const startOf = (m: PhotoMatchPart, u: Unknown): number => valueOf({ ...m.start, ...(m.start.pose ?? START) }, u)
/** The match with an unknown's start, or what it is held at, changed. */
export function withStart(m: PhotoMatchPart, u: Unknown, v: number): PhotoMatchPart {
  const { start } = m
  const pose = start.pose ?? START
  const next = ((): PhotoMatchPart['start'] => {
    if (u === 'focalPx') return { ...start, focalPx: v }
    if (u === 'principalX') return { ...start, principal: [v, start.principal[1]] }
    if (u === 'principalY') return { ...start, principal: [start.principal[0], v] }
    if (u === 'bearingDeg' || u === 'tiltDeg' || u === 'rollDeg') return { ...start, pose: { ...pose, [u]: v } }
    if (STATION.includes(u)) {
      const [x, y, z] = STATION.map((s, i) => (s === u ? v : pose.station[i]!)) as [number, number, number]
      return { ...start, pose: { ...pose, station: [x, y, z] } }
    }
    return { ...start, distortion: { ...start.distortion, [u]: v } }
  })()
  return { ...m, start: next }
}
/** The match with a row solved, held where it is now, or near it. */
export function treated(m: PhotoMatchPart, row: UnknownRow, kind: string, now: SolvedCamera | null): PhotoMatchPart {
  let next = m
  for (const { unknown: u, usualSd } of row.fields) {
    const t: Treatment = kind === 'near' ? { sd: usualSd } : (kind as 'fixed' | 'free')
    // a pose is held where it was found; a lens where it is known
    if (kind !== 'free' && !isLens(u) && now && kindOf(m, u) === 'free') next = withStart(next, u, valueOf(now, u))
    next = { ...next, treatments: { ...next.treatments, [u]: t } }
  }
  return next
}
