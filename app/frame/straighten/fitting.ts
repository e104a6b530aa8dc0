// Tight fit: what fills the frame, by what gives way, with margins; and standing back through the wall.
import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { axesOf, standAs, toCamera, type Camera } from '#core/camera'
import { fitPoints, nearCutBehind, type FitBy, type Sides } from '#core/framing'
import { addScaled, boxCentre, boxCorners, distance, dot, joinBoxes, scale, sub, type Box, type Vec3 } from '#core/math'
import { useMeasurements } from '../measure/measurements.ts'
import { useFraming } from '../camera/framing.ts'
import { useSelection } from '../selection/selection.ts'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'

export interface Margins {
  readonly unit: '%' | 'px'
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
const DEFAULT: Margins = { unit: '%', left: 5, right: 5, top: 5, bottom: 5 }
/** The eye stays this far off a wall it does not pass. */
const AWAY_M = 0.2

const isPoint = (b: Box): boolean => distance(b.min, b.max) === 0

function fitting() {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const measurements = useMeasurements()
  const { nodes } = useSelection()
  const { take } = useFraming()
  const margins = useLocalStorage<Margins>('yoroi.margins', DEFAULT, { mergeDefaults: true })
  const by = ref<FitBy>('distance')
  /** In rooms the eye stays at its height; products are fitted wherever the eye comes to be. */
  const atHeight = ref<boolean | null>(null)
  const keepHeight = computed({
    get: () => atHeight.value ?? project.document?.subject === 'room',
    set: (on: boolean) => (atHeight.value = on),
  })

  /** Corners of what is to fill the frame: picked points, else the selection, else the model. */
  const target = computed<{ readonly what: string; readonly points: readonly Vec3[]; readonly box: Box } | null>(() => {
    const picked = measurements.fitPoints
    if (picked.length > 0) {
      const box = picked.map((p): Box => ({ min: p, max: p })).reduce(joinBoxes)
      return { what: picked.length === 1 ? 'one picked point' : `${picked.length} picked points`, points: picked, box }
    }
    const box = nodes.value.map((n) => n.box).reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null)
    if (box) {
      const what = nodes.value.length === 1 ? `“${nodes.value[0]!.name}”` : `${nodes.value.length} objects`
      return { what, points: nodes.value.flatMap((n) => boxCorners(n.box)), box }
    }
    const all = stage.facts?.box
    return all ? { what: 'the model', points: boxCorners(all), box: all } : null
  })

  const sides = computed<Sides>(() => {
    const { unit, left, right, top, bottom } = margins.value
    const frame = project.working?.frame
    const kx = unit === '%' ? 0.01 : 1 / (frame?.widthPx ?? 1)
    const ky = unit === '%' ? 0.01 : 1 / (frame?.heightPx ?? 1)
    return { left: left * kx, right: right * kx, top: top * ky, bottom: bottom * ky }
  })
  /** Another unit for the margins: the picture's free sides stay. */
  function marginUnit(unit: Margins['unit']): void {
    const frame = project.working?.frame
    if (!frame || unit === margins.value.unit) return
    const k = (px: number): number => (unit === 'px' ? px / 100 : 100 / px)
    const tidy = (v: number): number => Number(v.toFixed(unit === 'px' ? 1 : 3))
    const m = margins.value
    const [x, y] = [k(frame.widthPx), k(frame.heightPx)]
    margins.value = {
      unit,
      left: tidy(m.left * x),
      right: tidy(m.right * x),
      top: tidy(m.top * y),
      bottom: tidy(m.bottom * y),
    }
  }

  /** The camera with its aim at the middle of what fills the frame, along the same sight line. */
  function takeFitted(camera: Camera, box: Box, label: string): boolean {
    const w = project.working
    if (!w) return false
    const { station } = camera.pose
    if (w.stand.aim.kind !== 'point' || distance(station, w.stand.station) === 0)
      return take({ ok: true, value: camera }, label)
    const depth = Math.max(0.01, -toCamera(camera.pose, boxCentre(box))[2])
    const point = addScaled(station, axesOf(camera.pose).forward, depth)
    const stand = { ...w.stand, station, aim: { ...w.stand.aim, point } }
    return project.move({ stand: standAs(stand, camera.pose, centreOf), lens: camera.lens }, label, true)
  }

  /** Fills the frame with the target; the direction of view stays. */
  function fit(way: FitBy | null = null): boolean {
    const c = project.camera
    const t = target.value
    if (!c || !t) return false
    const kind = c.lens.projection.kind
    const flat = kind === 'parallel' || kind === 'oblique'
    if (isPoint(t.box)) {
      notices.say(`${t.what[0]!.toUpperCase()}${t.what.slice(1)} has no extent to fill the frame with.`, 'warning')
      return false
    }
    const chosen = flat ? 'extent' : (way ?? by.value)
    const r = fitPoints(c, t.points, { margin: sides.value, by: chosen, keepHeight: keepHeight.value })
    return r.ok ? takeFitted(r.value, t.box, 'Tight fit') : take(r, 'Tight fit')
  }

  /** The distance at which the target fills the frame, outside the room if need be: the near cut then lies just inside the wall. */
  async function standBack(): Promise<void> {
    const c = project.camera
    const w = project.working
    const t = target.value
    if (!c || !w || !t) return
    if (project.document!.locked.includes('cut')) {
      notices.say('Cut is locked. Unlock it first: standing back sets the near cut.', 'warning')
      return
    }
    const r = fitPoints(c, t.points, { margin: sides.value, by: 'distance', keepHeight: keepHeight.value })
    if (!r.ok || c.lens.projection.kind !== 'perspective') {
      take(
        r.ok
          ? { ok: false, reason: 'projection', message: 'Standing back through the wall is for perspective pictures.' }
          : r,
        '',
      )
      return
    }
    const { forward } = axesOf(c.pose)
    // from the target's near side backwards to the new station: the wall that is passed
    const middle = boxCentre(t.box)
    const { station } = r.value.pose
    const back = dot(sub(middle, station), forward)
    const from = addScaled(station, forward, back)
    const hit = await stage.rays.wallAlong(
      { origin: from, direction: scale(forward, -1) },
      back + AWAY_M,
      project.shown,
    )
    if (!hit) {
      if (takeFitted(r.value, t.box, 'Stood back')) {
        clearNearCut()
        notices.say('No wall is in the way: the camera stands in the room.')
      }
      return
    }
    const cut = nearCutBehind(r.value, hit, t.points)
    if (!cut.ok) {
      notices.say(cut.message, 'warning')
      return
    }
    if (!takeFitted(r.value, t.box, 'Stood back through the wall')) return
    const near = { on: true, distanceM: cut.value }
    project.run({ type: 'setPart', part: 'cut', value: { ...project.working!.cut, near } })
    notices.say(`Through “${hit.nodeName}”: the near cut lies at ${cut.value.toFixed(2)} m, just inside it.`)
  }
  function clearNearCut(): void {
    const w = project.working
    if (w?.cut.near.on)
      project.run({ type: 'setPart', part: 'cut', value: { ...w.cut, near: { ...w.cut.near, on: false } } })
  }
  const nearCut = computed(() => (project.working?.cut.near.on ? project.working.cut.near.distanceM : null))

  return { margins, marginUnit, sides, by, keepHeight, target, fit, standBack, nearCut, clearNearCut }
}
export const useFitting = createSharedComposable(fitting)
