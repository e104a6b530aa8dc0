// Does the lens do to the picture what no eye forgives, or what no real lens can?
// Model: a sphere at the angle t off the axis of a straight lens is drawn as an ellipse, 1 / cos t as long as it is wide. Limits: 1.35
// (t = 42.2 deg); 35 mm and longer for products, 20 to 24 mm for rooms (practice).
// Source: handbook-1; practice where nothing else is said.

import {
  imageCircleLimitMm,
  imageCircleMm,
  isPastShift,
  isPerspective,
  equivalentOf,
  projectPoint,
  toCamera,
} from '../camera/index.ts'
import { boxCentre, type Box } from '../math/index.ts'
import { limitOf } from './limits.ts'
import type { Check, Finding } from './types.ts'

/** Extents that agree so well are those of a round thing. */
const ROUND = 0.1
const LEAST_PX = 12

const isRound = ({ min, max }: Box): boolean => {
  const size = [0, 1, 2].map((k) => max[k]! - min[k]!)
  return Math.max(...size) > 0 && Math.min(...size) >= (1 - ROUND) * Math.max(...size)
}

/** Round things and people near the edge of a wide picture. */
export const stretched: Check = ({ camera, scene, setup, grid }): Finding[] => {
  if (!isPerspective(camera)) return []
  const limit = limitOf(setup.limits, 'stretch')
  const { widthPx: w, heightPx: h } = camera.frame
  const seen = new Set(grid.flatMap((hit) => (hit ? [hit.nodeId] : [])))
  const found = scene.objects.flatMap((object) => {
    if (!(object.isPerson || isRound(object.box))) return []
    const middle = boxCentre(object.box)
    const at = projectPoint(camera, middle)
    if (!at || at.xPx < 0 || at.yPx < 0 || at.xPx > w || at.yPx > h) return []
    const [x, y, z] = toCamera(camera.pose, middle)
    const value = Math.hypot(x, y, z) / -z
    // seen by a ray, or large enough that it is
    const px = ((object.box.max[0] - object.box.min[0]) * w) / (2 * at.depthM)
    return value > limit && (seen.has(object.id) || px > LEAST_PX) ? [{ object, value }] : []
  })
  const [most] = [...found].sort((a, b) => b.value - a.value)
  if (!most) return []
  return [
    {
      id: 'stretched',
      severity: 'warning',
      value: most.value,
      limit,
      unit: 'ratio',
      message: `“${most.object.name}” is drawn ${most.value.toFixed(2)} times as long as wide, away from the middle.`,
      reason: 'Round things and people pulled out of shape are noticed first: nearer to the middle, or a longer lens.',
      show: { nodeIds: found.map((f) => f.object.id) },
    },
  ]
}

/** Rise and cross that no shift lens has. */
export const pastShift: Check = ({ camera: { lens, frame } }): Finding[] => {
  if (!isPastShift(lens, frame)) return []
  const [value, limit] = [imageCircleMm(lens, frame), imageCircleLimitMm(lens)]
  return [
    {
      id: 'past-shift',
      severity: 'note',
      value,
      limit,
      unit: 'mm',
      message: `Rise and cross need an image circle of ${value.toFixed(1)} mm.`,
      reason: `Shift lenses reach about ${limit.toFixed(1)} mm: a photograph like this is a crop of a wider one.`,
      show: {},
    },
  ]
}

/** A product taken with a lens for rooms. */
export const tooWide: Check = ({ camera, scene, setup }): Finding[] => {
  if (scene.kind !== 'product' || !isPerspective(camera)) return []
  const limit = limitOf(setup.limits, 'wideMm')
  const value = equivalentOf(camera.lens).byDiagonalMm
  if (value >= limit) return []
  return [
    {
      id: 'too-wide',
      severity: 'note',
      value,
      limit,
      unit: 'mm',
      message: `A lens of ${value.toFixed(0)} mm (on 36 × 24) stands near a product.`,
      reason:
        '20 to 24 mm are for rooms: things close by swell in front and shrink behind. Longer, from farther off, is calmer.',
      show: {},
    },
  ]
}
