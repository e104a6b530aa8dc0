// How is a face with many corners, convex or not, cut into triangles?
// Model: the plane of the face by Newell's sum (right for faces that are not quite flat), the face laid on the axis plane it faces
// most, ears cut by a library. Triangles keep the sense of rotation of the face. Source: newell (Sutherland, Sproull, Schumacker).

import earcut from 'earcut'

/** Twice the area of a closed polygon, as a vector along its normal (Newell). `at` gives coordinate k of corner i. */
export function newell(count: number, at: (corner: number, k: number) => number): [number, number, number] {
  const n: [number, number, number] = [0, 0, 0]
  // about the first corner: far from the origin the products would swallow the area
  const o = [at(0, 0), at(0, 1), at(0, 2)]
  for (let i = 1; i + 1 < count; i++)
    for (let k = 0; k < 3; k++) {
      const [u, v] = [(k + 1) % 3, (k + 2) % 3]
      n[k]! += (at(i, u) - o[u]!) * (at(i + 1, v) - o[v]!) - (at(i, v) - o[v]!) * (at(i + 1, u) - o[u]!)
    }
  return n
}

/** Corner numbers of the triangles, three each; nothing for fewer than three corners. A face without area gives a fan. */
export function triangulate(count: number, at: (corner: number, k: number) => number): number[] {
  if (count < 3) return []
  if (count === 3) return [0, 1, 2]
  const n = newell(count, at)
  const most = [0, 1, 2].reduce((m, k) => (Math.abs(n[k]!) > Math.abs(n[m]!) ? k : m), 0)
  const fan = Array.from({ length: count - 2 }, (_, i) => [0, i + 1, i + 2]).flat()
  if (!(Math.abs(n[most]!) > 0)) return fan
  const [u, v] = [(most + 1) % 3, (most + 2) % 3]
  // seen so that the face turns to the left, whichever way it looks
  const sign = n[most]! > 0 ? 1 : -1
  if (isConvex(count, (i) => [at(i, u), at(i, v) * sign])) return fan
  const flat: number[] = []
  for (let i = 0; i < count; i++) flat.push(at(i, u) - at(0, u), (at(i, v) - at(0, v)) * sign)
  const cut = earcut(flat)
  if (cut.length === 0) return fan
  return turnedLeft(cut, flat)
}

function isConvex(count: number, at: (corner: number) => readonly [number, number]): boolean {
  let turns = 0
  for (let i = 0; i < count; i++) {
    const a = at(i)
    const b = at((i + 1) % count)
    const c = at((i + 2) % count)
    const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
    if (cross < 0) return false
    // a star turns left everywhere too, but more than once round
    turns += Math.abs(Math.atan2(cross, (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])))
  }
  return turns < 2.5 * Math.PI
}

/** The library's triangles turn either way; all are given the sense of the face. */
function turnedLeft(cut: readonly number[], flat: readonly number[]): number[] {
  const out: number[] = []
  for (let t = 0; t + 2 < cut.length; t += 3) {
    const [a, b, c] = [cut[t]!, cut[t + 1]!, cut[t + 2]!]
    const cross =
      (flat[b * 2]! - flat[a * 2]!) * (flat[c * 2 + 1]! - flat[a * 2 + 1]!) -
      (flat[b * 2 + 1]! - flat[a * 2 + 1]!) * (flat[c * 2]! - flat[a * 2]!)
    out.push(a, ...(cross < 0 ? [c, b] : [b, c]))
  }
  return out
}
