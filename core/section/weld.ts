// Which corners of a mesh lie at the same place?
// Model: an open-addressing table over the bits of the coordinates. Linear.

/**
 * For each corner the first corner at exactly the same place (0 and -0 are the same); with `groups`, of the same group only.
 * `positions`: three numbers a corner.
 */
export function welded(positions: Float32Array | Float64Array, groups: Uint32Array | null = null): Int32Array {
  const n = positions.length / 3
  // both words of a 64-bit number take part in the hash
  const words = positions.BYTES_PER_ELEMENT / 4
  const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length * words)
  const size = 2 ** Math.ceil(Math.log2(Math.max(16, n * 1.6)))
  const table = new Int32Array(size).fill(-1)
  const first = new Int32Array(n)
  const mask = size - 1
  for (let i = 0; i < n; i++) {
    const group = groups ? groups[i]! : 0
    let h = Math.imul(group, 0x27d4eb2f)
    for (let k = 0; k < 3; k++) {
      const at = i * 3 + k
      // 0 and -0 are the same place, with different bits
      if (positions[at] === 0) continue
      const low = bits[at * words]!
      h = Math.imul(h ^ (words === 2 ? low ^ Math.imul(bits[at * 2 + 1]!, 0x165667b1) : low), 0x9e3779b1) + k
      h ^= h >>> 15
    }
    let at = h & mask
    for (;;) {
      const j = table[at]!
      if (j === -1) {
        table[at] = i
        first[i] = i
        break
      }
      if (
        positions[j * 3] === positions[i * 3] &&
        positions[j * 3 + 1] === positions[i * 3 + 1] &&
        positions[j * 3 + 2] === positions[i * 3 + 2] &&
        (!groups || groups[j] === group)
      ) {
        first[i] = j
        break
      }
      at = (at + 1) & mask
    }
  }
  return first
}
