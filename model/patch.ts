// What changed between two documents, as a patch (RFC 6902) made from identities.
// Model: what is the same value is not looked into. Lists of things with ids are matched by id, others by what stays the same at
// their ends; a general differ compares every pair and takes seconds. Applying copies along the paths only and leaves the rest shared.
// Source: rfc6902.

import { applyPatch as applyInPlace, type Operation } from 'rfc6902'
import { ok, refused, type Result } from '#core/base'
import { sameJson } from './parts.ts'

export type PatchOp =
  | { readonly op: 'add' | 'replace'; readonly path: string; readonly value: unknown }
  | { readonly op: 'remove'; readonly path: string }
export type Patch = readonly PatchOp[]

type Json = Record<string, unknown>
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)
const step = (path: string, key: string | number): string =>
  `${path}/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`
const idOf = (v: unknown): string | null => (isObject(v) && typeof v['id'] === 'string' ? v['id'] : null)

/** The patch that turns `before` into `after`. Linear in what changed and in the lengths of the lists it stands in. */
export function patchBetween(before: unknown, after: unknown): Patch {
  const ops: PatchOp[] = []
  between(before, after, '', ops)
  return ops
}

function between(a: unknown, b: unknown, path: string, ops: PatchOp[]): void {
  if (a === b) return
  if (isObject(a) && isObject(b)) {
    for (const k of Object.keys(a))
      if (a[k] !== undefined && b[k] === undefined) ops.push({ op: 'remove', path: step(path, k) })
    for (const k of Object.keys(b)) {
      if (b[k] === undefined) continue
      if (a[k] === undefined) ops.push({ op: 'add', path: step(path, k), value: b[k] })
      else between(a[k], b[k], step(path, k), ops)
    }
    return
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    listBetween(a, b, path, ops)
    return
  }
  if (!sameJson(a, b)) ops.push({ op: 'replace', path, value: b })
}

function listBetween(a: readonly unknown[], b: readonly unknown[], path: string, ops: PatchOp[]): void {
  const ids = b.map(idOf)
  if (
    b.length > 0 &&
    ids.every((id) => id !== null) &&
    a.every((v) => idOf(v) !== null) &&
    new Set(ids).size === ids.length
  )
    return byId(a, b, path, ops)
  // plain values: all of them
  if (![...a, ...b].some((v) => typeof v === 'object' && v !== null)) {
    if (!sameJson(a, b)) ops.push({ op: 'replace', path, value: b })
    return
  }
  return byEnds(a, b, path, ops)
}

/** Gone ones first, then each in its place: kept ones are looked into, moved ones are taken out and put in. */
function byId(a: readonly unknown[], b: readonly unknown[], path: string, ops: PatchOp[]): void {
  const wanted = new Set(b.map(idOf))
  const now: unknown[] = [...a]
  for (let i = now.length - 1; i >= 0; i--)
    if (!wanted.has(idOf(now[i]))) {
      ops.push({ op: 'remove', path: step(path, i) })
      now.splice(i, 1)
    }
  for (let i = 0; i < b.length; i++) {
    if (i < now.length && idOf(now[i]) === idOf(b[i])) {
      between(now[i], b[i], step(path, i), ops)
      continue
    }
    const from = now.findIndex((v, k) => k > i && idOf(v) === idOf(b[i]))
    if (from >= 0) {
      ops.push({ op: 'remove', path: step(path, from) })
      now.splice(from, 1)
    }
    ops.push({ op: 'add', path: step(path, i), value: b[i] })
    now.splice(i, 0, b[i])
  }
}

/** A trail: old steps go at its beginning, new ones come at its end; what lies between is the same. */
function byEnds(a: readonly unknown[], b: readonly unknown[], path: string, ops: PatchOp[]): void {
  const shift = shiftOf(a, b)
  for (let i = 0; i < shift; i++) ops.push({ op: 'remove', path: step(path, 0) })
  const kept = a.slice(shift)
  for (let i = kept.length - 1; i >= b.length; i--) ops.push({ op: 'remove', path: step(path, i) })
  for (let i = 0; i < b.length; i++)
    if (i < kept.length) between(kept[i], b[i], step(path, i), ops)
    else ops.push({ op: 'add', path: step(path, i), value: b[i] })
}
/** How many of the first have gone, judged by where the new first one stood. */
function shiftOf(a: readonly unknown[], b: readonly unknown[]): number {
  if (a.length === 0 || b.length === 0 || a[0] === b[0]) return 0
  const at = a.indexOf(b[0])
  return at > 0 ? at : 0
}

export type PatchReason = 'does-not-apply'
const OPS = new Set(['add', 'replace', 'remove'])

/** The patched value; what the patch does not touch is shared with `before`, which stays as it is. */
export function applyPatch<T extends object>(before: T, patch: Patch): Result<T, PatchReason> {
  const wrong = refused('does-not-apply', 'The change does not fit the saved version.')
  if (!patch.every((o) => OPS.has(o.op) && o.path.startsWith('/'))) return wrong
  const copies = new Set<unknown>()
  const root = copyOf(before, copies)
  for (const op of patch) {
    if (!openAlong(root, op.path, copies)) return wrong
    const [error] = applyInPlace(root, [op as Operation])
    if (error) return wrong
  }
  return ok(root)
}

const copyOf = <T extends object>(v: T, copies: Set<unknown>): T => {
  const made = (Array.isArray(v) ? [...(v as unknown[])] : { ...v }) as T
  copies.add(made)
  return made
}

/** Copies what lies on the way to a place, so that a change there touches nothing shared; false where there is no such way. */
function openAlong(root: object, path: string, copies: Set<unknown>): boolean {
  const keys = path
    .slice(1)
    .split('/')
    .map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~'))
  let at = root as Json
  for (const key of keys.slice(0, -1)) {
    if (!Object.hasOwn(at, key)) return false
    const next = at[key]
    if (typeof next !== 'object' || next === null) return false
    if (!copies.has(next)) at[key] = copyOf(next, copies)
    at = at[key] as Json
  }
  return keys.every((k) => k !== '__proto__' && k !== 'constructor' && k !== 'prototype')
}
