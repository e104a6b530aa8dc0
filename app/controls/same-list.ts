// Watching several values by one getter: a list made anew at each look counts as a change, whether or not anything in it is one.

/** The list of before as long as everything in it is the same. */
export function sameList<T extends readonly unknown[]>(list: () => T): () => T {
  let before: T | null = null
  return () => {
    const now = list()
    const isSame = before?.length === now.length && now.every((v, i) => Object.is(v, before![i]))
    return isSame ? before! : (before = now)
  }
}
