// What drags, clicks and the wheel on the picture do.
import { refDebounced } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import {
  aimPointOf,
  directionOf,
  dolly,
  focalHoldingSize,
  orbit,
  poseOfStand,
  rayThrough,
  slide,
  toCamera,
  turnInPlace,
  type Camera,
  type Framing,
} from '#core/camera'
import { addScaled, distance, type Vec3 } from '#core/math'
import type { Hit } from '#mesh'
import { aimAt } from '#model'
import { startDrag } from '../controls/drag.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView, type Tool } from '../stores/view.ts'

export interface Ghost {
  readonly point: Vec3
  readonly heightM: number
  readonly floorName: string
}
interface Box {
  readonly width: number
  readonly height: number
}
const LABELS: Record<Tool, string> = { turn: 'Turned', orbit: 'Orbited', slide: 'Slid', dolly: 'Moved', stand: 'Stood' }
/** One wheel step goes a tenth of the way. */
const DOLLY_STEP = 0.9
const WHEEL_REST_MS = 180
/** Where nothing is under the pointer, things are taken to be this far away. */
const FALLBACK_M = 5

export function usePictureTools(box: Ref<Box>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const ghost = ref<Ghost | null>(null)
  const wheeling = ref(0)
  const rested = refDebounced(wheeling, WHEEL_REST_MS)
  const moving = computed(() => wheeling.value !== rested.value)

  const options = () => ({ keepLevel: view.keepLevel, keepSquare: view.keepSquare })
  /** A page position on the picture in the frame's own pixels. */
  function framePx(e: MouseEvent, camera: Camera): [number, number] {
    const r = (e.currentTarget as HTMLElement | null)?.getBoundingClientRect() ?? lastRect
    lastRect = r
    return [
      ((e.clientX - r.left) / r.width) * camera.frame.widthPx,
      ((e.clientY - r.top) / r.height) * camera.frame.heightPx,
    ]
  }
  let lastRect = new DOMRect(0, 0, 1, 1)
  const hidden = (): readonly string[] => project.working?.visible.hidden ?? []

  async function under(x: number, y: number, camera: Camera): Promise<Hit | null> {
    const ray = rayThrough(camera, x, y)
    return ray ? stage.pick(ray, hidden()) : null
  }
  const aimOf = (f: Framing): Vec3 =>
    aimPointOf(f.stand.aim) ?? addScaled(f.stand.station, directionOf(poseOfStand(f.stand).bearingDeg, 0), FALLBACK_M)

  function toolFor(e: PointerEvent): Tool | null {
    if (e.button === 1 || e.button === 2) return 'slide'
    if (e.button !== 0) return null
    if (!e.shiftKey) return view.tool
    return view.tool === 'orbit' ? 'turn' : 'orbit'
  }

  function down(e: PointerEvent): void {
    const camera = project.camera
    const w = project.working
    const tool = toolFor(e)
    if (!camera || !w || !tool) return
    ;(e.currentTarget as HTMLElement).focus({ preventScroll: true })
    const [x, y] = framePx(e, camera)
    if (tool === 'stand') {
      void standAt(x, y, camera)
      return
    }
    e.preventDefault()
    const from: Framing = { stand: w.stand, lens: w.lens }
    const k = camera.frame.widthPx / box.value.width
    // the thing under the pointer becomes pivot or grip as soon as its distance is known
    let grip: Vec3 = aimOf(from)
    void under(x, y, camera).then((hit) => hit && (grip = hit.point))
    startDrag(e, {
      move: (dx, dy) => {
        const next = dragged(tool, camera, from, grip, dx * k, dy * k)
        project.show({ stand: next.stand, lens: next.lens })
      },
      end: (moved) => moved && project.settle(LABELS[tool]),
      cancel: () => project.letGo(),
    })
  }

  function dragged(tool: Tool, camera: Camera, from: Framing, grip: Vec3, dx: number, dy: number): Framing {
    if (tool === 'orbit') return orbit(camera, from, view.tool === 'orbit' ? aimOf(from) : grip, dx, dy, options())
    if (tool === 'slide') return slide(camera, from, Math.max(0.05, -toCamera(camera.pose, grip)[2]), dx, dy)
    if (tool === 'dolly') return dolly(from, aimOf(from), Math.pow(2, dy / (camera.frame.heightPx / 2)), options())
    return turnInPlace(camera, from, dx, dy, options())
  }

  /** Stands on the floor under the pointer at eye height, level, looking the same way. */
  async function standAt(x: number, y: number, camera: Camera): Promise<void> {
    const doc = project.document
    const ray = rayThrough(camera, x, y)
    if (!doc || !ray) return
    const hit = await stage.pickFloor(ray, hidden())
    if (!hit) {
      notices.say('No floor there. Click where the floor can be seen, or draw the stand in Plan.', 'warning')
      return
    }
    const station: Vec3 = [hit.point[0], hit.point[1], hit.point[2] + doc.eyeHeightM]
    const { bearingDeg } = camera.pose
    const aim = addScaled(
      station,
      directionOf(bearingDeg, 0),
      Math.max(1, Math.min(6, distance(aimPointOf(project.working!.stand.aim) ?? station, station))),
    )
    ghost.value = null
    project.move({ stand: aimAt(station, aim) }, 'Stood')
    view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
  }

  let hovering = 0
  async function hover(e: PointerEvent): Promise<void> {
    const camera = project.camera
    const doc = project.document
    if (view.tool !== 'stand' || !camera || !doc || e.buttons) {
      ghost.value = null
      return
    }
    const mine = ++hovering
    const [x, y] = framePx(e, camera)
    const ray = rayThrough(camera, x, y)
    const hit = ray ? await stage.pickFloor(ray, hidden()) : null
    if (mine === hovering)
      ghost.value = hit ? { point: hit.point, heightM: doc.eyeHeightM, floorName: hit.nodeName } : null
  }
  const leave = (): void => {
    hovering++
    ghost.value = null
  }

  // a turn of the wheel is one step of the trail, however many notches it has
  let wheelTimer: ReturnType<typeof setTimeout> | null = null
  let wheelGrip: { point: Vec3; depth: number } | null = null
  async function wheel(e: WheelEvent): Promise<void> {
    e.preventDefault()
    const camera = project.camera
    const w = project.working
    if (!camera || !w || !Number.isFinite(e.deltaY) || e.deltaY === 0) return
    const [x, y] = framePx(e, camera)
    const factor = Math.pow(DOLLY_STEP, -Math.sign(e.deltaY) * Math.min(3, Math.max(0.25, Math.abs(e.deltaY) / 100)))
    if (!wheelGrip) {
      wheelGrip = { point: aimOf(w), depth: FALLBACK_M }
      const hit = await under(x, y, camera)
      if (hit) wheelGrip = { point: hit.point, depth: Math.max(0.1, -toCamera(camera.pose, hit.point)[2]) }
    }
    const now = project.working
    if (!now) return
    const from: Framing = { stand: now.stand, lens: now.lens }
    wheeling.value++
    const next = e.altKey
      ? heldFocal(from, factor)
      : dolly(from, wheelGrip.point, near(from, wheelGrip.point, factor), options())
    project.show({ stand: next.stand, lens: next.lens })
    if (wheelTimer) clearTimeout(wheelTimer)
    wheelTimer = setTimeout(() => {
      wheelGrip = null
      project.settle(e.altKey ? 'Focal length, size held' : 'Moved')
    }, WHEEL_REST_MS)
  }
  /** Never through what is under the pointer: at 30 cm the way forward ends. */
  function near(from: Framing, towards: Vec3, factor: number): number {
    if (factor >= 1 || from.lens.projection.kind !== 'perspective') return factor
    const away = distance(from.stand.station, towards)
    return Math.max(factor, Math.min(1, 0.3 / Math.max(away, 1e-6)))
  }
  function heldFocal(from: Framing, factor: number): Framing {
    const aim = aimPointOf(from.stand.aim)
    const depth = aim ? -toCamera(poseOfStand(from.stand), aim)[2] : FALLBACK_M
    return focalHoldingSize(from, Math.max(0.1, depth), Math.min(2000, Math.max(5, from.lens.focalMm / factor)))
  }

  return { down, wheel, hover, leave, ghost, moving }
}
