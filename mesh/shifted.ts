// The same things seen from another origin.
import type { Vec3 } from '#core/math'
import type { ModelClip } from '#core/reel'
import { isNought, shiftedBox, shiftedPoint } from '#core/placing'
import type { CentreLine } from './centre-lines.ts'
import type { Hit, SceneFacts, Storey } from './types.ts'
import type { WallFacts } from './walls.ts'

export function shiftedFacts(facts: SceneFacts, by: Vec3): SceneFacts {
  if (isNought(by)) return facts
  return {
    ...facts,
    box: shiftedBox(facts.box, by),
    nodes: facts.nodes.map((n) => ({ ...n, box: shiftedBox(n.box, by) })),
    ...(facts.clips && { clips: facts.clips.map((c) => shiftedClip(c, by)) }),
  }
}
const shiftedClip = (clip: ModelClip, by: Vec3): ModelClip => ({
  ...clip,
  nodes: clip.nodes.map((n) => ({ ...n, above: n.above.map((v, i) => (i % 4 === 3 ? v + by[(i - 3) / 4]! : v)) })),
})
export const shiftedStoreys = (storeys: readonly Storey[], by: Vec3): readonly Storey[] =>
  isNought(by) ? storeys : storeys.map((s) => ({ ...s, heightM: s.heightM + by[2] }))
export function shiftedWalls<W extends WallFacts & { readonly centreLines: readonly CentreLine[] }>(
  walls: W,
  by: Vec3,
): W {
  if (isNought(by)) return walls
  const moved = <T extends { readonly point: Vec3 }>(list: readonly T[]): T[] =>
    list.map((item) => ({ ...item, point: shiftedPoint(item.point, by) }))
  return { ...walls, walls: moved(walls.walls), centreLines: moved(walls.centreLines) }
}
export type { Hit }
