// How do shots and reels change? All changes are edits.
import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import type { ObjectState, ReelPart, ShotPart } from './reel-schemas.ts'
import type { ProjectDocument } from './schema.ts'

export type ReelCommand =
  /** New ones, or changed ones of the same ids; together they are one edit. */
  | { type: 'putReels'; shots?: readonly ShotPart[]; reels?: readonly ReelPart[] }
  /** With the cuts that are of it. */
  | { type: 'removeShot'; shotId: string }
  /** With the shots that no other reel shows. */
  | { type: 'removeReel'; reelId: string }
  /** A new state of an object, or a changed one. */
  | { type: 'putObjectState'; state: ObjectState }
  /** It is gone everywhere: what named it shows the object as its file has it. */
  | { type: 'removeObjectState'; stateId: string }

export function applyReelCommand(doc: ProjectDocument, command: ReelCommand): Result<Applied, CommandReason> {
  const [shots, reels] = [doc.shots ?? [], doc.reels ?? []]
  switch (command.type) {
    case 'putReels': {
      const [s, r] = [put(shots, command.shots ?? []), put(reels, command.reels ?? [])]
      if ([...s, ...r].some((x) => !x.name.trim())) return refused('empty-name', 'Give it a name.')
      return edited({ ...doc, ...((doc.shots || s.length > 0) && { shots: s }), ...((doc.reels || r.length > 0) && { reels: r }) }) // prettier-ignore
    }
    case 'removeShot': {
      if (!shots.some((s) => s.id === command.shotId)) return refused('unknown-shot', 'This shot is no longer in the project.') // prettier-ignore
      const without = reels.map((r) => r.cuts.some((c) => c.shotId === command.shotId) ? { ...r, cuts: r.cuts.filter((c) => c.shotId !== command.shotId) } : r) // prettier-ignore
      return edited({ ...doc, shots: shots.filter((s) => s.id !== command.shotId), reels: without })
    }
    case 'removeReel': {
      const reel = reels.find((r) => r.id === command.reelId)
      if (!reel) return refused('unknown-reel', 'This reel is no longer in the project.')
      const left = reels.filter((r) => r !== reel)
      const shown = new Set(left.flatMap((r) => r.cuts.map((c) => c.shotId)))
      const own = new Set(reel.cuts.map((c) => c.shotId).filter((s) => !shown.has(s)))
      return edited({ ...doc, reels: left, shots: shots.filter((s) => !own.has(s.id)) })
    }
    case 'putObjectState':
      if (!command.state.name.trim()) return refused('empty-name', 'Give it a name.')
      return edited({ ...doc, objectStates: put(doc.objectStates ?? [], [command.state]) })
    case 'removeObjectState': {
      const states = doc.objectStates ?? []
      const left = states.filter((s) => s.id !== command.stateId)
      if (left.length === states.length) return refused('unknown-state', 'This state is no longer in the project.')
      const without = shots.map((s) => (s.motions ? { ...s, motions: s.motions.filter((m) => m.stateId !== command.stateId) } : s)) // prettier-ignore
      return edited({ ...doc, objectStates: left, ...(doc.shots && { shots: without }) })
    }
  }
}
/** The list with things put in the place of those of their ids, or at its end. */
function put<T extends { readonly id: string }>(list: T[], things: readonly T[]): T[] {
  if (things.length === 0) return list
  const by = new Map(things.map((t) => [t.id, t]))
  const kept = list.map((x) => by.get(x.id) ?? x)
  const known = new Set(list.map((x) => x.id))
  return [...kept, ...things.filter((t) => !known.has(t.id))]
}
