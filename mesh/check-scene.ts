// What does the frame check learn of the model? The scene's answers in the check's words.
import { standsInOrOn, type CheckObject, type CheckScene, type SceneHit } from '#core/checks'
import { joinBoxes, type Box, type Vec3 } from '#core/math'
import { centreWithOffset } from '#core/placing'
import { movedPoint } from '#core/reel'
import { polygonArea, type Shown } from '#core/section'
import { hiddenOf, isHidden, isUnder } from './hidden.ts'
import type { MeshScene } from './scene.ts'
import type { NodeFacts } from './types.ts'

export interface CheckOptions {
  readonly station: Vec3
  readonly shown: Shown
  readonly kind: 'room' | 'product'
  readonly eyeHeightM: number
  /** The object that the picture is of; null where none is known. */
  readonly subjectId: string | null
  /** Objects that are people, with all that lies below them, whatever their file calls them. */
  readonly people?: readonly string[]
}
const STEP_M = 1e-4

/** Kinds that things stand in; of a file that names no kinds what spans a third of it counts as one. */
const BUILDING: readonly (string | null)[] = ['wall', 'floor', 'roof', 'ceiling', 'structure', 'glass', 'glazing', 'window', 'door', 'stair', 'column', 'beam'] // prettier-ignore
const SPANS = 1 / 3
function isBuilding(kind: string | null, box: Box, all: Box): boolean {
  if (BUILDING.includes(kind)) return true
  const long = (b: Box): number => Math.max(...[0, 1, 2].map((k) => b.max[k]! - b.min[k]!))
  return long(box) > SPANS * long(all)
}

/** What is shown, thing by thing; a person is one thing with all that lies below it. */
function checkObjects(
  shown: readonly NodeFacts[],
  nodes: readonly NodeFacts[],
  all: Box,
  people: ReadonlySet<string>,
): CheckObject[] {
  const isPerson = (n: NodeFacts): boolean => n.kind === 'person' || people.has(n.id)
  const whole = new Set(nodes.filter(isPerson).map((n) => n.id))
  const above = (id: string): string => id.slice(0, Math.max(id.lastIndexOf('/'), 0))
  const persons = nodes.filter((n) => whole.has(n.id) && !isUnder(above(n.id), whole))
  const boxOf = (id: string): Box | null =>
    shown.filter((n) => isUnder(n.id, new Set([id]))).reduce<Box | null>((a, n) => (a ? joinBoxes(a, n.box) : n.box), null) // prettier-ignore
  return [
    ...shown.flatMap((n) => isUnder(n.id, whole) ? [] : [{ id: n.id, name: n.name, box: n.box, isBuilding: isBuilding(n.kind, n.box, all), isPerson: false }]), // prettier-ignore
    ...persons.flatMap((n) => {
      const box = boxOf(n.id)
      return box ? [{ id: n.id, name: n.name, box, isBuilding: false, isPerson: true }] : []
    }),
  ]
}

/** How far along a ray a box is left; null when the ray misses it. */
function exitOf(origin: Vec3, direction: Vec3, { min, max }: Box): number | null {
  let near = 0
  let far = Infinity
  for (let k = 0; k < 3; k++) {
    const o = origin[k]!
    const d = direction[k]!
    if (d === 0) {
      if (o < min[k]! - STEP_M || o > max[k]! + STEP_M) return null
      continue
    }
    const a = (min[k]! - STEP_M - o) / d
    const b = (max[k]! + STEP_M - o) / d
    near = Math.max(near, Math.min(a, b))
    far = Math.min(far, Math.max(a, b))
  }
  return near <= far ? far : null
}

/** Middles of objects, moved as a thing that is aimed at goes: not those of the bounds of what was turned. */
function centresOf({ facts }: MeshScene, shown: CheckOptions['shown']): CheckScene['centreOf'] {
  const inFile = new Map(facts.nodes.map((n) => [n.id, n]))
  return (id, offset) => {
    const point = centreWithOffset(inFile.get(id), offset)
    return point && movedPoint(point, id, shown.moved ?? [])
  }
}

export function checkScene(scene: MeshScene, options: CheckOptions): CheckScene {
  const { shown } = options
  const nodes = scene.nodesOf(shown)
  const hidden = hiddenOf(shown)
  const byId = new Map(nodes.map((n) => [n.id, n]))
  const boxes = nodes.filter((n) => n.materials.length > 0 && n.kind !== 'surroundings' && !isHidden(n.id, hidden))
  const subjectOf = (id: string | null): CheckScene['subject'] => {
    const node = id === null ? undefined : byId.get(id)
    return node && !isHidden(node.id, hidden) ? { id: node.id, name: node.name, box: node.box } : null
  }
  return {
    box: boxes.reduce<Box | null>((a, n) => (a ? joinBoxes(a, n.box) : n.box), null),
    kind: options.kind,
    eyeHeightM: options.eyeHeightM,
    floorM: scene.floorBelow(options.station, shown)?.point[2] ?? null,
    subject: subjectOf(options.subjectId),
    objects: checkObjects(boxes, nodes, scene.facts.box, new Set(options.people)),
    levelFaces: scene.levels().filter((f) => !isHidden(f.nodeId, hidden)),
    walls: scene.walls().walls.map((w) => ({ name: 'a wall', point: w.point, normal: w.normal })),
    laidOpenM2: laidOpen(scene, shown),
    objectOf: subjectOf,
    centreOf: centresOf(scene, shown),
    first(sight, clearToo = false) {
      const met = scene.passing(sight, { shown, clearToo })
      if (!met) return null
      const { point, normal, vertex } = met.hit
      const node = scene.nodeAt(vertex)
      return {
        point: [point.x, point.y, point.z],
        // as the triangle is wound
        normal: [normal.x, normal.y, normal.z],
        distanceM: met.distanceM,
        nodeId: node.id,
        nodeName: node.name,
      } satisfies SceneHit
    },
    before(sight, nodeId) {
      const node = byId.get(nodeId)
      const exit = node ? exitOf(sight.origin, sight.direction, node.box) : null
      if (exit === null) return null
      const target = new Set([nodeId])
      const passed: { id: string; name: string }[] = []
      const met = scene.passing(
        { ...sight, farM: Math.min(sight.farM, exit + STEP_M) },
        {
          shown,
          clearToo: true,
          accept: (hit) => {
            const at = scene.nodeAt(hit.vertex)
            if (isUnder(at.id, target)) return true
            if (!hit.clear && !standsInOrOn(at.box, node!.box)) passed.push({ id: at.id, name: at.name })
            return false
          },
        },
      )
      return met ? passed : null
    },
  }
}

/** Areas by cut, worked out when the first is asked for. */
function laidOpen(scene: MeshScene, shown: Shown): (cutId: string) => number | null {
  let areas: ReadonlyMap<string, number> | null = null
  return (cutId) => {
    if (!shown.cuts.list.some((c) => c.id === cutId)) return null
    if (!areas) {
      const sums = new Map<string, number>()
      for (const f of scene.faces(shown)) {
        // lines of open surfaces are something too
        const own = f.polygons.reduce((s, p) => s + polygonArea(p), 0) + (f.open.length > 0 ? Number.MIN_VALUE : 0)
        sums.set(f.cutId, (sums.get(f.cutId) ?? 0) + own)
      }
      areas = sums
    }
    return areas.get(cutId) ?? 0
  }
}
