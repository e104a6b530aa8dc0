// What do a photograph's own tags say of its lens, and how well?
// Model: a focal length in pixels with one sigma. Equivalents are whole millimetres, told by the diagonal (as the standard has it) or by
// the width (as many makers do); the two agree on 3:2 only. Resolutions of the focal plane are left as they were by what resizes
// pictures: they count only for the pixels they were written for. Source: cipa-dc008 (Exif 2.3), cipa-dcg001; handbook-9.

import { ok, refused, type Result } from '../base/index.ts'

/** As they stand in the file; what is missing is left out. Nothing is believed yet. */
export interface PhotoTags {
  readonly focalMm?: number | undefined
  /** Focal length on 36 x 24 mm that sees as much, whole millimetres. */
  readonly equivalentMm?: number | undefined
  /** Pixels a unit on the sensor, and that unit, millimetres. */
  readonly planeXResolution?: number | undefined
  readonly planeUnitMm?: number | undefined
  /** Pixels that the camera wrote, before any turning. */
  readonly pixelWidth?: number | undefined
  readonly pixelHeight?: number | undefined
  readonly camera?: string | undefined
}
export type FocalFrom = 'focal plane' | 'equivalent, by diagonal' | 'equivalent'
export interface FocalTold {
  readonly focalPx: number
  /** One sigma, pixels. */
  readonly sdPx: number
  readonly from: FocalFrom
  /** Width of the sensor as far as it follows, millimetres; null where it does not. */
  readonly sensorWidthMm: number | null
  /** What the person should know: a crop, a resized picture. */
  readonly note: string
}
export type TagsReason = 'no-tags' | 'sensor-unknown' | 'nonsense'

/** Focal lengths of lenses that are made, and sensors, millimetres. */
const FOCAL_MM = [0.5, 5000] as const
const SENSOR_MM = [2, 120] as const
const EQUIVALENT_MM = [4, 6000] as const
const DIAGONAL_35_MM = Math.hypot(36, 24)
/** A lens's focal length is told to about one part in fifty of what is engraved, and changes with focusing (practice). */
const ENGRAVED = 0.02
/** Two ways to the same length may differ so much. */
const AGREE = 0.1

const within = (v: number | undefined, [least, most]: readonly [number, number]): v is number =>
  v !== undefined && Number.isFinite(v) && v >= least && v <= most

/** The focal length in pixels of an upright picture of width x height. */
export function focalFromTags(tags: PhotoTags, widthPx: number, heightPx: number): Result<FocalTold, TagsReason> {
  const { focalMm, equivalentMm } = tags
  if (focalMm === undefined && equivalentMm === undefined)
    return refused('no-tags', 'The photograph does not say which lens it was taken with.')
  const long = Math.max(widthPx, heightPx)
  const diagonal = Math.hypot(widthPx, heightPx)
  const shot = shotOf(tags, widthPx, heightPx)
  const equivalent = within(equivalentMm, EQUIVALENT_MM) ? byEquivalent(equivalentMm, long, diagonal, shot) : null
  const plane = byPlane(tags, long, shot)
  const isOdd =
    (focalMm !== undefined && focalMm !== 0 && !within(focalMm, FOCAL_MM)) ||
    (equivalentMm !== undefined && equivalentMm !== 0 && !equivalent)
  if (plane && equivalent && Math.abs(plane.focalPx / equivalent.focalPx - 1) > AGREE)
    return ok({ ...equivalent, note: `${equivalent.note} The sensor’s resolution in the file does not fit and is left out.`.trim() }) // prettier-ignore
  const best = plane ?? equivalent
  if (best) return ok(best)
  if (isOdd) return refused('nonsense', 'What the photograph says of its lens cannot be true; it is left out.')
  if (!focalMm) return refused('no-tags', 'The photograph does not say which lens it was taken with.')
  return refused('sensor-unknown', `The photograph says ${focalMm} mm but not how large its sensor was.`)
}

const HOW: Readonly<Record<FocalFrom, string>> = {
  'focal plane': 'by the sensor’s resolution',
  equivalent: 'by the equivalent',
  'equivalent, by diagonal': 'by the equivalent, taken by the diagonal',
}
/** What was told, for the person: millimetres on 36 of the longer side, at most 400 letters. */
export function focalSentence(
  { focalPx, sdPx, from, note }: FocalTold,
  size: { readonly widthPx: number; readonly heightPx: number },
  camera = '',
): string {
  // prettier-ignore
  const mm = (px: number): string => ((px * 36) / Math.max(size.widthPx, size.heightPx)).toFixed(1)
  const told = `${camera ? `${camera}: ` : ''}${mm(focalPx)} ± ${mm(sdPx)} mm on 36 mm of width, ${HOW[from]}.`
  return `${told} ${note}`.trim().slice(0, 400)
}

interface Shot {
  /** Longer side that the camera wrote, pixels; null where it is not told. */
  readonly longPx: number | null
  readonly isResized: boolean
  readonly isCropped: boolean
}
function shotOf({ pixelWidth, pixelHeight }: PhotoTags, widthPx: number, heightPx: number): Shot {
  if (!pixelWidth || !pixelHeight || !(pixelWidth > 0) || !(pixelHeight > 0)) return { longPx: null, isResized: false, isCropped: false } // prettier-ignore
  const [long, short] = [Math.max(pixelWidth, pixelHeight), Math.min(pixelWidth, pixelHeight)]
  const [l, s] = [Math.max(widthPx, heightPx), Math.min(widthPx, heightPx)]
  const isCropped = Math.abs(long / short / (l / s) - 1) > 0.01
  return { longPx: long, isResized: Math.abs(long - l) > 1, isCropped }
}
const CROPPED = 'It looks cropped: the middle of the lens may lie elsewhere.'
const EITHER = 'It has other pixels than the camera wrote: resized, as is assumed, or cropped.'
/** Half of how far two readings lie apart, where nothing tells which is true: as a picture made smaller, or cut out of the whole. */
const eitherSd = (focalPx: number, shot: Shot, long: number): number =>
  shot.isResized && shot.longPx !== null ? 0.5 * focalPx * Math.abs(shot.longPx / long - 1) : 0

function byEquivalent(mm: number, long: number, diagonal: number, shot: Shot): FocalTold {
  const byDiagonal = (mm / DIAGONAL_35_MM) * diagonal
  const byWidth = (mm / 36) * long
  // rounded to whole millimetres: evenly within half of one
  const rounding = (0.5 / Math.sqrt(3) / mm) * byDiagonal
  const either = Math.abs(byDiagonal - byWidth) / Math.sqrt(12)
  const crop = shot.isCropped ? 0.15 * byDiagonal : 0
  const isSame = Math.abs(byDiagonal / byWidth - 1) < 0.005
  return {
    focalPx: byDiagonal,
    sdPx: Math.hypot(rounding, either, ENGRAVED * byDiagonal, crop, eitherSd(byDiagonal, shot, long)),
    from: isSame ? 'equivalent' : 'equivalent, by diagonal',
    sensorWidthMm: null,
    note: shot.isCropped ? CROPPED : shot.isResized ? EITHER : '',
  }
}

function byPlane(tags: PhotoTags, long: number, shot: Shot): FocalTold | null {
  const { focalMm, planeXResolution, planeUnitMm } = tags
  if (!within(focalMm, FOCAL_MM) || !planeXResolution || !planeUnitMm || !(planeXResolution > 0)) return null
  // written for the camera's own pixels: those of another size tell nothing without them
  if (shot.longPx === null || shot.isCropped) return null
  const sensorMm = (shot.longPx / planeXResolution) * planeUnitMm
  if (!within(sensorMm, SENSOR_MM)) return null
  const focalPx = (focalMm / sensorMm) * long
  const note = shot.isResized ? EITHER : ''
  return {
    focalPx,
    sdPx: Math.hypot(ENGRAVED * focalPx, eitherSd(focalPx, shot, long)),
    from: 'focal plane',
    sensorWidthMm: sensorMm,
    note,
  }
}
