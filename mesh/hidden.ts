// Is an object hidden, or below one of some others?

import type { Shown } from '#core/section'

/** Whether the object, or one it lies below, is among `ids`. */
export function isUnder(id: string, ids: ReadonlySet<string>): boolean {
  if (ids.size === 0) return false
  for (let at = id.length; at > 0; at = id.lastIndexOf('/', at - 1)) if (ids.has(id.slice(0, at))) return true
  return false
}
/** What is hidden is hidden with all below it. */
export const isHidden = isUnder

const wholes = new WeakMap<Shown, ReadonlySet<string>>()
/** The ids of what no cut takes anything from, as a set; made once. */
export function wholeOf(shown: Shown): ReadonlySet<string> {
  let set = wholes.get(shown)
  if (!set) wholes.set(shown, (set = new Set(shown.cuts.whole ?? [])))
  return set
}
const sets = new WeakMap<Shown, ReadonlySet<string>>()
/** The hidden ids of what is shown, as a set; made once. */
export function hiddenOf(shown: Shown): ReadonlySet<string> {
  let set = sets.get(shown)
  if (!set) sets.set(shown, (set = new Set(shown.hidden)))
  return set
}
