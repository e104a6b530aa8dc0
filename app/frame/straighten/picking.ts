// Clicks that are asked for: on a wall to square up to, a point to centre on or to lay the horizon through, an aim, the building's
// direction, the points of a fit or a measure. Drags go on doing what they do.
import { createSharedComposable } from '@vueuse/core'
import { computed, shallowRef, watch, type Ref } from 'vue'
import { atan2Deg, wrapBearingDeg } from '#core/base'
import { topTowards, type Aim, type Camera } from '#core/camera'
import { standOver } from '#core/framing'
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
  over: 'Click the point to look straight down on',
  'main-direction': 'Click a wall of the building',
  'fit-points': 'Click the points that are to fill the frame, here, in Plan or in Side',
  measure: 'Click two points, here, in Plan or in Side',
  'cut-through': 'Click a wall or a face for the cut to go along',
  'cut-between': 'Click two things: the cut goes between them',
  'cut-middle': 'Click an object: the cut goes along its middle',
  'cut-three': 'Click three places that the plane goes through',
  'cut-room': 'Click the floor or a wall of the room',
  staff: 'Click where the measuring staff is to stand, here, in Plan or in Side',
  meter: 'Click what is to come out as mid-grey',
  grey: 'Click what is to come out without a colour',
  'focus-point': 'Click what is to be sharp',
  'focus-object': 'Click the object that is to be sharp; it is followed',
  'focus-between': 'Click the nearest place that is to be sharp, then the farthest',
  'focus-blur': 'Click the place that is to be blurred so much',
  'metre-grid': 'Click the floor or the wall that the metre grid is to lie on',
  'lens-point': 'Click the subject whose size is held, and where widths are told',
  section: 'Click the place for the section to go through',
  'section-parallel': 'Click the place for the section to go through',
  'near-place': 'Click the wall or the place that holds the near cut',
  'cut-line': 'Click the places of the section line in Plan; Enter ends it',
  'far-place': 'Click the wall or the place that holds the far cut',
}
/** Corners and edges are caught within this many page pixels. */
const REACH_PX = 9
/** These go on until Esc. */
const LASTING: readonly Picking[] = ['fit-points', 'measure', 'cut-between', 'cut-line']
/** Of these the surface counts, not a corner. */
const BY_SURFACE: readonly Picking[] = [
  'metre-grid',
  'square',
  'main-direction',
  'aim-object',
  'cut-through',
  'cut-middle',
  'cut-room',
  'focus-object',
  'meter',
  'grey',
  'section',
  'section-parallel',
]

/** Of these the flat wall there counts, not what hangs on it. */
const BY_WALL: readonly Picking[] = ['square', 'main-direction']

/** What a click in a picture would take: a corner or an edge within reach, or the surface. */
function useFinding() {
  const stage = useStage()
  const view = useView()
  const project = useProject()
  return (camera: Camera, at: readonly [number, number], pxPerPage: number): Promise<FeatureHit | null> => {
    const reach = view.picking && BY_SURFACE.includes(view.picking) ? 0 : REACH_PX * pxPerPage
    return stage.rays.pickFeature(camera, at, reach, project.shown)
  }
}

function picking() {
  const project = useProject()
  const view = useView()
  const notices = useNotices()
  const measurements = useMeasurements()
  const { wallNormalAt } = useStraighten()
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

  const find = useFinding()
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

  const done = useTaking(centreBy)
  /** A point picked, on the picture with what was met, or on a strip without. */
  function take(point: Vec3, hit: { nodeId: string; normal: Vec3 } | null): void {
    const what = view.picking
    const taker = what && takers[what]
    if (taker) {
      if (taker(point, hit)) end()
      return
    }
    if (what && done(what, point, hit) && !LASTING.includes(what)) end()
  }
  return { mark, ask, centreBy, begin, end, hover, leave, click, take }
}
/** What picked places do that are asked for elsewhere; answers whether the picking is done. */
export type PickTaker = (point: Vec3, hit: { nodeId: string; normal: Vec3 } | null) => boolean
const takers: Partial<Record<Picking, PickTaker>> = {}
/** Has places of a kind handed to the taker. */
/** What was clicked before the last place that is asked for: forgotten when something else is asked for, or nothing. */
export function usePlacesSoFar() {
  const view = useView()
  const places = shallowRef<readonly Vec3[]>([])
  watch(() => view.picking, () => (places.value = [])) // prettier-ignore
  return places
}
export const takesPicks = (what: Picking, taker: PickTaker): void => void (takers[what] = taker)

export const usePicking = createSharedComposable(picking)

/** Nearer over the point than this, the height is this one, metres. */
const LOWEST_OVER_M = 0.05
const FALLBACK_OVER_M = 3

/** What a picked point does, by what it was asked for; false where it needs a surface and there is none. */
function useTaking(centreBy: Readonly<Ref<CentreBy>>) {
  const project = useProject()
  const notices = useNotices()
  const measurements = useMeasurements()
  const { squareTo, centre, horizon } = useStraighten()
  const mainDirection = useMainDirection()
  const view = useView()

  function aimed(aim: (topOver: (at: Vec3 | null) => number) => Aim): void {
    const w = project.working
    const c = project.camera
    if (!w || !c) return
    const topOver = (at: Vec3 | null): number => topTowards(c.pose.station, at, c.pose.bearingDeg)
    project.move({ stand: { ...w.stand, aim: aim(topOver) } }, 'Aimed')
  }
  /** Straight down on the point, the top of the picture where it pointed before. */
  function over(point: Vec3): void {
    const c = project.camera
    if (!c) return
    const above = c.pose.station[2] - point[2]
    const heightM = view.overHeightM ?? (above > LOWEST_OVER_M ? above : FALLBACK_OVER_M)
    project.move({ stand: standOver(point, heightM, c.pose.bearingDeg) }, 'Straight down', true)
  }
  const byPoint: Partial<Record<Picking, (point: Vec3) => void>> = {
    measure: (point) => measurements.add(point),
    staff: (point) => measurements.addStaff(point),
    'fit-points': (point) => measurements.addFitPoint(point),
    centre: (point) => void centre(point, centreBy.value),
    horizon: (point) => horizon(point),
    over: (point) => over(point),
    'aim-point': (point) => aimed((topOver) => ({ kind: 'point', point, topBearingDeg: topOver(point) })),
  }
  const bySurface: Partial<Record<Picking, (hit: { nodeId: string; normal: Vec3 }) => void>> = {
    square: ({ normal }) => void squareTo(normal),
    'main-direction': ({ normal }) => mainDirection(normal),
    'aim-object': ({ nodeId }) =>
      aimed((topOver) => {
        const topBearingDeg = topOver(centreOf(nodeId, [0, 0, 0]))
        return { kind: 'object', nodeId, offset: [0, 0, 0], topBearingDeg }
      }),
  }
  return (what: Picking, point: Vec3, hit: { nodeId: string; normal: Vec3 } | null): boolean => {
    if (byPoint[what]) byPoint[what](point)
    else if (hit) bySurface[what]?.(hit)
    else notices.say('This needs a surface: click it in the picture.', 'warning')
    return Boolean(byPoint[what] ?? hit)
  }
}

/** The building's directions by an upright wall. */
function useMainDirection() {
  const view = useView()
  const notices = useNotices()
  return ([x, y, z]: Vec3): void => {
    if (Math.hypot(x, y) < Math.abs(z))
      return notices.say('That is a floor or a roof. Click an upright wall.', 'warning')
    const deg = wrapBearingDeg(atan2Deg(x, y)) % 90
    view.mainBearingDeg = deg > 45 ? deg - 90 : deg
    notices.say(`The building’s directions are ${view.mainBearingDeg.toFixed(2)}° off north and east now.`)
  }
}
