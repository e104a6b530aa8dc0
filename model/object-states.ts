// Where do objects stand that have states, and how do states come and go?
// Model: a project keeps other placements of objects under names; a `visible` part names those that hold, so that viewpoints keep them. Worked
// in (`setupAsShown`), the part knows the placements themselves. Space: world metres.
import type { AimCentre } from '#core/camera'
import { movedPoint, type ObjectMoved, type ObjectPlace } from '#core/reel'
import type { PartValue } from './parts.ts'
import type { ObjectState } from './reel-schemas.ts'

type Visible = PartValue<'visible'>
const NONE: readonly ObjectPlace[] = []

export const placeOf = (s: ObjectState | undefined): ObjectPlace | null =>
  s ? { objectId: s.objectId, moveM: s.moveM, turnDeg: s.turnDeg, hinge: s.hinge } : null
const known = new WeakMap<readonly ObjectState[], Map<string, ObjectPlace>>()
/** Placements of the states that hold, one an object: of two the later one. The same values for the same states. */
export function placesOf(ids: readonly string[] | undefined, states: readonly ObjectState[]): readonly ObjectPlace[] {
  if (!ids?.length) return NONE
  let by = known.get(states)
  if (!by) known.set(states, (by = new Map(states.map((s) => [s.id, placeOf(s)!]))))
  const byObject = new Map<string, ObjectPlace>()
  for (const id of ids) {
    const place = by.get(id)
    if (place) byObject.set(place.objectId, place)
  }
  return byObject.size === 0 ? NONE : [...byObject.values()]
}

const placed = new WeakMap<Visible, readonly ObjectMoved[]>()
/** The part with its objects placed, whatever states it names; `movedOf` reads them again. */
export function withPlaces(visible: Visible, places: readonly ObjectMoved[]): Visible {
  const { states, ...rest } = visible
  if (!states && (places.length === 0 || placed.get(visible) === places)) return visible
  const made: Visible = rest
  placed.set(made, places)
  return made
}
/** Where objects' middles are with what stands elsewhere: `inFile` as their models have them. */
export const centresAmong = (inFile: AimCentre, moved: readonly ObjectMoved[]): AimCentre =>
  moved.length === 0
    ? inFile
    : (nodeId, offset) => {
        const point = inFile(nodeId, offset)
        return point && movedPoint(point, nodeId, moved)
      }
/** Objects that stand elsewhere in a part that was worked in. */
export const movedOf = (visible: Visible): readonly ObjectMoved[] => placed.get(visible) ?? NONE

/** With a state that holds, in the place of another one of its object; or with none of that object. */
export function withState(
  visible: Visible,
  states: readonly ObjectState[],
  objectId: string,
  stateId: string | null,
): Visible {
  const own = new Set(states.filter((s) => s.objectId === objectId).map((s) => s.id))
  const kept = (visible.states ?? []).filter((s) => !own.has(s))
  const next = stateId === null ? kept : [...kept, stateId]
  const { states: _, ...rest } = visible
  return next.length > 0 ? { ...rest, states: next } : rest
}
