// How does a document travel and rest, when many framings hide the same things?
// Model: in the page, framings that hide the same things share one list. On the wire and on disk each such list stands once, in
// `hiddenSets`, and is referred to by a name made of its content; so 500 viewpoints with 2,000 hidden names take the room of one.
// What did not change keeps its identity through packing, so that changes are found by identity.

import { fingerprint } from './fingerprint.ts'
import type { ProjectDocument } from './schema.ts'

type Json = Record<string, unknown>
/** A document whose `visible.hidden` are names of `hiddenSets`. */
export type PackedDocument = Json & { readonly hiddenSets: Readonly<Record<string, readonly string[]>> }

const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)

/** Calls `change` for every `visible` part of a document of either form; what it leaves as it is keeps its identity. */
function mapVisible(doc: Json, change: (visible: Json) => Json): Json {
  const inParts = <T>(parts: T): T => {
    if (!isObject(parts) || !isObject(parts['visible'])) return parts
    const next = change(parts['visible'])
    return next === parts['visible'] ? parts : ({ ...(parts as Json), visible: next } as T)
  }
  const inList = (list: unknown, key: string): unknown => {
    if (!Array.isArray(list)) return list
    const next = list.map((item: unknown) => {
      if (!isObject(item)) return item
      const inner = inParts(item[key])
      return inner === item[key] ? item : { ...item, [key]: inner }
    })
    return next.every((item, i) => item === list[i]) ? list : next
  }
  const fields = {
    working: inParts(doc['working']),
    settled: inParts(doc['settled']),
    viewpoints: inList(doc['viewpoints'], 'parts'),
    leftBehind: inList(doc['leftBehind'], 'setup'),
  }
  const same = (Object.keys(fields) as (keyof typeof fields)[]).every((k) => fields[k] === doc[k])
  return same ? doc : { ...doc, ...Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) }
}

const memo = new WeakMap<object, unknown>()
/** The result of a pure function of an object, worked out once. */
function once<T extends object, R>(key: T, work: () => R): R {
  if (!memo.has(key)) memo.set(key, work())
  return memo.get(key) as R
}
/** The name of a list of hidden things. */
const nameOf = (hidden: readonly string[]): string => `h${fingerprint(hidden)}`

/** The document as it travels and rests. Linear in the lengths of its lists; what was packed before is not packed again. */
export function packed(doc: ProjectDocument): PackedDocument {
  const sets: Record<string, readonly string[]> = {}
  const pack = (visible: Json): Json => {
    const hidden = visible['hidden'] as readonly string[]
    if (hidden.length === 0) return visible
    const name = nameOf(hidden)
    sets[name] ??= hidden
    return once(visible, () => ({ ...visible, hidden: name }))
  }
  const wrap = <T extends object>(item: T, work: () => T): T => {
    // also when known: its sets must be told
    const made = work()
    return once(item, () => made)
  }
  const inParts = <T extends object>(parts: T): T =>
    wrap(parts, () => {
      const { visible } = parts as { visible?: Json }
      const next = visible && pack(visible)
      return next === visible ? parts : { ...parts, visible: next }
    })
  return {
    ...doc,
    working: inParts(doc.working),
    settled: doc.settled && inParts(doc.settled),
    viewpoints: doc.viewpoints.map((v) =>
      wrap(v, () => {
        const parts = inParts(v.parts)
        return parts === v.parts ? v : { ...v, parts }
      }),
    ),
    leftBehind: doc.leftBehind.map((l) =>
      wrap(l, () => {
        const setup = inParts(l.setup)
        return setup === l.setup ? l : { ...l, setup }
      }),
    ),
    hiddenSets: sets,
  }
}

/** The same document with the lists themselves, shared; a name without a list stays, for the schema to refuse. */
export function unpacked(doc: Json): Json {
  const { hiddenSets, ...rest } = doc
  if (!isObject(hiddenSets)) return doc
  return mapVisible(rest, (visible) => {
    const name = visible['hidden']
    const list = typeof name === 'string' && Object.hasOwn(hiddenSets, name) ? hiddenSets[name] : undefined
    return list === undefined ? visible : { ...visible, hidden: list }
  })
}

interface Both {
  readonly document: ProjectDocument
  readonly packed: PackedDocument
}

/**
 * The document of a packed form that a patch made of `before`: what the patch did not touch is the very value of before. Null where a
 * list of hidden things itself was changed: then all of it has to be read anew.
 */
export function unpackedAfter(before: Both, made: PackedDocument): ProjectDocument | null {
  const sets = made.hiddenSets
  if (!isObject(sets)) return null
  for (const [name, list] of Object.entries(before.packed.hiddenSets))
    if (Object.hasOwn(sets, name) && sets[name] !== list) return null
  const visible = (v: unknown): unknown => {
    const name = isObject(v) ? v['hidden'] : undefined
    return typeof name === 'string' && Object.hasOwn(sets, name) ? { ...(v as Json), hidden: sets[name] } : v
  }
  const parts = (now: unknown, small: unknown, full: unknown): unknown => {
    if (now === small) return full
    if (!isObject(now) || now['visible'] === undefined) return now
    const same = isObject(small) && isObject(full) && now['visible'] === small['visible']
    return { ...now, visible: same ? full['visible'] : visible(now['visible']) }
  }
  const items = (key: 'viewpoints' | 'leftBehind', inner: 'parts' | 'setup'): unknown => {
    const now = made[key]
    const small = before.packed[key] as readonly unknown[]
    if (now === small) return before.document[key]
    if (!Array.isArray(now)) return now
    const full = new Map<unknown, unknown>(small.map((item, i) => [item, before.document[key][i]]))
    return now.map((item: unknown) => {
      if (full.has(item)) return full.get(item)
      if (!isObject(item) || !isObject(item[inner])) return item
      return { ...item, [inner]: parts(item[inner], null, null) }
    })
  }
  const { hiddenSets: _, ...rest } = made
  return {
    ...rest,
    working: parts(made['working'], before.packed['working'], before.document.working),
    settled: parts(made['settled'], before.packed['settled'], before.document.settled),
    viewpoints: items('viewpoints', 'parts'),
    leftBehind: items('leftBehind', 'setup'),
  } as unknown as ProjectDocument
}
