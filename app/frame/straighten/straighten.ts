// Square up, centre on, horizon through: one click or key each, the framing kept by rise and cross.
import { createSharedComposable } from '@vueuse/core'
import { bearingDifferenceDeg } from '#core/base'
import { directionOf, isPastShift, type Camera } from '#core/camera'
import { centreOn, horizonThrough, squareUp } from '#core/framing'
import { boxCentre, type Vec3 } from '#core/math'
import type { Hit } from '#mesh'
import { useFraming } from '../camera/framing.ts'
import { usePointer } from '../camera/pointer.ts'
import { signed } from '../../text/short.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** A surface is flat here when rays around the pointer, this share of the width away, meet the same direction. */
const PATCH = 0.008
const PATCH_AT = [[0, 0], [1, 0], [-1, 0], [0, 1], [0, -1]] as const // prettier-ignore
const SAME_COS = Math.cos((0.5 * Math.PI) / 180)
const FAR_M = 1e4
/** Whether the picture needs a larger image circle than real shift lenses have. */
const isPastReach = (c: Camera): boolean => isPastShift(c.lens, c.frame)

export type CentreBy = 'cross' | 'bearing' | 'move'

function straighten() {
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const { withCamera, subject } = useFraming()

  const wallNormalAt = useWallNormal()
  const squaring = useSquaring(wallNormalAt)

  const centre = (point: Vec3, by: CentreBy): boolean => withCamera((c) => centreOn(c, point, { by }), 'Centred')
  /** Centres on the selected object. */
  function centreSelected(by: CentreBy): void {
    const one = view.selection.length === 1 ? stage.byId.get(view.selection[0]!) : undefined
    if (one) centre(boxCentre(one.box), by)
    else notices.say('Select one object to centre on, or pick a point.', 'warning')
  }

  /** The horizon through a point; the subject keeps its place by rise. */
  function horizon(feature: Vec3): void {
    const keep = subject.value
    if (!keep) return
    if (withCamera((c: Camera) => horizonThrough(c, feature, keep), 'Horizon laid through it'))
      notices.say(`The horizon is at ${feature[2].toFixed(2)} m now; the subject keeps its place.`)
  }
  return { ...squaring, wallNormalAt, centre, centreSelected, horizon }
}
export const useStraighten = createSharedComposable(straighten)

/**
 * Normal of the flat upright surface at a place of the picture; of the wall behind it where only something small or bent is there;
 * null where there is neither.
 */
function useWallNormal() {
  const project = useProject()
  const stage = useStage()
  const pointer = usePointer()
  return async (camera: Camera, [x, y]: readonly [number, number]): Promise<Vec3 | null> => {
    const hidden = project.shown
    const reach = camera.frame.widthPx * PATCH
    const rays = PATCH_AT.flatMap(([dx, dy]) => pointer.sightAt(camera, x + dx * reach, y + dy * reach) ?? [])
    const hits = await Promise.all(rays.map((ray) => stage.rays.pick(ray, hidden)))
    const [middle, ...around] = hits
    const alike = (h: Hit | null | undefined): boolean =>
      Boolean(h && middle && h.normal.reduce((s, v, k) => s + v * middle.normal[k]!, 0) > SAME_COS)
    const flat = middle && around.filter(alike).length >= 3 && Math.abs(middle.normal[2]) < 0.5
    if (flat) return middle.normal
    const behind = rays[0] && (await stage.rays.wallAlong(rays[0], FAR_M, hidden))
    return behind?.normal ?? (middle && Math.abs(middle.normal[2]) < 0.5 ? middle.normal : null)
  }
}

/** Squaring up to a wall, to the one under the pointer, or to the building's nearest direction. */
function useSquaring(wallNormalAt: ReturnType<typeof useWallNormal>) {
  const project = useProject()
  const notices = useNotices()
  const { withCamera, mainBearingDeg } = useFraming()
  const pointer = usePointer()

  /** Square to a wall with the framing kept by shift; where no real lens shifts so far it asks: by shift all the same, or by turning. */
  function squareTo(normal: Vec3): boolean {
    const by = (keepCentre: boolean): boolean => withCamera((c) => squareUp(c, normal, { keepCentre }), 'Squared up')
    const c = project.camera
    const r = c && squareUp(c, normal, { keepCentre: true })
    if (!c || !r?.ok || !isPastReach(r.value) || isPastReach(c)) return by(true)
    const { crossMm, riseMm } = r.value.lens
    const shift = [
      `a cross of ${signed(crossMm, 1)} mm`,
      ...(Math.abs(riseMm) > 0.05 ? [`a rise of ${signed(riseMm, 1)} mm`] : []),
    ].join(' and ')
    notices.say(
      `Keeping the framing takes ${shift}: past the reach of real lenses, and smeared at the edge.`,
      'warning',
      { label: 'Square by turning', run: () => void by(false) },
      { label: 'By shift all the same', run: () => void by(true) },
    )
    return false
  }
  /** Square to the building's direction that lies nearest to the present bearing. */
  function squareNearest(): void {
    const c = project.camera
    if (!c) return
    const turns = Math.round(bearingDifferenceDeg(mainBearingDeg.value, c.pose.bearingDeg) / 90)
    squareTo(directionOf(mainBearingDeg.value + 90 * turns, 0))
  }
  /** Square to the wall under the pointer; with none there, to the building's nearest direction. */
  async function squareUnderPointer(): Promise<void> {
    const c = project.camera
    if (!c) return
    const at = pointer.place()
    const normal = at && (await wallNormalAt(c, at))
    if (normal) squareTo(normal)
    else squareNearest()
  }
  return { squareTo, squareNearest, squareUnderPointer }
}
