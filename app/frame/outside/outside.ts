// Seeing from outside: a temporary view of the camera from elsewhere. It changes nothing in the project until “stand here”.
import { defineStore } from 'pinia'
import { computed, shallowRef, type ComputedRef, type ShallowRef } from 'vue'
import {
  aimPointOf,
  type Camera,
  directionOf,
  type Frame,
  frameCorners,
  type Framing,
  isParallel,
  type Lens,
  poseOfStand,
  standAs,
  toCamera,
} from '#core/camera'
import { fitPoints, lensOfWindow } from '#core/framing'
import { addScaled, boxCorners, distance, type Vec3 } from '#core/math'
import { aimAt, newLens } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** How far behind and above the camera one first stands, as parts of its distance to the aim. */
const BACK = 0.7
const UP = 0.25
/** Directions tried for stepping out, degrees from the camera's bearing. */
const SIDES_DEG = [205, 155, 235, 125, 260, 100, 180] as const
const GHOST_MS = 30_000
/** Where nothing is aimed at, the frame's outline is drawn this far ahead of the camera. */
export const AHEAD_M = 3
/** Free part at each side of what is brought into view. */
const IN_VIEW_MARGIN = 0.12

export const useOutside = defineStore('outside', () => {
  const project = useProject()
  const framing = shallowRef<Framing | null>(null)
  const live = shallowRef<Framing | null>(null)
  const frame = shallowRef<Frame>({ widthPx: 900, heightPx: 600, densityPpi: 96, guides: [] })
  const { former, leave, forgetFormer } = useFormer()

  const on = computed(() => framing.value !== null)
  const shown = computed(() => live.value ?? framing.value)
  const camera = computed<Camera | null>(() =>
    shown.value ? { pose: poseOfStand(shown.value.stand, centreOf), lens: shown.value.lens, frame: frame.value } : null,
  )

  const wayOut = useWayOut()
  const finding = useFinding(framing, camera)
  /** Steps out: behind the camera and above, looking at what it looks at. */
  async function step(): Promise<void> {
    if (framing.value) return
    const f = await wayOut()
    if (f && !framing.value) framing.value = start = f
  }

  const back = (): void => void (framing.value = live.value = start = null)
  /** The view that was stepped out to: one that was never moved is not worth a step. */
  let start: Framing | null = null
  /** Steps back inside; the view from outside stays in the trail's list. */
  function backInside(): void {
    const f = framing.value
    const w = project.working
    if (f && w && f !== start)
      project.run({
        type: 'passed',
        camera: { stand: f.stand, lens: f.lens, frame: w.frame },
        label: 'Seen from outside',
      })
    back()
  }

  /** What of the view the frame would show: all that is seen in its window becomes the picture, or the stand alone is taken. */
  function standHere(lens: 'taken' | 'kept'): void {
    const f = shown.value
    const w = project.working
    const c = project.camera
    if (!f || !w || !c || !camera.value) return
    const seen = lens === 'taken' ? lensOfWindow(camera.value, w.lens, w.frame) : w.lens
    if (!project.move({ stand: f.stand, lens: seen }, 'Stood here')) return
    back()
    leave(c, { stand: w.stand, lens: w.lens }, seen, lens)
  }
  function forget(): void {
    back()
    forgetFormer()
  }
  return {
    ...{ on, framing, live, shown, camera, frame, former },
    ...{ step, back: backInside, standHere, ...finding, forget },
  }
})

/** Where one first stands outside: beside and behind the camera and above it, never through a wall or a roof. */
function useWayOut() {
  const project = useProject()
  const stage = useStage()
  return async (): Promise<Framing | null> => {
    const w = project.working
    const c = project.camera
    if (!w || !c) return null
    const { station, bearingDeg } = c.pose
    const { shown } = project
    const aim = aimPointOf(w.stand.aim, centreOf) ?? addScaled(station, directionOf(bearingDeg, 0), 3)
    const away = Math.max(0.3, distance(aim, station))
    // beside and behind where there is room, so that the camera does not hide what it looks at
    const want = away * BACK
    const ways = await Promise.all(
      SIDES_DEG.map(async (deg) => {
        const direction = directionOf(bearingDeg + deg, 0)
        return { direction, free: (await stage.rays.freeWay(station, direction, want, shown)) ?? want }
      }),
    )
    // the first with room enough, else the roomiest
    const side = ways.find((v) => v.free >= want) ?? ways.reduce((a, b) => (b.free > a.free ? b : a))
    const beside = addScaled(station, side.direction, side.free < want ? side.free * 0.85 : want)
    const free = (await stage.rays.freeWay(beside, [0, 0, 1], away * UP, shown)) ?? away * UP
    const from = addScaled(beside, [0, 0, 1], free < away * UP ? free * 0.6 : away * UP)
    // the camera stays in sight: what is looked at lies only a little before it
    const ahead = Math.min(away * 0.15, distance(from, station) * 0.3)
    const lens = { ...newLens('room'), focalMm: 28 }
    return { stand: aimAt(from, addScaled(station, directionOf(bearingDeg, 0), ahead)), lens }
  }
}

/** The camera before “stand here”, drawn in Plan for a while and offered back. */
function useFormer() {
  const project = useProject()
  const notices = useNotices()
  const former = shallowRef<Camera | null>(null)
  let timer: ReturnType<typeof setTimeout> | null = null
  const forgetFormer = (): void => void (former.value = null)

  function leave(camera: Camera, was: Framing, now: Lens, lens: 'kept' | 'taken'): void {
    former.value = camera
    if (timer) clearTimeout(timer)
    timer = setTimeout(forgetFormer, GHOST_MS)
    const mm = now.focalMm.toFixed(0)
    notices.say(
      lens === 'taken'
        ? `You stand here now and see what you saw, with ${mm} mm.`
        : `You stand here now; the ${mm} mm lens is kept.`,
      'plain',
      {
        label: 'Former camera',
        run: () => {
          forgetFormer()
          project.move(was, 'Former camera')
        },
      },
    )
  }
  return { former, leave, forgetFormer }
}

/** Bringing into the view from outside, its direction kept, what one looks for. */
function useFinding(framing: ShallowRef<Framing | null>, camera: ComputedRef<Camera | null>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  /** Moves the view, its direction kept, so that these points are in it. */
  function bringIntoView(points: readonly Vec3[]): void {
    const f = framing.value
    if (!f || !camera.value || points.length === 0) return
    const by = isParallel(f) ? 'extent' : 'distance'
    const found = fitPoints(camera.value, points, { margin: IN_VIEW_MARGIN, by })
    if (found.ok) framing.value = { stand: standAs(f.stand, found.value.pose, centreOf), lens: found.value.lens }
  }
  function bringCamera(): void {
    const c = project.camera
    const w = project.working
    if (!c || !w) return
    const aim = aimPointOf(w.stand.aim, centreOf)
    const depthM = aim ? Math.max(0.05, -toCamera(c.pose, aim)[2]) : AHEAD_M
    bringIntoView([c.pose.station, ...(frameCorners(c, depthM) ?? []).map((corner) => corner.at)])
  }
  /** The boxes of the selected objects; nothing where none is selected. */
  function bringSelection(): void {
    bringIntoView(
      view.selection.flatMap((id) => {
        const node = stage.byId.get(id)
        return node ? boxCorners(node.box) : []
      }),
    )
  }
  return { bringCamera, bringSelection }
}
