// What drags and clicks on the picture do, by mouse, pen, trackpad and touch.
import { ref, type Ref } from 'vue'
import {
  aimPointOf,
  directionOf,
  dolly,
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
import { centreOf } from '../../stores/centres.ts'
import { startDrag } from '../../controls/drag.ts'
import { usePicking } from '../straighten/picking.ts'
import { useSelection } from '../selection/selection.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView, type Tool } from '../../stores/view.ts'
import { useMovable, type Movable } from '../camera/movable.ts'
import { usePointer } from '../camera/pointer.ts'

export interface Ghost {
  readonly point: Vec3
  readonly heightM: number
  readonly floorName: string
}
/** Page pixels within the picture. */
export interface BandPx {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
interface Box {
  readonly width: number
  readonly height: number
}
export const LABELS: Record<Tool, string> = {
  turn: 'Turned',
  orbit: 'Orbited',
  slide: 'Slid',
  dolly: 'Moved',
  stand: 'Stood',
  pick: 'Turned',
}
/** Where nothing is under the pointer, things are taken to be this far away. */
export const FALLBACK_M = 5

export const aimOf = (f: Framing): Vec3 =>
  aimPointOf(f.stand.aim, centreOf) ??
  addScaled(f.stand.station, directionOf(poseOfStand(f.stand, centreOf).bearingDeg, 0), FALLBACK_M)

export function usePictureTools(box: Ref<Box>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const movable = useMovable()
  const { select, clear } = useSelection()
  const pointer = usePointer()
  const picking = usePicking()
  const ghost = ref<Ghost | null>(null)
  const band = ref<BandPx | null>(null)

  /** From outside one looks about freely: keeping level and square are for the camera. */
  const options = (t: Movable) => ({
    keepLevel: t.isCamera && view.keepLevel,
    keepSquare: t.isCamera && view.keepSquare,
    centreOf,
  })
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

  async function under(x: number, y: number, camera: Camera): Promise<Hit | null> {
    // from outside the camera's own cuts cut nothing
    const sight = movable().isCamera ? pointer.sightAt(camera, x, y) : rayThrough(camera, x, y)
    return sight ? stage.rays.pick(sight, project.shown) : null
  }

  function toolFor(e: PointerEvent, t: Movable): Tool | null {
    if (e.button === 1 || e.button === 2) return 'slide'
    if (e.button !== 0) return null
    if (e.ctrlKey || e.metaKey) return 'pick'
    const plain: Tool = t.isCamera || view.tool !== 'stand' ? view.tool : 'orbit'
    if (!e.shiftKey || plain === 'pick') return plain
    return plain === 'orbit' ? 'turn' : 'orbit'
  }

  const fingers = new Map<number, PointerEvent>()
  function down(e: PointerEvent): void {
    const t = movable()
    const camera = t.camera()
    const from = t.framing()
    const tool = toolFor(e, t)
    if (!camera || !from || !tool) return
    ;(e.currentTarget as HTMLElement).focus({ preventScroll: true })
    const at = framePx(e, camera)
    if (e.pointerType === 'touch' && twoFingers(e, t, camera, from, at)) return
    if (tool === 'stand') {
      void standAt(at[0], at[1], camera, e.altKey)
      return
    }
    e.preventDefault()
    if (tool === 'pick') dragBand(e, camera, at)
    else dragCamera(e, tool, t, camera, from, at)
  }

  function dragCamera(
    e: PointerEvent,
    tool: Tool,
    t: Movable,
    camera: Camera,
    from: Framing,
    at: [number, number],
  ): void {
    const k = camera.frame.widthPx / box.value.width
    // the thing under the pointer becomes pivot or grip; the drag waits the moment until it is known
    let grip: Vec3 | null = null
    let way: [number, number] = [0, 0]
    let over = false
    const show = (): void => {
      if (grip && !over && (way[0] !== 0 || way[1] !== 0))
        t.show(dragged(tool, t, camera, from, grip, way[0] * k, way[1] * k))
    }
    const found = under(...at, camera)
      .catch(() => null)
      .then((hit) => {
        // an object aimed at stays the aim: the orbit goes round it
        const round = tool === 'orbit' && from.stand.aim.kind === 'object'
        grip = round ? aimOf(from) : (hit?.point ?? aimOf(from))
        show()
      })
    const add = e.shiftKey
    // Shift at the start chooses the other tool; pressed later it holds the drag to one axis
    let holds = !e.shiftKey
    startDrag(e, {
      move: (dx, dy, m) => {
        if (!m.shiftKey) holds = true
        const held = holds && m.shiftKey
        way = held ? (Math.abs(dx) > Math.abs(dy) ? [dx, 0] : [0, dy]) : [dx, dy]
        show()
      },
      end: (moved) => {
        fingers.delete(e.pointerId)
        if (!moved) void click(at, camera, add)
        else
          void found.then(() => {
            over = true
            t.settle(LABELS[tool])
          })
      },
      cancel: () => {
        fingers.delete(e.pointerId)
        over = true
        t.letGo()
      },
    })
  }

  function dragged(tool: Tool, t: Movable, camera: Camera, from: Framing, grip: Vec3, dx: number, dy: number): Framing {
    if (tool === 'orbit') return orbit(camera, from, grip, dx, dy, options(t))
    if (tool === 'slide')
      return slide(camera, from, Math.max(0.05, -toCamera(camera.pose, grip)[2]), dx, dy, { centreOf })
    if (tool === 'dolly') return dolly(from, grip, Math.pow(2, dy / (camera.frame.heightPx / 2)), options(t))
    return turnInPlace(camera, from, dx, dy, options(t))
  }

  /** A click selects what is under it, or is what was asked for; on nothing it clears. */
  async function click(at: readonly [number, number], camera: Camera, add: boolean): Promise<void> {
    if (view.picking && movable().isCamera) return picking.click(camera, at, camera.frame.widthPx / box.value.width)
    const hit = await under(at[0], at[1], camera)
    if (hit) select([hit.nodeId], add)
    else if (!add) clear()
  }

  function dragBand(e: PointerEvent, camera: Camera, at: [number, number]): void {
    const k = camera.frame.widthPx / box.value.width
    const add = e.shiftKey
    const end = (): void => void (band.value = null)
    startDrag(e, {
      move: (dx, dy) => {
        const [x, y] = [at[0] / k, at[1] / k]
        band.value = { x: Math.min(x, x + dx), y: Math.min(y, y + dy), width: Math.abs(dx), height: Math.abs(dy) }
      },
      end: (moved) => {
        const b = band.value
        end()
        if (!moved || !b) {
          void click(at, camera, add)
          return
        }
        const corner = (x: number, y: number): [number, number] => [x * k, y * k]
        void stage.rays
          .inBand(camera, { a: corner(b.x, b.y), b: corner(b.x + b.width, b.y + b.height) }, project.shown)
          .then((found) => {
            const ids = found ?? []
            select(ids, add)
            if (ids.length === 0) notices.say('Nothing lies wholly within the band.')
          })
      },
      cancel: end,
    })
  }

  /** A second finger: the pair slides by its middle and moves to and fro by its spread. */
  function twoFingers(e: PointerEvent, t: Movable, camera: Camera, from: Framing, at: [number, number]): boolean {
    fingers.set(e.pointerId, e)
    if (fingers.size !== 2) return fingers.size > 2
    const first = [...fingers.values()].find((f) => f.pointerId !== e.pointerId) ?? e
    // the first finger's drag gives way
    window.dispatchEvent(new PointerEvent('pointercancel', { pointerId: [...fingers.keys()][0]! }))
    fingers.set(first.pointerId, first).set(e.pointerId, e)
    const now = new Map<number, { x: number; y: number }>(
      [first, e].map((f) => [f.pointerId, { x: f.clientX, y: f.clientY }]),
    )
    const pair = () => {
      const [a, b] = [...now.values()]
      const p = a!
      const q = b ?? a!
      return { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, spread: Math.max(8, Math.hypot(p.x - q.x, p.y - q.y)) }
    }
    const start = pair()
    const k = camera.frame.widthPx / box.value.width
    let grip = aimOf(from)
    void under(...at, camera).then((hit) => hit && (grip = hit.point))
    const move = (m: PointerEvent): void => {
      if (!now.has(m.pointerId)) return
      now.set(m.pointerId, { x: m.clientX, y: m.clientY })
      const p = pair()
      const depth = Math.max(0.05, -toCamera(camera.pose, grip)[2])
      const slid = slide(camera, from, depth, (p.x - start.x) * k, (p.y - start.y) * k, { centreOf })
      t.show(dolly(slid, grip, start.spread / p.spread, options(t)))
    }
    const stop = (m: PointerEvent): void => {
      if (!now.has(m.pointerId)) return
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', stop)
      window.removeEventListener('pointercancel', stop)
      fingers.clear()
      if (m.type === 'pointerup') t.settle('Moved')
      else t.letGo()
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', stop)
    window.addEventListener('pointercancel', stop)
    return true
  }

  /** Where one would stand: the floor, furniture passed through unless it is asked for. */
  const spot = (camera: Camera, x: number, y: number, onto: boolean): Promise<Hit | null> => {
    const sight = pointer.sightAt(camera, x, y)
    if (!sight) return Promise.resolve(null)
    return onto || view.onFurniture
      ? stage.rays.pickLevel(sight, project.shown)
      : stage.rays.pickFloor(sight, project.shown)
  }
  const standHeight = (): number => view.standHeightM ?? project.document?.eyeHeightM ?? 1.58

  /** Stands on the floor under the pointer at eye height, level, looking the same way. */
  async function standAt(x: number, y: number, camera: Camera, onto: boolean): Promise<void> {
    const doc = project.document
    if (!doc) return
    const hit = await spot(camera, x, y, onto)
    if (!hit) {
      notices.say('No floor there. Click where the floor can be seen, or draw the stand in Plan.', 'warning')
      return
    }
    const station: Vec3 = [hit.point[0], hit.point[1], hit.point[2] + standHeight()]
    const { bearingDeg } = camera.pose
    const aim = addScaled(
      station,
      directionOf(bearingDeg, 0),
      Math.max(1, Math.min(6, distance(aimPointOf(project.working!.stand.aim, centreOf) ?? station, station))),
    )
    ghost.value = null
    project.move({ stand: aimAt(station, aim) }, 'Stood')
    view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
  }

  let hovering = 0
  async function hover(e: PointerEvent): Promise<void> {
    const camera = project.camera
    if (!movable().isCamera || !camera || e.buttons) {
      leave()
      return
    }
    const [x, y] = framePx(e, camera)
    void pointer.hover(camera, x, y)
    if (view.picking) void picking.hover(camera, [x, y], camera.frame.widthPx / box.value.width)
    if (view.tool !== 'stand' || view.picking) {
      ghost.value = null
      return
    }
    const mine = ++hovering
    const hit = await spot(camera, x, y, e.altKey)
    if (mine === hovering)
      ghost.value = hit ? { point: hit.point, heightM: standHeight(), floorName: hit.nodeName } : null
  }
  const leave = (): void => {
    hovering++
    ghost.value = null
    pointer.leave()
    picking.leave()
  }

  return { down, hover, leave, ghost, band, framePx, under, options, movable }
}
