// Do the building's lines converge in the picture, and by how much do its verticals lean?
// Model: the picture direction of a world direction d at sensor point (x, y) from the principal point is
// (d.x + x d.z / f, d.y + y d.z / f) in camera space. Space: world directions -> sensor. Source: handbook-2; iso5456-4.

import { asinDeg, atan2Deg, RAD_PER_DEG } from '../base/index.ts'
import { axesOf, type Camera, directionOf, formOf, isPerspective, usedSensor } from '../camera/index.ts'
import { dot, type Vec3 } from '../math/index.ts'

export interface Convergence {
  /** Lean of the world vertical through the middle of the picture's left edge, + when its top leans right; null in panoramic forms. */
  readonly leanLeftDeg: number | null
  readonly leanRightDeg: number | null
  /** Sideways run of the worse lean over the picture's height, pixels; null in panoramic forms. */
  readonly widestPx: number | null
  /** How many of the vertical and the building's two main horizontal directions converge. */
  readonly points: 0 | 1 | 2 | 3
}
export interface ConvergenceOptions {
  /** Bearing of one main horizontal direction of the building; the other is square to it. */
  readonly mainBearingDeg?: number
}
/** A direction this near to the picture plane counts as parallel to it. */
const PARALLEL_DEG = 0.01

/** Leans of verticals and the count of vanishing points; nothing converges in parallel and oblique pictures. */
export function convergence(camera: Camera, options: ConvergenceOptions = {}): Convergence {
  const { pose, lens, frame } = camera
  const main = options.mainBearingDeg ?? 0
  const { right, up, forward } = axesOf(pose)
  if (!formOf(lens).isPlane) return { leanLeftDeg: null, leanRightDeg: null, widestPx: null, points: 0 }
  const { widthMm: w } = usedSensor(lens, frame)
  const vertical: Vec3 = [right[2], up[2], -forward[2]]
  const perspective = isPerspective(lens)
  const leanAt = (xMm: number): number => {
    const k = perspective ? vertical[2] / lens.focalMm : 0
    const dx = vertical[0] + xMm * k
    const dy = vertical[1] + lens.riseMm * k
    if (dx === 0 && dy === 0) return 0
    return dy < 0 ? atan2Deg(-dx, -dy) : atan2Deg(dx, dy)
  }
  // the middle of an edge lies at (-+w/2 + cross, rise) from the principal point
  const leanLeftDeg = leanAt(-w / 2 + lens.crossMm) || 0
  const leanRightDeg = leanAt(w / 2 + lens.crossMm) || 0
  const worst = Math.max(Math.abs(leanLeftDeg), Math.abs(leanRightDeg))
  const directions: Vec3[] = [[0, 0, 1], directionOf(main, 0), directionOf(main + 90, 0)]
  const points = perspective ? directions.filter((d) => Math.abs(asinDeg(dot(d, forward))) > PARALLEL_DEG).length : 0
  return {
    leanLeftDeg,
    leanRightDeg,
    widestPx: frame.heightPx * Math.tan(worst * RAD_PER_DEG),
    points: points as Convergence['points'],
  }
}
