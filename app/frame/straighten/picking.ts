// Clicks that are asked for: on a wall to square up to, a point to centre on or to lay the horizon through, an aim, the building's
// direction, the points of a fit or a measure. Drags go on doing what they do.
import { createSharedComposable } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { atan2Deg, wrapBearingDeg } from '#core/base'
import { topTowards, type Aim, type Camera } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { FeatureHit } from '#mesh'
import { useMeasurements } from '../measure/measurements.ts'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView, type Picking } from '../../stores/view.ts'
import { useStraighten, type CentreBy } from './straighten.ts'

/** What is asked for, as shown in the picture. */
export const ASKS: Record<Picking, string> = {
  square: 'Click a wall to square up to',
  centre: 'Click a point to centre on; corners and edges are caught',
  horizon: 'Click a point or an edge for the horizon to pass through',
  'aim-point': 'Click the point to aim at',
  'aim-object': 'Click the object to aim at',
  'main-direction': 'Click a wall of the building',
  'fit-points': 'Click the points that are to fill the frame, here, in Plan or in Side',
  measure: 'Click two points, here, in Plan or in Side',
}
/** Corners and edges are caught within this many page pixels. */
const REACH_PX = 9
/** These go on until Esc. */
const LASTING: readonly Picking[] = ['fit-points', 'measure']
/** Of these the surface counts, not a corner. */
const BY_SURFACE: readonly Picking[] = ['square', 'main-direction', 'aim-object']

/** Of these the flat wall there counts, not what hangs on it. */
const BY_WALL: readonly Picking[] = ['square', 'main-direction']

function picking() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const measurements = useMeasurements()
  const { squareTo, wallNormalAt, centre, horizon } = useStraighten()
  /** What a click would take now. */
  const mark = shallowRef<FeatureHit | null>(null)
  const centreBy = shallowRef<CentreBy>('cross')
  let asked = 0

  const begin = (what: Picking): void => {
    mark.value = null
    view.picking = view.picking === what ? null : what
    if (view.picking && view.tool === 'stand') view.tool = project.document?.subject === 'product' ? 'orbit' : 'turn'
  }
  const end = (): void => {
    asked++
    mark.value = null
    view.picking = null
    measurements.from = null
  }
  const ask = computed(() => {
    if (!view.picking) return ''
    return view.picking === 'measure' && measurements.from ? 'Click the second point' : ASKS[view.picking]
  })

  const find = (camera: Camera, at: readonly [number, number], pxPerPage: number): Promise<FeatureHit | null> => {
    const reach = view.picking && BY_SURFACE.includes(view.picking) ? 0 : REACH_PX * pxPerPage
    return stage.rays.pickFeature(camera, at, reach, project.shown)
  }
  async function hover(camera: Camera, at: readonly [number, number], pxPerPage: number): Promise<void> {
    const mine = ++asked
    const hit = await find(camera, at, pxPerPage)
    if (mine === asked && view.picking) mark.value = hit
  }
  function leave(): void {
    asked++
    mark.value = null
  }
  /** A click on the picture. */
  async function click(camera: Camera, at: readonly [number, number], pxPerPage: number): Promise<void> {
    const hit = await find(camera, at, pxPerPage)
    const normal = hit && BY_WALL.includes(view.picking!) ? await wallNormalAt(camera, at) : null
    if (!hit) notices.say('Nothing is there. Click on the model.', 'warning')
    else take(hit.point, normal ? { ...hit, normal } : hit)
  }

  /** A point picked, on the picture with what was met, or on a strip without. */
  function take(point: Vec3, hit: { nodeId: string; normal: Vec3 } | null): void {
    const w = project.working
    const c = project.camera
    const what = view.picking
    if (!what || !w || !c) return
    const topOver = (at: Vec3 | null): number => topTowards(c.pose.station, at, c.pose.bearingDeg)
    const aimed = (aim: Aim): void => void project.move({ stand: { ...w.stand, aim } }, 'Aimed')
    if (what === 'measure') measurements.add(point)
    else if (what === 'fit-points') measurements.addFitPoint(point)
    else if (what === 'centre') centre(point, centreBy.value)
    else if (what === 'horizon') horizon(point)
    else if (what === 'aim-point') aimed({ kind: 'point', point, topBearingDeg: topOver(point) })
    else if (!hit) {
      notices.say('This needs a surface: click it in the picture.', 'warning')
      return
    } else if (what === 'square') squareTo(hit.normal)
    else if (what === 'aim-object') {
      const { nodeId } = hit
      aimed({ kind: 'object', nodeId, offset: [0, 0, 0], topBearingDeg: topOver(centreOf(nodeId, [0, 0, 0])) })
    } else mainDirection(hit.normal)
    if (!LASTING.includes(what)) end()
  }
  function mainDirection([x, y, z]: Vec3): void {
    if (Math.hypot(x, y) < Math.abs(z)) {
      notices.say('That is a floor or a roof. Click an upright wall.', 'warning')
      return
    }
    const deg = wrapBearingDeg(atan2Deg(x, y)) % 90
    view.mainBearingDeg = deg > 45 ? deg - 90 : deg
    notices.say(`The building’s directions are ${view.mainBearingDeg.toFixed(2)}° off north and east now.`)
  }
  return { mark, ask, centreBy, begin, end, hover, leave, click, take }
}
export const usePicking = createSharedComposable(picking)
