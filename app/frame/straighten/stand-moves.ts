// Moves of the stand by numbers: from an object's sides, nudges along axes, alignment, orbit by angles, roll by quarter turns, copying
// and pasting the whole of it.
import { createSharedComposable } from '@vueuse/core'
import { atan2Deg, wrapBearingDeg } from '#core/base'
import {
  aimPointOf,
  axesOf,
  directionOf,
  poseOfStand,
  standMoved,
  type Camera,
  type Pose,
  type Stand,
} from '#core/camera'
import { fitPoints } from '#core/framing'
import { addScaled, boxCentre, boxCorners, distance, scale, type Vec3 } from '#core/math'
import { standSchema } from '#model'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFitting } from './fitting.ts'

export type ObjectSide = 'front' | 'back' | 'left' | 'right' | 'above'
export type NudgeWhat = 'both' | 'station' | 'aim'
export type NudgeAxes = 'view' | 'world'
/** Bearings from which an object's sides are seen, from its own front: one looks at the front along its y. */
const SIDES: Record<Exclude<ObjectSide, 'above'>, number> = { front: 0, left: 90, back: 180, right: 270 }

function standMoves() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const { floor } = useFraming()
  const { sides } = useFitting()

  const stand = (): Stand | null => project.working?.stand ?? null
  const shift = (by: Vec3, label: string): boolean => {
    const s = stand()
    return s !== null && project.move({ stand: standMoved(s, by, view.stationAlone, centreOf) }, label)
  }

  /** One of a station's coordinates; the aim comes along unless the station alone is to move. */
  const stationAt = (axis: 0 | 1 | 2, to: number): Stand | null => {
    const s = stand()
    if (!s) return null
    const by: [number, number, number] = [0, 0, 0]
    by[axis] = to - s.station[axis]
    return standMoved(s, by, view.stationAlone, centreOf)
  }

  /** Before, behind, beside or above the selected object (or the model), fitted to the frame and looking at its middle. */
  function from(side: ObjectSide): boolean {
    const c = project.camera
    const node = view.selection.length === 1 ? stage.byId.get(view.selection[0]!) : undefined
    const own = node?.box ?? stage.facts?.box
    if (!c || !own) return false
    // a light or an empty node has no extent: a metre around it
    const box =
      distance(own.min, own.max) > 0
        ? own
        : { min: own.min.map((v) => v - 0.5) as unknown as Vec3, max: own.max.map((v) => v + 0.5) as unknown as Vec3 }
    // an object's own front follows its turn about the upright
    const y = node?.axes[1] ?? [0, 1, 0]
    const turned = Math.hypot(y[0], y[1]) > 1e-6 ? atan2Deg(y[0], y[1]) : 0
    const pose: Pick<Pose, 'bearingDeg' | 'tiltDeg' | 'rollDeg'> =
      side === 'above'
        ? { bearingDeg: wrapBearingDeg(turned), tiltDeg: -90, rollDeg: 0 }
        : { bearingDeg: wrapBearingDeg(turned + SIDES[side]), tiltDeg: 0, rollDeg: 0 }
    const centre = boxCentre(box)
    const camera: Camera = {
      ...c,
      pose: { ...pose, station: addScaled(centre, directionOf(pose.bearingDeg, pose.tiltDeg), -1) },
    }
    const flat = c.lens.projection.kind === 'parallel' || c.lens.projection.kind === 'oblique'
    const r = fitPoints(camera, boxCorners(box), { margin: sides.value, by: flat ? 'extent' : 'distance' })
    if (!r.ok) {
      notices.say(r.message, 'warning')
      return false
    }
    // straight at its middle: the fit's station lies on the axis through it but for the shift
    const { station } = r.value.pose
    const { forward } = axesOf(r.value.pose)
    const point = addScaled(station, forward, Math.max(0.01, distance(station, centre)))
    const aim = { kind: 'point', point, topBearingDeg: pose.bearingDeg } as const
    return project.move(
      { stand: { station, aim, rollDeg: 0 }, lens: r.value.lens },
      `From ${side === 'above' ? 'above' : `the ${side}`}`,
    )
  }
  /** Over the model's middle, looking straight down, the whole of it in the frame. */
  function overModel(): boolean {
    const selection = view.selection
    view.selection = []
    const done = from('above')
    view.selection = selection
    return done
  }

  /** Looks at the middle of the selected object and goes on doing so. */
  function aimAtSelected(): void {
    const s = stand()
    const id = view.selection[0]
    if (!s || !id) return
    const topBearingDeg = poseOfStand(s, centreOf).bearingDeg
    project.move({ stand: { ...s, aim: { kind: 'object', nodeId: id, offset: [0, 0, 0], topBearingDeg } } }, 'Aimed')
  }
  /** The selected object, or the one on the sight line, becomes the aim with an offset such that the picture does not move. */
  async function aimAtObjectAhead(): Promise<void> {
    const s = stand()
    if (!s) return
    const pose = poseOfStand(s, centreOf)
    const direction = directionOf(pose.bearingDeg, pose.tiltDeg)
    const hit = await stage.rays.pick({ origin: s.station, direction }, project.shown)
    const node = stage.byId.get(view.selection.length === 1 ? view.selection[0]! : (hit?.nodeId ?? ''))
    if (!node || stand() !== s) {
      if (!node) notices.say('No object lies on the sight line. Click one, or select it first.', 'warning')
      return
    }
    // as far along the sight line as the object's middle is, or as what is met of it
    const centre = boxCentre(node.box)
    const along = direction.reduce((n, d, k) => n + d * (centre[k]! - s.station[k]!), 0)
    const at = addScaled(s.station, direction, hit?.nodeId === node.id ? hit.distanceM : Math.max(0.01, along))
    const offset = node.axes.map((a) => a.reduce((n, v, k) => n + v * (at[k]! - centre[k]!), 0)) as unknown as Vec3
    const aim = { kind: 'object', nodeId: node.id, offset, topBearingDeg: pose.bearingDeg } as const
    project.move({ stand: { ...s, aim } }, 'Aim by object')
  }

  /** The aim takes over the station's place on an axis (or the station the aim's, with an object aimed at). */
  function align(axis: 0 | 1 | 2): void {
    const s = stand()
    const p = s && aimPointOf(s.aim, centreOf)
    if (!s || !p) {
      notices.say('There is no aim point to align. Aim at a point first.', 'warning')
      return
    }
    const name = ['x', 'y', 'height'][axis]!
    if (s.aim.kind === 'object') {
      const station = s.station.map((v, k) => (k === axis ? p[k]! : v)) as unknown as Vec3
      if (distance(station, p) < 1e-9) return notices.say('Station and aim would be one point.', 'warning')
      project.move({ stand: { ...s, station } }, `Aligned on ${name}`)
      return
    }
    const point = p.map((v, k) => (k === axis ? s.station[k]! : v)) as unknown as Vec3
    if (distance(point, s.station) < 1e-9) return notices.say('Station and aim would be one point.', 'warning')
    const topBearingDeg = poseOfStand(s, centreOf).bearingDeg
    project.move({ stand: { ...s, aim: { kind: 'point', point, topBearingDeg } } }, `Aligned on ${name}`)
  }

  /** A step along right, forward and up of the view (level) or along east, north and up. */
  function nudge(way: Vec3, axes: NudgeAxes, what: NudgeWhat): void {
    const s = stand()
    if (!s) return
    const { bearingDeg } = poseOfStand(s, centreOf)
    const basis: readonly Vec3[] =
      axes === 'world'
        ? [[1, 0, 0], [0, 1, 0], [0, 0, 1]] // prettier-ignore
        : [directionOf(bearingDeg + 90, 0), directionOf(bearingDeg, 0), [0, 0, 1]]
    const by = scale(
      basis.reduce<Vec3>((sum, axis, k) => addScaled(sum, axis, way[k]!), [0, 0, 0]),
      view.nudgeM,
    )
    if (what === 'aim') {
      const p = aimPointOf(s.aim, centreOf)
      if (!p || s.aim.kind === 'direction')
        return notices.say('There is no aim point to move. Aim at a point first.', 'warning')
      const aim = s.aim.kind === 'point' ? { ...s.aim, point: addScaled(p, by, 1) } : nudgedOffset(s.aim, by)
      project.move({ stand: { ...s, aim } }, 'Nudged')
    } else project.move({ stand: standMoved(s, by, what === 'station', centreOf) }, 'Nudged')
  }
  /** An object's offset is along its own axes. */
  function nudgedOffset(aim: Extract<Stand['aim'], { kind: 'object' }>, by: Vec3): Stand['aim'] {
    const axes = stage.byId.get(aim.nodeId)?.axes
    if (!axes) return aim
    const offset = aim.offset.map((o, k) => o + axes[k]!.reduce((n, a, i) => n + a * by[i]!, 0)) as unknown as Vec3
    return { ...aim, offset }
  }

  /** Round the aim by typed angles; the distance stays. */
  function orbitBy(turnDeg: number, riseDeg: number): void {
    const s = stand()
    const p = s && aimPointOf(s.aim, centreOf)
    if (!s || !p) return notices.say('There is no aim point to go round. Aim at a point first.', 'warning')
    const pose = poseOfStand(s, centreOf)
    // going up round the aim looks down on it
    const tiltDeg = Math.min(90, Math.max(-90, pose.tiltDeg - riseDeg))
    const bearingDeg = wrapBearingDeg(pose.bearingDeg - turnDeg)
    const station = addScaled(p, directionOf(bearingDeg, tiltDeg), -distance(p, s.station))
    const topBearingDeg = wrapBearingDeg(tiltDeg > 89.99 ? bearingDeg + 180 : bearingDeg)
    const aim = s.aim.kind === 'direction' ? s.aim : { ...s.aim, topBearingDeg }
    project.move({ stand: { ...s, station, aim } }, 'Orbited')
  }

  function rollBy(deg: number): void {
    const s = stand()
    if (!s) return
    const next = ((((s.rollDeg + deg + 180) % 360) + 360) % 360) - 180
    project.move({ stand: { ...s, rollDeg: next === -180 ? 180 : next } }, 'Rolled')
  }

  /** Presets and typed eye heights: over the floor below. */
  const eyeAt = (heightM: number): boolean =>
    floor.value === null
      ? (notices.say('There is no floor below the station.', 'warning'), false)
      : shift([0, 0, floor.value + heightM - (stand()?.station[2] ?? 0)], 'Eye height')

  async function copy(): Promise<void> {
    const s = stand()
    if (!s) return
    try {
      await navigator.clipboard.writeText(JSON.stringify({ stand: s }))
      notices.say('The stand is on the clipboard: station, aim and roll.')
    } catch {
      notices.say('The browser does not let the page write to the clipboard.', 'warning')
    }
  }
  /** A copied stand, or three numbers as a station. */
  function paste(text: string): boolean {
    const s = stand()
    if (!s) return false
    const numbers = text
      .trim()
      .split(/[\s,;]+/)
      .map(Number)
    if (numbers.length === 3 && numbers.every(Number.isFinite)) {
      const by = numbers.map((v, k) => v - s.station[k]!) as unknown as Vec3
      return shift(by, 'Station pasted')
    }
    try {
      const found = standSchema.safeParse((JSON.parse(text) as { stand?: unknown }).stand)
      if (found.success) return project.move({ stand: found.data }, 'Stand pasted')
    } catch {
      // no JSON: told below
    }
    notices.say('The clipboard holds no stand and no three numbers.', 'warning')
    return false
  }
  async function pasteFromClipboard(): Promise<void> {
    try {
      paste(await navigator.clipboard.readText())
    } catch {
      notices.say('The browser does not let the page read the clipboard. Paste into the field instead.', 'warning')
    }
  }
  return {
    stationAt,
    from,
    overModel,
    aimAtSelected,
    aimAtObjectAhead,
    align,
    nudge,
    orbitBy,
    rollBy,
    eyeAt,
    copy,
    paste,
    pasteFromClipboard,
  }
}
export const useStandMoves = createSharedComposable(standMoves)
