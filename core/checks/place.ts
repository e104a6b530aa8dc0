// Is the camera inside something, at an unusual height, or is there nothing before it?
// Limits (practice): eyes stand at 1.50 to 1.65 m and sit at 1.20 m; from 1.10 to 1.75 m nothing is said, above 3.2 m it is a view
// from above on purpose. Source: handbook-11.

import { directionOf, isParallel, isPerspective, projectPoint, standAs, standMoved } from '../camera/index.ts'
import { fitPoints } from '../framing/index.ts'
import { addScaled, boxCorners, dot, type Box, type Vec3 } from '../math/index.ts'
import { isBetweenCuts, sightThrough, type Sight } from '../section/index.ts'
import type { Check, Look, SceneHit } from './types.ts'

const EYE_M = { least: 1.1, most: 1.75, above: 3.2 } as const
/** Backs of one thing met in this share of directions, the nearest within this distance: one is in it. */
const INSIDE = { share: 0.9, nearM: 0.75 } as const
const CLEAR_M = 0.05
const FIT_MARGIN = 0.05
/** A picture with less of anything in it than this share is empty. */
const SEEN_SHARE = 0.002

const AROUND: readonly Vec3[] = [
  ...[-45, 0, 45].flatMap((tilt) => [0, 45, 90, 135, 180, 225, 270, 315].map((b) => directionOf(b + 7, tilt))),
  [0, 0, 1],
  [0, 0, -1],
]

const all = (origin: Vec3, direction: Vec3): Sight => ({ origin, direction, farM: Infinity })

/** The camera in a solid or in a wall; with the near cut on it may be there on purpose. */
export const insideObject: Check = ({ camera, setup, scene }) => {
  if (setup.shown.cuts.nearM !== null || isParallel(camera)) return []
  const { station } = camera.pose
  const hits = AROUND.map((d) => ({ d, hit: scene.first(all(station, d), true) }))
  const backs = hits.filter((h): h is { d: Vec3; hit: SceneHit } => h.hit !== null && dot(h.hit.normal, h.d) > 0)
  if (backs.length < INSIDE.share * hits.length) return []
  const [nearest] = backs.sort((a, b) => a.hit.distanceM - b.hit.distanceM)
  if (!nearest || nearest.hit.distanceM > INSIDE.nearM) return []
  // the shortest way out goes square to that surface
  const square = scene.first(all(station, nearest.hit.normal), true)
  const shorter = square && dot(square.normal, nearest.hit.normal) > 0 && square.distanceM < nearest.hit.distanceM
  const { hit, d } = shorter ? { hit: square, d: nearest.hit.normal } : nearest
  return [
    {
      id: 'inside-object',
      severity: 'problem',
      value: hit.distanceM,
      limit: 0,
      unit: 'm',
      message: `The camera is inside “${hit.nodeName}”, ${hit.distanceM.toFixed(2)} m under its surface.`,
      reason: 'The picture shows the inside of it, or looks through it.',
      show: { nodeIds: [hit.nodeId] },
      mend: {
        label: 'Step out',
        stand: standMoved(setup.stand, addScaled([0, 0, 0], d, hit.distanceM + CLEAR_M), false, scene.centreOf),
      },
    },
  ]
}

/** As near to the project's own eye height it is the own. */
const OWN_M = 0.005

export const eyeHeight: Check = ({ camera, setup, scene }) => {
  if (scene.kind !== 'room' || scene.floorM === null || !isPerspective(camera)) return []
  if (Math.abs(camera.pose.tiltDeg) > 45) return []
  const value = camera.pose.station[2] - scene.floorM
  if (!(value < EYE_M.least || value > EYE_M.most) || value > EYE_M.above || value <= 0) return []
  const up = scene.eyeHeightM - value
  // the project's own eye height is meant, wherever it lies
  if (Math.abs(up) < OWN_M) return []
  return [
    {
      id: 'eye-height',
      severity: 'note',
      value,
      limit: value < EYE_M.least ? EYE_M.least : EYE_M.most,
      unit: 'm',
      message: `Eye height ${value.toFixed(2)} m.`,
      reason: `People stand with their eyes at 1.50 to 1.65 m and sit at about 1.20 m; the room looks ${value < EYE_M.least ? 'larger' : 'smaller'} from here.`,
      show: { points: [[camera.pose.station[0], camera.pose.station[1], scene.floorM]] },
      mend: {
        label: `Eye height ${scene.eyeHeightM.toFixed(2)} m`,
        stand: standMoved(setup.stand, [0, 0, up], false, scene.centreOf),
      },
    },
  ]
}

/** Why the cuts alone empty the picture; null when something would be seen without them, or they are off. */
function emptiedByCut({ camera, setup, scene }: Look): string | null {
  const { nearM, farM } = setup.shown.cuts
  if (nearM === null && farM === null) return null
  const uncut = { ...setup.shown, cuts: { ...setup.shown.cuts, nearM: null, farM: null } }
  const { widthPx: w, heightPx: h } = camera.frame
  let nearest = Infinity
  for (let i = 0; i < PROBES; i++)
    for (let j = 0; j < PROBES; j++) {
      const sight = sightThrough(camera, uncut, ((i + 0.5) / PROBES) * w, ((j + 0.5) / PROBES) * h)
      const hit = sight ? scene.first(sight, true) : null
      const at = hit && projectPoint(camera, hit.point)
      if (at) nearest = Math.min(nearest, at.depthM)
    }
  if (nearest === Infinity) return null
  return farM !== null && nearest > farM
    ? `The far cut lies at ${farM.toFixed(2)} m, the nearest thing at ${nearest.toFixed(2)} m.`
    : `The near cut at ${(nearM ?? 0).toFixed(2)} m takes all of it away.`
}
const PROBES = 12

/** Whether all that is shown lies in the frame, between the cuts: small as it may be, it is there. */
function isWholly({ camera, setup }: Look, box: Box): boolean {
  const { widthPx, heightPx } = camera.frame
  return boxCorners(box).every((corner) => {
    const at = projectPoint(camera, corner)
    return (
      at !== null &&
      isBetweenCuts(setup.shown, at.depthM) &&
      at.xPx >= 0 &&
      at.xPx <= widthPx &&
      at.yPx >= 0 &&
      at.yPx <= heightPx
    )
  })
}

export const nothingInView: Check = (look) => {
  const { camera, setup, scene, grid } = look
  const seen = grid.filter(Boolean).length / grid.length
  if (seen > SEEN_SHARE || (scene.box && isWholly(look, scene.box))) return []
  const cut = scene.box ? emptiedByCut(look) : null
  const finding = {
    id: 'nothing-in-view',
    severity: 'problem',
    value: 100 * seen,
    limit: 100 * SEEN_SHARE,
    unit: '%',
    message: 'Nothing of the model is in the picture.',
    reason: scene.box ? (cut ?? 'The camera looks past it.') : 'Everything is hidden.',
    show: {},
  } as const
  if (cut !== null) return [{ ...finding, mend: { label: 'Switch the cuts off', cutsOff: true } }]
  const r = scene.box ? fitPoints(camera, boxCorners(scene.box), { margin: FIT_MARGIN }) : null
  if (!r?.ok) return [finding]
  const stand = standAs(setup.stand, r.value.pose, scene.centreOf)
  return [{ ...finding, mend: { label: 'Tight fit of the model', stand, lens: r.value.lens } }]
}
