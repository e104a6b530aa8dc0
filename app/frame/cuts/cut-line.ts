// A section line drawn by clicks in Plan: two places make an upright cut, more make a stepped one. Enter or a click on the last place ends it.
import { createSharedComposable, useEventListener } from '@vueuse/core'
import { shallowRef, watch } from 'vue'
import { atan2Deg, cosDeg, sinDeg, wrapBearingDeg } from '#core/base'
import type { Vec3 } from '#core/math'
import { useNotices } from '../../stores/notices.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { takesPicks, usePicking } from '../straighten/picking.ts'
import { useCuts } from './cuts.ts'

type Place = readonly [number, number]
/** A first leg within this of the building's directions lies along them, degrees. */
const SQUARE_DEG = 12
/** A click as near as this to the place before ends the line, metres. */
const SAME_M = 1e-3
/** As many as the document takes. */
const MOST = 32

function cutLine() {
  const view = useView()
  const notices = useNotices()
  const { mainBearingDeg } = useFraming()
  const { addCut } = useCuts()
  const { begin, end } = usePicking()
  const points = shallowRef<readonly Place[]>([])

  function draw(): void {
    points.value = []
    begin('cut-line')
  }
  /** Ends the line: what lies to the left of its way goes. */
  function finish(): boolean {
    const drawn = points.value
    points.value = []
    if (view.picking === 'cut-line') end()
    if (drawn.length < 2) {
      notices.say('A section line needs two places at least.', 'warning')
      return false
    }
    const [a, b] = [drawn[0]!, drawn[1]!]
    const base = { on: true, reversed: false }
    if (drawn.length > 2) return addCut((id, name) => ({ id, name, ...base, kind: 'stepped', points: drawn })) !== null
    const bearingDeg = wrapBearingDeg(atan2Deg(b[1] - a[1], -(b[0] - a[0])))
    const point: Vec3 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, 0]
    return addCut((id, name) => ({ id, name, ...base, kind: 'upright', point, bearingDeg })) !== null
  }
  takesPicks('cut-line', (point) => {
    const to = squared(points.value, [point[0], point[1]], mainBearingDeg.value)
    const before = points.value.at(-1)
    if (before && Math.hypot(to[0] - before[0], to[1] - before[1]) < SAME_M) {
      finish()
      return true
    }
    points.value = [...points.value, to]
    if (points.value.length < MOST) return false
    finish()
    return true
  })
  useEventListener(
    window,
    'keydown',
    (e: KeyboardEvent) => {
      if (view.picking !== 'cut-line' || e.key !== 'Enter' || points.value.length === 0) return
      e.preventDefault()
      e.stopPropagation()
      finish()
    },
    { capture: true },
  )
  watch(
    () => view.picking,
    (p) => p !== 'cut-line' && (points.value = []),
  )
  return { points, draw, finish }
}
export const useCutLine = createSharedComposable(cutLine)

/** A place held to right angles: the first leg to the building's directions when it is near them, each later one to the first. */
export function squared(before: readonly Place[], to: Place, mainBearingDeg: number): Place {
  const last = before.at(-1)
  if (!last) return to
  const [dx, dy] = [to[0] - last[0], to[1] - last[1]]
  const first = before[1]
  const own = first ? atan2Deg(first[0] - before[0]![0], first[1] - before[0]![1]) : mainBearingDeg
  // along and across the leg's direction
  const along = dx * sinDeg(own) + dy * cosDeg(own)
  const across = dx * cosDeg(own) - dy * sinDeg(own)
  const [u, v] = Math.abs(along) >= Math.abs(across) ? [along, 0] : [0, across]
  const off = Math.abs(
    atan2Deg(Math.min(Math.abs(along), Math.abs(across)), Math.max(Math.abs(along), Math.abs(across))),
  )
  if (!first && off > SQUARE_DEG) return to
  return [last[0] + u * sinDeg(own) + v * cosDeg(own), last[1] + u * cosDeg(own) - v * sinDeg(own)]
}
