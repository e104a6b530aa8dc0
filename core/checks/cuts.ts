// What is wrong with the cuts: they meet nothing, graze a face, end inside the model, take the subject away, or cut a plan that converges.
import { axesOf, fieldOfView, isPerspective, type Lens, projectPoint } from '../camera/index.ts'
import { DEG_PER_RAD } from '../base/index.ts'
import { boxCorners, dot, sub, type Vec3 } from '../math/index.ts'
import { isRemoved, movePlane, planesOf, type Cut } from '../section/index.ts'
import type { Check, Finding, Look } from './types.ts'

/** A plane as near to a face grazes it: which of the two is seen is left to rounding. */
const GRAZE_M = 0.001
/** And is moved this far off it. */
const OFF_M = 0.01
const PARALLEL = 0.99999
/** Looking down at least as steeply is meant as a plan, degrees. */
const PLAN_TILT_DEG = -80

/** Cuts that lay nothing open: beside the model, or through air alone. */
export const cutsNothing: Check = ({ setup, scene }) =>
  setup.shown.cuts.list.flatMap((cut): Finding[] => {
    const area = scene.laidOpenM2(cut.id)
    if (area === null || area > 0 || !scene.box) return []
    const corners = boxCorners(scene.box)
    const gone = corners.filter((p) => isRemoved(cut, p)).length
    const beside = cut.kind !== 'box' && cut.kind !== 'stepped' && (gone === 0 || gone === corners.length)
    const away = Math.min(...planesOf(cut).flatMap(({ point, normal }) => corners.map((p) => Math.abs(dot(normal, sub(p, point)))))) // prettier-ignore
    return [
      {
        id: 'cut-misses',
        severity: 'warning',
        value: 0,
        limit: 0,
        unit: 'm2',
        message: beside
          ? `Cut ${cut.name} lies ${away.toFixed(2)} m beside the model.`
          : `Cut ${cut.name} goes through nothing but air.`,
        reason:
          gone === corners.length ? 'It takes everything away.' : 'It lays nothing open: there is no face to see.',
        show: {},
        mend: { label: `Switch cut ${cut.name} off`, cut: { ...cut, on: false } },
      },
    ]
  })

/** Planes that lie in a face of the model. */
export const cutGrazes: Check = ({ setup, scene }) =>
  setup.shown.cuts.list.flatMap((cut): Finding[] => {
    for (const [k, { point, normal }] of planesOf(cut).entries()) {
      const level = scene.levelFaces.filter(() => Math.abs(normal[2]) > PARALLEL)
      const faces = [
        ...level.map((f) => ({ name: f.nodeName, point: [0, 0, f.heightM] as Vec3 })),
        ...scene.walls.filter((w) => Math.abs(dot(w.normal, normal)) > PARALLEL),
      ]
      const near = faces
        .map((f) => ({ ...f, away: dot(normal, sub(f.point, point)) }))
        .filter((f) => Math.abs(f.away) <= GRAZE_M)
        .sort((a, b) => Math.abs(a.away) - Math.abs(b.away))[0]
      if (!near) continue
      return [
        {
          id: 'cut-grazes',
          severity: 'warning',
          value: Math.abs(near.away),
          limit: GRAZE_M,
          unit: 'm',
          message: `Cut ${cut.name} grazes ${near.name} (${(Math.abs(near.away) * 1000).toFixed(1)} mm).`,
          reason: 'A plane in a face shows now the one, now the other; and says nothing about what lies behind it.',
          show: {},
          ...(cut.locked
            ? {}
            : { mend: { label: 'Move it a centimetre into what stays', cut: movePlane(cut, k, -OFF_M) } }),
        },
      ]
    }
    return []
  })

/** Depths of the model along the axis, metres. */
function depths({ camera, scene }: Look): readonly number[] {
  const { forward } = axesOf(camera.pose)
  return scene.box ? boxCorners(scene.box).map((p) => dot(forward, sub(p, camera.pose.station))) : []
}
/** A far cut that hides a part of what the section shows. */
export const farInside: Check = (look) => {
  const { farM, nearM, list } = look.setup.shown.cuts
  const all = depths(look)
  const deepest = Math.max(...all)
  if (farM === null || (list.length === 0 && nearM === null) || !(farM < deepest) || farM < Math.min(...all)) return []
  return [
    {
      id: 'far-inside',
      severity: 'note',
      value: deepest - farM,
      limit: 0,
      unit: 'm',
      message: `The far cut lies ${(deepest - farM).toFixed(2)} m before the model’s far side.`,
      reason: 'A section shows what lies beyond its plane, unless that is cut off too.',
      show: {},
      mend: { label: 'Switch the far cut off', farOff: true },
    },
  ]
}
/** A near cut, or another, that takes the subject away. */
export const subjectCut: Check = ({ camera, setup, scene }) => {
  const { subject } = scene
  const { nearM, list } = setup.shown.cuts
  if (!subject) return []
  const corners = boxCorners(subject.box)
  const { forward } = axesOf(camera.pose)
  const deepest = Math.max(...corners.map((p) => dot(forward, sub(p, camera.pose.station))))
  const byNear = nearM !== null && deepest < nearM
  const byCut = list.find((c) => corners.every((p) => isRemoved(c, p)))
  if (!byNear && !byCut) return []
  const name = byNear ? 'The near cut' : `Cut ${byCut!.name}`
  return [
    {
      id: 'subject-cut',
      severity: 'problem',
      value: byNear ? nearM - deepest : 0,
      limit: 0,
      unit: 'm',
      message: `${name} takes “${subject.name}” away.`,
      reason: 'What the picture is of is not in it.',
      show: { nodeIds: [subject.id] },
      mend: byCut && !byNear ? { label: `Switch cut ${byCut.name} off`, cut: { ...byCut, on: false } } : { label: 'Switch the cuts off', cutsOff: true }, // prettier-ignore
    },
  ]
}
/** A plan seen in perspective: it converges, and nothing can be measured in it. */
export const planConverges: Check = ({ camera, setup, keep }) => {
  const level = setup.shown.cuts.list.find((c): c is Cut & { kind: 'level' } => c.kind === 'level' && !c.reversed)
  if (!level || !isPerspective(camera) || camera.pose.tiltDeg > PLAN_TILT_DEG) return []
  const depthM = projectPoint(camera, [keep[0], keep[1], Math.min(keep[2], level.heightM)])?.depthM
  if (!depthM) return []
  const { horizontalDeg } = fieldOfView(camera.lens, camera.frame)
  const widthM = 2 * depthM * Math.tan(horizontalDeg / 2 / DEG_PER_RAD)
  const lens: Lens = { ...camera.lens, projection: { kind: 'parallel', widthM }, riseMm: 0, crossMm: 0 }
  return [
    {
      id: 'plan-converges',
      severity: 'warning',
      value: horizontalDeg,
      limit: 0,
      unit: 'deg',
      message: `A plan in perspective (${horizontalDeg.toFixed(0)}° across) converges.`,
      reason: 'Lengths at different heights have different scales: it is a view, not a plan.',
      show: {},
      mend: { label: 'Parallel, as large at the cut', lens },
    },
  ]
}
