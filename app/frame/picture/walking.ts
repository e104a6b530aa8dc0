// W A S D, Q and E: on foot over the floors, with walls, steps and edges; or flying freely. Shift hurries.
// Model: an animation loop runs only while a key is down; it ends in one step of the trail, and Esc puts the start back exactly.

import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref } from 'vue'
import { axesOf, directionOf, poseOfStand, standMoved, type Framing } from '#core/camera'
import { addScaled, distance, scale, sub, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { isClosedDropDown, takesText } from '../../actions/registry.ts'
import { isDragging } from '../../controls/drag.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { useMovable, type Movable } from '../camera/movable.ts'

const KEYS = new Set(['w', 'a', 's', 'd', 'q', 'e'])
const HURRY = 2.5
/** A frame that took longer moves no farther than this long. */
const LONGEST_S = 0.1
/** Heights that count as an eye's above its floor; others start at the project's own. */
const EYE_M = { least: 0.3, most: 2.6 } as const

/** Speed of flight by the size of what is there, metres a second. */
export const flightMps = (sizeM: number): number => Math.min(50, Math.max(0.05, sizeM / 6))

/** One step of the way: on foot by rays over the floors, or through the air. Which keys are down says where to. */
function useSteps(down: ReadonlySet<string>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  let eyeM = 0
  let hurry = false

  const sizeM = (): number => {
    const b = stage.facts?.box
    return b ? distance(b.min, b.max) : 10
  }
  const speed = (walks: boolean): number =>
    (walks ? view.walkMps : (view.flyMps ?? flightMps(sizeM()))) * (hurry ? HURRY : 1)
  const way = (a: string, b: string): number => (down.has(a) ? 1 : 0) - (down.has(b) ? 1 : 0)

  function flown(from: Framing, m: number): Framing {
    const [ahead, right, up] = [way('w', 's'), way('d', 'a'), way('e', 'q')]
    const axes = axesOf(poseOfStand(from.stand, centreOf))
    const level = addScaled(scale(axes.forward, ahead), axes.right, right)
    const by = addScaled(scale(level, m / (Math.hypot(ahead, right) || 1)), [0, 0, 1], up * m)
    return { ...from, stand: standMoved(from.stand, by, false, centreOf) }
  }
  async function walked(from: Framing, m: number, dt: number): Promise<Framing> {
    const [ahead, right, up] = [way('w', 's'), way('d', 'a'), way('e', 'q')]
    eyeM = Math.min(EYE_M.most, Math.max(EYE_M.least, eyeM + up * 0.6 * dt))
    const { bearingDeg } = poseOfStand(from.stand, centreOf)
    const level = addScaled(scale(directionOf(bearingDeg, 0), ahead), directionOf(bearingDeg + 90, 0), right)
    const step = scale(level, m / (Math.hypot(ahead, right) || 1))
    const to = await stage.rays.walk(from.stand.station, [step[0], step[1]], eyeM, project.shown)
    const by: Vec3 = to ? sub(to.station, from.stand.station) : [step[0], step[1], 0]
    return { ...from, stand: standMoved(from.stand, by, false, centreOf) }
  }
  return {
    /** The eye's height above the floor at the start, metres. */
    begin: (heightM: number): void => void (eyeM = heightM),
    hurry: (on: boolean): void => void (hurry = on),
    async moved(from: Framing, dt: number, t: Movable): Promise<Framing> {
      const walks = view.gait === 'walk' && t.isCamera
      return walks ? walked(from, speed(true) * dt, dt) : flown(from, speed(false) * dt)
    },
  }
}

/** From the first key down to the last one up: frame by frame, then one step of the trail. */
function useWay(down: Set<string>) {
  const project = useProject()
  const view = useView()
  const movable = useMovable()
  const { eyeHeight, floor, whenFloorIsKnown } = useFraming()
  const steps = useSteps(down)
  const walking = ref(false)
  let t: Movable | null = null
  let now: Framing | null = null
  let last = 0
  let run = 0

  function begin(): void {
    t = movable()
    now = t.framing()
    if (!now || !project.document) return
    walking.value = true
    const mine = ++run
    // over which height one walks is asked where the station is now
    if (view.gait === 'walk' && t.isCamera) whenFloorIsKnown(() => mine === run && start(mine))
    else start(mine)
  }
  function start(mine: number): void {
    if (!t || !now || !project.document) return
    const h = t.isCamera ? eyeHeight.value : null
    const eyeM = h !== null && h >= EYE_M.least && h <= EYE_M.most ? h : project.document.eyeHeightM
    steps.begin(eyeM)
    // the first step comes down (or up) onto the floor below
    if (view.gait === 'walk' && t.isCamera && floor.value !== null)
      now = { ...now, stand: standMoved(now.stand, [0, 0, floor.value + eyeM - now.stand.station[2]], false, centreOf) }
    last = performance.now()
    void loop(mine)
  }
  async function loop(mine: number): Promise<void> {
    while (mine === run && walking.value) {
      await new Promise((r) => requestAnimationFrame(r))
      if (mine !== run || !t || !now) return
      const time = performance.now()
      const dt = Math.min(LONGEST_S, (time - last) / 1000)
      last = time
      const from = now
      const to = await steps.moved(from, dt, t)
      // a key let go, or Esc, while the step was worked out
      if (mine !== run || now !== from) return
      now = to
      t.show(to)
    }
  }
  function end(keep: boolean): void {
    if (!walking.value) return
    walking.value = false
    run++
    down.clear()
    now = null
    if (keep) t?.settle(view.gait === 'walk' ? 'Walked' : 'Flown')
    else t?.letGo()
    t = null
  }
  return { walking, hurry: steps.hurry, begin, end }
}

export function useWalking(blocked: () => boolean) {
  const stage = useStage()
  const view = useView()
  const down = new Set<string>()
  const { walking, hurry, begin, end } = useWay(down)

  useEventListener(
    window,
    'keydown',
    (e) => {
      if (walking.value && e.key === 'Escape') {
        e.preventDefault()
        e.stopImmediatePropagation()
        end(false)
        return
      }
      const key = e.key.toLowerCase()
      if (!KEYS.has(key) || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented) return
      if (!view.singleKeys || blocked() || isDragging() || !stage.ready) return
      if (takesText(e.target)) return
      e.preventDefault()
      if (isClosedDropDown(e.target)) e.stopPropagation()
      hurry(e.shiftKey)
      down.add(key)
      if (!walking.value) begin()
    },
    true,
  )
  useEventListener(window, 'keyup', (e) => {
    if (e.key === 'Shift') hurry(false)
    if (!down.delete(e.key.toLowerCase())) return
    if (down.size === 0) end(true)
  })
  useEventListener(window, 'blur', () => end(true))
  onBeforeUnmount(() => end(false))
  return { walking }
}
