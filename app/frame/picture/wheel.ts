// The wheel and the arrow keys on the picture: to and fro, sideways, focal length with the size held; a burst is one step.
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import {
  aimPointOf,
  axesOf,
  dolly,
  focalHoldingSize,
  orbit,
  poseOfStand,
  slide,
  toCamera,
  turnInPlace,
  type Framing,
} from '#core/camera'
import { addScaled, distance, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import type { Movable } from '../camera/movable.ts'
import { aimOf, FALLBACK_M, LABELS } from './looking.ts'
import type { usePictureTools } from './tools.ts'

/** One wheel step goes a tenth of the way. */
const DOLLY_STEP = 0.9
const REST_MS = 180
/** The way forward ends this far before what is in the way. */
const CLEARANCE_M = 0.3
/** An arrow key moves like a drag of this many pixels of the frame's width, ten times with Shift. */
const KEY_SHARE = 0.01

type Tools = Pick<ReturnType<typeof usePictureTools>, 'framePx' | 'under' | 'options' | 'movable'>

export function useWheel({ framePx, under, options, movable }: Tools) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const count = ref(0)
  const rested = refDebounced(count, REST_MS)
  const moving = computed(() => count.value !== rested.value)

  let timer: ReturnType<typeof setTimeout> | null = null
  let grip: { point: Vec3; depth: number } | null = null
  let freeM: { from: Vec3; metres: number } | null = null
  let burst: Movable | null = null
  function rest(label: string): void {
    count.value++
    if (timer) clearTimeout(timer)
    timer = setTimeout(() => {
      timer = grip = freeM = null
      burst?.settle(label)
      burst = null
    }, REST_MS)
  }
  /** Ends a running burst and puts its start back. True when there was one. */
  function cancel(): boolean {
    if (!timer) return false
    clearTimeout(timer)
    timer = grip = freeM = null
    burst?.letGo()
    burst = null
    count.value++
    return true
  }

  async function wheel(e: WheelEvent): Promise<void> {
    e.preventDefault()
    const t = (burst ??= movable())
    const camera = t.camera()
    const start = t.framing()
    const dy = e.deltaY
    if (!camera || !start || !Number.isFinite(dy) || !Number.isFinite(e.deltaX)) return
    const at = framePx(e, camera)
    if (!grip) {
      grip = { point: aimOf(start), depth: FALLBACK_M }
      const hit = await under(...at, camera)
      if (hit) grip = { point: hit.point, depth: Math.max(0.1, -toCamera(camera.pose, hit.point)[2]) }
    }
    const from = t.framing()
    if (!from) return
    // a trackpad's sideways scroll slides; its pinch arrives with Ctrl and goes to and fro
    if (Math.abs(e.deltaX) > 2 * Math.abs(dy) && !e.shiftKey) {
      t.show(
        slide(
          { ...camera, pose: poseOfStand(from.stand, centreOf) },
          from,
          grip.depth,
          -e.deltaX * (camera.frame.widthPx / 1000),
          0,
          { centreOf },
        ),
      )
      rest('Slid')
      return
    }
    // some browsers turn Shift and the wheel sideways
    const turn = dy !== 0 ? dy : e.shiftKey ? e.deltaX : 0
    if (turn === 0) return
    const factor = Math.pow(DOLLY_STEP, -Math.sign(turn) * Math.min(3, Math.max(0.25, Math.abs(turn) / 100)))
    if (e.altKey) {
      t.show(heldFocal(from, factor))
      rest('Focal length, size held')
      return
    }
    const free = t.isCamera && !e.shiftKey
    t.show(await towards(t, from, grip.point, factor, free))
    rest('Moved')
  }

  /** To and fro; with the level kept never nearer to a wall than the clearance, unless freed. */
  async function towards(t: Movable, from: Framing, point: Vec3, factor: number, stops: boolean): Promise<Framing> {
    const next = dolly(from, point, near(from, point, factor, stops), options(t))
    if (!stops || !options(t).keepLevel || from.lens.projection.kind !== 'perspective') return next
    const way = [0, 1, 2].map((i) => next.stand.station[i]! - from.stand.station[i]!) as unknown as Vec3
    const length = Math.hypot(...way)
    if (length < 1e-9) return next
    const direction = way.map((v) => v / length) as unknown as Vec3
    const far = length + CLEARANCE_M
    const metres = (await stage.rays.freeWay(from.stand.station, direction, far, project.shown)) ?? far
    freeM = { from: from.stand.station, metres }
    const allowed = Math.max(0, Math.min(length, freeM.metres - CLEARANCE_M))
    if (allowed >= length) return next
    const k = 1 - (1 - near(from, point, factor, stops)) * (allowed / length)
    return dolly(from, point, k, options(t))
  }
  /** Never through what is under the pointer. */
  function near(from: Framing, point: Vec3, factor: number, stops: boolean): number {
    if (!stops || factor >= 1 || from.lens.projection.kind !== 'perspective') return factor
    const away = distance(from.stand.station, point)
    const least = Math.min(CLEARANCE_M, Math.max(0.01, (stage.facts ? size() : 1) * 0.02))
    return Math.max(factor, Math.min(1, least / Math.max(away, 1e-6)))
  }
  const size = (): number => {
    const { min, max } = stage.facts!.box
    return Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
  }
  function heldFocal(from: Framing, factor: number): Framing {
    const aim = aimPointOf(from.stand.aim, centreOf)
    const depth = aim ? -toCamera(poseOfStand(from.stand, centreOf), aim)[2] : FALLBACK_M
    return focalHoldingSize(
      from,
      Math.max(0.1, depth),
      Math.min(2000, Math.max(5, from.lens.focalMm / factor)),
      centreOf,
    )
  }

  const ARROWS: Record<string, readonly [number, number]> = {
    ArrowLeft: [1, 0],
    ArrowRight: [-1, 0],
    ArrowUp: [0, 1],
    ArrowDown: [0, -1],
  }
  /** Arrow keys do what the tool's drag does; + and - go to and fro. */
  function key(e: KeyboardEvent): void {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const arrow = ARROWS[e.key]
    const step = e.key === '+' || e.key === '=' ? DOLLY_STEP : e.key === '-' ? 1 / DOLLY_STEP : null
    if (!arrow && step === null) return
    e.preventDefault()
    e.stopPropagation()
    const t = (burst ??= movable())
    const camera = t.camera()
    const from = t.framing()
    if (!camera || !from) return
    if (step !== null) {
      void towards(t, from, aimOf(from), step, t.isCamera).then((f) => t.show(f))
      rest('Moved')
      return
    }
    const px = camera.frame.widthPx * KEY_SHARE * (e.shiftKey ? 10 : 1)
    const [dx, dy] = [arrow![0] * px, arrow![1] * px]
    const pivot = aimOf(from)
    const depth = Math.max(0.05, -toCamera(camera.pose, pivot)[2])
    const tool = view.tool
    if (tool === 'orbit') t.show(orbit(camera, from, pivot, dx, dy, options(t)))
    else if (tool === 'slide') t.show(slide(camera, from, depth, dx, dy, { centreOf }))
    else if (tool === 'dolly')
      t.show(
        dolly(
          from,
          addScaled(from.stand.station, axesOf(camera.pose).forward, depth),
          1 - (dy / px) * 0.03,
          options(t),
        ),
      )
    else t.show(turnInPlace(camera, from, dx, dy, options(t)))
    rest(LABELS[tool])
  }
  return { wheel, key, moving, cancel }
}
