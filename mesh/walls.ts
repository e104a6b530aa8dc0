// Which way do the building's walls run, and where are their planes?
// Model: upright triangles vote by area for their bearing, counted within a quarter turn; the fullest half degree and its neighbours
// give the main direction by their area-weighted mean of four times the angle. Planes gather triangles of one bearing and offset.
// Space: world metres; bearings clockwise from +Y. Source: handbook-0; common practice (rectangular buildings).

import { atan2Deg, cosDeg, DEG_PER_RAD, RAD_PER_DEG, sinDeg, wrapBearingDeg } from '#core/base'
import type { Vec3 } from '#core/math'
import type { SceneFacts, Soup } from './types.ts'

export interface Wall {
  /** Bearing that its face looks along. */
  readonly facesDeg: number
  /** Unit, level. */
  readonly normal: Vec3
  /** Any point of it, in the middle of its triangles. */
  readonly point: Vec3
  readonly areaM2: number
}
export interface WallFacts {
  /** One of the building's main directions, -45 up to 45 degrees; null where no direction prevails (round things, products). */
  readonly mainBearingDeg: number | null
  /** Share of the upright faces, by area, that run along or across it. */
  readonly share: number
  /** Largest first. */
  readonly walls: readonly Wall[]
}

/** A face this near to upright is a wall's (sine of its slope). */
const UPRIGHT = 0.02
const BIN_DEG = 0.5
const WITHIN_DEG = 1
/** Less than this share along the fullest direction is no main direction. */
const LEAST_SHARE = 0.3
const STEP_DEG = 0.2
const STEP_M = 0.01
const MOST_WALLS = 200
/** A wall has this share of the largest one's area at least. */
const LEAST_WALL = 0.01

interface Upright {
  readonly facesDeg: number
  readonly area: number
  readonly middle: Vec3
}

/** Calls back with every upright triangle of what counts: what is marked as wall, or all where nothing is. */
function eachUpright(soup: Soup, facts: SceneFacts, tell: (u: Upright) => void): void {
  const { nodes } = facts
  const marked = nodes.some((n) => n.kind === 'wall')
  const counts = nodes.map((n) => (marked ? n.kind === 'wall' : n.kind !== 'surroundings'))
  const { positions: p, indices, nodeOfVertex } = soup
  for (let i = 0; i < indices.length; i += 3) {
    if (!counts[nodeOfVertex[indices[i]!]!]) continue
    const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3]
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!]
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const double = Math.hypot(nx, ny, nz)
    if (!(double > 0) || Math.abs(nz) > UPRIGHT * double) continue
    tell({
      facesDeg: wrapBearingDeg(atan2Deg(nx, ny)),
      area: double / 2,
      middle: [
        (p[a]! + p[b]! + p[c]!) / 3,
        (p[a + 1]! + p[b + 1]! + p[c + 1]!) / 3,
        (p[a + 2]! + p[b + 2]! + p[c + 2]!) / 3,
      ],
    })
  }
}

/** Walls and main direction. Linear in the number of triangles. */
export function findWalls(soup: Soup, facts: SceneFacts): WallFacts {
  const n = Math.round(90 / BIN_DEG)
  const bins = new Float64Array(n)
  const planes = new Map<string, { area: number; x: number; y: number; at: [number, number, number] }>()
  let total = 0
  const uprights: Upright[] = []
  eachUpright(soup, facts, (u) => {
    total += u.area
    bins[Math.floor((u.facesDeg % 90) / BIN_DEG) % n]! += u.area
    uprights.push(u)
    // planes: gathered by bearing and offset along it
    const offset = u.middle[0] * sinDeg(u.facesDeg) + u.middle[1] * cosDeg(u.facesDeg)
    const key = `${Math.round(u.facesDeg / STEP_DEG) % Math.round(360 / STEP_DEG)}|${Math.round(offset / STEP_M)}`
    const plane = planes.get(key) ?? { area: 0, x: 0, y: 0, at: [0, 0, 0] }
    plane.area += u.area
    plane.x += u.area * sinDeg(u.facesDeg)
    plane.y += u.area * cosDeg(u.facesDeg)
    for (let k = 0; k < 3; k++) plane.at[k]! += u.area * u.middle[k]!
    planes.set(key, plane)
  })
  if (total === 0) return { mainBearingDeg: null, share: 0, walls: [] }
  const around = (k: number): number => bins[(k + n - 1) % n]! + bins[k]! + bins[(k + 1) % n]!
  const best = [...bins.keys()].reduce((a, b) => (around(b) > around(a) ? b : a), 0)
  const centre = (best + 0.5) * BIN_DEG
  // the mean of four times the angle: quarter turns fall together
  let [s, c, within] = [0, 0, 0]
  for (const u of uprights) {
    const off = ((((u.facesDeg - centre) % 90) + 135) % 90) - 45
    if (Math.abs(off) > WITHIN_DEG) continue
    within += u.area
    s += u.area * Math.sin(4 * u.facesDeg * RAD_PER_DEG)
    c += u.area * Math.cos(4 * u.facesDeg * RAD_PER_DEG)
  }
  const share = within / total
  const mean = (Math.atan2(s, c) * DEG_PER_RAD) / 4
  const main = Math.abs(mean) < 1e-7 ? 0 : mean
  const largest = Math.max(...[...planes.values()].map((p) => p.area))
  const walls = [...planes.values()]
    .filter((p) => p.area >= LEAST_WALL * largest)
    .sort((a, b) => b.area - a.area)
    .slice(0, MOST_WALLS)
    .map((p): Wall => {
      const l = Math.hypot(p.x, p.y)
      const normal: Vec3 = [p.x / l, p.y / l, 0]
      return {
        facesDeg: wrapBearingDeg(atan2Deg(p.x, p.y)),
        normal,
        point: [p.at[0] / p.area, p.at[1] / p.area, p.at[2] / p.area],
        areaM2: p.area,
      }
    })
  return { mainBearingDeg: share >= LEAST_SHARE ? main : null, share, walls }
}
