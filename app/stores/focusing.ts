// How far away is what a Setup is focused on? Aims, points and centres at once; what has to be looked for by rays (an object's nearest
// visible surface, the nearest thing in a field) as soon as they have answered, the last distance until then.
import { defineStore } from 'pinia'
import { shallowReactive, watch } from 'vue'
import {
  aimPointOf,
  type AimCentre,
  type Camera,
  isPerspective,
  poseOfStand,
  principalPointPx,
  projectPoint,
} from '#core/camera'
import { depthOf, depthOfField, type DepthOfField } from '#core/optics'
import { sightThrough } from '#core/section'
import { centresAmong, fingerprint, movedOf, shownOf, type Setup } from '#model'
import type { Appearance } from '#stage'
import { centreInFile } from './centres-in-file.ts'
import { useStage } from './stage.ts'

/** Where nothing is aimed at. */
export const FALLBACK_FOCUS_M = 3
/** Rays a side that look for the nearest thing. */
const FIELD_RAYS = 7
/** As many answers of rays are kept. */
const MOST_ANSWERS = 400

export interface FocusAt {
  /** Along the axis, metres. */
  readonly distanceM: number
  /** Why this is not where it was meant to be: the object is gone, the point lies behind the camera, nothing is aimed at or met. */
  readonly trouble: 'gone' | 'behind' | 'no-aim' | 'nothing' | null
}
/** Where objects are in a Setup as it is shown. */
const centresOf = (s: Setup): AimCentre => centresAmong(centreInFile, movedOf(s.visible))
const cameraOf = (s: Setup): Camera => ({ pose: poseOfStand(s.stand, centresOf(s)), lens: s.lens, frame: s.frame })
const keyOf = (s: Setup): string => [s.stand, s.lens, s.frame, s.visible, movedOf(s.visible), s.cut].map((p) => fingerprint(p)).join('|') // prettier-ignore
const placed = (distanceM: number): FocusAt =>
  distanceM > 0 ? { distanceM, trouble: null } : { distanceM: FALLBACK_FOCUS_M, trouble: 'behind' }

export const useFocusing = defineStore('focusing', () => {
  const stage = useStage()
  const { looked, surfaceOf, nearestIn } = useLooking()
  let lastNearestM = FALLBACK_FOCUS_M
  /** Distances of objects as they were last found, by what was asked: what is taken out of the model keeps them. */
  const last = new Map<string, number>()

  /** Of a Setup as it is shown (its sets worked in). */
  function at(setup: Setup): FocusAt {
    const { mode } = setup.focus
    const [centreOf, { pose }] = [centresOf(setup), cameraOf(setup)]
    switch (mode.kind) {
      case 'distance':
        return { distanceM: mode.distanceM, trouble: null }
      case 'point':
        return placed(depthOf(pose, mode.point))
      case 'aim': {
        const point = aimPointOf(setup.stand.aim, centreOf)
        return point ? placed(depthOf(pose, point)) : { distanceM: FALLBACK_FOCUS_M, trouble: 'no-aim' }
      }
      case 'object': {
        const middle = stage.byId.has(mode.nodeId) ? centreOf(mode.nodeId, [0, 0, 0]) : undefined
        const key = `${mode.nodeId}|${keyOf(setup)}`
        if (!middle) {
          const distanceM = last.get(`${key}|${mode.at}|${mode.offsetM}`) ?? mode.lastM ?? FALLBACK_FOCUS_M
          return { distanceM, trouble: stage.ready ? 'gone' : null }
        }
        const centreM = depthOf(pose, middle)
        const found = mode.at === 'centre' ? centreM : looked(key, () => surfaceOf(setup, mode.nodeId))
        const there = placed((found ?? centreM) + mode.offsetM)
        if (last.size > MOST_ANSWERS) last.clear()
        if (there.trouble === null) last.set(`${key}|${mode.at}|${mode.offsetM}`, there.distanceM)
        return there
      }
      case 'nearest': {
        const found = looked(`nearest|${mode.field}|${keyOf(setup)}`, () => nearestIn(setup, mode.field))
        if (found === undefined) return { distanceM: lastNearestM, trouble: null }
        if (found === null) return { distanceM: FALLBACK_FOCUS_M, trouble: 'nothing' }
        lastNearestM = found
        return placed(found)
      }
    }
  }

  /** What the lens of a Setup blurs; undefined where all is sharp. */
  function blur(setup: Setup): Appearance['blur'] | undefined {
    const { focus, lens } = setup
    if (!focus.on || !isPerspective(lens)) return undefined
    const { distanceM } = at(setup)
    if (!(distanceM > lens.focalMm / 1000)) return undefined
    const { highlights } = focus
    return {
      focusM: distanceM,
      fNumber: focus.fNumber,
      shape: focus.aperture,
      ...(highlights !== undefined && { highlights }),
    }
  }
  return { at, blur, ...sharpness(at) }
})

/** What counts as sharp. */
function sharpness(at: (setup: Setup) => FocusAt) {
  /** The largest disc that counts as sharp, mm on the sensor. */
  function cocMm({ focus, lens, frame }: Setup): number {
    if (focus.criterion.kind === 'circle') return focus.criterion.cocMm
    const { pxPerMm } = principalPointPx({ lens, frame })
    return pxPerMm > 0 ? 1 / pxPerMm : 0.03
  }
  /** From where to where it is sharp; null where no lens blurs. */
  function sharpZone(setup: Setup): DepthOfField | null {
    const { lens, focus } = setup
    if (!isPerspective(lens)) return null
    const r = depthOfField({ focalMm: lens.focalMm, fNumber: focus.fNumber, focusM: at(setup).distanceM, cocMm: cocMm(setup) }) // prettier-ignore
    return r.ok ? r.value : null
  }
  return { cocMm, sharpZone }
}

/** What rays find, asked once. */
function useLooking() {
  const stage = useStage()
  /** By what was asked; null: nothing was met. */
  const answers = shallowReactive(new Map<string, number | null>())
  const asked = new Set<string>()
  watch(
    () => stage.epoch,
    () => {
      answers.clear()
      asked.clear()
    },
  )
  function looked(key: string, look: () => Promise<number | null>): number | null | undefined {
    if (answers.has(key)) return answers.get(key)
    if (!asked.has(key)) {
      asked.add(key)
      void look().then(
        (m) => {
          if (answers.size > MOST_ANSWERS) answers.clear()
          answers.set(key, m)
        },
        () => asked.delete(key),
      )
    }
    return undefined
  }
  /** The nearest visible surface of an object, seen towards its middle. */
  async function surfaceOf(setup: Setup, nodeId: string): Promise<number | null> {
    const camera = cameraOf(setup)
    const shown = shownOf(setup)
    const middle = centresOf(setup)(nodeId, [0, 0, 0])
    const at = middle && projectPoint(camera, middle)
    const sight = at && sightThrough(camera, shown, at.xPx, at.yPx)
    const hit = sight && (await stage.rays.pick(sight, shown))
    if (!hit || !(hit.nodeId === nodeId || hit.nodeId.startsWith(`${nodeId}/`))) return null
    return depthOf(camera.pose, hit.point)
  }
  /** The nearest thing in the middle part of the picture: `field` of its width and height, 0 in its very middle. */
  async function nearestIn(setup: Setup, field: number): Promise<number | null> {
    const camera = cameraOf(setup)
    const { widthPx, heightPx } = setup.frame
    const shown = shownOf(setup)
    const steps = Array.from({ length: FIELD_RAYS }, (_, i) => 0.5 + (i / (FIELD_RAYS - 1) - 0.5) * field)
    const hits = await Promise.all(
      steps.flatMap((u) =>
        steps.map((v) => {
          const sight = sightThrough(camera, shown, u * widthPx, v * heightPx)
          return sight ? stage.rays.pick(sight, shown) : null
        }),
      ),
    )
    const depths = hits.flatMap((h) => (h ? [depthOf(camera.pose, h.point)] : []))
    return depths.length > 0 ? Math.min(...depths) : null
  }
  return { looked, surfaceOf, nearestIn }
}
