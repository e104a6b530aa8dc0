// Is the subject hidden behind something, or almost but not quite in the middle?
// Model: rays over the subject's place in the picture; of those that meet it, the share that meets something opaque first.
// Limits (practice): 5 % hidden is noticed; 0.3 % of the width off the middle is seen, above 3 % is meant.

import { projectPoint, type Camera } from '../camera/index.ts'
import { centreOn } from '../framing/index.ts'
import { boxCentre, boxCorners, type Box } from '../math/index.ts'
import { sightThrough } from '../section/index.ts'
import type { Check } from './types.ts'

const HIDDEN_PERCENT = 5
const OFF_PERCENT = { least: 0.3, most: 3 } as const
const GRID = 20

/** Things reach this far past what they stand in or on, metres. */
const PAST_M = 0.05

/** Whether an object stands in or on the subject (books in shelves, a vase on a table): within its outline, between its foot and its top. */
export function standsInOrOn(object: Box, subject: Box): boolean {
  for (const k of [0, 1] as const)
    if (object.min[k] < subject.min[k] - PAST_M || object.max[k] > subject.max[k] + PAST_M) return false
  return object.min[2] >= subject.min[2] - PAST_M && object.min[2] <= subject.max[2] + PAST_M
}

/** Rectangle of the picture that holds a box, clipped to the frame; null when it is not in the picture. */
function placeOf(camera: Camera, box: Box) {
  const at = boxCorners(box).map((c) => projectPoint(camera, c))
  const { widthPx: w, heightPx: h } = camera.frame
  // partly behind: it may be anywhere
  if (at.some((p) => p === null)) return at.every((p) => p === null) ? null : { x0: 0, y0: 0, x1: w, y1: h }
  const x = at.map((p) => p!.xPx)
  const y = at.map((p) => p!.yPx)
  const [x0, x1] = [Math.max(0, Math.min(...x)), Math.min(w, Math.max(...x))]
  const [y0, y1] = [Math.max(0, Math.min(...y)), Math.min(h, Math.max(...y))]
  return x1 > x0 && y1 > y0 ? { x0, y0, x1, y1 } : null
}

export const subjectHidden: Check = ({ camera, setup, scene }) => {
  const { subject } = scene
  const place = subject && placeOf(camera, subject.box)
  if (!subject || !place) return []
  let met = 0
  let hidden = 0
  const by = new Map<string, { id: string; name: string; n: number }>()
  for (let i = 0; i < GRID; i++)
    for (let j = 0; j < GRID; j++) {
      const x = place.x0 + ((i + 0.5) / GRID) * (place.x1 - place.x0)
      const y = place.y0 + ((j + 0.5) / GRID) * (place.y1 - place.y0)
      const sight = sightThrough(camera, setup.shown, x, y)
      const first = sight ? scene.before(sight, subject.id) : null
      if (!first) continue
      met++
      if (first.length === 0) continue
      hidden++
      for (const node of new Map(first.map((f) => [f.id, f])).values()) {
        const entry = by.get(node.id) ?? { ...node, n: 0 }
        by.set(node.id, { ...entry, n: entry.n + 1 })
      }
    }
  const value = met > 0 ? (100 * hidden) / met : 0
  const [most] = [...by.values()].sort((a, b) => b.n - a.n)
  if (value <= HIDDEN_PERCENT || !most) return []
  return [
    {
      id: 'subject-hidden',
      severity: value > 50 ? 'problem' : 'warning',
      value,
      limit: HIDDEN_PERCENT,
      unit: '%',
      message: `${value.toFixed(0)} % of “${subject.name}” is hidden, mostly by “${most.name}”.`,
      reason: 'What the picture is of should not stand behind something else.',
      show: { nodeIds: [most.id] },
      mend: { label: `Hide “${most.name}”`, hide: [most.id] },
    },
  ]
}

export const almostCentred: Check = ({ camera, scene }) => {
  const { subject } = scene
  if (!subject) return []
  const middle = boxCentre(subject.box)
  const at = projectPoint(camera, middle)
  if (!at || at.yPx < 0 || at.yPx > camera.frame.heightPx) return []
  const off = (100 * (at.xPx - camera.frame.widthPx / 2)) / camera.frame.widthPx
  if (Math.abs(off) < OFF_PERCENT.least || Math.abs(off) > OFF_PERCENT.most) return []
  const r = centreOn(camera, middle, { by: 'cross' })
  const finding = {
    id: 'almost-centred',
    severity: 'note',
    value: Math.abs(off),
    limit: OFF_PERCENT.least,
    unit: '%',
    message: `“${subject.name}” is ${Math.abs(off).toFixed(1)} % of the width ${off > 0 ? 'right' : 'left'} of the middle.`,
    reason: 'So near to the middle it should be in it, or clearly beside it.',
    show: { nodeIds: [subject.id], points: [middle] },
  } as const
  return [r.ok ? { ...finding, mend: { label: 'Centre by cross', lens: r.value.lens } } : finding]
}
