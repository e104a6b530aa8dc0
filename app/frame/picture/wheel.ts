// The wheel and the arrow keys on the picture: to and fro, sideways, focal length with the size held; a burst is one step.
import { refDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import {
  axesOf,
  dolly,
  orbit,
  poseOfStand,
  slide,
  toCamera,
  turnInPlace,
  type Camera,
  type Framing,
} from '#core/camera'
import { addScaled, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import type { Movable } from '../camera/movable.ts'
import { useLens } from '../lens/lens.ts'
import { useWallBehind } from '../lens/wall-behind.ts'
import { useApproach } from './approach.ts'
import { aimOf, FALLBACK_M, LABELS, middleAhead } from './looking.ts'
import type { usePictureTools } from './tools.ts'

/** One wheel step goes a tenth of the way. */
const DOLLY_STEP = 0.9
const REST_MS = 180
/** An arrow key moves like a drag of this many pixels of the frame's width, ten times with Shift. */
const KEY_SHARE = 0.01

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
}

type Tools = Pick<ReturnType<typeof usePictureTools>, 'framePx' | 'under' | 'options' | 'movable'>

/** A burst of wheel steps or key presses is one step of the trail, when it has rested. */
function useBurst() {
  const count = ref(0)
  const rested = refDebounced(count, REST_MS)
  const moving = computed(() => count.value !== rested.value)

  let timer: ReturnType<typeof setTimeout> | null = null
  let grip: { point: Vec3; depth: number } | null = null
  let burst: Movable | null = null
  /** What follows on a burst that was settled. */
  let after: (() => void) | null = null
  /** An answer that came after the burst had settled begins another: no framing stays live without an end. */
  function rest(t: Movable, label: string, then: (() => void) | null = null): void {
    burst = t
    after ??= then
    count.value++
    if (timer) clearTimeout(timer)
    timer = setTimeout(() => {
      timer = grip = null
      burst?.settle(label)
      burst = null
      after?.()
      after = null
    }, REST_MS)
  }
  /** Ends a running burst and puts its start back. True when there was one. */
  function cancel(): boolean {
    if (!timer) return false
    clearTimeout(timer)
    timer = grip = null
    burst?.letGo()
    burst = after = null
    count.value++
    return true
  }

  return {
    moving,
    rest,
    cancel,
    /** What the burst moves. */
    of: (movable: () => Movable): Movable => (burst ??= movable()),
    grip: () => grip,
    hold: (g: NonNullable<typeof grip>): typeof g => (grip = g),
  }
}

type Burst = ReturnType<typeof useBurst>

export function useWheel(tools: Tools) {
  const burst = useBurst()
  const { towards, heldFocal } = useApproach(tools)
  const gripAt = useGrip(tools, burst)
  const wall = useWallBehind()
  const { point } = useLens()
  /** A wall that the station passes while the subject is held takes the near cut with it. */
  function wallBehind(from: Framing): (() => void) | null {
    const c = useProject().camera
    const subject = point.value
    return c && subject
      ? () => void wall.passed({ ...c, pose: poseOfStand(from.stand, centreOf), lens: from.lens }, subject)
      : null
  }

  async function wheel(e: WheelEvent): Promise<void> {
    e.preventDefault()
    const t = burst.of(tools.movable)
    const camera = t.camera()
    if (!camera || !t.framing() || !Number.isFinite(e.deltaY) || !Number.isFinite(e.deltaX)) return
    const grip = await gripAt(e, t, camera)
    const from = t.framing()
    if (!from) return
    // a trackpad's sideways scroll slides; its pinch arrives with Ctrl and goes to and fro
    if (Math.abs(e.deltaX) > 2 * Math.abs(e.deltaY) && !e.shiftKey) {
      const now = { ...camera, pose: poseOfStand(from.stand, centreOf) }
      t.show(slide(now, from, grip.depth, -e.deltaX * (camera.frame.widthPx / 1000), 0, { centreOf }))
      burst.rest(t, 'Slid')
      return
    }
    // some browsers turn Shift and the wheel sideways
    const turn = e.deltaY !== 0 ? e.deltaY : e.shiftKey ? e.deltaX : 0
    if (turn === 0) return
    const factor = Math.pow(DOLLY_STEP, -Math.sign(turn) * Math.min(3, Math.max(0.25, Math.abs(turn) / 100)))
    const then = e.altKey && t.isCamera ? wallBehind(from) : null
    if (e.altKey) t.show(heldFocal(from, factor))
    else t.show(await towards(t, from, grip.point, factor, t.isCamera && !e.shiftKey))
    burst.rest(t, e.altKey ? 'Focal length, size held' : 'Moved', then)
  }
  return { wheel, key: useArrows(tools, burst), moving: burst.moving, cancel: burst.cancel }
}

/** What a burst goes towards: what lay under the pointer when it began. */
function useGrip({ framePx, under }: Tools, burst: Burst) {
  const stage = useStage()
  return async (e: WheelEvent, t: Movable, camera: Camera): Promise<NonNullable<ReturnType<Burst['grip']>>> => {
    const known = burst.grip()
    if (known) return known
    const held = burst.hold({ point: middleAhead(t.framing()!, stage.facts?.box ?? null), depth: FALLBACK_M })
    const hit = await under(...framePx(e, camera), camera)
    return hit ? burst.hold({ point: hit.point, depth: Math.max(0.1, -toCamera(camera.pose, hit.point)[2]) }) : held
  }
}

/** Arrow keys do what the tool's drag does; + and - go to and fro. */
function useArrows(tools: Tools, burst: Burst) {
  const { options, movable } = tools
  const view = useView()
  const { towards } = useApproach(tools)
  /** The tool's drag by pixels of the frame; `px` is one step. */
  function dragged(t: Movable, camera: Camera, from: Framing, dx: number, dy: number, px: number): Framing {
    const pivot = aimOf(from)
    const depth = Math.max(0.05, -toCamera(camera.pose, pivot)[2])
    const { tool } = view
    if (tool === 'orbit') return orbit(camera, from, pivot, dx, dy, options(t))
    if (tool === 'slide') return slide(camera, from, depth, dx, dy, { centreOf })
    if (tool !== 'dolly') return turnInPlace(camera, from, dx, dy, options(t))
    const ahead = addScaled(from.stand.station, axesOf(camera.pose).forward, depth)
    return dolly(from, ahead, 1 - (dy / px) * 0.03, options(t))
  }
  return (e: KeyboardEvent): void => {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const arrow = ARROWS[e.key]
    const step = e.key === '+' || e.key === '=' ? DOLLY_STEP : e.key === '-' ? 1 / DOLLY_STEP : null
    if (!arrow && step === null) return
    e.preventDefault()
    e.stopPropagation()
    const t = burst.of(movable)
    const camera = t.camera()
    const from = t.framing()
    if (!camera || !from) return
    if (step !== null) {
      void towards(t, from, aimOf(from), step, t.isCamera).then((f) => t.show(f))
      burst.rest(t, 'Moved')
      return
    }
    const px = camera.frame.widthPx * KEY_SHARE * (e.shiftKey ? 10 : 1)
    t.show(dragged(t, camera, from, arrow![0] * px, arrow![1] * px, px))
    burst.rest(t, LABELS[view.tool])
  }
}
