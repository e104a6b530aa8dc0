// How much light comes from all sides at each place in and around a building?
// Model: an irradiance volume. On a grid of places rays go out in all directions; what they meet gives back sun, sky and, in
// later rounds, the light the volume found there before. Kept as first-order harmonics per colour, smoothed only between places
// that see each other. Space: world metres, Z up; radiance cd/m2. Source: greger1998, ramamoorthi2001.
// Rejected: occlusion per vertex (50 times the rays for walls made of two triangles).

import { halton } from '#core/base'
import type { Box, Vec3 } from '#core/math'
import type { Shown } from '#core/section'
import {
  irradiance,
  skyRadiance,
  SUN_COLOUR,
  sunDirection,
  zenithLuminance,
  type Harmonics,
  type SkyLight,
} from '#core/optics'
import { Emitters, type Look } from './emitters.ts'
import { spotShare, type Lamp } from './lamp.ts'
import type { MeshScene } from './scene.ts'

export interface LightVolume {
  /** Place of the first cell's centre and the distance between cells, metres. */
  readonly origin: Vec3
  readonly stepM: Vec3
  readonly size: readonly [number, number, number]
  /** For red, green and blue: four coefficients a cell, x fastest. */
  readonly channels: Channels
  /** What of it comes from lamps and what shines by itself: as bright under any sky. Left out where there are none. */
  readonly lamps?: Channels
}
type Channels = readonly [Float32Array, Float32Array, Float32Array]
/** A volume's light where as much of the sun's and sky's is there as said, by channel; lamps give what they gave. */
export const underSky = ({ channels, lamps }: LightVolume, share: number): Channels =>
  channels.map((c, k) => c.map((v, i) => (v - (lamps?.[k]![i] ?? 0)) * share + (lamps?.[k]![i] ?? 0))) as unknown as Channels // prettier-ignore

export interface BakeOptions {
  readonly sky: SkyLight
  /** About how many places; the grid's step follows. */
  readonly places?: number
  readonly raysPerPlace?: number
  readonly bounces?: number
  /** What cuts take away lets the light through; hidden things go on standing in it. */
  readonly shown?: Shown
  /** Called between slices of work with the share done; a rejected promise cancels. */
  readonly pause?: (done: number) => Promise<void>
}
export const BAKE_DEFAULTS = { places: 900, raysPerPlace: 64, bounces: 3 } as const

/** A place is inside a solid when this share of its rays meets back faces. */
const BURIED = 0.3
/** Of a place outside the model this share already tells that it lies behind walls without thickness: the sky there is not the room's. */
const BEHIND = 0.04
/** Looks at what shines by itself, from each place. */
const LOOKS = 24
/** So near to a lamp of the file lies its own shade. */
const OWN_M = 0.05
const MARGIN_M = 0.6

interface Grid {
  readonly origin: Vec3
  readonly step: Vec3
  readonly size: readonly [number, number, number]
}

function gridFor(scene: MeshScene, places: number): Grid {
  const { min, max } = scene.facts.box
  const extent = [0, 1, 2].map((k) => max[k]! - min[k]! + 2 * Math.min(MARGIN_M, 0.2 * (max[k]! - min[k]!) + 0.02))
  const step = Math.max(Math.cbrt((extent[0]! * extent[1]! * extent[2]!) / places), Math.max(...extent) / 60, 1e-3)
  const size = extent.map((e) => Math.max(2, Math.min(64, Math.round(e / step) + 1))) as unknown as [
    number,
    number,
    number,
  ]
  const steps = extent.map((e, k) => e / (size[k]! - 1)) as unknown as Vec3
  const origin = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2 - extent[k]! / 2) as unknown as Vec3
  return { origin, step: steps, size }
}

/** Directions spread evenly over the sphere (Fibonacci lattice), turned by `spin` of a full turn. */
function directions(n: number, spin: number): Vec3[] {
  const golden = (Math.sqrt(5) - 1) / 2
  return Array.from({ length: n }, (_, i) => {
    const z = 1 - (2 * i + 1) / n
    const r = Math.sqrt(1 - z * z)
    const a = 2 * Math.PI * (i * golden + spin)
    return [r * Math.cos(a), r * Math.sin(a), z] as const
  })
}

/** What each ray of each place met; positions are kept for the later rounds. Sky rays have no albedo. */
interface Gathered {
  readonly light: Float32Array
  readonly albedo: Float32Array
  readonly place: Float32Array
  readonly normal: Float32Array
  readonly buried: Uint8Array
  /** What comes straight from what shines by itself: harmonics by channel; empty where nothing does. */
  readonly shone: readonly Float32Array[]
  /** The same of the file's lamps, which light surfaces by themselves: only what comes back from these is in the volume. */
  readonly lamped: readonly Float32Array[]
}

type Cast = (origin: Vec3, direction: Vec3, farM?: number) => ReturnType<MeshScene['cast']>
/** Rays of light: past what cuts take away, where any do. */
const castOf = (scene: MeshScene, shown: Shown | undefined): Cast =>
  shown
    ? (origin, direction, farM = Infinity) => scene.passing({ origin, direction, farM }, { shown })?.hit ?? null
    : (origin, direction, farM) => scene.cast(origin, direction, farM)

function emptyOf(cells: number, rays: number, isShining: boolean, hasLamps: boolean): Gathered {
  const each = (): Float32Array => new Float32Array(cells * rays * 3)
  const harmonics = (): Float32Array[] => [0, 1, 2].map(() => new Float32Array(cells * 4))
  return {
    ...{ light: each(), albedo: each(), place: each(), normal: each(), buried: new Uint8Array(cells) },
    ...{ shone: isShining ? harmonics() : [], lamped: hasLamps ? harmonics() : [] },
  }
}

async function gather(
  scene: MeshScene,
  cast: Cast,
  grid: Grid,
  rays: number,
  options: Required<Omit<BakeOptions, 'pause' | 'shown'>>,
  pause: (done: number) => Promise<void>,
): Promise<Gathered> {
  const cells = grid.size[0] * grid.size[1] * grid.size[2]
  const { sky } = options
  const zenith = zenithLuminance(sky)
  const sun = sunDirection(sky)
  const { soup } = scene
  const emitters = new Emitters(soup)
  const out = emptyOf(cells, rays, emitters.isAny, (soup.lamps ?? []).length > 0)
  let since = 0
  for (let cell = 0; cell < cells; cell++) {
    const at = cellPlace(grid, cell)
    let backs = 0
    directions(rays, halton(cell + 1, 2)).forEach((d, r) => {
      const o = (cell * rays + r) * 3
      const hit = cast(at, d)
      if (!hit) {
        out.light.set(skyRadiance(d, sky, zenith), o)
        return
      }
      const facing = hit.normal.x * d[0] + hit.normal.y * d[1] + hit.normal.z * d[2]
      if (facing > 0) backs++
      const s = facing > 0 ? -1 : 1
      const n: Vec3 = [hit.normal.x * s, hit.normal.y * s, hit.normal.z * s]
      const p: Vec3 = [hit.point.x + n[0] * 2e-3, hit.point.y + n[1] * 2e-3, hit.point.z + n[2] * 2e-3]
      const v = hit.vertex * 3
      const cos = n[0] * sun[0] + n[1] * sun[1] + n[2] * sun[2]
      const lit = cos > 0 && facing <= 0 && sky.sunLux > 0 && !cast(p, sun) ? (cos * sky.sunLux) / Math.PI : 0
      for (let k = 0; k < 3; k++) {
        const albedo = soup.albedo[v + k]! / 255
        out.albedo[o + k] = facing > 0 ? 0 : albedo
        out.place[o + k] = p[k]!
        out.normal[o + k] = n[k]!
        out.light[o + k] = lit * albedo * SUN_COLOUR[k]!
      }
    })
    out.buried[cell] = backs > rays * (isWithin(at, scene.facts.box) ? BURIED : BEHIND) ? 1 : 0
    if (!out.buried[cell]) {
      const nearM = Math.min(...grid.step) * 0.4
      shine(out.shone, cell, at, emitters.looks(at, LOOKS, halton(cell + 1, 5), nearM), cast)
      shine(out.lamped, cell, at, (soup.lamps ?? []).map((l) => rayOf(l, at, nearM)), cast) // prettier-ignore
    }
    since += rays
    if (since > 1500) {
      since = 0
      await pause((cell + 1) / cells)
    }
  }
  return out
}

const isWithin = (p: Vec3, { min, max }: Box): boolean => p.every((v, k) => v >= min[k]! && v <= max[k]!)

/** What a place receives from a lamp of the file. */
function rayOf(lamp: Lamp, at: Vec3, leastM: number): Look {
  const way: Vec3 = [lamp.place[0] - at[0], lamp.place[1] - at[1], lamp.place[2] - at[2]]
  const awayM = Math.max(1e-6, Math.hypot(...way))
  const direction: Vec3 = [way[0] / awayM, way[1] / awayM, way[2] / awayM]
  const k = spotShare(lamp, [-direction[0], -direction[1], -direction[2]]) / Math.max(awayM, leastM) ** 2
  return {
    to: lamp.place,
    direction,
    awayM: awayM - OWN_M,
    lux: [lamp.candela[0] * k, lamp.candela[1] * k, lamp.candela[2] * k],
  }
}
/** Adds to a place what shines on it. */
function shine(to: readonly Float32Array[], cell: number, at: Vec3, looks: readonly Look[], cast: Cast): void {
  for (const { direction: d, awayM, lux } of looks) {
    if (lux[0] + lux[1] + lux[2] <= 0 || (awayM > 0 && cast(at, d, awayM * 0.998 - 1e-4))) continue
    to.forEach((c, k) => {
      const l = lux[k]!
      c[cell * 4] = c[cell * 4]! + l * 0.282094792
      for (let m = 0; m < 3; m++) c[cell * 4 + 1 + m] = c[cell * 4 + 1 + m]! + l * 0.488602512 * d[m]!
    })
  }
}

function cellPlace(grid: Grid, cell: number): Vec3 {
  const [nx, ny] = grid.size
  const i = cell % nx
  const j = Math.floor(cell / nx) % ny
  const k = Math.floor(cell / (nx * ny))
  return [grid.origin[0] + i * grid.step[0], grid.origin[1] + j * grid.step[1], grid.origin[2] + k * grid.step[2]]
}

/** Harmonics of one colour at a place, linear between cells, clamped at the border. */
export function lightAt(volume: LightVolume, p: Vec3, channel: 0 | 1 | 2): Harmonics {
  const [nx, ny, nz] = volume.size
  const base: number[] = []
  const part: number[] = []
  for (let k = 0; k < 3; k++) {
    const t = Math.min(volume.size[k]! - 1.0001, Math.max(0, (p[k]! - volume.origin[k]!) / volume.stepM[k]!))
    base.push(Math.floor(t))
    part.push(t - Math.floor(t))
  }
  const data = volume.channels[channel]
  const out = [0, 0, 0, 0]
  for (let c = 0; c < 8; c++) {
    const i = Math.min(nx - 1, base[0]! + (c & 1))
    const j = Math.min(ny - 1, base[1]! + ((c >> 1) & 1))
    const k = Math.min(nz - 1, base[2]! + (c >> 2))
    const w =
      (c & 1 ? part[0]! : 1 - part[0]!) * ((c >> 1) & 1 ? part[1]! : 1 - part[1]!) * (c >> 2 ? part[2]! : 1 - part[2]!)
    const o = ((k * ny + j) * nx + i) * 4
    for (let m = 0; m < 4; m++) out[m] = out[m]! + w * data[o + m]!
  }
  return out as unknown as Harmonics
}

function project(grid: Grid, g: Gathered, rays: number, before: LightVolume | null, withLamps: boolean): Channels {
  const cells = g.buried.length
  const out = [0, 1, 2].map((k) => g.shone[k]?.slice() ?? new Float32Array(cells * 4)) as unknown as Channels
  if (withLamps) g.lamped.forEach((c, k) => c.forEach((v, i) => (out[k]![i] = out[k]![i]! + v)))
  const weight = (4 * Math.PI) / rays
  const reach = 0.35 * Math.min(...grid.step)
  for (let cell = 0; cell < cells; cell++) {
    if (g.buried[cell]) continue
    directions(rays, halton(cell + 1, 2)).forEach((d, r) => {
      const o = (cell * rays + r) * 3
      const n: Vec3 = [g.normal[o]!, g.normal[o + 1]!, g.normal[o + 2]!]
      const again = before && (n[0] !== 0 || n[1] !== 0 || n[2] !== 0)
      const p: Vec3 = [g.place[o]! + n[0] * reach, g.place[o + 1]! + n[1] * reach, g.place[o + 2]! + n[2] * reach]
      for (const k of [0, 1, 2] as const) {
        let l = g.light[o + k]!
        if (again && g.albedo[o + k]! > 0) l += (g.albedo[o + k]! / Math.PI) * irradiance(lightAt(before, p, k), n)
        const w = l * weight
        const c = out[k]
        c[cell * 4] = c[cell * 4]! + w * 0.282094792
        c[cell * 4 + 1] = c[cell * 4 + 1]! + w * 0.488602512 * d[0]
        c[cell * 4 + 2] = c[cell * 4 + 2]! + w * 0.488602512 * d[1]
        c[cell * 4 + 3] = c[cell * 4 + 3]! + w * 0.488602512 * d[2]
      }
    })
  }
  return out
}

/** For each cell and axis: whether the next cell along the axis is seen from it. */
function openLinks(cast: Cast, grid: Grid, buried: Uint8Array): Uint8Array {
  const [nx, ny] = grid.size
  const stride = [1, nx, nx * ny]
  const open = new Uint8Array(buried.length * 3)
  for (let cell = 0; cell < buried.length; cell++) {
    const at = cellPlace(grid, cell)
    const index = [cell % nx, Math.floor(cell / nx) % ny, Math.floor(cell / (nx * ny))]
    for (let axis = 0; axis < 3; axis++) {
      if (index[axis]! + 1 >= grid.size[axis]! || buried[cell] || buried[cell + stride[axis]!]) continue
      const d = [0, 0, 0]
      d[axis] = 1
      open[cell * 3 + axis] = cast(at, d as unknown as Vec3, grid.step[axis]!) ? 0 : 1
    }
  }
  return open
}

/** One pass of smoothing along open links; buried cells then take the mean of neighbours that are not. */
function smooth(grid: Grid, channels: Channels, open: Uint8Array, buried: Uint8Array): Channels {
  const [nx, ny, nz] = grid.size
  const stride = [1, nx, nx * ny]
  const known = Uint8Array.from(buried, (b) => (b ? 0 : 1))
  const result = channels.map((data) => {
    const out = data.slice()
    for (let cell = 0; cell < buried.length; cell++) {
      if (buried[cell]) continue
      let weight = 1
      for (let axis = 0; axis < 3; axis++)
        for (const s of [-1, 1]) {
          const other = cell + s * stride[axis]!
          if (!(s > 0 ? open[cell * 3 + axis] : other >= 0 && open[other * 3 + axis])) continue
          weight += 0.6
          for (let m = 0; m < 4; m++) out[cell * 4 + m] = out[cell * 4 + m]! + 0.6 * data[other * 4 + m]!
        }
      for (let m = 0; m < 4; m++) out[cell * 4 + m] = out[cell * 4 + m]! / weight
    }
    return out
  }) as unknown as Channels
  for (let round = 0; round < 8 && known.includes(0); round++) {
    const had = known.slice()
    for (let cell = 0; cell < known.length; cell++) {
      if (had[cell]) continue
      const index = [cell % nx, Math.floor(cell / nx) % ny, Math.floor(cell / (nx * ny))]
      const near: number[] = []
      for (let axis = 0; axis < 3; axis++)
        for (const s of [-1, 1]) {
          const t = index[axis]! + s
          if (t >= 0 && t < [nx, ny, nz][axis]! && had[cell + s * stride[axis]!]) near.push(cell + s * stride[axis]!)
        }
      if (near.length === 0) continue
      known[cell] = 1
      for (const data of result)
        for (let m = 0; m < 4; m++)
          data[cell * 4 + m] = near.reduce((sum, o) => sum + data[o * 4 + m]!, 0) / near.length
    }
  }
  return result
}

/** The light volume of a scene under a sky. About `places` x `raysPerPlace` x 2 rays; repeats exactly. */
export async function bakeLight(scene: MeshScene, options: BakeOptions): Promise<LightVolume> {
  const o = { ...BAKE_DEFAULTS, ...options }
  const pause = options.pause ?? (() => Promise.resolve())
  const grid = gridFor(scene, o.places)
  const cast = castOf(scene, options.shown)
  const gathered = await gather(scene, cast, grid, o.raysPerPlace, o, (done) => pause(done * 0.8))
  const open = openLinks(cast, grid, gathered.buried)
  const hasLamps = gathered.shone.length + gathered.lamped.length > 0
  let rounds = 0
  const bounced = async (g: Gathered): Promise<LightVolume> => {
    let volume: LightVolume | null = null
    for (let b = 0; b < o.bounces; b++) {
      const raw = project(grid, g, o.raysPerPlace, volume, b < o.bounces - 1)
      const channels = smooth(grid, smooth(grid, raw, open, g.buried), open, g.buried)
      volume = { origin: grid.origin, stepM: grid.step, size: grid.size, channels }
      await pause(0.8 + (0.2 * ++rounds) / (o.bounces * (hasLamps ? 2 : 1)))
    }
    return volume!
  }
  const all = await bounced(gathered)
  if (!hasLamps) return all
  // light adds up: without sun and sky it is that of the lamps
  const { channels: lamps } = await bounced({ ...gathered, light: new Float32Array(gathered.light.length) })
  return { ...all, lamps }
}
