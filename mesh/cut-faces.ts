// What does a cut through the model lay open: filled faces by object, and lines where a surface has no inside?
// Model: each plane of each cut is sliced for all objects at once (core/section); what the lines of an object fill is united, parted by
// the other cuts, and kept where it is laid open. An object whose triangles disagree about outside is filled by even-odd, and told.
// Space: world metres. Source: handbook-8.

import { ShapeUtils, Vector2 } from 'three'
import {
  filledRegion,
  flattened,
  gapClosed,
  gapOf,
  gapsClosed,
  inSpace,
  isLaidOpen,
  nested,
  partingLines,
  planeAxes,
  planesOf,
  sliceChains,
  sliceTree,
  type Chain,
  type Contour,
  type Plane,
  type PlaneAxes,
  type Polygon,
  type Shown,
  type SliceTree,
} from '#core/section'
import { hiddenOf, isHidden } from './hidden.ts'
import { planeWithin, pointsThere, type Moved } from './moved.ts'
import type { SceneFacts, Soup } from './types.ts'

/** The part of an object that a plane of a cut lays open. */
export interface CutFace {
  readonly cutId: string
  /** Which of the cut's planes. */
  readonly plane: number
  readonly axes: PlaneAxes
  readonly nodeId: string
  readonly polygons: readonly Polygon[]
  /** Lines of surfaces without an inside, flat, two numbers a point. */
  readonly open: readonly Contour[]
  /** Largest gap between the ends of such a line, metres. */
  readonly gapM: number
  /** Whether sides disagreed, so that every second surface counts as leaving. */
  readonly byEvenOdd: boolean
}
/** Sides of a plane are looked at this far from it, as a part of the model's diagonal. */
const HAIR = 1e-7

/** Makes the tree that all sections of a scene share; linear. */
export const facesTree = ({ positions, indices, nodeOfVertex }: Soup): SliceTree =>
  sliceTree({ positions, indices }, nodeOfVertex)

/** All faces that the cuts of `shown` lay open, of what is shown and not left whole. `moved`: what stands elsewhere. */
export function cutFaces(tree: SliceTree, facts: SceneFacts, shown: Shown, moved: Moved | null = null): CutFace[] {
  const { list, whole } = shown.cuts
  const hidden = hiddenOf(shown)
  const left = new Set(whole ?? [])
  const takesPart = facts.nodes.map(({ id }) => !isHidden(id, hidden) && !(left.size > 0 && isHidden(id, left)))
  const { min, max } = facts.box
  const across = Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2])
  const hairM = HAIR * across
  const closeM = shown.cuts.closeM ?? gapClosed(facts.box)
  const all = list.map((cut) => ({ cut, planes: planesOf(cut) }))
  return all.flatMap(({ cut, planes }) =>
    planes.flatMap((plane, k) => {
      const axes = planeAxes(plane)
      const others = all.flatMap((o) => (o.cut === cut ? planes.filter((_, i) => i !== k) : o.planes))
      const isLaid = (x: number, y: number): boolean => isLaidOpen(list, cut, axes.normal, inSpace(axes, x, y), hairM)
      const parts = others.length > 0 ? { partings: partingLines(axes, others), keeps: isLaid } : {}
      return facesOfPlane(chainsOf(tree, plane, moved), (group) => takesPart[group]!, {
        ...{ axes, parts, closeM },
        face: (group) => ({ cutId: cut.id, plane: k, axes, nodeId: facts.nodes[group]!.id }),
      })
    }),
  )
}

/** Lines of a plane through what stands as in its file, and through what stands elsewhere: cut in its own place and brought there. */
function chainsOf(tree: SliceTree, plane: Plane, moved: Moved | null): Chain[] {
  const stays = sliceChains(tree, plane)
  if (!moved) return stays
  const goes = moved.groups.flatMap((g) => {
    const within = planeWithin(plane, g)
    return within ? sliceChains(g.sections(), within).map((c) => ({ ...c, points: pointsThere(c.points, g) })) : []
  })
  return [...stays.filter((c) => moved.isMoved[c.group] !== 1), ...goes]
}

interface PlaneWork {
  readonly axes: PlaneAxes
  readonly parts: {
    readonly partings?: readonly (readonly [number, number, number, number])[]
    readonly keeps?: (x: number, y: number) => boolean
  }
  readonly closeM: number
  readonly face: (group: number) => Pick<CutFace, 'cutId' | 'plane' | 'axes' | 'nodeId'>
}

function facesOfPlane(chains: Chain[], takesPart: (group: number) => boolean, work: PlaneWork): CutFace[] {
  const byGroup = new Map<number, Chain[]>()
  for (const c of chains) {
    if (!takesPart(c.group)) continue
    const known = byGroup.get(c.group)
    if (known) known.push(c)
    else byGroup.set(c.group, [c])
  }
  const { axes, parts, closeM, face } = work
  return [...byGroup].flatMap(([group, mine]) => {
    const { closed, open } = gapsClosed(mine, closeM)
    const byEvenOdd = closed.some((c) => !c.isOriented)
    const flat = closed.map((c) => flattened(axes, c.points))
    const contours = filledRegion(flat, { ...parts, rule: byEvenOdd ? 'evenOdd' : 'winding' })
    const lines = open.map((c) => flattened(axes, c.points)).filter((l) => !parts.keeps || isAnywhere(l, parts.keeps))
    if (contours.length === 0 && lines.length === 0) return []
    const gapM = Math.max(0, ...open.map(gapOf))
    return [{ ...face(group), polygons: nested(contours), open: lines, gapM, byEvenOdd }]
  })
}
const isAnywhere = (l: Contour, keeps: (x: number, y: number) => boolean): boolean => {
  for (let i = 0; i + 3 < l.length; i += 2) if (keeps((l[i]! + l[i + 2]!) / 2, (l[i + 1]! + l[i + 3]!) / 2)) return true
  return false
}
/** A polygon in triangles, as flat coordinates, two numbers a corner. */
export function trianglesOf({ outer, holes }: Polygon): Float64Array {
  const points = (c: Contour): Vector2[] => Array.from({ length: c.length / 2 }, (_, i) => new Vector2(c[i * 2], c[i * 2 + 1])) // prettier-ignore
  const rings = holes.map(points)
  const outside = points(outer)
  const all = [...outside, ...rings.flat()]
  const flat: number[] = []
  for (const face of ShapeUtils.triangulateShape(outside, rings)) for (const i of face) flat.push(all[i]!.x, all[i]!.y)
  return Float64Array.from(flat)
}
