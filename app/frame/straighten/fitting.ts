// Tight fit: what fills the frame, by what gives way, with margins; through a wall only when asked to.
import { createSharedComposable } from '@vueuse/core'
import { computed, ref } from 'vue'
import { axesOf, type Camera, isParallel, standAs, toCamera } from '#core/camera'
import { fitPoints, type FitBy } from '#core/framing'
import { addScaled, boxCentre, distance, normalize, sub, type Box, type Vec3 } from '#core/math'
import { formatLength } from '#core/base'
import { useFraming } from '../camera/framing.ts'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useFitMargins } from './fit-margins.ts'
import { useFitTarget } from './fit-target.ts'
import { standBackThrough } from './standing-back.ts'

export type { Margins } from './fit-margins.ts'

const isPoint = (b: Box): boolean => distance(b.min, b.max) === 0

/** The first wall on the way from one station to another, and how far beyond it that lies; null where the way is free. */
async function wallBetween(from: Vec3, to: Vec3): Promise<{ readonly name: string; readonly beyondM: number } | null> {
  const way = distance(from, to)
  if (way < 1e-6) return null
  const direction = normalize(sub(to, from))
  const hit = await useStage().rays.wallAlong({ origin: from, direction }, way, useProject().shown)
  return hit && { name: hit.nodeName, beyondM: way - hit.distanceM }
}

/** The camera with its aim at the middle of what fills the frame, along the same sight line. */
function takeFitted(take: ReturnType<typeof useFraming>['take'], camera: Camera, box: Box, label: string): boolean {
  const project = useProject()
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

function fitting() {
  const project = useProject()
  const notices = useNotices()
  const { take } = useFraming()
  const { target } = useFitTarget()
  const { margins, marginUnit, sides } = useFitMargins()
  const by = ref<FitBy>('distance')
  /** In rooms the eye stays at its height; products are fitted wherever the eye comes to be. */
  const atHeight = ref<boolean | null>(null)
  const keepHeight = computed({
    get: () => atHeight.value ?? project.document?.subject === 'room',
    set: (on: boolean) => (atHeight.value = on),
  })
  const fitted = (c: Camera, points: readonly Vec3[], way: FitBy): ReturnType<typeof fitPoints> =>
    fitPoints(c, points, { margin: sides.value, by: way, keepHeight: keepHeight.value })

  /** Fills the frame with the target; the direction of view stays. Where the eye would pass a wall it asks. */
  async function fit(way: FitBy | null = null): Promise<boolean> {
    const c = project.camera
    const t = target.value
    if (!c || !t) return false
    if (isPoint(t.box)) {
      notices.say(`${t.what[0]!.toUpperCase()}${t.what.slice(1)} has no extent to fill the frame with.`, 'warning')
      return false
    }
    const r = fitted(c, t.points, isParallel(c) ? 'extent' : (way ?? by.value))
    if (!r.ok) return take(r, 'Tight fit')
    const isRoom = project.document?.subject === 'room'
    const wall = isRoom && !isParallel(c) ? await wallBetween(c.pose.station, r.value.pose.station) : null
    // what was moved while the ray was under way is not overwritten
    if (project.camera !== c) return false
    if (!wall) return takeFitted(take, r.value, t.box, 'Tight fit')
    const { unit } = project.document!
    const beyond = `${formatLength(wall.beyondM, unit)}${unit === 'ft-in' ? '' : ` ${unit}`}`
    notices.say(`To fill the frame the eye would stand ${beyond} beyond “${wall.name}”. It stays here.`, 'warning', {
      label: 'Stand back through it',
      run: () => void standBack(),
    })
    return false
  }

  /** The distance at which the target fills the frame, outside the room if need be: the near cut then lies just inside the wall. */
  async function standBack(): Promise<void> {
    const c = project.camera
    const t = target.value
    if (!c || !t) return
    await standBackThrough(c, {
      target: t,
      fitted: fitted(c, t.points, 'distance'),
      take: (...a) => takeFitted(take, ...a),
    })
  }
  const nearCut = computed(() => (project.working?.cut.near.on ? project.working.cut.near.distanceM : null))
  const { clearNearCut } = project
  return { margins, marginUnit, sides, by, keepHeight, target, fit, standBack, nearCut, clearNearCut }
}
export const useFitting = createSharedComposable(fitting)
