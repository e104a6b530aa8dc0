/** Takes every entry for which `goes` out of a description, however deep it lies; in place, without recursion. True when one went. Linear. */
export function stripped(root: unknown, goes: (key: string, value: unknown) => boolean): boolean {
  let any = false
  const open: unknown[] = [root]
  while (open.length > 0) {
    const value = open.pop()
    if (typeof value !== 'object' || value === null) continue
    for (const [k, v] of Object.entries(value))
      if (goes(k, v)) {
        delete (value as Record<string, unknown>)[k]
        any = true
      } else if (typeof v === 'object' && v !== null) open.push(v)
  }
  return any
}

/** What makers write beside a model may be of any depth; beyond this libraries that copy it run out of stack. */
const DEEPEST_EXTRAS = 20
/** Whether an entry is such a thing without a bottom. */
export function isBottomless(key: string, value: unknown): boolean {
  if (key !== 'extras') return false
  let level: unknown[] = [value]
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST_EXTRAS) return true
    level = level.flatMap((v) => (typeof v === 'object' && v !== null ? Object.values(v) : []))
  }
  return false
}
