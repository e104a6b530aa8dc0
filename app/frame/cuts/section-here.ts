// A sectional view in one step, and the plan of a storey: the cut, the camera that shows it, and one way back from both.
import { addScaled, boxCorners, type Box, type Vec3 } from '#core/math'
import { atan2Deg, cosDeg, formatLength, lengthSuffix, sinDeg, wrapBearingDeg } from '#core/base'
import { directionOf, type Camera } from '#core/camera'
import { fitPoints, holdsAll, STANDARD_SCALES, type FitOptions } from '#core/framing'
import { nearestDirection, newCut } from '#core/section'
import type { CameraChanges } from '#model'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useMeasuredViews } from '../straighten/measured-views.ts'
import { useCuts } from './cuts.ts'

type CutPart = NonNullable<ReturnType<typeof useCuts>['part']['value']>
/** A camera and its cut, as they were. */
interface Before {
  readonly camera: CameraChanges
  readonly cut: CutPart
}

/** What undoes a cut and a camera made together. */
function useBack() {
  const project = useProject()
  const notices = useNotices()
  const now = (): Before => {
    const { stand, lens, frame, cut } = project.working!
    return { camera: { stand, lens, frame }, cut }
  }
  const back = (text: string, before: Before): void =>
    notices.say(text, 'plain', {
      label: 'Back',
      run: () => {
        project.run({ type: 'setPart', part: 'cut', value: before.cut })
        project.move(before.camera, 'Back', true)
      },
    })
  return { now, back }
}

export function useSections() {
  const project = useProject()
  const notices = useNotices()
  const { part, addCut, place } = useCuts()
  const { sides } = useFitting()
  const { now, back } = useBack()
  const planOfStorey = useStoreyPlan()

  /** A sectional perspective through a place, square to it: the cut fills the frame; or the same as a true section, parallel. */
  function sectionHere(point: Vec3, normal: Vec3 | null, projection: 'perspective' | 'parallel'): boolean {
    const at = place()
    const c = project.camera
    if (!at || !c || !part.value) return false
    const bearingDeg = lookingAt(normal, c.pose.bearingDeg, at.mainBearingDeg)
    const found = sectionCamera(c, onPlane(at.model, point, bearingDeg), bearingDeg, projection, sides.value)
    if (!found.ok) {
      notices.say(found.message, 'warning')
      return false
    }
    const before = now()
    const made = addCut((id, name) => ({ id, name, on: true, reversed: false, kind: 'upright', point, bearingDeg }), {
      alone: true,
    })
    if (!made) return false
    const { pose, lens } = found.value
    const { stand, away } = standBefore(pose.station, point, bearingDeg)
    const isFlat = projection === 'parallel'
    project.move({ stand, lens }, isFlat ? 'Section' : 'Sectional perspective', true)
    back(
      `Section ${made.name} through that place${isFlat ? '' : `, seen from ${away.toFixed(2)} m before it`}.`,
      before,
    )
    return true
  }
  return { sectionHere, planOfStorey }
}
/** Square to an upright surface that was picked, else to the building. */
function lookingAt(normal: Vec3 | null, bearingDeg: number, mainBearingDeg: number): number {
  const isUpright = normal !== null && Math.hypot(normal[0], normal[1]) > 0.9
  return isUpright ? wrapBearingDeg(atan2Deg(-normal[0], -normal[1])) : nearestDirection(bearingDeg, mainBearingDeg)
}
/** Level, aimed straight ahead at the plane. */
function standBefore(station: Vec3, point: Vec3, bearingDeg: number) {
  const ahead = directionOf(bearingDeg, 0)
  const away = (point[0] - station[0]) * ahead[0] + (point[1] - station[1]) * ahead[1]
  const aim = { kind: 'point' as const, point: addScaled(station, ahead, away), topBearingDeg: bearingDeg }
  return { stand: { station, aim, rollDeg: 0 }, away }
}

/** The model's extent on an upright plane, as its four corners. */
function onPlane(model: Box, point: Vec3, bearingDeg: number): Vec3[] {
  const right: Vec3 = [cosDeg(bearingDeg), -sinDeg(bearingDeg), 0]
  const along = boxCorners(model).map((p) => (p[0] - point[0]) * right[0] + (p[1] - point[1]) * right[1])
  const [from, to] = [Math.min(...along), Math.max(...along)]
  return [from, to].flatMap((s) =>
    [model.min[2], model.max[2]].map((z): Vec3 => [point[0] + right[0] * s, point[1] + right[1] * s, z]),
  )
}
/** Level and square to the plane, the corners filling the frame. */
function sectionCamera(
  c: Camera,
  corners: readonly Vec3[],
  bearingDeg: number,
  projection: 'perspective' | 'parallel',
  margin: FitOptions['margin'],
) {
  const mean = (k: 0 | 1 | 2): number =>
    (Math.min(...corners.map((p) => p[k])) + Math.max(...corners.map((p) => p[k]))) / 2
  const width = Math.hypot(corners[0]![0] - corners[2]![0], corners[0]![1] - corners[2]![1])
  const ahead: Vec3 = [sinDeg(bearingDeg), cosDeg(bearingDeg), 0]
  const low = Math.min(...corners.map((p) => p[2]))
  const eye = c.pose.station[2] > low ? Math.min(c.pose.station[2], Math.max(...corners.map((p) => p[2]))) : mean(2)
  const z = projection === 'parallel' ? mean(2) : eye
  const station: Vec3 = [mean(0) - ahead[0] * width, mean(1) - ahead[1] * width, z]
  const lens = {
    ...c.lens,
    riseMm: 0,
    crossMm: 0,
    projection:
      projection === 'parallel' ? ({ kind: 'parallel', widthM: width } as const) : ({ kind: 'perspective' } as const),
  }
  const camera: Camera = { ...c, lens, pose: { station, bearingDeg, tiltDeg: 0, rollDeg: 0 } }
  if (projection === 'parallel')
    return fitPoints(camera, corners, { by: 'extent', ...(margin !== undefined && { margin }) })
  // the eye stays at its height: the section is centred by rise
  return fitPoints(camera, corners, { by: 'distance', keepHeight: true, ...(margin !== undefined && { margin }) })
}

/** Parallel, cut level above the storey, fitted, at the largest standard scale that holds it: one command. */
function useStoreyPlan() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const { list, addCut, place } = useCuts()
  const { scale, cameraFor, show } = useMeasuredViews()
  const { now, back } = useBack()
  return (): boolean => {
    const at = place()
    if (!at || !project.working) return false
    const storey = stage.storeys[Math.min(view.storey, stage.storeys.length - 1)]
    const before = now()
    const cutM = project.document!.planCutM
    const usual = storey ? storey.heightM + cutM : null
    // a product, or a storey lower than the usual cut: through the subject, so that something is laid open
    const isUsual = usual !== null && usual > at.model.min[2] && usual < at.model.max[2]
    const heightM = isUsual ? usual : at.heightM
    // the storey's own cut serves again
    const known = list.value.find((c) => c.kind === 'level' && Math.abs(c.heightM - heightM) < 1e-6 && !c.reversed)
    const made = addCut((id, name) => known ?? newCut('level', id, name, { ...at, heightM }), { alone: true })
    if (!made) return false
    const was = scale.value
    scale.value = null
    const unscaled = cameraFor({ kind: 'plan' })
    const held = unscaled && STANDARD_SCALES.find((k) => {
      scale.value = k
      const c = cameraFor({ kind: 'plan' })
      return c !== null && holdsAll(c, boxCorners(at.model))
    }) // prettier-ignore
    scale.value = held ?? null
    if (!unscaled) {
      scale.value = was
      return false
    }
    show({ kind: 'plan' })
    const { unit } = project.document!
    const where = isUsual
      ? `Plan of ${storey!.name} at ${cutM.toFixed(2)} m`
      : `Plan cut through the subject at a height of ${formatLength(heightM, unit)} ${lengthSuffix(unit)}`
    back(`${where}${held ? `, 1 : ${held}` : ''}.`, before)
    return true
  }
}
