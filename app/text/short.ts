// Short forms of a Setup's parts for the strip, and words for compared fields.
import { formatLength, lengthSuffix, wrapBearingDeg, type LengthUnit } from '#core/base'
import { formOf, type Frame, isPerspective, type Lens, type Pose, widthOfView } from '#core/camera'
import type { Difference, Setup } from '#model'

const length = (m: number, unit: LengthUnit): string =>
  `${formatLength(m, unit)}${unit === 'ft-in' ? '' : ` ${lengthSuffix(unit)}`}`
export const signed = (v: number, digits: number): string => {
  const t = Math.abs(v).toFixed(digits)
  return Number(t) === 0 ? t : `${v > 0 ? '+' : '−'}${t}`
}

/** A tenth, or the whole from ten on: cells of the strip hold ten letters. */
const tenth = (v: number): string => signed(v, Math.abs(v) < 9.95 ? 1 : 0)

/** Lean of verticals in degrees and over the picture's height in pixels; without pixels where they nearly lie. */
export function leanText(c: {
  leanLeftDeg: number | null
  leanRightDeg: number | null
  widestPx: number | null
}): string {
  const worst = Math.max(Math.abs(c.leanLeftDeg ?? 0), Math.abs(c.leanRightDeg ?? 0))
  return worst > 80 ? `${worst.toFixed(0)}°` : `${worst.toFixed(2)}°, ${(c.widestPx ?? 0).toFixed(0)} px`
}

export const bearingText = (deg: number): string => `${wrapBearingDeg(deg).toFixed(1)}°`
/** Compass point of a bearing, of eight. */
export const compass = (deg: number): string => ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west'][Math.round(wrapBearingDeg(deg) / 45) % 8]! // prettier-ignore

/** The same in the room of a small tile: north, but NE. */
export const compassShort = (deg: number): string =>
  compass(deg).includes('-') ? compass(deg).split('-').map((w) => w[0]!.toUpperCase()).join('') : compass(deg) // prettier-ignore

export function standShort(pose: Pose, eyeHeightM: number | null, unit: LengthUnit): [string, string] {
  const level = Math.abs(pose.tiltDeg) < 0.005 && Math.abs(pose.rollDeg) < 0.005
  const height = eyeHeightM === null ? pose.station[2] : eyeHeightM
  const second = level
    ? 'level'
    : Math.abs(pose.tiltDeg) >= 0.005
      ? `tilt ${tenth(pose.tiltDeg)}°`
      : `roll ${tenth(pose.rollDeg)}°`
  return [length(height, unit), second]
}

export function lensShort(lens: Lens): [string, string] {
  const shift = [
    lens.riseMm ? `rise ${tenth(lens.riseMm)}` : '',
    lens.crossMm ? `cross ${tenth(lens.crossMm)}` : '',
  ].filter(Boolean)
  const widthM = widthOfView(lens)
  const name = formOf(lens).name.toLowerCase()
  if (widthM !== null) return [name, `${Number(widthM.toPrecision(3))} m`]
  if (!isPerspective(lens)) return [name, '']
  const f = Number.isInteger(Math.round(lens.focalMm * 10) / 10) ? lens.focalMm.toFixed(0) : lens.focalMm.toFixed(1)
  return [`${f} mm`, shift.length === 2 ? `${tenth(lens.riseMm)} ${tenth(lens.crossMm)}` : (shift[0] ?? 'no shift')]
}

/** Extents in metres, to the millimetre where they are small. */
export function sizeText(size: readonly number[]): string {
  const digits = Math.max(...size) >= 100 ? 1 : Math.max(...size) >= 10 ? 2 : 3
  return `${size.map((v) => v.toFixed(digits)).join(' × ')} m`
}

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a)
/** The frame's shape in small whole numbers where it has them, else as a ratio to one. */
export function aspectText(f: Pick<Frame, 'widthPx' | 'heightPx'>): string {
  const g = gcd(f.widthPx, f.heightPx)
  const [a, b] = [f.widthPx / g, f.heightPx / g]
  if (a === 8 && b === 5) return '16:10'
  return a <= 21 && b <= 21 ? `${a}:${b}` : `${(f.widthPx / f.heightPx).toFixed(2)}:1`
}
export const frameShort = (f: Frame): [string, string] => [aspectText(f), `${f.widthPx} px`]

/** Cuts that are on, then near and far; a single level cut by its height, another by its name. */
export function cutShort(cut: Setup['cut'], unit: LengthUnit): [string, string] {
  if (cut.allOff) return ['all off', '']
  const ends = (['near', 'far'] as const).filter((end) => cut[end].on).map((end) => (cut[end].tied ? `${end}, held` : `${end} ${formatLength(cut[end].distanceM, unit)}`)) // prettier-ignore
  const on = cut.cuts.filter((c) => c.on)
  const [one] = on
  const cuts = !one
    ? []
    : on.length > 1
      ? [`${on.length} cuts`]
      : [one.kind === 'level' ? `level ${formatLength(one.heightM, unit)}` : `${one.kind === 'free' ? 'plane' : one.kind} ${one.name.slice(0, 8)}`] // prettier-ignore
  const lines = [...cuts, ...ends]
  return [lines[0] ?? 'none', lines.slice(1).join(', ')]
}

export const visibleShort = (hidden: number): [string, string] => [hidden === 0 ? 'all shown' : `${hidden} hidden`, '']

export function focusShort(focus: Setup['focus'], focusM: number | null, unit: LengthUnit): [string, string] {
  if (!focus.on) return ['off', 'all sharp']
  return [`f/${Number(focus.fNumber.toFixed(1))}`, focusM === null ? focus.mode.kind : length(focusM, unit)]
}
const shutterShort = (s: number): string => (s < 0.5 ? `1/${Math.round(1 / s)} s` : `${s.toFixed(1)} s`)
/** `shownEv` is what the picture is exposed by where that is not the EV itself; null elsewhere. */
export const exposureShort = (e: Setup['exposure'], shownEv: number | null = null): [string, string] => [
  e.mode === 'photographic' ? shutterShort(e.shutterS) : `EV ${((shownEv ?? e.ev100) - e.compensationEv).toFixed(1)}`,
  e.mode === 'photographic'
    ? `ISO ${Math.round(e.iso)}`
    : shownEv !== null && e.outsideEv100 === undefined
      ? 'metered'
      : `${Math.round(e.whiteBalance.kelvin)} K`,
]
export const lookShort = ({ style, sun }: Setup['look']): [string, string] => [
  style.kind,
  sun.on ? `sun ${Math.round(wrapBearingDeg(sun.bearingDeg))}°` : 'no sun',
]

const FIELDS: Record<string, string> = {
  station: 'station', 'aim.point': 'aim point', 'aim.kind': 'kind of aim', rollDeg: 'roll', focalMm: 'focal length', riseMm: 'rise', crossMm: 'cross',
  'projection.kind': 'projection', 'projection.widthM': 'width of view', widthPx: 'width', heightPx: 'height', densityPpi: 'density', guides: 'guides',
} // prettier-ignore

/** One line for a field that differs, like “lens, focal length: 24 → 35”. */
export function differenceText(d: Difference): string {
  const stem = d.path.replace(/\.\d+$/, '')
  const axis = /\.([012])$/.exec(d.path)?.[1]
  const field = (FIELDS[stem] ?? stem) + (axis ? ` ${'xyz'[Number(axis)]}` : '')
  const show = (v: unknown): string =>
    typeof v === 'number' ? String(Math.round(v * 1000) / 1000) : typeof v === 'string' ? v : JSON.stringify(v)
  return `${d.part.replace('look.', '')}, ${field}: ${show(d.a)} → ${show(d.b)}`
}

const megabytes = (bytes: number): string =>
  bytes < 1e5 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`
/** What deleting a project gives back, and when. */
export function freedText({
  nowBytes,
  sweptBytes,
}: {
  readonly nowBytes: number
  readonly sweptBytes: number
}): string {
  const now = `It frees ${megabytes(nowBytes)} at once`
  return sweptBytes > 0
    ? `${now} and, after 30 days, ${megabytes(sweptBytes)} of models that no other project uses.`
    : `${now}.`
}
