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
const LEAST_GRADIENT = 2 / Math.sin(ANGLE)
/** Share of a rectangle that its region has to fill. */
const DENSITY = 0.7
const BUCKETS = 1024
/** Told as not there. */
const NONE = -10

const turned = (a: number, b: number): number => {
  let d = Math.abs(a - b)
  if (d > Math.PI) d = 2 * Math.PI - d
  return d
}

interface Field {
  readonly width: number
  readonly height: number
  /** Direction along the edge, radians; NONE where the picture is even. */
  readonly angle: Float32Array
  readonly norm: Float32Array
  /** Pixels from the steepest on. */
  readonly order: Uint32Array
}

function fieldOf({ width, height, data }: Grey): Field {
  const angle = new Float32Array(width * height).fill(NONE)
  const norm = new Float32Array(width * height)
  let most = 0
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const i = y * width + x
      const p = data[i + width + 1]! - data[i]!
      const q = data[i + 1]! - data[i + width]!
      const gx = (p + q) / 2
      const gy = (p - q) / 2
      const n = Math.sqrt(gx * gx + gy * gy)
      norm[i] = n
      if (n <= LEAST_GRADIENT) continue
      angle[i] = Math.atan2(gx, -gy)
      if (n > most) most = n
    }
  return { width, height, angle, norm, order: steepestFirst(norm, angle, most) }
}
function steepestFirst(norm: Float32Array, angle: Float32Array, most: number): Uint32Array {
  const counts = new Uint32Array(BUCKETS + 1)
  const bucket = (n: number): number => Math.min(BUCKETS - 1, Math.floor(((most - n) / Math.max(most, 1e-9)) * BUCKETS))
  let total = 0
  for (let i = 0; i < norm.length; i++)
    if (angle[i] !== NONE) {
      counts[bucket(norm[i]!) + 1]!++
      total++
    }
  for (let b = 1; b <= BUCKETS; b++) counts[b]! += counts[b - 1]!
  const order = new Uint32Array(total)
  for (let i = 0; i < norm.length; i++) if (angle[i] !== NONE) order[counts[bucket(norm[i]!)]!++] = i
  return order
}

interface Region {
  readonly pixels: number[]
  angle: number
}
/** Grows from a seed over neighbours that point its way; marks what it takes. */
function grown(f: Field, seed: number, used: Uint8Array, tolerance: number): Region {
  const { width, height, angle } = f
  const pixels = [seed]
  used[seed] = 1
  let mean = angle[seed]!
  let sx = Math.cos(mean)
  let sy = Math.sin(mean)
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!
    const x = i % width
    const y = (i - x) / width
    for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        const j = v * width + u
        const a = angle[j]!
        if (used[j] === 1 || a === NONE || turned(a, mean) > tolerance) continue
        used[j] = 1
        pixels.push(j)
        sx += Math.cos(a)
        sy += Math.sin(a)
        mean = Math.atan2(sy, sx)
      }
  }
  return { pixels, angle: mean }
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
function rectangleOf(f: Field, { pixels, angle }: Region): Rectangle {
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
  let along = 0.5 * Math.atan2(2 * xy, xx - yy)
  // two ways along: the region's
  if (turned(along, angle) > Math.PI / 2) along += along > 0 ? -Math.PI : Math.PI
  const dx = Math.cos(along)
  const dy = Math.sin(along)
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
function dense(f: Field, seed: number, region: Region, used: Uint8Array): { region: Region; rect: Rectangle } | null {
  let rect = rectangleOf(f, region)
  if (densityOf(rect, region.pixels.length) >= DENSITY) return { region, rect }
  // near the seed: how far do directions spread?
  const x0 = seed % f.width
  const y0 = (seed - x0) / f.width
  let sum = 0
  let n = 0
  for (const i of region.pixels) {
    used[i] = 0
    const x = i % f.width
    if (Math.hypot(x - x0, (i - x) / f.width - y0) >= rect.width) continue
    const d = turned(f.angle[i]!, f.angle[seed]!)
    sum += d * d
    n++
  }
  const again = grown(f, seed, used, Math.min(ANGLE, 2 * Math.sqrt(sum / Math.max(1, n))))
  if (again.pixels.length < 2) return null
  rect = rectangleOf(f, again)
  let radius = Math.max(Math.hypot(rect.from, 0), rect.to)
  let pixels = again.pixels
  while (densityOf(rect, pixels.length) < DENSITY) {
    radius *= 0.75
    const near: number[] = []
    for (const i of pixels) {
      const x = i % f.width
      if (Math.hypot(x - x0, (i - x) / f.width - y0) <= radius) near.push(i)
      else used[i] = 0
    }
    if (near.length < 2) return null
    pixels = near
    rect = rectangleOf(f, { pixels, angle: again.angle })
  }
  return { region: { pixels, angle: again.angle }, rect }
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
  const along = Math.atan2(r.dy, r.dx)
  const half = r.width / 2
  const ends = [
    [r.from, -half],
    [r.from, half],
    [r.to, -half],
    [r.to, half],
  ].map(([l, s]) => [r.x + l! * r.dx - s! * r.dy, r.y + l! * r.dy + s! * r.dx] as const)
  const least = (k: 0 | 1): number => Math.min(...ends.map((e) => e[k]))
  const most = (k: 0 | 1): number => Math.max(...ends.map((e) => e[k]))
  let n = 0
  let k = 0
  for (let y = Math.max(0, Math.ceil(least(1))); y <= Math.min(f.height - 1, Math.floor(most(1))); y++)
    for (let x = Math.max(0, Math.ceil(least(0))); x <= Math.min(f.width - 1, Math.floor(most(0))); x++) {
      const l = (x - r.x) * r.dx + (y - r.y) * r.dy
      const s = -(x - r.x) * r.dy + (y - r.y) * r.dx
      if (l < r.from || l > r.to || Math.abs(s) > half) continue
      n++
      const a = f.angle[y * f.width + x]!
      if (a !== NONE && turned(a, along) <= ANGLE) k++
    }
  return [n, k]
}

/** Straight edges, the longest first. */
export function findSegments(grey: Grey): FoundSegment[] {
  const { width, height } = grey
  if (width < 4 || height < 4) return []
  const f = fieldOf(grey)
  const used = new Uint8Array(width * height)
  const logTests = (5 * (Math.log10(width) + Math.log10(height))) / 2 + Math.log10(11)
  const p = ANGLE / Math.PI
  const least = Math.ceil(-logTests / Math.log10(p))
  const found: FoundSegment[] = []
  for (const seed of f.order) {
    if (used[seed] === 1) continue
    const region = grown(f, seed, used, ANGLE)
    if (region.pixels.length < least) continue
    const kept = dense(f, seed, region, used)
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
