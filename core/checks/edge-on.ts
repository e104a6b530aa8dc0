// Is a large level face (a counter, a shelf, a gallery's floor) seen almost edge-on?
// Model: the angle between the face and the sight line to the part of it that is seen. Exactly edge-on it is a clean line and is not
// told; within a degree it is a sliver. Limits (practice): 0.05 to 1 degree; the mend goes to 2 degrees.

import { isPerspective, projectPoint, standAs, standMoved } from '../camera/index.ts'
import { horizonThrough } from '../framing/index.ts'
import { asinDeg, RAD_PER_DEG } from '../base/index.ts'
import { distance, normalize, sub, type Vec3 } from '../math/index.ts'
import { isBetweenCuts, sightAlong } from '../section/index.ts'
import type { Check, Finding, LevelFace, Look } from './types.ts'

const EDGE_DEG = { least: 0.05, most: 1, mended: 2 } as const
const ACROSS = 5
/** A sample counts as seen when the ray to it gets this near to it. */
const NEAR_M = 0.03
const MOST_TOLD = 2

/** The part of a face seen at the steepest angle; null when none of it is seen, or when that is steeper than is told. */
function seenAt(look: Look, face: LevelFace): { point: Vec3; angleDeg: number } | null {
  const { camera, scene, setup } = look
  const { station } = camera.pose
  const samples: { point: Vec3; angleDeg: number; away: number }[] = []
  for (let i = 0; i < ACROSS; i++)
    for (let j = 0; j < ACROSS; j++) {
      const point: Vec3 = [
        face.min[0] + ((i + 0.5) / ACROSS) * (face.max[0] - face.min[0]),
        face.min[1] + ((j + 0.5) / ACROSS) * (face.max[1] - face.min[1]),
        face.heightM,
      ]
      const away = distance(point, station)
      const angleDeg = Math.abs(asinDeg((station[2] - face.heightM) / away))
      samples.push({ point, angleDeg, away })
    }
  // no ray is needed where all of it is steep
  if (samples.every((s) => s.angleDeg > EDGE_DEG.most)) return null
  // the steepest part seen decides: if even that is a sliver, all of it is
  for (const s of samples.sort((a, b) => b.angleDeg - a.angleDeg)) {
    const at = projectPoint(camera, s.point)
    if (!at || at.xPx < 0 || at.yPx < 0 || at.xPx > camera.frame.widthPx || at.yPx > camera.frame.heightPx) continue
    // what the near cut takes away is not seen, nor is it in the way
    const sight = sightAlong(camera, { origin: station, direction: normalize(sub(s.point, station)) }, setup.shown)
    const hit = isBetweenCuts(setup.shown, at.depthM) ? scene.first(sight) : null
    if (hit && distance(hit.point, s.point) < NEAR_M) return s.angleDeg > EDGE_DEG.most ? null : s
  }
  return null
}

export const edgeOnFace: Check = (look) => {
  const { camera, scene, setup } = look
  if (!isPerspective(camera)) return []
  const { station } = camera.pose
  const found: Finding[] = []
  const near = scene.levelFaces.filter((f) => Math.abs(station[2] - f.heightM) < 2)
  for (const face of [...near].sort((a, b) => b.areaM2 - a.areaM2)) {
    const seen = seenAt(look, face)
    if (!seen || seen.angleDeg < EDGE_DEG.least) continue
    const away = distance(seen.point, station)
    const above = station[2] >= face.heightM ? 1 : -1
    const heightM = face.heightM + above * away * Math.sin(EDGE_DEG.mended * RAD_PER_DEG)
    const level = horizonThrough(camera, [station[0], station[1], heightM], look.keep)
    const mend = level.ok
      ? { stand: standAs(setup.stand, level.value.pose, scene.centreOf), lens: level.value.lens }
      : { stand: standMoved(setup.stand, [0, 0, heightM - station[2]], false, scene.centreOf) }
    found.push({
      id: 'edge-on-face',
      severity: 'note',
      value: seen.angleDeg,
      limit: EDGE_DEG.most,
      unit: 'deg',
      message: `“${face.nodeName}” is seen ${seen.angleDeg.toFixed(2)}° from edge-on.`,
      reason: 'A large face so flat becomes a sliver: a line would be clean, a little more would show it.',
      show: { nodeIds: [face.nodeId] },
      mend: {
        label: `${heightM > station[2] ? 'Raise' : 'Lower'} the eye by ${Math.abs(heightM - station[2]).toFixed(2)} m`,
        ...mend,
      },
    })
    if (found.length === MOST_TOLD) break
  }
  return found
}
