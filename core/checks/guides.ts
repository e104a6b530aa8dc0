// Is the subject almost, but not quite, on a guide that was chosen?
// Source: practice.

import { formOf, principalPointPx, projectPoint } from '../camera/index.ts'
import { guidePieces } from '../framing/index.ts'
import { boxCentre } from '../math/index.ts'
import { limitOf } from './limits.ts'
import type { Check, Finding } from './types.ts'

/** Nearer than this it is on it, % of the picture's width. */
const ON_PERCENT = 0.4
/** Guides that things are placed on; safe areas and grids only bound and count. */
const PLACING = ['thirds', 'golden', 'diagonals', 'triangles', 'centre']

export const offGuide: Check = ({ camera, scene, setup }): Finding[] => {
  const limit = limitOf(setup.limits, 'offGuide')
  const { subject } = scene
  const at = subject && projectPoint(camera, boxCentre(subject.box))
  const { widthPx: w, heightPx: h, guides } = camera.frame
  if (!subject || !at || at.xPx < 0 || at.yPx < 0 || at.xPx > w || at.yPx > h) return []
  const near = guides.filter((g) => PLACING.includes(g.kind)).map((g) => {
    const off = guidePieces(g, w / h).map(([a, b]) => {
      const [dx, dy] = [(b![0] - a![0]) * w, (b![1] - a![1]) * h]
      const away = ((at.xPx - a![0] * w) * dy - (at.yPx - a![1] * h) * dx) / (dx * dx + dy * dy)
      // the way to the line, square to it
      return { x: -away * dy, y: away * dx }
    })
    const [way] = off.sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y))
    return { kind: g.kind, way: way!, value: (100 * Math.hypot(way!.x, way!.y)) / w }
  }) // prettier-ignore
  const [best] = near.sort((a, b) => a.value - b.value)
  if (!best || best.value < ON_PERCENT || best.value > limit) return []
  // the picture is shifted, so that the subject falls on the line
  const { lens } = camera
  const { pxPerMm } = principalPointPx(camera)
  const shifted = { ...lens, crossMm: lens.crossMm - best.way.x / pxPerMm, riseMm: lens.riseMm + best.way.y / pxPerMm }
  return [
    {
      id: 'off-guide',
      severity: 'note',
      value: best.value,
      limit,
      unit: '%',
      message: `“${subject.name}” is ${best.value.toFixed(1)} % of the width off the guide (${best.kind}).`,
      reason: 'So near to it, it was meant to be on it.',
      show: { nodeIds: [subject.id], points: [boxCentre(subject.box)] },
      ...(formOf(camera).shifts.cross && { mend: { label: 'On the guide, by rise and cross', lens: shifted } }),
    },
  ]
}
