// Loops that cannot touch each other are worked out apart: their boxes tell.

export interface LoopBox {
  readonly loop: Float64Array
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
}

export function boxed(loop: Float64Array): LoopBox {
  let x0 = Infinity
  let y0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  for (let i = 0; i < loop.length; i += 2) {
    const x = loop[i]!
    const y = loop[i + 1]!
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
  }
  return { loop, x0, y0, x1, y1 }
}

/** Groups of loops whose boxes come within `hair` of each other, directly or through others. n log n, and linear in the meetings. */
export function clusters(boxes: readonly LoopBox[], hair: number): LoopBox[][] {
  const n = boxes.length
  const order = Array.from({ length: n }, (_, i) => i).sort((i, j) => boxes[i]!.x0 - boxes[j]!.x0)
  const parent = Array.from({ length: n }, (_, i) => i)
  const root = (i: number): number => {
    let at = i
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!
    return at
  }
  const active: number[] = []
  for (const i of order) {
    const b = boxes[i]!
    let kept = 0
    for (let k = 0; k < active.length; k++) {
      const a = boxes[active[k]!]!
      if (a.x1 < b.x0 - hair) continue
      if (a.y0 <= b.y1 + hair && b.y0 <= a.y1 + hair) parent[root(active[k]!)] = root(i)
      active[kept++] = active[k]!
    }
    active.length = kept
    active.push(i)
  }
  const groups = new Map<number, LoopBox[]>()
  for (let i = 0; i < n; i++) {
    const r = root(i)
    const known = groups.get(r)
    if (known) known.push(boxes[i]!)
    else groups.set(r, [boxes[i]!])
  }
  return [...groups.values()]
}

/**
 * A convex loop counterclockwise, without the points on its straight sides: it fills what it goes round. Null for any other loop.
 */
export function convexContour({ loop, x0, y0, x1, y1 }: LoopBox): Float64Array | null {
  const n = loop.length / 2
  if (n < 3) return null
  const straight = (x1 - x0 + y1 - y0) ** 2 * 1e-12
  const same = (x1 - x0 + y1 - y0) * 1e-10
  const kept: number[] = []
  let sign = 0
  let turns = 0
  let way = 0
  // from the last point that is not the first again
  let last = n - 1
  while (last > 0 && Math.abs(loop[last * 2]! - loop[0]!) <= same && Math.abs(loop[last * 2 + 1]! - loop[1]!) <= same)
    last--
  let [px, py] = [loop[last * 2]!, loop[last * 2 + 1]!]
  for (let i = 0; i <= last; i++) {
    const [x, y] = [loop[i * 2]!, loop[i * 2 + 1]!]
    // a point there twice, but for rounding, counts once
    if (Math.abs(x - px) <= same && Math.abs(y - py) <= same) continue
    let k = i
    do k = k + 1 === n ? 0 : k + 1
    while (k !== i && Math.abs(loop[k * 2]! - x) <= same && Math.abs(loop[k * 2 + 1]! - y) <= same)
    const [qx, qy] = [loop[k * 2]!, loop[k * 2 + 1]!]
    const [ux, uy, vx, vy] = [x - px, y - py, qx - x, qy - y]
    const cross = ux * vy - uy * vx
    if (Math.abs(cross) <= straight) {
      // straight on; back the way it came is another matter
      if (ux * vx + uy * vy < 0) return null
      continue
    }
    if (sign === 0) sign = Math.sign(cross)
    else if (Math.sign(cross) !== sign) return null
    kept.push(x, y)
    // the way to the right and to the left take turns twice in one round
    const s = Math.sign(vx)
    if (s !== 0 && way !== 0 && s !== way) turns++
    if (s !== 0) way = s
    px = x
    py = y
  }
  if (turns > 2 || kept.length < 6) return null
  if (sign > 0) return Float64Array.from(kept)
  const turned = new Float64Array(kept.length)
  for (let i = 0; i < kept.length; i += 2) {
    turned[i] = kept[kept.length - 2 - i]!
    turned[i + 1] = kept[kept.length - 1 - i]!
  }
  return turned
}
