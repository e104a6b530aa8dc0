// Which storeys has a building?
// Space: world metres, Z up.

import type { SceneFacts, Soup, Storey } from './types.ts'

/** Heights within this belong to one storey. */
const SAME_STOREY_M = 0.5
const MOST_LEVELS = 200_000
/** An unmarked level must cover this share of the building's plan. */
const STOREY_SHARE = 0.12

/**
 * Storeys of a model, lowest first. Floors marked in the file are grouped by their storey name and stand at the height where most
 * of their area lies (a stair, spread over many heights, is none). Without marks: heights where level upward faces
 * cover more than 12 % of the plan. At least one storey always comes back: the lowest point of the model.
 */
export function findStoreys(soup: Soup, facts: SceneFacts): Storey[] {
  const { nodes } = facts
  const marked = nodes.some((n) => n.kind === 'floor')
  const { min, max } = facts.box
  // areas by height in steps of a centimetre (coarser in models of kilometres); a group for each marked storey
  const stepM = Math.max(0.01, (max[2] - min[2]) / MOST_LEVELS)
  const levels = Math.ceil((max[2] - min[2]) / stepM) + 3
  const groups = new Map<string, Float64Array>()
  const areasOf = nodes.map((n) => {
    if (marked ? n.kind !== 'floor' : n.kind === 'surroundings') return null
    const name = marked ? (n.storey ?? n.name) : ''
    const areas = groups.get(name) ?? new Float64Array(levels)
    groups.set(name, areas)
    return areas
  })
  const { positions: p, indices, nodeOfVertex } = soup
  for (let i = 0; i < indices.length; i += 3) {
    const areas = areasOf[nodeOfVertex[indices[i]!]!]
    if (!areas) continue
    const a = indices[i]! * 3
    const b = indices[i + 1]! * 3
    const c = indices[i + 2]! * 3
    const ux = p[b]! - p[a]!
    const uy = p[b + 1]! - p[a + 1]!
    const vx = p[c]! - p[a]!
    const vy = p[c + 1]! - p[a + 1]!
    const flat = (ux * vy - uy * vx) / 2
    if (flat <= 0) continue
    const lo = Math.min(p[a + 2]!, p[b + 2]!, p[c + 2]!)
    const hi = Math.max(p[a + 2]!, p[b + 2]!, p[c + 2]!)
    if (hi - lo > 0.05) continue
    const level = Math.round((hi - min[2]) / stepM) + 1
    if (level >= 0 && level < levels) areas[level]! += flat
  }
  const found: Storey[] = []
  const plan = (max[0] - min[0]) * (max[1] - min[1])
  for (const [name, areas] of groups) {
    const total = areas.reduce((x, y) => x + y, 0)
    const least = marked ? total * 0.5 : plan * STOREY_SHARE
    const enough = [...areas.keys()].filter((k) => areas[k]! > 0 && areas[k]! >= least)
    for (const k of enough.sort((x, y) => areas[y]! - areas[x]!)) {
      const heightM = Math.round((min[2] + (k - 1) * stepM) * 100) / 100 || 0
      const near = found.some((s) => Math.abs(s.heightM - heightM) < SAME_STOREY_M)
      if (!near) found.push({ name: marked ? name : '', heightM, areaM2: areas[k]! })
    }
  }
  found.sort((x, y) => x.heightM - y.heightM)
  if (found.length === 0) found.push({ name: 'Base', heightM: facts.box.min[2], areaM2: plan })
  return found.map((s, i) => ({ ...s, name: s.name || (i === 0 ? 'Lowest floor' : `Floor ${i + 1}`) }))
}
