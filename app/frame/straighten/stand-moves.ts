// Moves of the stand by numbers, wired to the project: what they compute stands in core/framing/stands.ts.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import type { Result } from '#core/base'
import { aimPointOf, axesOf, poseOfStand, standMoved, type Stand, topTowards } from '#core/camera'
import {
  aimMoved,
  aligned,
  frontBearingDeg,
  offsetAhead,
  rolledBy,
  standAtSide,
  standRound,
  stepAlong,
  type BoxSide,
} from '#core/framing'
import { boxCentre, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { useFitTarget } from './fit-target.ts'
import { useFitting } from './fitting.ts'
import { useStandClipboard } from './stand-clipboard.ts'

export type ObjectSide = BoxSide
export type NudgeWhat = 'both' | 'station' | 'aim'
export type NudgeAxes = 'view' | 'world'

/** Heights of eyes over the floor, metres (practice). */
export const EYE_HEIGHTS = [
  { label: 'standing', m: 1.6 },
  { label: 'seated', m: 1.2 },
] as const

function standMoves() {
  return { ...placing(), ...standing(), ...aiming(), ...useStandClipboard() }
}
export const useStandMoves = createSharedComposable(standMoves)

const stand = (): Stand | null => useProject().working?.stand ?? null
/** Takes over what was worked out, or tells why it could not be. */
function take(r: Result<Stand, string>, label: string): boolean {
  if (r.ok) return useProject().move({ stand: r.value }, label, true)
  useNotices().say(r.message, 'warning')
  return false
}

/** Where the station stands: coordinates, an object's sides, nudges. */
function placing() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const { sides } = useFitting()
  const { floor } = useFraming()

  /** One of a station's coordinates; the aim comes along unless the station alone is to move. */
  function stationAt(axis: 0 | 1 | 2, to: number): Stand | null {
    const s = stand()
    if (!s) return null
    const by: [number, number, number] = [0, 0, 0]
    by[axis] = to - s.station[axis]
    return standMoved(s, by, view.stationAlone, centreOf)
  }
  /** The stand with the eye so high over its floor; null where no floor is found. */
  const withEyeAt = (m: number): Stand | null => (floor.value === null ? null : stationAt(2, floor.value + m))
  /** Before, behind, beside or above the selected object (or the model), fitted to the frame and looking at its middle. */
  function from(side: ObjectSide): boolean {
    const c = project.camera
    const node = view.selection.length === 1 ? stage.byId.get(view.selection[0]!) : undefined
    const box = node?.box ?? stage.facts?.box
    if (!c || !box) return false
    const r = standAtSide(c, box, side, { margin: sides.value, frontDeg: frontBearingDeg(node?.axes) })
    if (r.ok) return project.move(r.value, `From ${side === 'above' ? 'above' : `the ${side}`}`, true)
    notices.say(r.message, 'warning')
    return false
  }
  /** Over the model's middle, looking straight down, the whole of it in the frame. */
  function overModel(): boolean {
    const { selection } = view
    view.selection = []
    const done = from('above')
    view.selection = selection
    return done
  }
  /** A step along right, forward and up of the view (level) or along east, north and up. */
  function nudge(way: Vec3, axes: NudgeAxes, what: NudgeWhat): void {
    const s = stand()
    if (!s) return
    const by = stepAlong(poseOfStand(s, centreOf).bearingDeg, way, axes, view.nudgeM)
    if (what === 'aim')
      take(
        aimMoved(s, by, (id) => stage.byId.get(id)?.axes),
        'Nudged',
      )
    else project.move({ stand: standMoved(s, by, what === 'station', centreOf) }, 'Nudged')
  }
  return { stationAt, withEyeAt, from, overModel, nudge }
}

/** How it stands: eye heights and roll. */
function standing() {
  const project = useProject()
  const view = useView()
  const notices = useNotices()
  const { floor, whenFloorIsKnown } = useFraming()

  function rollBy(deg: number): void {
    const s = stand()
    if (s) project.move({ stand: rolledBy(s, deg) }, 'Rolled')
  }
  /** Presets and typed eye heights: over the floor below. */
  function eyeAt(heightM: number): void {
    whenFloorIsKnown(() => {
      const s = stand()
      if (floor.value === null || !s) return notices.say('There is no floor below the station.', 'warning')
      const by: Vec3 = [0, 0, floor.value + heightM - s.station[2]]
      return project.move({ stand: standMoved(s, by, view.stationAlone, centreOf) }, 'Eye height')
    })
  }
  return { rollBy, eyeAt }
}

/** What is looked at: objects, alignment, round the aim. */
function aiming() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const fitTarget = useFitTarget()
  const notices = useNotices()

  const follow = (s: Stand, nodeId: string, offset: Vec3, label: string): boolean => {
    const topBearingDeg = topTowards(s.station, centreOf(nodeId, offset), poseOfStand(s, centreOf).bearingDeg)
    return project.move({ stand: { ...s, aim: { kind: 'object', nodeId, offset, topBearingDeg } } }, label)
  }
  /** Looks at the middle of the selected object and goes on doing so. */
  function aimAtSelected(): void {
    const s = stand()
    const id = view.selection[0]
    if (s && id) follow(s, id, [0, 0, 0], 'Aimed')
  }
  /** The selected object, or the one on the sight line, becomes the aim with an offset such that the picture does not move. */
  async function aimAtObjectAhead(): Promise<void> {
    const s = stand()
    if (!s) return
    const pose = poseOfStand(s, centreOf)
    const hit = await stage.rays.pick({ origin: s.station, direction: axesOf(pose).forward }, project.shown)
    const node = stage.byId.get(view.selection.length === 1 ? view.selection[0]! : (hit?.nodeId ?? ''))
    if (!node || stand() !== s) {
      if (!node) notices.say('No object lies on the sight line. Click one, or select it first.', 'warning')
      return
    }
    const atM = hit?.nodeId === node.id ? hit.distanceM : null
    follow(s, node.id, offsetAhead(pose, node.box, node.axes, atM), 'Aim by object')
  }
  function align(axis: 0 | 1 | 2): void {
    const s = stand()
    if (s) take(aligned(s, axis, centreOf), `Aligned on ${['x', 'y', 'height'][axis]!}`)
  }
  /** What the camera goes round: the selection, else what is aimed at, else the middle of the model. */
  const pivot = computed<{ readonly what: string; readonly point: Vec3 } | null>(() => {
    const { target } = fitTarget
    if (target.value && view.selection.length > 0)
      return { what: target.value.what, point: boxCentre(target.value.box) }
    const aim = stand()?.aim
    const point = aim ? aimPointOf(aim, centreOf) : null
    if (point) return { what: 'the aim', point }
    return stage.facts ? { what: 'the model', point: boxCentre(stage.facts.box) } : null
  })
  /** The stand from which the pivot is seen along a bearing and at a tilt, in its place and size in the picture. */
  const roundTo = (bearingDeg: number, tiltDeg: number): Stand | null => {
    const s = stand()
    return s && pivot.value ? standRound(s, pivot.value.point, bearingDeg, tiltDeg, centreOf) : null
  }
  return { aimAtSelected, aimAtObjectAhead, align, pivot, roundTo }
}
