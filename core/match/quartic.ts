// Where is a polynomial of the fourth degree nought?
// Model: all four roots at once (Weierstrass, Durand and Kerner), those that are real polished by Newton's steps. Source: aberth1973.

/** Real roots of a + b x + c x2 + d x3 + e x4, smallest first; a double root once or twice. */
export function quarticRoots(a: number, b: number, c: number, d: number, e: number): number[] {
  const size = Math.max(Math.abs(a), Math.abs(b), Math.abs(c), Math.abs(d), Math.abs(e))
  if (!(size > 0) || !Number.isFinite(size)) return []
  // of a lower degree: roots grow past all bounds as the first coefficient goes
  if (Math.abs(e) < 1e-14 * size) e = 1e-14 * size * (e < 0 ? -1 : 1)
  const [p0, p1, p2, p3] = [a / e, b / e, c / e, d / e]
  const bound = 1 + Math.max(Math.abs(p0), Math.abs(p1), Math.abs(p2), Math.abs(p3))
  const radius = Math.min(bound, Math.max(Math.abs(p0) ** 0.25, Math.abs(p1) ** (1 / 3), Math.sqrt(Math.abs(p2)), Math.abs(p3)) || 1) // prettier-ignore
  const re = new Float64Array(4)
  const im = new Float64Array(4)
  for (let i = 0; i < 4; i++) {
    re[i] = radius * Math.cos(0.4 + (i * Math.PI) / 2)
    im[i] = radius * Math.sin(0.4 + (i * Math.PI) / 2)
  }
  for (let round = 0; round < 50; round++) if (improve(re, im, p0, p1, p2, p3) < 1e-10 * radius) break
  const f = (x: number): number => p0 + x * (p1 + x * (p2 + x * (p3 + x)))
  const slope = (x: number): number => p1 + x * (2 * p2 + x * (3 * p3 + x * 4))
  const found: number[] = []
  for (let i = 0; i < 4; i++) {
    if (Math.abs(im[i]!) > 1e-4 * Math.max(Math.abs(re[i]!), 1e-3 * radius)) continue
    let x = re[i]!
    for (let k = 0; k < 3; k++) {
      const next = x - f(x) / slope(x)
      if (Number.isFinite(next) && Math.abs(f(next)) < Math.abs(f(x))) x = next
    }
    found.push(x)
  }
  return found.sort((x, y) => x - y)
}
/** One round over the four roots; the largest change. */
function improve(re: Float64Array, im: Float64Array, p0: number, p1: number, p2: number, p3: number): number {
  let most = 0
  for (let i = 0; i < 4; i++) {
    const [x, y] = [re[i]!, im[i]!]
    // Horner
    let [fr, fi] = [x + p3, y]
    for (const p of [p2, p1, p0]) {
      const t = fr * x - fi * y + p
      fi = fr * y + fi * x
      fr = t
    }
    let [gr, gi] = [1, 0]
    for (let j = 0; j < 4; j++) {
      if (j === i) continue
      const [dx, dy] = [x - re[j]!, y - im[j]!]
      const t = gr * dx - gi * dy
      gi = gr * dy + gi * dx
      gr = t
    }
    const l = gr * gr + gi * gi || 1e-300
    const [sx, sy] = [(fr * gr + fi * gi) / l, (fi * gr - fr * gi) / l]
    re[i] = x - sx
    im[i] = y - sy
    most = Math.max(most, Math.abs(sx) + Math.abs(sy))
  }
  return most
}
