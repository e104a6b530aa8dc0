// Which focal length has a wanted angle or width of view, what would it be on another sensor, and which sensors are there?
// Space: sensor millimetres, degrees, metres. Source: handbook-1; ray2002; iso-camera-formats and practice (sensors).

import { ok, refused, RAD_PER_DEG, type Result } from '../base/index.ts'
import { usedSensor } from './lens.ts'
import { fieldOfView, widthAtDepthM } from './project.ts'
import { isPerspective, isStraight } from './projections/registry.ts'
import type { Frame, Lens } from './types.ts'

export type AngleKind = 'horizontal' | 'vertical' | 'diagonal'
export type LensReason = 'projection' | 'angle' | 'width' | 'reach'
const DEG = { horizontal: 'horizontalDeg', vertical: 'verticalDeg', diagonal: 'diagonalDeg' } as const

/** Shortest and longest focal length that is looked for, mm. */
const [LEAST, MOST] = [0.01, 1e7]
const HALVINGS = 200

/** The focal length at which `measure`, which falls with it, has a value; null where it never has. */
function focalWhere(measure: (focalMm: number) => number, wanted: number): number | null {
  let [a, b] = [Math.log(LEAST), Math.log(MOST)]
  if (!(measure(LEAST) >= wanted && measure(MOST) <= wanted)) return null
  for (let i = 0; i < HALVINGS && b - a > 1e-15 * Math.abs(a); i++) {
    const middle = (a + b) / 2
    if (measure(Math.exp(middle)) > wanted) a = middle
    else b = middle
  }
  const found = Math.exp((a + b) / 2)
  // where a lens folds its angle leaps
  return Math.abs(measure(found) - wanted) < 1e-6 * wanted ? found : null
}

/**
 * The focal length with an angle of view over the used sensor, shift aside, distortion included. Refused unless in perspective, for
 * angles that are not above 0 and below 180 degrees, and past what a lens that folds can see.
 */
export function focalOfAngle(lens: Lens, frame: Frame, kind: AngleKind, deg: number): Result<number, LensReason> {
  if (!isPerspective(lens)) return refused('projection', 'Only a perspective picture has an angle of view.')
  if (!(deg > 0 && deg < 180)) return refused('angle', 'An angle of view lies above 0° and below 180°.')
  const { widthMm, heightMm } = usedSensor(lens, frame)
  const mm = { horizontal: widthMm, vertical: heightMm, diagonal: Math.hypot(widthMm, heightMm) }[kind]
  if (isStraight(lens)) return ok(mm / (2 * Math.tan((deg * RAD_PER_DEG) / 2)))
  const found = focalWhere((focalMm) => fieldOfView({ ...lens, focalMm }, frame)[DEG[kind]], deg)
  return found === null ? refused('reach', 'This lens folds its picture before it sees so wide.') : ok(found)
}

/**
 * The focal length at which the picture is so wide (or so high) at a depth along the axis. Refused unless in perspective, and for
 * widths and depths that are not above nought.
 */
export function focalOfExtent(
  { lens, frame }: { readonly lens: Lens; readonly frame: Frame },
  depthM: number,
  extent: { readonly widthM: number } | { readonly heightM: number },
): Result<number, LensReason> {
  if (!isPerspective(lens)) return refused('projection', 'Only a perspective picture has a focal length.')
  const wanted = 'widthM' in extent ? extent.widthM : extent.heightM
  if (!(wanted > 0) || !(depthM > 0)) return refused('width', 'Width and distance must be above zero.')
  const of = 'widthM' in extent ? widthAtDepthM : heightAtDepthM
  const now = of({ lens, frame }, depthM)
  if (isStraight(lens)) return ok((lens.focalMm * now) / wanted)
  const found = focalWhere((focalMm) => of({ lens: { ...lens, focalMm }, frame }, depthM), wanted)
  return found === null ? refused('reach', 'This lens folds its picture before it sees so wide.') : ok(found)
}

/** World height of the picture at a depth, metres, on the upright line through the axis; see `widthAtDepthM`. */
export function heightAtDepthM(
  { lens, frame }: { readonly lens: Lens; readonly frame: Frame },
  depthM: number,
): number {
  // the same lens on its side: across is up
  const { k1, k2, k3, p1, p2 } = lens.distortion ?? { k1: 0, k2: 0, k3: 0, p1: 0, p2: 0 }
  const { heightMm, widthMm } = usedSensor(lens, frame)
  const turned: Lens = {
    ...lens,
    sensorMm: { width: heightMm, height: widthMm },
    sensorUse: 'acrossWidth',
    crossMm: -lens.riseMm,
    distortion: lens.distortion && { kind: 'brown', k1, k2, k3, p1: p2, p2: p1 },
  }
  const same = widthAtDepthM({ lens, frame }, 1)
  if (!isPerspective(lens)) return (same * frame.heightPx) / frame.widthPx
  return widthAtDepthM({ lens: turned, frame: { ...frame, widthPx: frame.heightPx, heightPx: frame.widthPx } }, depthM)
}

/** Diagonal and width of the small-format picture, 36 x 24 mm. */
const SMALL = { diagonal: Math.hypot(36, 24), width: 36 }

export interface Equivalent {
  /** Of the same diagonal angle over the whole sensor, mm. */
  readonly byDiagonalMm: number
  /** Of the same angle over its longer side, mm; the same number where the sensor is as 36 x 24. */
  readonly byWidthMm: number
  readonly isSame: boolean
}
/** Focal length on 36 x 24 mm with the same angle, by diagonal and by width. Source: CIPA DCG-001 (by diagonal), from memory. */
export function equivalentOf({ focalMm, sensorMm }: Pick<Lens, 'focalMm' | 'sensorMm'>): Equivalent {
  const { width, height } = sensorMm
  const byDiagonalMm = (focalMm * SMALL.diagonal) / Math.hypot(width, height)
  const byWidthMm = (focalMm * SMALL.width) / Math.max(width, height)
  return { byDiagonalMm, byWidthMm, isSame: Math.abs(byDiagonalMm / byWidthMm - 1) < 0.002 }
}
/** The focal length on this sensor that has an equivalent. */
export const focalOfEquivalent = (sensorMm: Lens['sensorMm'], mm: number, by: 'diagonal' | 'width'): number =>
  by === 'diagonal'
    ? (mm * Math.hypot(sensorMm.width, sensorMm.height)) / SMALL.diagonal
    : (mm * Math.max(sensorMm.width, sensorMm.height)) / SMALL.width

export interface Sensor {
  readonly name: string
  readonly width: number
  readonly height: number
}
/** Sensors and film by their sizes in millimetres, lying. Sizes of trade (practice); motion picture film by its camera aperture. */
export const SENSORS: readonly Sensor[] = [
  { name: 'phone, main camera', width: 9.8, height: 7.3 },
  { name: 'compact, 1 inch', width: 13.2, height: 8.8 },
  { name: 'four thirds', width: 17.3, height: 13 },
  { name: 'half frame, 22.3 mm', width: 22.3, height: 14.9 },
  { name: 'half frame, 23.6 mm', width: 23.6, height: 15.7 },
  { name: 'film, Super 35', width: 24.89, height: 18.66 },
  { name: 'full frame', width: 36, height: 24 },
  { name: 'medium format, 44 mm', width: 44, height: 33 },
  { name: 'medium format, 6 × 4.5', width: 56, height: 41.5 },
  { name: 'medium format, 6 × 7', width: 69, height: 56 },
  { name: 'sheet film, 4 × 5 in', width: 120, height: 95 },
]
/** A lens's sensor in the list, lying or upright; null for one of its own. */
export function sensorOf({
  width,
  height,
}: Lens['sensorMm']): { readonly sensor: Sensor; readonly isUpright: boolean } | null {
  const sensor = SENSORS.find((s) => near(s.width, Math.max(width, height)) && near(s.height, Math.min(width, height)))
  return sensor ? { sensor, isUpright: height > width } : null
}
const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-6

/** A usual reach of shift lenses, as a part of the sensor's longer side (practice). */
export const USUAL_SHIFT = 0.1
