// Is an object hidden, or below one of some others?

/** Whether the object, or one it lies below, is among `ids`. */
export function isUnder(id: string, ids: ReadonlySet<string>): boolean {
  if (ids.size === 0) return false
  for (let at = id.length; at > 0; at = id.lastIndexOf('/', at - 1)) if (ids.has(id.slice(0, at))) return true
  return false
}
/** What is hidden is hidden with all below it. */
export const isHidden = isUnder
