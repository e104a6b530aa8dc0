// Does the lens do to the picture what no eye forgives, or what no real lens can?
// Model: a sphere at the angle t off the axis of a straight lens is drawn as an ellipse, 1 / cos t as long as it is wide. Limits: 1.35
// (t = 42.2 deg); 35 mm and longer for products, 20 to 24 mm for rooms (practice).
// Source: handbook-1; practice where nothing else is said.

import {
  type Camera,
  equivalentOf,
  type Frame,
  imageCircleLimitMm,
  imageCircleMm,
  isPastShift,
  isPerspective,
  type Lens,
  projectPoint,
  standAs,
  toCamera,
} from '../camera/index.ts'
import { boxCentre, type Box, type Vec3 } from '../math/index.ts'
import { holdSize } from '../framing/index.ts'
import { limitOf } from './limits.ts'
import { seenObjects } from './seen.ts'
import type { Check, Finding, Look, Mend } from './types.ts'

/** Extents that agree so well are those of a round thing. */
const ROUND = 0.1
const LEAST_PX = 12

const isRound = ({ min, max }: Box): boolean => {
  const size = [0, 1, 2].map((k) => max[k]! - min[k]!)
  return Math.max(...size) > 0 && Math.min(...size) >= (1 - ROUND) * Math.max(...size)
}

const stretchOf = (camera: Camera, point: Vec3): number => {
  const [x, y, z] = toCamera(camera.pose, point)
  return z < 0 ? Math.hypot(x, y, z) / -z : Infinity
}
/** Longer lenses that are tried, each so many times the one before, up to so many. */
const LONGER = 1.05
const MOST_TIMES = 60
/** A longer lens from farther off, the subject held in its size, as soon as nothing is left to say. */
function calmer({ camera, setup, scene, keep }: Look, isCalm: (c: Camera) => boolean): { mend?: Mend } {
  for (let i = 1; i <= MOST_TIMES; i++) {
    const r = holdSize(camera, keep, camera.lens.focalMm * LONGER ** i)
    if (!r.ok) return {}
    if (!isCalm(r.value)) continue
    const { pose, lens } = r.value
    const stand = standAs(setup.stand, pose, scene.centreOf)
    return { mend: { label: `${lens.focalMm.toFixed(0)} mm, the size held`, stand, lens } }
  }
  return {}
}

/** Round things and people near the edge of a wide picture. */
export const stretched: Check = (look): Finding[] => {
  const { camera, scene, setup } = look
  if (!isPerspective(camera)) return []
  const limit = limitOf(setup.limits, 'stretch')
  const { widthPx: w, heightPx: h } = camera.frame
  const seen = new Set(seenObjects(look))
  const found = scene.objects.flatMap((object) => {
    if (!(object.isPerson || isRound(object.box))) return []
    const middle = boxCentre(object.box)
    const at = projectPoint(camera, middle)
    if (!at || at.xPx < 0 || at.yPx < 0 || at.xPx > w || at.yPx > h) return []
    const value = stretchOf(camera, middle)
    // seen by a ray, or large enough that it is
    const px = ((object.box.max[0] - object.box.min[0]) * w) / (2 * at.depthM)
    return value > limit && (seen.has(object) || px > LEAST_PX) ? [{ object, value }] : []
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
      ...calmer(look, (c) => stretchOf(c, boxCentre(most.object.box)) <= limit),
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
      mend: { label: 'As far as shift lenses reach', lens: withinReach(lens, frame) },
    },
  ]
}
/** The same lens with rise and cross shortened, in their proportion, to what shift lenses have. */
function withinReach(lens: Lens, frame: Frame): Lens {
  const { riseMm, crossMm } = lens
  let [low, high] = [0, 1]
  for (let i = 0; i < 50; i++) {
    const k = (low + high) / 2
    if (isPastShift({ ...lens, riseMm: riseMm * k, crossMm: crossMm * k }, frame)) high = k
    else low = k
  }
  return { ...lens, riseMm: riseMm * low, crossMm: crossMm * low }
}

/** A product taken with a lens for rooms. */
export const tooWide: Check = (look): Finding[] => {
  const { camera, scene, setup } = look
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
      ...calmer(look, (c) => equivalentOf(c.lens).byDiagonalMm >= limit),
    },
  ]
}
