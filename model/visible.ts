// Which objects does a Setup hide, and how do hiding, showing and isolating change that?
// Model: a `visible` part hides objects one by one (`hidden`) and by named sets of the project (`sets`): both together are gone, each
// with all below it. Sets combine, and a viewpoint keeps which of them it hides: a set that is changed later changes in all of them.
// Showing a single thing that goes by a set, or by something above it, dissolves just that: the rest stays hidden, one by one.

import type { AimCentre } from '#core/camera'
import type { ObjectPlace } from '#core/reel'
import { cutAsShown } from './tied-cuts.ts'
import type { PartValue, Setup } from './parts.ts'
import { centresAmong, movedOf, placesOf, withPlaces } from './object-states.ts'
import type { ObjectState } from './reel-schemas.ts'
import type { ObjectSet, ProjectDocument } from './schema.ts'

export type Visible = PartValue<'visible'>
/** What is asked of an object: its id (a path of names) and what it is a part of. */
export interface TreeNode {
  readonly id: string
  readonly parentId: string | null
}
type Sets = readonly ObjectSet[]
const NO_SETS: Sets = []
/** What of a project a Setup's visible things refer to. */
export type OfProject = Pick<ProjectDocument, 'objectSets' | 'objectStates'>

/** In one form for the same meaning, so that equal things compare as equal. */
function formed(
  hidden: Iterable<string>,
  sets: readonly string[],
  { shadows, states }: Pick<Visible, 'shadows' | 'states'>,
): Visible {
  return {
    hidden: [...new Set(hidden)],
    ...(sets.length > 0 && { sets: [...new Set(sets)] }),
    ...(states && { states }),
    ...(shadows && { shadows }),
  }
}

const known = new WeakMap<Visible, { readonly sets: Sets; readonly plain: Visible }>()
/** The same with its sets worked in: all that is hidden stands in `hidden`. The same value for the same values. */
export function withSetsWorkedIn(visible: Visible, sets: Sets = NO_SETS): Visible {
  if (!visible.sets?.length) return visible
  const before = known.get(visible)
  if (before?.sets === sets) return before.plain
  const off = new Set(visible.sets)
  const gone = sets.filter((s) => off.has(s.id)).flatMap((s) => s.objects)
  const plain = formed([...visible.hidden, ...gone], [], visible)
  known.set(visible, { sets, plain })
  return plain
}
const knownPlaced = new WeakMap<Visible, { readonly places: readonly ObjectPlace[]; readonly made: Visible }>()
function withStatesWorkedIn(visible: Visible, states: readonly ObjectState[] = []): Visible {
  if (!visible.states?.length) return visible
  const places = placesOf(visible.states, states)
  const before = knownPlaced.get(visible)
  if (before && before.places.length === places.length && before.places.every((p, i) => p === places[i]))
    return before.made
  const made = withPlaces(visible, places)
  knownPlaced.set(visible, { places, made })
  return made
}
/** A part with its sets and states worked in. The same value for the same values. */
export function visibleAsShown(visible: Visible, of: OfProject | null | undefined): Visible {
  const hidden = withSetsWorkedIn(visible, of?.objectSets)
  const places = movedOf(visible)
  return places.length > 0 ? withPlaces(hidden, places) : withStatesWorkedIn(hidden, of?.objectStates)
}
const knownSetups = new WeakMap<Setup, Setup>()
/**
 * A Setup whose named sets are worked in and whose cuts lie where they are tied to: what is drawn, asked and compared in the picture.
 * The same value for the same values. `inFile`: where objects are as their models have them.
 */
export function setupAsShown(setup: Setup, of: OfProject | null | undefined, inFile?: AimCentre): Setup {
  const visible = visibleAsShown(setup.visible, of)
  const cut = cutAsShown(setup, inFile && centresAmong(inFile, movedOf(visible)))
  if (visible === setup.visible && cut === setup.cut) return setup
  const before = knownSetups.get(setup)
  if (before?.visible === visible && before.cut === cut) return before
  const made = { ...setup, visible, cut }
  knownSetups.set(setup, made)
  return made
}

/** Whether an object is hidden by one above it. */
export function isBelowHidden(id: string, hidden: ReadonlySet<string>): boolean {
  for (let at = id.lastIndexOf('/'); at > 0; at = id.lastIndexOf('/', at - 1))
    if (hidden.has(id.slice(0, at))) return true
  return false
}

/** With these objects hidden too. */
export const withHidden = (visible: Visible, ids: readonly string[]): Visible =>
  formed([...visible.hidden, ...ids], visible.sets ?? [], visible)

/** With these objects shown: no set and nothing above them hides them any more. What is hidden below them stays so. */
export function withShown(visible: Visible, sets: Sets, nodes: readonly TreeNode[], ids: readonly string[]): Visible {
  const wanted = new Set(ids)
  const hides = (list: readonly string[]): boolean =>
    list.some((id) => wanted.has(id) || ids.some((w) => w.startsWith(`${id}/`)))
  const off = sets.filter((s) => visible.sets?.includes(s.id))
  const dissolved = off.filter((s) => hides(s.objects))
  const hidden = new Set([...visible.hidden, ...dissolved.flatMap((s) => s.objects)])
  const children = byParent(nodes)
  for (const id of wanted) showOne(hidden, children, id)
  const rest = off.filter((s) => !dissolved.includes(s)).map((s) => s.id)
  return formed(hidden, rest, visible)
}
function byParent(nodes: readonly TreeNode[]): ReadonlyMap<string | null, readonly TreeNode[]> {
  const map = new Map<string | null, TreeNode[]>()
  for (const n of nodes) {
    const list = map.get(n.parentId)
    if (list) list.push(n)
    else map.set(n.parentId, [n])
  }
  return map
}
/** Takes one object out of what is hidden; what is hidden above it goes over to the other branches. */
function showOne(hidden: Set<string>, children: ReadonlyMap<string | null, readonly TreeNode[]>, id: string): void {
  hidden.delete(id)
  const above: string[] = []
  for (let at = id.lastIndexOf('/'); at > 0; at = id.lastIndexOf('/', at - 1)) above.unshift(id.slice(0, at))
  for (const [i, a] of above.entries()) {
    if (!hidden.delete(a)) continue
    const next = above[i + 1] ?? id
    for (const c of children.get(a) ?? []) if (c.id !== next) hidden.add(c.id)
    // the branch that leads on is hidden in its turn, until the thing itself is reached
    if (next !== id) hidden.add(next)
  }
}

/** With nothing shown but these objects, what they are parts of, and what is below them. */
export function isolated(visible: Visible, nodes: readonly TreeNode[], ids: readonly string[]): Visible {
  const wanted = new Set(ids)
  const hidden: string[] = []
  const above = new Set<string>()
  for (const id of ids) for (let at = id.lastIndexOf('/'); at > 0; at = id.lastIndexOf('/', at - 1)) above.add(id.slice(0, at)) // prettier-ignore
  for (const n of nodes) {
    const isTop = n.parentId === null || above.has(n.parentId)
    if (isTop && !wanted.has(n.id) && !above.has(n.id) && !isBelowHidden(n.id, wanted)) hidden.push(n.id)
  }
  return formed(hidden, [], visible)
}

/** With nothing hidden; the choice about shadows stays. */
export const allShown = (visible: Visible): Visible => formed([], [], visible)
/** With a set hidden as a whole, or shown. */
export function withSet(visible: Visible, id: string, hide: boolean): Visible {
  const rest = (visible.sets ?? []).filter((s) => s !== id)
  return formed(visible.hidden, hide ? [...rest, id] : rest, visible)
}
/** Whether what is hidden goes on casting the sun's shadow. */
export const withShadows = (visible: Visible, kept: boolean): Visible =>
  formed(visible.hidden, visible.sets ?? [], { shadows: kept ? 'kept' : undefined, states: visible.states })
/** Without a set: what it hid stays hidden, one by one. */
export function withoutSet(visible: Visible, set: ObjectSet): Visible {
  if (!visible.sets?.includes(set.id)) return visible
  return formed(
    [...visible.hidden, ...set.objects],
    visible.sets.filter((s) => s !== set.id),
    visible,
  )
}
