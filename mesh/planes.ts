// Which way do the building's walls run, where are their planes, and which large faces lie level?
// Model: upright triangles vote by area for their bearing, counted within a quarter turn; the fullest half degree and its neighbours
// give the main direction by their area-weighted mean of four times the angle. Planes gather triangles of one bearing and offset.
// Space: world metres; bearings clockwise from +Y. Source: handbook-0; common practice (rectangular buildings).

import { atan2Deg, cosDeg, DEG_PER_RAD, RAD_PER_DEG, sinDeg, wrapBearingDeg } from '#core/base'
import type { LevelFace } from '#core/checks'
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
  const planes = new Map<string, { area: number; x: number; y: number; at: [number, number, number]; offset: number }>()
  let total = 0
  const uprights: Upright[] = []
  eachUpright(soup, facts, (u) => {
    total += u.area
    bins[Math.floor((u.facesDeg % 90) / BIN_DEG) % n]! += u.area
    uprights.push(u)
    // planes: gathered by bearing and offset along it
    const offset = u.middle[0] * sinDeg(u.facesDeg) + u.middle[1] * cosDeg(u.facesDeg)
    const key = `${Math.round(u.facesDeg / STEP_DEG) % Math.round(360 / STEP_DEG)}|${Math.round(offset / STEP_M)}`
    const plane = planes.get(key) ?? { area: 0, x: 0, y: 0, at: [0, 0, 0], offset: 0 }
    plane.area += u.area
    plane.x += u.area * sinDeg(u.facesDeg)
    plane.y += u.area * cosDeg(u.facesDeg)
    plane.offset += u.area * offset
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

/** A level face is large from this share of the model's plan on. */
const LARGE_SHARE = 0.008
/** Triangles within this of level (cosine), and of one height, make one face. */
const LEVEL_COS = 0.9998
const SAME_HEIGHT_M = 0.003

/** Large level faces of single objects, seen from above or below. Linear in the number of triangles. */
export function findLevelFaces(soup: Soup, facts: SceneFacts): LevelFace[] {
  const { min, max } = facts.box
  const least = LARGE_SHARE * (max[0] - min[0]) * (max[1] - min[1])
  const { positions: p, indices, nodeOfVertex } = soup
  const found = new Map<
    string,
    { node: number; z: number; area: number; x0: number; y0: number; x1: number; y1: number }
  >()
  for (let i = 0; i < indices.length; i += 3) {
    const node = nodeOfVertex[indices[i]!]!
    if (facts.nodes[node]!.kind === 'surroundings') continue
    const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3]
    const [za, zb, zc] = [p[a + 2]!, p[b + 2]!, p[c + 2]!]
    if (Math.max(za, zb, zc) - Math.min(za, zb, zc) > SAME_HEIGHT_M) continue
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, zb - za]
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, zc - za]
    const flat = ux * vy - uy * vx
    const double = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, flat)
    if (!(double > 0) || Math.abs(flat) < LEVEL_COS * double) continue
    const key = `${node}|${Math.round(za / SAME_HEIGHT_M)}|${Math.sign(flat)}`
    const face = found.get(key) ?? { node, z: 0, area: 0, x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }
    const area = Math.abs(flat) / 2
    face.z += area * za
    face.area += area
    face.x0 = Math.min(face.x0, p[a]!, p[b]!, p[c]!)
    face.y0 = Math.min(face.y0, p[a + 1]!, p[b + 1]!, p[c + 1]!)
    face.x1 = Math.max(face.x1, p[a]!, p[b]!, p[c]!)
    face.y1 = Math.max(face.y1, p[a + 1]!, p[b + 1]!, p[c + 1]!)
    found.set(key, face)
  }
  return [...found.values()]
    .filter((f) => f.area >= least)
    .sort((a, b) => b.area - a.area)
    .map((f) => ({
      nodeId: facts.nodes[f.node]!.id,
      nodeName: facts.nodes[f.node]!.name,
      heightM: f.z / f.area,
      areaM2: f.area,
      min: [f.x0, f.y0] as const,
      max: [f.x1, f.y1] as const,
    }))
}

/** Lines midway between walls that face each other, along and across the main direction. */
export interface CentreLine {
  readonly point: Vec3
  /** Bearing that the line runs along. */
  readonly bearingDeg: number
}
/** Walls smaller than this share of the largest bound no room. */
const ROOM_WALL = 0.08
const FACING_DEG = 1

/** Centre lines of the rooms between the larger walls. */
export function centreLines({ walls }: WallFacts): CentreLine[] {
  const largest = walls[0]?.areaM2 ?? 0
  const big = walls.filter((w) => w.areaM2 >= ROOM_WALL * largest)
  const lines: CentreLine[] = []
  for (const a of big) {
    let nearest: { b: Wall; gap: number } | null = null
    for (const b of big) {
      const facing = a.normal[0] * b.normal[0] + a.normal[1] * b.normal[1]
      if (facing > -Math.cos(FACING_DEG * RAD_PER_DEG)) continue
      // how far b lies before a's face; walls back to back lie behind
      const gap = (b.point[0] - a.point[0]) * a.normal[0] + (b.point[1] - a.point[1]) * a.normal[1]
      if (gap > 0.5 && (!nearest || gap < nearest.gap)) nearest = { b, gap }
    }
    // told once: by the wall that faces the first half turn
    if (!nearest || a.facesDeg >= 180) continue
    const { gap } = nearest
    const point: Vec3 = [a.point[0] + (a.normal[0] * gap) / 2, a.point[1] + (a.normal[1] * gap) / 2, 0]
    const same = lines.some(
      (l) =>
        Math.abs(Math.abs(cosDeg(l.bearingDeg - a.facesDeg - 90)) - 1) < 1e-4 &&
        Math.abs((l.point[0] - point[0]) * a.normal[0] + (l.point[1] - point[1]) * a.normal[1]) < 0.01,
    )
    if (!same) lines.push({ point, bearingDeg: wrapBearingDeg(a.facesDeg + 90) })
  }
  return lines
}
