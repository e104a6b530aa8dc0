// Which surfaces shine by themselves, and how much light do they send to a place?
// Model: places on shining triangles, chosen as often as they send light; each is looked at from the place. Rays in all directions would
// meet a small lamp now and then and be far too bright when they do. Radiance cd/m2, illuminance lux. Source: shirley1996.

import { halton } from '#core/base'
import type { Vec3 } from '#core/math'
import type { Soup } from './types.ts'

interface Triangle {
  readonly a: Vec3
  readonly ab: Vec3
  readonly ac: Vec3
  readonly normal: Vec3
  /** Its light by channel over their mean. */
  readonly tint: Vec3
}
/** What a place receives from one place of an emitter: from where, and how many lux by channel if nothing is between. */
export interface Look {
  readonly to: Vec3
  readonly direction: Vec3
  readonly awayM: number
  readonly lux: Vec3
}

export class Emitters {
  private readonly triangles: Triangle[] = []
  /** Sums of area times mean radiance. */
  private readonly sums: number[] = []
  private total = 0

  constructor({ positions, indices, emission }: Pick<Soup, 'positions' | 'indices' | 'emission'>) {
    if (emission.length === 0) return
    for (let i = 0; i + 2 < indices.length; i += 3) {
      const [p, q, r] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3] as const
      const light: Vec3 = [emission[p]!, emission[p + 1]!, emission[p + 2]!]
      const mean = (light[0] + light[1] + light[2]) / 3
      if (!(mean > 0)) continue
      const [a, b, c] = [p, q, r].map((o): Vec3 => [positions[o]!, positions[o + 1]!, positions[o + 2]!]) as [Vec3, Vec3, Vec3] // prettier-ignore
      const ab: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
      const ac: Vec3 = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
      const n: Vec3 = [ab[1] * ac[2] - ab[2] * ac[1], ab[2] * ac[0] - ab[0] * ac[2], ab[0] * ac[1] - ab[1] * ac[0]]
      const double = Math.hypot(...n)
      if (!(double > 0)) continue
      this.total += (double / 2) * mean
      this.sums.push(this.total)
      const normal: Vec3 = [n[0] / double, n[1] / double, n[2] / double]
      this.triangles.push({ a, ab, ac, normal, tint: [light[0] / mean, light[1] / mean, light[2] / mean] })
    }
  }
  get isAny(): boolean {
    return this.triangles.length > 0
  }

  /** `n` looks from a place at the emitters; together their lux are what it receives. Nearer than `leastM` counts as that far. */
  looks(from: Vec3, n: number, spin: number, leastM: number): Look[] {
    return Array.from({ length: this.isAny ? n : 0 }, (_, i) => {
      const t = this.triangles[this.at(((i + spin) / n) * this.total)]!
      const root = Math.sqrt(halton(i + 1, 2))
      const [u, v] = [1 - root, root * halton(i + 1, 3)]
      const to = [0, 1, 2].map((k) => t.a[k]! + u * t.ab[k]! + v * t.ac[k]!) as unknown as Vec3
      const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]]
      const awayM = Math.hypot(...way)
      const direction: Vec3 = [way[0] / awayM, way[1] / awayM, way[2] / awayM]
      const cos = Math.max(0, -(direction[0] * t.normal[0] + direction[1] * t.normal[1] + direction[2] * t.normal[2]))
      const lux = (this.total * cos) / Math.max(awayM, leastM) ** 2 / n
      return { to, direction, awayM, lux: [lux * t.tint[0], lux * t.tint[1], lux * t.tint[2]] }
    })
  }
  private at(sum: number): number {
    let [low, high] = [0, this.sums.length - 1]
    while (low < high) {
      const mid = (low + high) >> 1
      if (this.sums[mid]! > sum) high = mid
      else low = mid + 1
    }
    return low
  }
}
