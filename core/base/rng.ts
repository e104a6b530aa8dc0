// Where do repeatable "random" numbers come from?
// Model: mulberry32, a 32-bit mixing generator; the same seed gives the same sequence on every machine.

/** Returns a generator of numbers in [0, 1). */
export function seededRandom(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = a
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Halton sequence, element index (from 1) in the given prime base, in [0, 1). Source: halton1960. */
export function halton(index: number, base: number): number {
  let f = 1
  let r = 0
  for (let i = index; i > 0; i = Math.floor(i / base)) {
    f /= base
    r += f * (i % base)
  }
  return r
}
