// Does the camera look almost, but not quite, square at a wall?
// Model: among the surfaces seen, upright ones are gathered by the bearing square to them; the one seen most within reach counts.
// Limits (practice): up to 0.1 degrees horizontals stay level to a pixel or two, above 3 degrees the angle is meant. Source: handbook-2.

import { bearingDifferenceDeg } from '../base/index.ts'
import { formOf, standAs } from '../camera/index.ts'
import { bearingSquareTo, squareUp } from '../framing/index.ts'
import type { Check, SceneHit } from './types.ts'

const OFF_DEG = { least: 0.1, most: 3 } as const
/** A wall fills at least this share of the picture. */
const SHARE = 0.1
const UPRIGHT = 0.05
/** Surfaces within this of each other are one wall's direction. */
const SAME_DEG = 0.05

export const almostSquare: Check = ({ camera, setup, scene, grid }) => {
  if (!formOf(camera).isPlane) return []
  if (Math.abs(camera.pose.tiltDeg) > 30) return []
  const walls = new Map<
    number,
    { hit: SceneHit; n: number; offDeg: number; byNode: Map<string, { n: number; hit: SceneHit }> }
  >()
  for (const hit of grid) {
    if (!hit || Math.abs(hit.normal[2]) > UPRIGHT) continue
    const square = bearingSquareTo(hit.normal, camera.pose.bearingDeg)
    if (square === null) continue
    const offDeg = bearingDifferenceDeg(square, camera.pose.bearingDeg)
    if (Math.abs(offDeg) > OFF_DEG.most) continue
    const key = Math.round(square / SAME_DEG)
    const wall = walls.get(key) ?? { hit, n: 0, offDeg, byNode: new Map<string, { n: number; hit: SceneHit }>() }
    const node = wall.byNode.get(hit.nodeId) ?? { n: 0, hit }
    node.n++
    wall.n++
    wall.byNode.set(hit.nodeId, node)
    walls.set(key, wall)
  }
  const [most] = [...walls.values()].sort((a, b) => b.n - a.n)
  if (!most || most.n < SHARE * grid.length || Math.abs(most.offDeg) < OFF_DEG.least) return []
  const { offDeg } = most
  // named after the object that shows most of it
  const { hit } = [...most.byNode.values()].sort((a, b) => b.n - a.n)[0]!
  const mended = squareUp(camera, hit.normal)
  const finding = {
    id: 'almost-square',
    severity: 'warning',
    value: Math.abs(offDeg),
    limit: OFF_DEG.least,
    unit: 'deg',
    message: `Within ${Math.abs(offDeg).toFixed(2)}° of square to “${hit.nodeName}”.`,
    reason: 'Its level lines slope a little: square it, or turn further.',
    show: { nodeIds: [hit.nodeId], points: [hit.point] },
  } as const
  if (!mended.ok) return [finding]
  const stand = standAs(setup.stand, mended.value.pose, scene.centreOf)
  return [{ ...finding, mend: { label: 'Square it, keeping the framing', stand, lens: mended.value.lens } }]
}
