// Which objects does a shot name that no model has any more?
// Model: a shot plays on without them; that it does is said.
import type { ProjectDocument } from '../schema.ts'
import type { ShotPart } from '../reel-schemas.ts'

/** Names of what it looks at, keeps in view, turns or moves, each once, in that order. `isThere`: by id. */
export function missingIn(
  { objectStates = [] }: Pick<ProjectDocument, 'objectStates'>,
  shot: ShotPart,
  isThere: (objectId: string) => boolean,
): readonly string[] {
  const stateOf = (id: string): string | undefined => objectStates.find((s) => s.id === id)?.objectId
  const named = [
    ...(shot.kind === 'travel' && shot.gaze.kind === 'object' ? [shot.gaze.objectId] : []),
    ...(shot.watchId === undefined ? [] : [shot.watchId]),
    ...(shot.kind === 'turntable' ? (shot.spins ?? []) : []),
    ...(shot.motions ?? []).flatMap((m) => stateOf(m.stateId) ?? []),
  ]
  return [...new Set(named.filter((id) => !isThere(id)))].map((id) => id.split('/').at(-1)!)
}
/** The same in a sentence; null where nothing is missing. */
export function missingText(shot: ShotPart, names: readonly string[]): string | null {
  if (names.length === 0) return null
  const list = names.slice(0, 3).map((n) => `“${n}”`).join(', ') + (names.length > 3 ? ' and more' : '') // prettier-ignore
  return `“${shot.name}” plays without ${list}: no model has ${names.length === 1 ? 'it' : 'them'} any more.`
}
