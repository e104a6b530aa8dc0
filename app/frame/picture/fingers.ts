// Two fingers on the picture: the pair slides by its middle and moves to and fro by its spread.
import { dolly, slide, toCamera } from '#core/camera'
import { centreOf } from '../../stores/centres.ts'
import { aimOf, type Grip, type Looking } from './looking.ts'

type Place = { readonly x: number; readonly y: number }
function pairOf(now: ReadonlyMap<number, Place>) {
  const [p, b] = [...now.values()] as [Place, Place | undefined]
  const q = b ?? p
  return { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, spread: Math.max(8, Math.hypot(p.x - q.x, p.y - q.y)) }
}

export function useFingers({ options, under, pxPerPage }: Looking) {
  const down = new Map<number, PointerEvent>()
  const lifted = (e: PointerEvent): void => void down.delete(e.pointerId)

  /** Whether a touch is the second finger (or a further one): then the pair has it. */
  function twoFingers(e: PointerEvent, grip: Grip): boolean {
    down.set(e.pointerId, e)
    if (down.size !== 2) return down.size > 2
    const first = [...down.values()].find((f) => f.pointerId !== e.pointerId) ?? e
    // the first finger's drag gives way
    window.dispatchEvent(new PointerEvent('pointercancel', { pointerId: [...down.keys()][0]! }))
    down.set(first.pointerId, first).set(e.pointerId, e)
    follow([first, e], grip)
    return true
  }
  function follow(pair: readonly PointerEvent[], { t, camera, from, at }: Grip): void {
    const now = new Map<number, Place>(pair.map((f) => [f.pointerId, { x: f.clientX, y: f.clientY }]))
    const start = pairOf(now)
    const k = pxPerPage(camera)
    let held = aimOf(from)
    void under(at[0], at[1], camera).then((hit) => hit && (held = hit.point))
    const move = (m: PointerEvent): void => {
      if (!now.has(m.pointerId)) return
      now.set(m.pointerId, { x: m.clientX, y: m.clientY })
      const p = pairOf(now)
      const depth = Math.max(0.05, -toCamera(camera.pose, held)[2])
      const slid = slide(camera, from, depth, (p.x - start.x) * k, (p.y - start.y) * k, { centreOf })
      t.show(dolly(slid, held, start.spread / p.spread, options(t)))
    }
    const stop = (m: PointerEvent): void => {
      if (!now.has(m.pointerId)) return
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', stop)
      window.removeEventListener('pointercancel', stop)
      down.clear()
      if (m.type === 'pointerup') t.settle('Moved')
      else t.letGo()
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', stop)
    window.addEventListener('pointercancel', stop)
  }
  return { twoFingers, lifted }
}
