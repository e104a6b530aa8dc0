// What do cameras look at when the object they aim at goes, with its model or by a newer file?
// Model: the aim stays an object's, so that it is followed again when the object comes back (undo, the next file), and remembers where
// its point was: until then that point is looked at and no picture moves.

import type { Aim, AimCentre, Stand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { sameJson, type KeptParts, type Setup } from './parts.ts'
import { mapped } from './renaming.ts'
import type { ProjectDocument } from './schema.ts'

/** The point that was aimed at on an object that goes, world metres. */
export interface LostAim {
  readonly nodeId: string
  readonly offset: Vec3
  readonly point: Vec3
}

const standsOf = (doc: ProjectDocument): Stand[] => [
  doc.working.stand,
  ...(doc.settled ? [doc.settled.stand] : []),
  ...doc.viewpoints.flatMap((v) => v.parts.stand ?? []),
  ...doc.leftBehind.map((l) => l.setup.stand),
  ...doc.trail.steps.map((s) => s.stand),
]

/** The points of all aims at objects that go; `centreOf` as it is before they do. */
export function lostAims(doc: ProjectDocument, goes: (nodeId: string) => boolean, centreOf: AimCentre): LostAim[] {
  const lost: LostAim[] = []
  for (const { aim } of standsOf(doc)) {
    if (aim.kind !== 'object' || !goes(aim.nodeId) || lost.some((l) => isOf(l, aim))) continue
    const point = centreOf(aim.nodeId, aim.offset)
    if (point) lost.push({ nodeId: aim.nodeId, offset: aim.offset, point })
  }
  return lost
}
/** Whether two stands are the same but for the point that is remembered. */
export function isSameStand(a: Stand, b: Stand): boolean {
  const plain = (s: Stand): Stand => (s.aim.kind === 'object' ? { ...s, aim: { ...s.aim, lastPoint: undefined } } : s)
  return a === b || sameJson(plain(a), plain(b))
}
const isOf = (l: LostAim, aim: Aim): boolean =>
  aim.kind === 'object' && l.nodeId === aim.nodeId && sameJson(l.offset, aim.offset)

/** The document whose aims remember those points; what aims at none of them keeps its identity. */
export function withLost(doc: ProjectDocument, lost: readonly LostAim[]): ProjectDocument {
  if (lost.length === 0) return doc
  const stand = (s: Stand): Stand => {
    const found = lost.find((l) => isOf(l, s.aim))
    return found && s.aim.kind === 'object' ? { ...s, aim: { ...s.aim, lastPoint: found.point } } : s
  }
  const within = <T extends KeptParts | Setup>(parts: T): T => {
    const next = parts.stand && stand(parts.stand)
    return next === parts.stand ? parts : { ...parts, stand: next }
  }
  const inItem = <T, K extends keyof T>(item: T, key: K, value: T[K]): T =>
    value === item[key] ? item : { ...item, [key]: value }
  const steps = mapped(doc.trail.steps, (s) => inItem(s, 'stand', stand(s.stand)))
  return {
    ...doc,
    working: within(doc.working),
    settled: doc.settled && within(doc.settled),
    viewpoints: mapped(doc.viewpoints, (v) => inItem(v, 'parts', within(v.parts))),
    leftBehind: mapped(doc.leftBehind, (l) => inItem(l, 'setup', within(l.setup))),
    trail: steps === doc.trail.steps ? doc.trail : { ...doc.trail, steps },
  }
}
