// Readings of the present framing that panels, picture and actions share, and the one door through which a camera worked out by the
// core becomes the project's.
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { createSharedComposable } from '@vueuse/core'
import {
  aimPointOf,
  axesOf,
  type Camera,
  FOCAL_RANGE_MM,
  isParallel,
  standAs,
  toCamera,
  widthOfView,
} from '#core/camera'
import { convergence, levelKeepingCentre, tiltKeepingCentre, toParallel, toPerspective } from '#core/framing'
import { addScaled, boxCentre, distance, type Vec3 } from '#core/math'
import type { Result } from '#core/base'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { sameList } from '../../controls/same-list.ts'

/** Where nothing is aimed at, sizes are held at this distance. */
const FALLBACK_M = 5

function framing() {
  const project = useProject()
  const stage = useStage()
  const view = useView()

  /** One of the building's main directions: picked, or found from its walls; north where there is none. */
  const mainBearingDeg = computed(() => view.mainBearingDeg ?? stage.walls?.mainBearingDeg ?? 0)
  const lean = computed(() =>
    project.camera ? convergence(project.camera, { mainBearingDeg: mainBearingDeg.value }) : null,
  )
  const { floor, whenFloorIsKnown } = useFloorBelow()
  const eyeHeight = computed(() =>
    floor.value === null || !project.camera ? null : project.camera.pose.station[2] - floor.value,
  )
  const subjects = createSubjects()
  const { take, withCamera } = createDoor()
  return {
    mainBearingDeg,
    lean,
    floor,
    whenFloorIsKnown,
    eyeHeight,
    ...subjects,
    take,
    withCamera,
    ...createLevelling(withCamera),
    switchProjection: createProjectionSwitch(take, subjects.aim),
  }
}
export const useFraming = createSharedComposable(framing)

type Take = (result: Result<Camera>, label: string) => boolean

/** The floor under the station, looked up while it moves; answers that were overtaken are dropped. */
function useFloorBelow() {
  const project = useProject()
  const stage = useStage()
  const floor = ref<number | null>(null)
  let asked = 0
  let answered = 0
  let last: Promise<unknown> = Promise.resolve()
  let lastFor: Vec3 | null = null
  watch(
    sameList(() => [project.camera?.pose.station, stage.storeys, project.shown] as const),
    async ([station]) => {
      const mine = ++asked
      lastFor = station ?? null
      if (!station || stage.storeys.length === 0) {
        answered = mine
        floor.value = null
        return
      }
      const answer = stage.rays.floorBelow(station, project.shown)
      last = answer
      const hit = await answer
      if (mine <= answered) return
      answered = mine
      floor.value = hit ? hit.point[2] : null
    },
    { immediate: true },
  )
  /** Whether the answer is that of where the station is now: on a slow machine it comes some time after a move. */
  const isKnown = (): boolean => asked === answered && lastFor === (project.camera?.pose.station ?? null)
  /** Runs `work` with the floor under the station as it is now: at once where it is known, else when the answer has come. */
  function whenKnown(work: () => unknown): void {
    if (isKnown()) return void work()
    void nextTick(async () => {
      await last.catch(() => null)
      await nextTick()
      work()
    })
  }
  return { floor, whenFloorIsKnown: whenKnown }
}

/** A point ahead where nothing is aimed at. */
const pointAhead = (c: Camera): Vec3 => addScaled(c.pose.station, axesOf(c.pose).forward, FALLBACK_M)

/** What is aimed at, and what the picture is of. */
function createSubjects() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const aim = computed<Vec3 | null>(() => (project.working ? aimPointOf(project.working.stand.aim, centreOf) : null))
  /** What should keep its place and size: a single selected object, else what is aimed at, else a point ahead. */
  const subject = computed<Vec3 | null>(() => {
    const one = view.selection.length === 1 ? stage.byId.get(view.selection[0]!) : undefined
    if (one) return boxCentre(one.box)
    return aim.value ?? (project.camera && pointAhead(project.camera))
  })
  /** The object that the picture is of, as far as it is known. */
  const subjectId = computed(() => {
    if (view.selection.length === 1) return view.selection[0]!
    const a = project.working?.stand.aim
    return a?.kind === 'object' ? a.nodeId : null
  })
  const aimDepth = computed(() => {
    const c = project.camera
    return c && aim.value ? -toCamera(c.pose, aim.value)[2] : null
  })
  const distanceM = computed(() =>
    aim.value && project.camera ? distance(aim.value, project.camera.pose.station) : null,
  )
  return { aim, subject, subjectId, aimDepth, distanceM }
}

/** The one door through which a worked-out camera becomes the project's. */
function createDoor() {
  const project = useProject()
  const notices = useNotices()
  /** Makes a worked-out camera the project's, as one step; a refusal is told. True when something changed. */
  const take: Take = (result, label) => {
    const w = project.working
    if (!w) return false
    if (!result.ok) {
      notices.say(result.message, 'warning')
      return false
    }
    const { pose, lens } = result.value
    const focalMm = Math.min(FOCAL_RANGE_MM.max, Math.max(FOCAL_RANGE_MM.min, lens.focalMm))
    if (focalMm !== lens.focalMm)
      notices.say(`The lens ends at ${focalMm} mm; ${lens.focalMm.toFixed(1)} mm would be needed.`, 'warning')
    else if (focalMm === FOCAL_RANGE_MM.max && w.lens.focalMm < focalMm)
      notices.say(`The lens ends at ${focalMm} mm: there is room left at the sides.`, 'warning')
    return project.move({ stand: standAs(w.stand, pose, centreOf), lens: { ...lens, focalMm } }, label, true)
  }
  const withCamera = (change: (c: Camera) => Result<Camera>, label: string): boolean =>
    project.camera ? take(change(project.camera), label) : false
  return { take, withCamera }
}

function createLevelling(withCamera: ReturnType<typeof createDoor>['withCamera']) {
  const view = useView()
  /** Tilt and roll become rise and cross; the centre of the picture stays where it is. */
  const level = (): void => {
    withCamera((c) => {
      // a parallel picture has no rise to trade: its roll goes
      if (isParallel(c)) return { ok: true, value: { ...c, pose: { ...c.pose, rollDeg: 0 } } }
      return levelKeepingCentre(c, { keepSize: view.keepSize })
    }, 'Levelled')
  }
  /** The reverse: rise and cross become tilt and bearing. */
  const tiltBack = (): void =>
    void withCamera((c) => tiltKeepingCentre(c, { keepSize: view.keepSize }), 'Shift turned into tilt')
  return { level, tiltBack }
}

/** Perspective and parallel with the subject at the aim kept at its place and size. */
function createProjectionSwitch(take: Take, aim: Readonly<Ref<Vec3 | null>>) {
  const project = useProject()
  return (kind: 'perspective' | 'parallel'): void => {
    const c = project.camera
    if (!c || c.lens.projection.kind === kind) return
    const label = kind === 'parallel' ? 'Parallel' : 'Perspective'
    const widthM = widthOfView(c.lens)
    if (kind === 'parallel' && widthM !== null) {
      const projection = { kind, widthM }
      take({ ok: true, value: { ...c, lens: { ...c.lens, projection } } }, label)
      return
    }
    const at = aim.value ?? pointAhead(c)
    take(kind === 'parallel' ? toParallel(c, at) : toPerspective(c, at), label)
  }
}
