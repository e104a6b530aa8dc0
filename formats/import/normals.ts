// Normals that are always numbers of length one.

/** The direction of a vector of any length; straight up where it has none. */
export function unit(x: number, y: number, z: number): [number, number, number] {
  const l = Math.hypot(x, y, z)
  return l > 0 && Number.isFinite(l) ? [x / l, y / l, z / l] : [0, 0, 1]
}

/** A normal for each corner, weighted by the areas of the faces around it; straight up where they have none. */
export function cornerNormals(positions: Float32Array, indices: Uint32Array | null): Float32Array {
  const out = new Float32Array(positions.length)
  const n = indices?.length ?? positions.length / 3
  for (let t = 0; t + 2 < n; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => (indices ? indices[t + k]! : t + k) * 3) as [number, number, number]
    const ux = positions[b]! - positions[a]!, uy = positions[b + 1]! - positions[a + 1]!, uz = positions[b + 2]! - positions[a + 2]! // prettier-ignore
    const vx = positions[c]! - positions[a]!, vy = positions[c + 1]! - positions[a + 1]!, vz = positions[c + 2]! - positions[a + 2]! // prettier-ignore
    const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx // prettier-ignore
    for (const at of [a, b, c]) {
      out[at] = out[at]! + nx
      out[at + 1] = out[at + 1]! + ny
      out[at + 2] = out[at + 2]! + nz
    }
  }
  for (let i = 0; i < out.length; i += 3) out.set(unit(out[i]!, out[i + 1]!, out[i + 2]!), i)
  return out
}

/** Whether all are of length one, or near it. */
export function areSound(normals: Float32Array): boolean {
  for (let i = 0; i < normals.length; i += 3) {
    const l = normals[i]! ** 2 + normals[i + 1]! ** 2 + normals[i + 2]! ** 2
    if (!(l > 0.5 && l < 2)) return false
  }
  return true
}
