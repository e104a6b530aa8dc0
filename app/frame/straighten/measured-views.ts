// Measured views: plan, underside, elevations, axonometries and oblique views of the selection or the model, at a free extent or at a
// drawing scale.
import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import {
  axonometricFromAngles,
  frameHolding,
  holdsAll,
  measuredCamera,
  measuredDirection,
  measuredStand,
  type MeasuredView,
  type Quarter,
} from '#core/framing'
import { boxCentre } from '#core/math'
import type { Camera } from '#core/camera'
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

function nameOf(v: MeasuredView, mainBearingDeg: number): string {
  const looking = `looking ${compass(measuredDirection(v, mainBearingDeg).pose.bearingDeg)}`
  if (v.kind === 'elevation') return `Elevation ${looking}`
  if (v.kind === 'isometric') return `Isometric ${looking}`
  return v.kind === 'dimetric-2-1' ? 'Dimetric 2:1' : v.kind[0]!.toUpperCase() + v.kind.slice(1)
}

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
    const by = { mainBearingDeg: mainBearingDeg.value, margin: sides.value, scale: scale.value }
    const r = measuredCamera(c, v, t, by)
    if (r.ok) return r.value
    notices.say(r.message, 'warning')
    return null
  }
  /** Makes it the picture; one step of the trail. */
  function show(v: MeasuredView): boolean {
    const camera = cameraFor(v)
    const t = target.value
    if (!camera || !t) return false
    const to = { stand: measuredStand(camera, boxCentre(t.box)), lens: camera.lens }
    const done = project.move(to, nameOf(v, mainBearingDeg.value), true)
    if (done && scale.value !== null && !holdsAll(camera, t.points)) offerLargerFrame(v, camera)
    return done
  }
  /** What does not fit at the scale: its size on paper, and a frame of that size. */
  function offerLargerFrame(v: MeasuredView, camera: Camera): void {
    const frame = target.value && frameHolding(camera, target.value.points, sides.value)
    if (!frame) return
    const mm = (px: number): string => ((px / frame.densityPpi) * 25.4).toFixed(0)
    const size = `${mm(frame.widthPx)} × ${mm(frame.heightPx)} mm`
    const larger = {
      label: 'Make the frame this large',
      run: () => void (project.move({ frame }, `Frame of ${size}`) && show(v)),
    }
    const tooLarge = Math.max(frame.widthPx, frame.heightPx) > FRAME_LIMIT_PX
    const told = `At 1 : ${scale.value} it needs ${size} of paper: larger than the frame.`
    notices.say(told, 'warning', tooLarge ? null : larger)
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
