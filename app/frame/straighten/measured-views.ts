// Measured views: plan, underside, elevations, axonometries and oblique views of the selection or the model, at a free extent or at a
// drawing scale.
import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import {
  axonometricFromAngles,
  fitPoints,
  frameHolding,
  measuredDirection,
  measuredLens,
  widthAtScaleM,
  type MeasuredView,
  type Quarter,
} from '#core/framing'
import { addScaled, boxCentre } from '#core/math'
import { axesOf, type Camera, topOf } from '#core/camera'
import { FRAME_LIMIT_PX } from '#model'
import { useFraming } from '../camera/framing.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { compass } from '../../text/short.ts'
import { useFitting } from './fitting.ts'

export interface NamedView {
  readonly id: string
  readonly label: string
  readonly view: MeasuredView
}
const QUARTERS = [0, 1, 2, 3] as const satisfies readonly Quarter[]
const FACES = ['north', 'east', 'south', 'west'] as const
/** Corner that an axonometry looks to, from a building along the axes. */
const CORNERS = ['north-east', 'south-east', 'south-west', 'north-west'] as const

export const VIEWS: readonly NamedView[] = [
  { id: 'plan', label: 'Plan', view: { kind: 'plan' } },
  { id: 'underside', label: 'Underside', view: { kind: 'underside' } },
  ...QUARTERS.map((quarter): NamedView => ({
    id: `elevation-${quarter}`,
    label: `Elevation looking ${FACES[quarter]}`,
    view: { kind: 'elevation', quarter },
  })),
  ...QUARTERS.map((corner): NamedView => ({
    id: `isometric-${corner}`,
    label: `Isometric looking ${CORNERS[corner]}`,
    view: { kind: 'isometric', corner },
  })),
  {
    id: 'dimetric-left',
    label: 'Dimetric 7° and 42°, turned left',
    view: { kind: 'dimetric', quarter: 0, hand: 'left' },
  },
  {
    id: 'dimetric-right',
    label: 'Dimetric 7° and 42°, turned right',
    view: { kind: 'dimetric', quarter: 0, hand: 'right' },
  },
  { id: 'dimetric-2-1', label: 'Dimetric two to one', view: { kind: 'dimetric-2-1', corner: 0 } },
  { id: 'cabinet', label: 'Cabinet', view: { kind: 'cabinet', quarter: 0 } },
  { id: 'cavalier', label: 'Cavalier', view: { kind: 'cavalier', quarter: 0 } },
  { id: 'planometric', label: 'Planometric', view: { kind: 'planometric', turnDeg: 45, receding: 2 / 3 } },
]

function measured() {
  const project = useProject()
  const notices = useNotices()
  const { mainBearingDeg } = useFraming()
  const { target, sides } = useFitting()
  /** Drawing scale 1 : k; null: as large as the frame allows. */
  const scale = ref<number | null>(null)
  /** Quarter turns that the views with one direction are turned by. */
  const quarter = ref<Quarter>(0)

  /** Direction and lens of a view, fitted to the target; null when that is refused. */
  function cameraFor(v: MeasuredView): Camera | null {
    const c = project.camera
    const t = target.value
    if (!c || !t) return null
    const d = measuredDirection(v, mainBearingDeg.value)
    const middle = boxCentre(t.box)
    // the station's plane goes through the middle of what is shown: nothing depends on it but cuts and the oblique forms' true plane
    const forward = axesOf(d.pose).forward
    const away = Math.hypot(...[0, 1, 2].map((k) => t.box.max[k]! - t.box.min[k]!)) || 1
    const oblique = d.projection(1).kind === 'oblique'
    const station = oblique ? middle : addScaled(middle, forward, -away)
    const lens = measuredLens(c.lens, d.projection(1))
    const r = fitPoints({ pose: { ...d.pose, station }, lens, frame: c.frame }, t.points, {
      margin: sides.value,
      ...(scale.value === null ? {} : { widthM: widthAtScaleM(c.frame, scale.value) }),
    })
    if (r.ok) return r.value
    notices.say(r.message, 'warning')
    return null
  }
  /** Makes it the picture; one step of the trail. */
  function show(v: MeasuredView): boolean {
    const camera = cameraFor(v)
    const w = project.working
    const t = target.value
    if (!camera || !w || !t) return false
    const { station, bearingDeg, tiltDeg } = camera.pose
    // aimed at a point in the plane of the middle, so that going back to perspective has a subject
    const { forward } = axesOf(camera.pose)
    const ahead = boxCentre(t.box).reduce((s, m, k) => s + (m - station[k]!) * forward[k]!, 0)
    const awayM = Math.max(ahead, 0.01 * widthOf(camera))
    const point = addScaled(station, forward, awayM)
    const topBearingDeg = topOf(bearingDeg, tiltDeg)
    const done = project.move(
      { stand: { station, aim: { kind: 'point', point, topBearingDeg }, rollDeg: 0 }, lens: camera.lens },
      nameOf(v),
      true,
    )
    if (done && scale.value !== null && !fits(camera)) offerLargerFrame(v, camera)
    return done
  }
  /** What does not fit at the scale: its size on paper, and a frame of that size. */
  function offerLargerFrame(v: MeasuredView, camera: Camera): void {
    const frame = target.value && frameHolding(camera, target.value.points, sides.value)
    if (!frame) return
    const mm = (px: number): string => ((px / frame.densityPpi) * 25.4).toFixed(0)
    const size = `${mm(frame.widthPx)} × ${mm(frame.heightPx)} mm`
    const tooLarge = Math.max(frame.widthPx, frame.heightPx) > FRAME_LIMIT_PX
    notices.say(
      `At 1 : ${scale.value} it needs ${size} of paper: larger than the frame.`,
      'warning',
      tooLarge
        ? null
        : {
            label: 'Make the frame this large',
            run: () => void (project.move({ frame }, `Frame of ${size}`) && show(v)),
          },
    )
  }
  const widthOf = (c: Camera): number => ('widthM' in c.lens.projection ? c.lens.projection.widthM : 1)
  function fits(c: Camera): boolean {
    const r = target.value && fitPoints(c, target.value.points, { margin: 0 })
    return Boolean(r && r.ok && widthOf(r.value) <= widthOf(c) * (1 + 1e-9))
  }
  function nameOf(v: MeasuredView): string {
    const d = measuredDirection(v, mainBearingDeg.value).pose
    const looking = `looking ${compass(d.bearingDeg)}`
    if (v.kind === 'elevation') return `Elevation ${looking}`
    if (v.kind === 'isometric') return `Isometric ${looking}`
    return v.kind === 'dimetric-2-1' ? 'Dimetric 2:1' : v.kind[0]!.toUpperCase() + v.kind.slice(1)
  }
  /** A free axonometry from the angles of its receding axes. */
  function showAngles(leftDeg: number, rightDeg: number): boolean {
    const r = axonometricFromAngles(leftDeg, rightDeg)
    if (!r.ok) {
      notices.say(r.message, 'warning')
      return false
    }
    const { tiltDeg, turnDeg } = r.value
    return show({ kind: 'axonometric', bearingDeg: mainBearingDeg.value + 90 * quarter.value + turnDeg, tiltDeg })
  }
  return { scale, quarter, show, showAngles, cameraFor }
}
export const useMeasuredViews = createSharedComposable(measured)
