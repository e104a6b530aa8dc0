// Which objects go together, for hiding and showing them at once?
// Model: objects with triangles of their own, by the storey they stand on, or by material. A storey is what the file says of an object,
// else the highest floor that does not lie above the object's foot: a slab that bears a storey belongs to it.
// Space: world metres, Z up. Rejected: by the middle of the box, which puts tall walls on the storey above.

import type { Box } from '../math/index.ts'

/** What is asked of an object. */
export interface GroupedNode {
  readonly id: string
  readonly kind: string | null
  readonly storey: string | null
  readonly box: Box
  /** Names of the materials of its own triangles; none: it is not drawn itself. */
  readonly materials: readonly string[]
}
export interface ObjectGroup {
  readonly key: string
  readonly label: string
  readonly ids: readonly string[]
}

/** A foot may lie this far under the floor it belongs to: slabs, sunk plinths. Metres. */
const UNDER_FLOOR_M = 0.5
export const SURROUNDINGS = 'Surroundings'

const modelOf = (id: string): string => id.split('/', 1)[0]!
const isDrawn = (n: GroupedNode): boolean => n.materials.length > 0

/** From the ground up; what lies round the building comes last. Groups without an object are left out. */
export function byStorey(
  nodes: readonly GroupedNode[],
  storeys: readonly { readonly name: string; readonly heightM: number }[],
): ObjectGroup[] {
  const levels = [...storeys].sort((a, b) => a.heightM - b.heightM)
  const groups = new Map<string, string[]>([...levels.map((s) => s.name), SURROUNDINGS].map((n) => [n, []]))
  for (const n of nodes) {
    if (!isDrawn(n)) continue
    const stated = n.storey !== null && groups.has(n.storey) ? n.storey : null
    const foot = n.box.min[2] + UNDER_FLOOR_M
    const level = levels.findLast((s) => s.heightM <= foot) ?? levels[0]
    const name = n.kind === 'surroundings' ? SURROUNDINGS : (stated ?? level?.name)
    if (name !== undefined) groups.get(name)!.push(n.id)
  }
  return grouped(groups, (name) => name)
}

/** By name; materials of one name in several models stand apart, with the model's key. */
export function byMaterial(nodes: readonly GroupedNode[]): ObjectGroup[] {
  const groups = new Map<string, string[]>()
  const models = new Set<string>()
  for (const n of nodes) {
    models.add(modelOf(n.id))
    for (const m of n.materials) {
      const key = `${modelOf(n.id)}/${m}`
      const list = groups.get(key)
      if (list) list.push(n.id)
      else groups.set(key, [n.id])
    }
  }
  const label = (key: string): string => {
    const name = key.slice(key.indexOf('/') + 1) || 'without a name'
    return models.size > 1 ? `${name} (${modelOf(key)})` : name
  }
  return grouped(groups, label).sort((a, b) => a.label.localeCompare(b.label, 'en'))
}

const grouped = (groups: ReadonlyMap<string, readonly string[]>, label: (key: string) => string): ObjectGroup[] =>
  [...groups].flatMap(([key, ids]) => (ids.length > 0 ? [{ key, label: label(key), ids }] : []))
