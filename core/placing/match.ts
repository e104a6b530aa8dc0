// Which object of a newer file is which object of the older one?
// Model: the same path is the same object. What is left is matched by its name, where one object of that name is left on each
// side; then by its name below an object matched already. Everything else is gone or new. Linear in the number of objects.

export interface NamedNode {
  readonly id: string
  readonly name: string
}
export interface NodeMatch {
  /** Objects found under another path: old id -> new id. */
  readonly moved: ReadonlyMap<string, string>
  readonly gone: readonly string[]
  readonly added: readonly string[]
  readonly kept: number
}

const parentOf = (id: string): string => id.slice(0, Math.max(0, id.lastIndexOf('/')))

export function matchNodes(before: readonly NamedNode[], after: readonly NamedNode[]): NodeMatch {
  const ids = new Set(after.map((n) => n.id))
  const had = new Set(before.map((n) => n.id))
  let old = before.filter((n) => !ids.has(n.id))
  let fresh = after.filter((n) => !had.has(n.id))
  const kept = before.length - old.length
  const moved = new Map<string, string>()
  const pass = (oldKey: (n: NamedNode) => string | null, newKey: (n: NamedNode) => string): void => {
    const single = (
      list: readonly NamedNode[],
      key: (n: NamedNode) => string | null,
    ): Map<string, NamedNode | null> => {
      const found = new Map<string, NamedNode | null>()
      for (const n of list) {
        const k = key(n)
        if (k !== null) found.set(k, found.has(k) ? null : n)
      }
      return found
    }
    const olds = single(old, oldKey)
    const news = single(fresh, newKey)
    for (const [k, n] of olds) {
      const m = news.get(k)
      if (n && m) moved.set(n.id, m.id)
    }
    const taken = new Set(moved.values())
    old = old.filter((n) => !moved.has(n.id))
    fresh = fresh.filter((n) => !taken.has(n.id))
  }
  pass(
    (n) => n.name,
    (n) => n.name,
  )
  // equal names below a parent that was found elsewhere, level by level
  for (let size = -1; size !== moved.size;) {
    size = moved.size
    pass(
      (n) => {
        const parent = parentOf(n.id)
        const now = moved.get(parent) ?? (ids.has(parent) ? parent : null)
        return now === null ? null : `${now}/${n.id.slice(parent.length + 1)}`
      },
      (n) => n.id,
    )
  }
  return { moved, gone: old.map((n) => n.id), added: fresh.map((n) => n.id), kept }
}
