// Which straight edges does a photograph show?
// Model: regions of pixels whose gradients point the same way, as rectangles, kept where chance would not make one of them in a picture
// of noise. Deterministic. Cost: linear in the pixels. Source: gioi2010 (LSD: a Fast Line Segment Detector with a False Detection
// Control). Space: picture pixels from the top left corner, y down, the first pixel's middle at (0.5, 0.5).

/** Brightness, 0..255, rows from the top. */
export interface Grey {
  readonly width: number
  readonly height: number
  readonly data: Uint8Array | Uint8ClampedArray | Float32Array
}
export interface FoundSegment {
  readonly a: readonly [number, number]
  readonly b: readonly [number, number]
  readonly lengthPx: number
}

/** Directions within this belong together (the paper's), and by how much noise of two grey levels turns a gradient less. */
const ANGLE = Math.PI / 8
const COSINE = Math.cos(ANGLE)
const LEAST_GRADIENT = 2 / Math.sin(ANGLE)
/** Share of a rectangle that its region has to fill. */
const DENSITY = 0.7
const BUCKETS = 1024
/** A pixel that has no direction: the picture is even there. */
const EVEN = 2

/** Half a bell of 0.75 pixels: stairs of slanted edges would break them into pieces (the paper scales down for it). */
const BELL = ((sigma: number): number[] => {
  const w = [0, 1, 2, 3].map((x) => Math.exp((-x * x) / (2 * sigma * sigma)))
  const sum = w.reduce((s, v, i) => s + (i === 0 ? v : 2 * v), 0)
  return w.map((v) => v / sum)
})(0.75)
/** One way at a time; at the sides the last pixel goes on. */
function softened({ width, height, data }: Grey): Float32Array {
  const across = new Float32Array(width * height)
  const out = new Float32Array(width * height)
  const [w0, w1, w2, w3] = BELL as [number, number, number, number]
  for (let y = 0; y < height; y++) {
    const row = y * width
    const at = (x: number): number => data[row + Math.min(width - 1, Math.max(0, x))]!
    const slow = (x: number): void => {
      across[row + x] = w0 * at(x) + w1 * (at(x - 1) + at(x + 1)) + w2 * (at(x - 2) + at(x + 2)) + w3 * (at(x - 3) + at(x + 3)) // prettier-ignore
    }
    for (let x = 0; x < Math.min(3, width); x++) slow(x)
    for (let x = 3, i = row + 3; x < width - 3; x++, i++)
      across[i] = w0 * data[i]! + w1 * (data[i - 1]! + data[i + 1]!) + w2 * (data[i - 2]! + data[i + 2]!) + w3 * (data[i - 3]! + data[i + 3]!) // prettier-ignore
    for (let x = Math.max(3, width - 3); x < width; x++) slow(x)
  }
  for (let y = 0; y < height; y++) {
    const row = (v: number): number => Math.min(height - 1, Math.max(0, v)) * width
    const [r0, a1, b1, a2, b2, a3, b3] = [row(y), row(y - 1), row(y + 1), row(y - 2), row(y + 2), row(y - 3), row(y + 3)] as const // prettier-ignore
    for (let x = 0; x < width; x++)
      out[r0 + x] = w0 * across[r0 + x]! + w1 * (across[a1 + x]! + across[b1 + x]!) + w2 * (across[a2 + x]! + across[b2 + x]!) + w3 * (across[a3 + x]! + across[b3 + x]!) // prettier-ignore
  }
  return out
}

interface Field {
  readonly width: number
  readonly height: number
  /** Unit direction along the edge; nought where the picture is even. */
  readonly ux: Float32Array
  readonly uy: Float32Array
  readonly norm: Float32Array
  /** 0: free, 1: taken, EVEN. */
  readonly used: Uint8Array
  /** Pixels from the steepest on. */
  readonly order: Uint32Array
}

function fieldOf(grey: Grey): Field {
  const { width, height } = grey
  const data = softened(grey)
  const ux = new Float32Array(width * height)
  const uy = new Float32Array(width * height)
  const norm = new Float32Array(width * height)
  const used = new Uint8Array(width * height).fill(EVEN)
  let most = 0
  for (let y = 0; y < height - 1; y++)
    for (let x = 0, i = y * width; x < width - 1; x++, i++) {
      const p = data[i + width + 1]! - data[i]!
      const q = data[i + 1]! - data[i + width]!
      const gx = (p + q) / 2
      const gy = (p - q) / 2
      const n = Math.sqrt(gx * gx + gy * gy)
      norm[i] = n
      if (n <= LEAST_GRADIENT) continue
      ux[i] = -gy / n
      uy[i] = gx / n
      used[i] = 0
      if (n > most) most = n
    }
  return { width, height, ux, uy, norm, used, order: steepestFirst(norm, used, most) }
}
function steepestFirst(norm: Float32Array, used: Uint8Array, most: number): Uint32Array {
  const counts = new Uint32Array(BUCKETS + 1)
  const k = BUCKETS / Math.max(most, 1e-9)
  const bucket = (n: number): number => Math.min(BUCKETS - 1, ((most - n) * k) | 0)
  let total = 0
  for (let i = 0; i < norm.length; i++)
    if (used[i] === 0) {
      counts[bucket(norm[i]!) + 1]!++
      total++
    }
  for (let b = 1; b <= BUCKETS; b++) counts[b]! += counts[b - 1]!
  const order = new Uint32Array(total)
  for (let i = 0; i < norm.length; i++) if (used[i] === 0) order[counts[bucket(norm[i]!)]!++] = i
  return order
}

interface Region {
  readonly pixels: number[]
  /** Along it, unit length. */
  readonly dx: number
  readonly dy: number
}
/** Grows from a seed over neighbours that point its way, within an angle's cosine; marks what it takes. */
function grown({ width, height, ux, uy, used }: Field, seed: number, cosine: number): Region {
  const pixels = [seed]
  used[seed] = 1
  let sx = ux[seed]!
  let sy = uy[seed]!
  // the cosine times the length of the sum
  let wanted = cosine
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!
    const y = (i / width) | 0
    const x = i - y * width
    const [left, right] = [x > 0 ? -1 : 0, x < width - 1 ? 1 : 0]
    for (let v = y > 0 ? -1 : 0; v <= (y < height - 1 ? 1 : 0); v++)
      for (let j = i + v * width + left; j <= i + v * width + right; j++) {
        if (used[j] !== 0 || sx * ux[j]! + sy * uy[j]! < wanted) continue
        used[j] = 1
        pixels.push(j)
        sx += ux[j]!
        sy += uy[j]!
        wanted = cosine * Math.sqrt(sx * sx + sy * sy)
      }
  }
  const n = Math.sqrt(sx * sx + sy * sy)
  return { pixels, dx: sx / n, dy: sy / n }
}

interface Rectangle {
  readonly x: number
  readonly y: number
  /** Along it. */
  readonly dx: number
  readonly dy: number
  readonly from: number
  readonly to: number
  readonly width: number
}
/** The rectangle round a region: centre and direction by its weights. */
function rectangleOf(f: Field, { pixels, dx: rx, dy: ry }: Region): Rectangle {
  let sum = 0
  let cx = 0
  let cy = 0
  for (const i of pixels) {
    const w = f.norm[i]!
    const x = i % f.width
    cx += w * x
    cy += (w * (i - x)) / f.width
    sum += w
  }
  cx /= sum
  cy /= sum
  let xx = 0
  let yy = 0
  let xy = 0
  for (const i of pixels) {
    const w = f.norm[i]!
    const x = (i % f.width) - cx
    const y = Math.floor(i / f.width) - cy
    xx += w * x * x
    yy += w * y * y
    xy += w * x * y
  }
  const along = 0.5 * Math.atan2(2 * xy, xx - yy)
  // two ways along: the region's
  const way = Math.cos(along) * rx + Math.sin(along) * ry < 0 ? -1 : 1
  const dx = way * Math.cos(along)
  const dy = way * Math.sin(along)
  let [from, to, left, right] = [0, 0, 0, 0]
  for (const i of pixels) {
    const x = (i % f.width) - cx
    const y = Math.floor(i / f.width) - cy
    const l = x * dx + y * dy
    const s = -x * dy + y * dx
    if (l < from) from = l
    if (l > to) to = l
    if (s < left) left = s
    if (s > right) right = s
  }
  return { x: cx, y: cy, dx, dy, from, to, width: Math.max(1, right - left) }
}
const lengthOf = (r: Rectangle): number => r.to - r.from
const densityOf = (r: Rectangle, n: number): number => n / Math.max(1, lengthOf(r) * r.width)

/** A region that fills its rectangle: grown anew by its own spread of directions, then cut off at the far ends; null where none is left. */
function dense(f: Field, seed: number, region: Region): { region: Region; rect: Rectangle } | null {
  let rect = rectangleOf(f, region)
  if (densityOf(rect, region.pixels.length) >= DENSITY) return { region, rect }
  // near the seed: how far do directions spread?
  const x0 = seed % f.width
  const y0 = (seed - x0) / f.width
  let sum = 0
  let n = 0
  for (const i of region.pixels) {
    f.used[i] = 0
    const x = i % f.width
    if (Math.hypot(x - x0, (i - x) / f.width - y0) >= rect.width) continue
    const d = Math.acos(Math.max(-1, Math.min(1, f.ux[i]! * f.ux[seed]! + f.uy[i]! * f.uy[seed]!)))
    sum += d * d
    n++
  }
  const again = grown(f, seed, Math.cos(Math.min(ANGLE, 2 * Math.sqrt(sum / Math.max(1, n)))))
  if (again.pixels.length < 2) return null
  rect = rectangleOf(f, again)
  let radius = Math.max(-rect.from, rect.to)
  let pixels = again.pixels
  while (densityOf(rect, pixels.length) < DENSITY) {
    radius *= 0.75
    const near: number[] = []
    for (const i of pixels) {
      const x = i % f.width
      if (Math.hypot(x - x0, (i - x) / f.width - y0) <= radius) near.push(i)
      else f.used[i] = 0
    }
    if (near.length < 2) return null
    pixels = near
    rect = rectangleOf(f, { ...again, pixels })
  }
  return { region: { ...again, pixels }, rect }
}

/** Logarithm of the factorial, by Stirling's series from ten on. */
function logFactorial(n: number): number {
  if (n < 10) {
    let s = 0
    for (let i = 2; i <= n; i++) s += Math.log(i)
    return s
  }
  const x = n + 1
  return (x - 0.5) * Math.log(x) - x + 0.9189385332046727 + 1 / (12 * x) - 1 / (360 * x ** 3)
}
/** -log10 of how many such alignments noise would have: k of n pixels that point within a part p. */
function meaning(n: number, k: number, p: number, logTests: number): number {
  if (n === 0 || k === 0) return -logTests
  if (k >= n) return -logTests - n * Math.log10(p)
  const first = logFactorial(n) - logFactorial(k) - logFactorial(n - k) + k * Math.log(p) + (n - k) * Math.log(1 - p)
  let term = Math.exp(first)
  if (term === 0) return k > n * p ? -first / Math.LN10 - logTests : -logTests
  let tail = term
  for (let i = k + 1; i <= n; i++) {
    term *= ((n - i + 1) / i) * (p / (1 - p))
    tail += term
    if (term < 1e-3 * tail && i > n * p) break
  }
  return -Math.log10(tail) - logTests
}
/** Pixels in a rectangle, and those of them that point along it. */
function counted(f: Field, r: Rectangle): readonly [number, number] {
  const half = r.width / 2
  // by rows, or by columns where it is upright: what lies across it is a few pixels
  const isFlat = Math.abs(r.dx) >= Math.abs(r.dy)
  const [lx, ly] = [r.x + r.from * r.dx, r.y + r.from * r.dy]
  const [hx, hy] = [r.x + r.to * r.dx, r.y + r.to * r.dy]
  const reach = half + 1
  const [u0, u1] = isFlat ? [Math.min(lx, hx), Math.max(lx, hx)] : [Math.min(ly, hy), Math.max(ly, hy)]
  const slope = isFlat ? r.dy / r.dx : r.dx / r.dy
  const across = reach * Math.sqrt(1 + slope * slope)
  const [uMost, vMost] = isFlat ? [f.width - 1, f.height - 1] : [f.height - 1, f.width - 1]
  let n = 0
  let k = 0
  for (let u = Math.max(0, Math.floor(u0 - half)); u <= Math.min(uMost, Math.ceil(u1 + half)); u++) {
    const v = isFlat ? r.y + (u - r.x) * slope : r.x + (u - r.y) * slope
    for (let w = Math.max(0, Math.ceil(v - across)); w <= Math.min(vMost, Math.floor(v + across)); w++) {
      const [x, y] = isFlat ? [u, w] : [w, u]
      const l = (x - r.x) * r.dx + (y - r.y) * r.dy
      const s = -(x - r.x) * r.dy + (y - r.y) * r.dx
      if (l < r.from || l > r.to || Math.abs(s) > half) continue
      n++
      const i = y * f.width + x
      if (f.used[i] !== EVEN && f.ux[i]! * r.dx + f.uy[i]! * r.dy >= COSINE) k++
    }
  }
  return [n, k]
}

/** Straight edges, the longest first. */
export function findSegments(grey: Grey): FoundSegment[] {
  const { width, height } = grey
  if (width < 4 || height < 4) return []
  const f = fieldOf(grey)
  const logTests = (5 * (Math.log10(width) + Math.log10(height))) / 2 + Math.log10(11)
  const p = ANGLE / Math.PI
  const least = Math.ceil(-logTests / Math.log10(p))
  const found: FoundSegment[] = []
  for (const seed of f.order) {
    if (f.used[seed] !== 0) continue
    const region = grown(f, seed, COSINE)
    if (region.pixels.length < least) continue
    const kept = dense(f, seed, region)
    if (!kept || kept.region.pixels.length < least) continue
    const { rect } = kept
    const [n, k] = counted(f, rect)
    if (meaning(n, k, p, logTests) <= 0) continue
    // gradients stand in the middle of four pixels: a pixel from the corner of the first
    const at = (l: number): readonly [number, number] => [rect.x + l * rect.dx + 1, rect.y + l * rect.dy + 1]
    found.push({ a: at(rect.from), b: at(rect.to), lengthPx: lengthOf(rect) })
  }
  return found.sort((s, t) => t.lengthPx - s.lengthPx)
}
