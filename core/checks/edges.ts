// Does the frame's edge cut a sliver off something, or just touch it?
// Model: the outline of an object's box in the picture, for objects that are seen, are no part of the building, and are neither dots nor
// the whole picture. Limits (practice): under 12 % outside looks like a slip; so does an edge within a few pixels.

import { areaOf, clippedToFrame, extentOf, outlineOf } from './in-picture.ts'
import { limitOf } from './limits.ts'
import { seenObjects } from './seen.ts'
import type { Check, CheckObject, Finding, Look } from './types.ts'

/** Of the picture's area: smaller things are details, larger ones surround. */
const LEAST_AREA = 0.004
const MOST_AREA = 0.6
/** Named at most. */
const MOST_NAMED = 3

/** Objects that the picture shows as things, with their outlines. */
function seenThings(look: Look) {
  const { camera } = look
  const all = camera.frame.widthPx * camera.frame.heightPx
  return seenObjects(look).flatMap((object) => {
    if (object.isBuilding) return []
    const outline = outlineOf(camera, object.box)
    const area = outline ? areaOf(outline) : 0
    return outline && area > LEAST_AREA * all && area < MOST_AREA * all ? [{ object, outline, area }] : []
  })
}
const named = (list: readonly CheckObject[]): string => list.slice(0, MOST_NAMED).map((o) => `“${o.name}”`).join(', ') // prettier-ignore

/** A small part of an object lies outside. */
export const justCropped: Check = (look): Finding[] => {
  const limit = limitOf(look.setup.limits, 'cropped')
  const { frame } = look.camera
  const cropped = seenThings(look)
    .map(({ object, outline, area }) => ({ object, part: 100 * (1 - areaOf(clippedToFrame(outline, frame)) / area) }))
    .filter(({ part }) => part > 0.2 && part < limit)
    .sort((a, b) => b.part - a.part)
  const [most] = cropped
  if (!most) return []
  return [
    {
      id: 'just-cropped',
      severity: 'note',
      value: most.part,
      limit,
      unit: '%',
      message: `The frame cuts a sliver off ${named(cropped.map((c) => c.object))}: ${most.part.toFixed(1)} %.`,
      reason: 'So little outside looks like a slip: take all of it in, or cut it clearly.',
      show: { nodeIds: cropped.slice(0, MOST_NAMED).map((c) => c.object.id) },
    },
  ]
}

/** The outline of an object just meets the frame's edge from inside. */
export const touchesEdge: Check = (look): Finding[] => {
  const limit = limitOf(look.setup.limits, 'tangent')
  const { widthPx: w, heightPx: h } = look.camera.frame
  const near = seenThings(look)
    .map(({ object, outline }) => {
      const { x0, x1, y0, y1 } = extentOf(outline)
      return { object, gapPx: Math.min(x0, w - x1, y0, h - y1) }
    })
    .filter(({ gapPx }) => gapPx >= 0 && gapPx < limit)
    .sort((a, b) => a.gapPx - b.gapPx)
  const [most] = near
  if (!most) return []
  return [
    {
      id: 'touches-edge',
      severity: 'note',
      value: most.gapPx,
      limit,
      unit: 'px',
      message: `${named(near.map((n) => n.object))} touches the frame’s edge: ${most.gapPx.toFixed(1)} px.`,
      reason: 'What just touches the edge holds the eye there: leave room, or let it run out.',
      show: { nodeIds: near.slice(0, MOST_NAMED).map((n) => n.object.id) },
    },
  ]
}
