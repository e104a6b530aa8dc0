// How are long lists checked without letting a hostile one cost seconds?
// Model: the length is looked at first, and the first wrong item ends the checking. The schema library by itself checks every item
// and gathers a fault for each, which for millions of empty items takes seconds and gigabytes.

import { z } from 'zod'

/** A list of `least` to `most` items; the fault names the first wrong item only. */
export function list<S extends z.ZodType>(item: S, most: number, least = 0) {
  return z.unknown().transform((value, ctx): z.output<S>[] => {
    const fault = (message: string, path: PropertyKey[] = []): never => {
      ctx.issues.push({ code: 'custom', message, input: value, path })
      return z.NEVER
    }
    if (!Array.isArray(value)) return fault('Invalid input: expected a list')
    if (value.length > most) return fault(`Too big: at most ${most} are possible, these are ${value.length}`)
    if (value.length < least) return fault(`Too small: at least ${least} must be there`)
    const out: z.output<S>[] = []
    for (let i = 0; i < value.length; i++) {
      const r = item.safeParse(value[i])
      if (!r.success) {
        const issue = r.error.issues[0]
        return fault(issue?.message ?? 'Invalid input', [i, ...(issue?.path ?? [])])
      }
      out.push(r.data)
    }
    return out
  })
}

/** A list of names of 1 to `longest` letters, at most `most`. */
export function names(longest: number, most: number) {
  const sound = new WeakSet<object>()
  return z.unknown().transform((value, ctx): string[] => {
    // lists are shared by many framings: each is looked through once
    if (typeof value === 'object' && value !== null && sound.has(value)) return value as string[]
    const isName = (v: unknown): v is string => typeof v === 'string' && v.length >= 1 && v.length <= longest
    const fault = !Array.isArray(value) ? 'Invalid input: expected a list of names'
      : value.length > most ? `Too big: at most ${most} are possible, these are ${value.length}`
      : !value.every(isName) ? `Invalid input: names have 1 to ${longest} letters` : null // prettier-ignore
    if (fault === null) {
      sound.add(value as string[])
      return value as string[]
    }
    ctx.issues.push({ code: 'custom', message: fault, input: value })
    return z.NEVER
  })
}
