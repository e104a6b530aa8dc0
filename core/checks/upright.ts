// Do verticals lean, or is the camera level only almost?
// Limits (practice): a lean of 0.1 degrees is seen beside the picture's edge; tilt or roll up to 1.5 degrees is hardly meant; more
// than 10 degrees of lean is a three-point view on purpose. Source: handbook-2.

import { type Camera, formOf, isParallel, isPerspective, standAs } from '../camera/index.ts'
import { convergence, levelKeepingCentre } from '../framing/index.ts'
import { addScaled, type Vec3 } from '../math/index.ts'
import type { Check, CheckScene, Finding, Look, Mend } from './types.ts'

const LEAN_DEG = { least: 0.1, most: 10 } as const
/** Of tilt and roll: below is level, above is meant. */
const ALMOST_DEG = { least: 0.002, most: 1.5 } as const

const almost = (deg: number): boolean => Math.abs(deg) > ALMOST_DEG.least && Math.abs(deg) <= ALMOST_DEG.most

/** Below it a vertical is upright. */
const UPRIGHT_DEG = 0.005

/**
 * What the leans of a picture are: none, a slip (of which the check has a finding), or meant: three points, or a product, that may
 * converge. Null in panoramic pictures.
 */
export function verticalsOf(camera: Camera, kind: CheckScene['kind']): 'upright' | 'slip' | 'meant' | null {
  const c = convergence(camera)
  if (c.leanLeftDeg === null || c.leanRightDeg === null) return null
  const lean = Math.max(Math.abs(c.leanLeftDeg), Math.abs(c.leanRightDeg))
  if (lean < UPRIGHT_DEG) return 'upright'
  const { tiltDeg, rollDeg } = camera.pose
  if (!isPerspective(camera)) return almost(rollDeg) ? 'slip' : 'meant'
  if (Math.abs(tiltDeg) <= ALMOST_DEG.most && Math.abs(rollDeg) <= ALMOST_DEG.most)
    return almost(tiltDeg) || almost(rollDeg) ? 'slip' : 'meant'
  if (Math.abs(tiltDeg) <= ALMOST_DEG.most && almost(tiltDeg)) return 'slip'
  return kind === 'room' && lean >= LEAN_DEG.least && lean <= LEAN_DEG.most ? 'slip' : 'meant'
}

function levelled({ camera, setup, scene }: Look): Mend | null {
  if (!isPerspective(camera)) {
    const pose = { ...camera.pose, rollDeg: 0 }
    return { label: 'Roll to zero', stand: standAs(setup.stand, pose, scene.centreOf) }
  }
  const r = levelKeepingCentre(camera)
  if (!r.ok) return null
  return {
    label: 'Level, keeping the framing',
    stand: standAs(setup.stand, r.value.pose, scene.centreOf),
    lens: r.value.lens,
  }
}
/** Uprights through the subject: what leans. */
function uprights({ keep, scene }: Look): readonly (readonly [Vec3, Vec3])[] {
  const height = scene.box ? scene.box.max[2] - scene.box.min[2] : 1
  return [[addScaled(keep, [0, 0, -1], height / 2), addScaled(keep, [0, 0, 1], height / 2)]]
}
const withMend = (finding: Finding, mend: Mend | null): Finding => (mend ? { ...finding, mend } : finding)

/** Tilt or roll so small that it looks like a slip. */
export const almostLevel: Check = (look) => {
  const { tiltDeg, rollDeg } = look.camera.pose
  if (!formOf(look.camera).isPlane) return []
  const flat = isParallel(look.camera)
  const tilted = almost(tiltDeg) && !flat
  if (!tilted && !almost(rollDeg)) return []
  // a roll beside a tilt that is meant is told with the leaning verticals
  if (!flat && Math.abs(tiltDeg) > ALMOST_DEG.most) return []
  const value = Math.max(tilted ? Math.abs(tiltDeg) : 0, almost(rollDeg) ? Math.abs(rollDeg) : 0)
  const what = [tilted ? `tilt ${text(tiltDeg)}°` : '', almost(rollDeg) ? `roll ${text(rollDeg)}°` : ''].filter(Boolean)
  const c = convergence(look.camera)
  const lean = Math.max(Math.abs(c.leanLeftDeg ?? 0), Math.abs(c.leanRightDeg ?? 0))
  const finding: Finding = {
    id: 'almost-level',
    severity: 'warning',
    value,
    limit: ALMOST_DEG.most,
    unit: 'deg',
    message: `Almost level: ${what.join(', ')}. Verticals lean ${lean.toFixed(2)}°, ${(c.widestPx ?? 0).toFixed(0)} px from bottom to top.`,
    reason: 'Level it, or tilt further.',
    show: { lines: uprights(look) },
  }
  return [withMend(finding, levelled(look))]
}

/** A lean that is seen, of a camera that is neither level nor steep. */
export const leaningVerticals: Check = (look) => {
  const { tiltDeg, rollDeg } = look.camera.pose
  // a product may converge
  if (!isPerspective(look.camera) || look.scene.kind !== 'room') return []
  if (Math.abs(tiltDeg) <= ALMOST_DEG.most && Math.abs(rollDeg) <= ALMOST_DEG.most) return []
  const c = convergence(look.camera)
  const lean = Math.max(Math.abs(c.leanLeftDeg!), Math.abs(c.leanRightDeg!))
  if (lean < LEAN_DEG.least || lean > LEAN_DEG.most) return []
  const finding: Finding = {
    id: 'leaning-verticals',
    severity: 'warning',
    value: lean,
    limit: LEAN_DEG.least,
    unit: 'deg',
    message: `Verticals lean ${lean.toFixed(2)}°, ${c.widestPx!.toFixed(0)} px from bottom to top.`,
    reason: 'The building seems to fall over. Rise shows the same without the tilt.',
    show: { lines: uprights(look) },
  }
  return [withMend(finding, levelled(look))]
}
const text = (deg: number): string => `${deg < 0 ? '−' : ''}${Math.abs(deg).toFixed(2)}`
