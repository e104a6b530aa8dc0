// Does a parallel picture hide what nothing in it can show: things that overlap far apart, level faces seen exactly from their edge?
// Source: practice.

import { axesOf, isParallel, shearOf } from '../camera/index.ts'
import { dot, sub } from '../math/index.ts'
import { extentOf, outlineOf } from './in-picture.ts'
import { limitOf } from './limits.ts'
import { isOf } from './seen.ts'
import type { Check, CheckScene, Finding, Look } from './types.ts'

/** A face so near to edge-on vanishes, degrees. */
const EDGE_DEG = 0.05
const LEAST_M2 = 0.2

/** Neighbours in the picture that lie far apart in depth: nothing in a parallel picture tells. */
export const depthUntold: Check = ({ camera, scene, setup, grid }): Finding[] => {
  if (!isParallel(camera) || !scene.box || Math.hypot(...Object.values(shearOf(camera.lens))) > 0) return []
  // looking steeply the tops tell
  if (Math.abs(camera.pose.tiltDeg) > 1 && Math.abs(camera.pose.tiltDeg) < 89) return []
  const limit = limitOf(setup.limits, 'depthApart')
  const { forward } = axesOf(camera.pose)
  const { min, max } = scene.box
  const deep = [0, 1, 2].reduce((s, k) => s + Math.abs(forward[k]!) * (max[k]! - min[k]!), 0)
  const depths = new Map<string, { name: string; depth: number }>()
  for (const hit of grid) {
    const object = hit && scene.objects.find((o) => isOf(o, hit.nodeId))
    if (!hit || !object || object.isBuilding) continue
    const depth = dot(sub(hit.point, camera.pose.station), forward)
    const old = depths.get(object.id)
    if (!old || depth < old.depth) depths.set(object.id, { name: object.name, depth })
  }
  const pair = farthestPair(camera, scene, depths)
  if (!pair || deep <= 0) return []
  const [near, far] = pair
  const value = (100 * (far[1].depth - near[1].depth)) / deep
  if (value <= limit) return []
  return [
    {
      id: 'depth-untold',
      severity: 'note',
      value,
      limit,
      unit: '%',
      message: `“${near[1].name}” and “${far[1].name}” lie ${(far[1].depth - near[1].depth).toFixed(2)} m apart in depth.`,
      reason: 'In a parallel picture nothing shows it: shade, lighten what is far, or hide what is behind.',
      show: { nodeIds: [near[0], far[0]] },
    },
  ]
}

type Seen = readonly [id: string, { readonly name: string; readonly depth: number }]
/** Of the things whose places in the picture overlap, the two that lie farthest apart in depth; nearer first. */
function farthestPair(
  camera: Look['camera'],
  scene: CheckScene,
  depths: ReadonlyMap<string, Seen[1]>,
): readonly [Seen, Seen] | null {
  const things = [...depths].flatMap((seen) => {
    const object = scene.objects.find((o) => o.id === seen[0])
    const outline = object && outlineOf(camera, object.box)
    return outline ? [{ seen: seen as Seen, at: extentOf(outline) }] : []
  })
  let best: readonly [Seen, Seen] | null = null
  const apart = (a: Seen, b: Seen): number => b[1].depth - a[1].depth
  for (const a of things)
    for (const b of things) {
      const overlap = a.at.x0 < b.at.x1 && b.at.x0 < a.at.x1 && a.at.y0 < b.at.y1 && b.at.y0 < a.at.y1
      if (overlap && apart(a.seen, b.seen) > (best ? apart(...best) : 0)) best = [a.seen, b.seen]
    }
  return best
}

/** A table top or a floor exactly from its edge: in an elevation it is a line. */
export const edgeOnInElevation: Check = ({ camera, scene }): Finding[] => {
  if (!isParallel(camera) || Math.abs(camera.pose.tiltDeg) > EDGE_DEG || shearOf(camera.lens).y !== 0) return []
  const thin = scene.levelFaces.filter(
    (f) => f.areaM2 > LEAST_M2 && scene.objects.some((o) => isOf(o, f.nodeId) && !o.isBuilding),
  )
  const [largest] = [...thin].sort((a, b) => b.areaM2 - a.areaM2)
  if (!largest) return []
  return [
    {
      id: 'edge-on-level',
      severity: 'note',
      value: Math.abs(camera.pose.tiltDeg),
      limit: EDGE_DEG,
      unit: 'deg',
      message: `The level face of “${largest.nodeName}” (${largest.areaM2.toFixed(1)} m²) is seen exactly from its edge.`,
      reason: 'It is a line in this elevation: a cut through it, or a heavier line, makes it read.',
      show: { nodeIds: [largest.nodeId] },
    },
  ]
}
