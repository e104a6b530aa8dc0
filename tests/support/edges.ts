// How upright is an edge in a picture? Sub-pixel edge places row by row, and a straight line through them.

export interface Grey {
  readonly width: number
  readonly height: number
  readonly at: (x: number, y: number) => number
}
export const greyOf = (p: { width: number; height: number; data: Uint8Array }): Grey => ({
  width: p.width,
  height: p.height,
  at: (x, y) => {
    const o = (y * p.width + x) * 4
    return 0.299 * p.data[o]! + 0.587 * p.data[o + 1]! + 0.114 * p.data[o + 2]!
  },
})

/**
 * Lean in degrees (+ = top leans right) of the strongest edge near x = `xAt(y)` between two rows; the place in each row is the
 * centre of gravity of the gradient within `reach` pixels; outlying rows are dropped twice. Null when too few rows show an edge.
 */
export function edgeLean(
  g: Grey,
  xAt: (y: number) => number,
  y0: number,
  y1: number,
  reach = 4,
): { leanDeg: number; rows: number } | null {
  let points: [number, number][] = []
  for (let y = Math.ceil(y0); y <= Math.floor(y1); y++) {
    const mid = Math.round(xAt(y))
    let weight = 0
    let sum = 0
    for (let x = mid - reach; x <= mid + reach; x++) {
      if (x < 1 || x > g.width - 2) continue
      const d = Math.abs(g.at(x + 1, y) - g.at(x - 1, y))
      weight += d * d
      sum += d * d * x
    }
    if (weight > 300) points.push([y, sum / weight])
  }
  let fit = { slope: 0, offset: 0 }
  for (let round = 0; round < 3; round++) {
    if (points.length < 20) return null
    fit = line(points)
    const off = (p: [number, number]): number => Math.abs(p[1] - fit.offset - fit.slope * p[0])
    const limit = 2 * points.map(off).sort((a, b) => a - b)[Math.floor(points.length / 2)]! + 0.02
    if (round < 2) points = points.filter((p) => off(p) <= limit)
  }
  // x grows downwards when the top leans left
  return { leanDeg: (Math.atan(-fit.slope) * 180) / Math.PI, rows: points.length }
}

function line(p: readonly (readonly [number, number])[]): { slope: number; offset: number } {
  const my = p.reduce((s, q) => s + q[0], 0) / p.length
  const mx = p.reduce((s, q) => s + q[1], 0) / p.length
  const slope = p.reduce((s, q) => s + (q[0] - my) * (q[1] - mx), 0) / p.reduce((s, q) => s + (q[0] - my) ** 2, 0)
  return { slope, offset: mx - slope * my }
}
