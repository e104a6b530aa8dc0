// Are two documents the same, without sending either?
// Model: a 106-bit sum of a JSON value that does not depend on the order of keys. Sums of objects are remembered by identity, so that
// a document of which a little changed costs a little. Not against forgery: it finds mistakes, the sender is trusted no further.
// Source: cyrb53 (public domain), two seeds; from memory.

const sums = new WeakMap<object, string>()

function mix(text: string, seed: number): number {
  let a = 0xdeadbeef ^ seed
  let b = 0x41c6ce57 ^ seed
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    a = Math.imul(a ^ c, 2654435761)
    b = Math.imul(b ^ c, 1597334677)
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909)
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909)
  return 4294967296 * (2097151 & b) + (a >>> 0)
}
const sumOf = (text: string): string => mix(text, 1).toString(36) + mix(text, 2).toString(36)

/** The sum of a JSON value; keys without a value count as absent, as in its text. Values must not change afterwards. */
export function fingerprint(value: unknown): string {
  if (typeof value === 'string') return sumOf(`s${value}`)
  // nought and its negative have one text
  if (typeof value === 'number') return `n${Object.is(value, -0) ? 0 : value}`
  if (typeof value !== 'object' || value === null) return String(value)
  const known = sums.get(value)
  if (known !== undefined) return known
  let text: string
  if (Array.isArray(value)) text = `[${value.map(fingerprint).join()}`
  else {
    const fields = value as Record<string, unknown>
    const keys = Object.keys(fields).filter((k) => fields[k] !== undefined)
    text = `{${keys
      .sort()
      .map((k) => `${k}:${fingerprint(fields[k])}`)
      .join()}`
  }
  const sum = sumOf(text)
  sums.set(value, sum)
  return sum
}
