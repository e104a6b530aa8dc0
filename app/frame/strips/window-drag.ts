// What a drag of the picture's window in Plan or Side makes of the lens: its middle rise or cross, its ends the focal length or the width
// of view. Model: metres along the window are read from what the drawing shows of its direction.
import { ref, type Ref } from 'vue'
import { FOCAL_RANGE_MM, widthOfView, withWidthOfView, type Camera, type Lens } from '#core/camera'
import { lensOfEnd, shiftPerMetre, type Across } from '#core/framing'
import { add, dot, sub, type Vec3 } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { LEAST_PX, type ShownWindow, type WindowDrawing } from './picture-window.ts'

/** By the way the window lies: the shift along it, and its name. */
export const SHIFT = { right: ['crossMm', 'Cross'], up: ['riseMm', 'Rise'] } as const
/** Nearer to none than this it is none. */
const SNAP_MM = 0.25
/** Less than this of a direction, as a squared length, and the drawing shows it from its end. */
const LEAST_SEEN = 0.05
const clampFocal = (mm: number): number => Math.min(FOCAL_RANGE_MM.max, Math.max(FOCAL_RANGE_MM.min, mm))

/** Squared length of a direction as a drawing shows it. */
function partSeen({ toPx }: WindowDrawing, station: Vec3, direction: Vec3): number {
  const o = toPx(station)
  const shownPx = (v: Vec3): number => {
    const p = toPx(add(station, v))
    return Math.hypot(p.x - o.x, p.y - o.y)
  }
  const metrePx = Math.max(shownPx([1, 0, 0]), shownPx([0, 1, 0]), shownPx([0, 0, 1]))
  return Math.min(1, (shownPx(direction) / metrePx) ** 2)
}

interface Grab {
  readonly camera: Camera
  readonly of: ShownWindow
  /** Where it was taken, in the world. */
  readonly at: Vec3
}
/** The lens with the window's middle `m` metres along; shift in twentieths of a millimetre, none near none, unless `isFree`. */
function lensOfMiddle({ camera: { lens, frame }, of }: Grab, across: Across, m: number, isFree: boolean): Lens {
  const key = SHIFT[across][0]
  const mm = lens[key] + m * shiftPerMetre({ lens, frame }, of.depthM)
  return { ...lens, [key]: !isFree && Math.abs(mm) < SNAP_MM ? 0 : Math.round(mm * 20) / 20 }
}
/** The lens with an end `m` metres along; the focal length in tenths of a millimetre unless `isFree`. Null where no lens has it. */
function lensOfDraggedEnd({ camera, of }: Grab, across: Across, end: 0 | 1, m: number, isFree: boolean): Lens | null {
  const { lens, frame } = camera
  const r = lensOfEnd({ lens, frame }, across, end, of.window.fromAxisM[end] + m, of.depthM)
  if (!r) return null
  if ('widthM' in r) return withWidthOfView(lens, r.widthM)
  return { ...lens, focalMm: clampFocal(isFree ? r.focalMm : Math.round(r.focalMm * 10) / 10) }
}
/** The lens an arrow's step on: ten millimetres a unit of `by` in shift, a hundred in focal length, ten metres in width of view. */
function lensOfShiftStep(lens: Lens, across: Across, by: number): Lens {
  const key = SHIFT[across][0]
  return { ...lens, [key]: Number((lens[key] + 10 * by).toFixed(6)) }
}
function lensOfEndStep(lens: Lens, by: number): Lens {
  const widthM = widthOfView(lens)
  if (widthM === null) return { ...lens, focalMm: clampFocal(lens.focalMm + 100 * by) }
  return withWidthOfView(lens, Math.max(0.01, widthM - 10 * by))
}

export function useWindowDrag(drawing: WindowDrawing, shown: Ref<ShownWindow | null>, heldDepthM: Ref<number | null>) {
  const project = useProject()
  const { across } = drawing
  const active = ref<'' | 'middle' | 'end'>('')
  let from: Grab | null = null
  function begin(what: 'middle' | 'end', e: PointerEvent): void {
    const [camera, of] = [project.camera, shown.value]
    active.value = what
    heldDepthM.value = of?.depthM ?? null
    from = camera && of ? { camera, of, at: drawing.toWorld(e) } : null
  }
  /** Metres along the window that the pointer went: as far as it goes along what is seen of it. */
  function went({ of, at }: Grab, e: PointerEvent): number | null {
    const { along, ends } = of.window
    const [p, q] = ends.map(drawing.toPx)
    if (Math.hypot(q!.x - p!.x, q!.y - p!.y) < LEAST_PX) return null
    const seen = partSeen(drawing, project.camera!.pose.station, along)
    return seen > LEAST_SEEN ? dot(sub(drawing.toWorld(e), at), along) / seen : null
  }
  function drag(e: PointerEvent, lensAt: (grab: Grab, m: number) => Lens | null): void {
    const m = from && went(from, e)
    const lens = m === null ? null : lensAt(from!, m)
    if (lens) project.show({ lens })
  }
  const dragMiddle = (e: PointerEvent): void => drag(e, (g, m) => lensOfMiddle(g, across, m, e.altKey))
  const dragEnd = (e: PointerEvent, end: 0 | 1): void => drag(e, (g, m) => lensOfDraggedEnd(g, across, end, m, e.altKey)) // prettier-ignore
  function over(): void {
    active.value = ''
    heldDepthM.value = from = null
  }
  function done(label: string): void {
    over()
    project.settle(label)
  }
  function cancel(): void {
    over()
    project.letGo()
  }
  function step(lensOf: (lens: Lens) => Lens, label: string): void {
    const lens = project.working?.lens
    if (lens) project.move({ lens: lensOf(lens) }, label)
  }
  const nudge = (by: number): void => step((l) => lensOfShiftStep(l, across, by), SHIFT[across][1])
  const nudgeEnd = (by: number): void => step((l) => lensOfEndStep(l, by), 'Focal length')
  return { active, begin, dragMiddle, dragEnd, nudge, nudgeEnd, done, cancel }
}
