// What can be said of cut faces in numbers: area and length of outline, by object and of all together.
// Model: the whole is united once more over all objects, so that what overlaps counts once. Space: metres.

import { contourArea, contourLength, filledRegion, polygonArea, type Contour } from '#core/section'
import type { CutFace } from './cut-faces.ts'

export interface FaceFacts {
  readonly nodeId: string
  readonly areaM2: number
  readonly perimeterM: number
  /** Of surfaces without an inside there: the largest gap between ends, metres; null where all is closed. */
  readonly openGapM: number | null
  readonly byEvenOdd: boolean
}
export interface PlaneFacts {
  readonly cutId: string
  readonly plane: number
  /** Of all objects united. */
  readonly areaM2: number
  readonly perimeterM: number
  /** The largest first. */
  readonly objects: readonly FaceFacts[]
}
const ringsOf = (f: CutFace): Contour[] => f.polygons.flatMap((p) => [p.outer, ...p.holes])
const sum = (all: readonly number[]): number => all.reduce((s, v) => s + v, 0)

/** By cut and plane, in the order of the faces. */
export function cutFacts(faces: readonly CutFace[]): PlaneFacts[] {
  const planes = new Map<string, CutFace[]>()
  for (const f of faces) {
    const key = `${f.cutId}|${f.plane}`
    const known = planes.get(key)
    if (known) known.push(f)
    else planes.set(key, [f])
  }
  return [...planes.values()].map((mine) => {
    const whole = filledRegion(mine.flatMap(ringsOf))
    return {
      cutId: mine[0]!.cutId,
      plane: mine[0]!.plane,
      areaM2: sum(whole.map(contourArea)),
      perimeterM: sum(whole.map(contourLength)),
      objects: mine
        .map((f) => ({
          nodeId: f.nodeId,
          areaM2: sum(f.polygons.map(polygonArea)),
          perimeterM: sum(ringsOf(f).map(contourLength)),
          openGapM: f.open.length > 0 ? f.gapM : null,
          byEvenOdd: f.byEvenOdd,
        }))
        .sort((a, b) => b.areaM2 - a.areaM2),
    }
  })
}
