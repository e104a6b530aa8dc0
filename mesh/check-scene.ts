// What does the frame check learn of the model? The scene's answers in the check's words.
import type { SceneFacts as CheckFacts, SceneHit } from '#core/checks'
import { addScaled, joinBoxes, type Box, type Vec3 } from '#core/math'
import { centreWithOffset } from '#core/placing'
import { isHidden, isUnder } from './hidden.ts'
import type { MeshScene, RawHit } from './scene.ts'

export interface CheckOptions {
  readonly station: Vec3
  readonly hidden: ReadonlySet<string>
  readonly kind: 'room' | 'product'
  readonly eyeHeightM: number
  /** The object that the picture is of; null where none is known. */
  readonly subjectId: string | null
}
const STEP_M = 1e-4
const MOST_PASSED = 128

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

export function checkScene(scene: MeshScene, options: CheckOptions): CheckFacts {
  const { nodes } = scene.facts
  const { hidden } = options
  const byId = new Map(nodes.map((n) => [n.id, n]))
  const isShown = (hit: RawHit): boolean => !isHidden(scene.nodeAt(hit.vertex).id, hidden)
  const boxes = nodes.filter((n) => n.materials.length > 0 && n.kind !== 'surroundings' && !isHidden(n.id, hidden))
  const subject = options.subjectId === null ? undefined : byId.get(options.subjectId)
  return {
    box: boxes.reduce<Box | null>((a, n) => (a ? joinBoxes(a, n.box) : n.box), null),
    kind: options.kind,
    eyeHeightM: options.eyeHeightM,
    floorM: scene.floorBelow(options.station, hidden)?.point[2] ?? null,
    subject: subject && !isHidden(subject.id, hidden) ? { id: subject.id, name: subject.name, box: subject.box } : null,
    levelFaces: scene.levels().filter((f) => !isHidden(f.nodeId, hidden)),
    centreOf: (id, offset) => centreWithOffset(byId.get(id), offset),
    first(origin, direction, clearToo = false) {
      let wound: Vec3 = [0, 0, 0]
      const hit = scene.along(origin, direction, clearToo, (raw) => {
        wound = [raw.normal.x, raw.normal.y, raw.normal.z]
        return isShown(raw)
      })
      return hit ? ({ ...hit, normal: wound } satisfies SceneHit) : null
    },
    before(origin, direction, nodeId) {
      const target = new Set([nodeId])
      const node = byId.get(nodeId)
      const exit = node ? exitOf(origin, direction, node.box) : null
      if (exit === null) return null
      let gone = 0
      const passed: { id: string; name: string }[] = []
      let from = origin
      for (let i = 0; i < MOST_PASSED; i++) {
        const raw = scene.cast(from, direction, exit - gone + STEP_M, true)
        if (!raw) return null
        const met = scene.nodeAt(raw.vertex)
        if (isUnder(met.id, target)) return passed
        if (!raw.clear && isShown(raw)) passed.push({ id: met.id, name: met.name })
        gone += raw.distance + STEP_M
        from = addScaled([raw.point.x, raw.point.y, raw.point.z], direction, STEP_M)
      }
      return null
    },
  }
}
