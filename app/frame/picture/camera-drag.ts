// A drag on the picture that moves the camera, or the view from outside.
import { dolly, orbit, slide, toCamera, turnInPlace, type Camera, type Framing } from '#core/camera'
import type { Vec3 } from '#core/math'
import { startDrag } from '../../controls/drag.ts'
import { centreOf } from '../../stores/centres.ts'
import type { Tool } from '../../stores/view.ts'
import type { Movable } from '../camera/movable.ts'
import { useTiltOffer } from './tilt-offer.ts'
import { aimOf, LABELS, type Grip, type Looking } from './looking.ts'

interface Ends {
  readonly click: (at: readonly [number, number], camera: Camera, add: boolean, focuses: boolean) => unknown
  readonly over: (e: PointerEvent) => void
}

/** The framing that a tool's drag by pixels of the frame makes of the one it began with. */
function dragged(
  options: Looking['options'],
  tool: Tool,
  t: Movable,
  camera: Camera,
  from: Framing,
  grip: Vec3,
  dx: number,
  dy: number,
  grabbedPx: readonly [number, number],
): Framing {
  if (tool === 'orbit') return orbit(camera, from, grip, dx, dy, options(t))
  if (tool === 'slide')
    return slide(camera, from, Math.max(0.05, -toCamera(camera.pose, grip)[2]), dx, dy, { centreOf })
  if (tool === 'dolly') return dolly(from, grip, Math.pow(2, dy / (camera.frame.heightPx / 2)), options(t))
  return turnInPlace(camera, from, dx, dy, { ...options(t), grabbedPx })
}

export function useCameraDrag({ options, under, pxPerPage }: Looking, ends: Ends) {
  const tilt = useTiltOffer()
  function dragCamera(e: PointerEvent, tool: Tool, { t, camera, from, at }: Grip): void {
    const k = pxPerPage(camera)
    // the thing under the pointer becomes pivot or grip; the drag waits the moment until it is known
    let grip: Vec3 | null = null
    let way: [number, number] = [0, 0]
    let over = false
    const offer = tilt.follow(tool === 'turn' && t.isCamera && options(t).holdLevel, { camera, from, grabbedPx: at }, k)
    const show = (): void => {
      if (!grip || over || (way[0] === 0 && way[1] === 0)) return
      const shown = dragged(options, tool, t, camera, from, grip, way[0] * k, way[1] * k, at)
      t.show(shown)
      offer(way, shown)
    }
    const found = under(at[0], at[1], camera)
      .catch(() => null)
      .then((hit) => {
        // an object aimed at stays the aim: the orbit goes round it
        const round = tool === 'orbit' && from.stand.aim.kind === 'object'
        grip = round ? aimOf(from) : (hit?.point ?? aimOf(from))
        show()
      })
    const add = e.shiftKey
    const focuses = e.altKey && e.button === 0
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
        ends.over(e)
        if (!moved) void ends.click(at, camera, add, focuses)
        else
          void found.then(() => {
            over = true
            t.settle(LABELS[tool])
            offer(way)
          })
      },
      cancel: () => {
        ends.over(e)
        over = true
        tilt.drop()
        t.letGo()
      },
    })
  }

  return dragCamera
}
