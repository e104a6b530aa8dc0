// How does a walk follow the floor?
// Model: heights of the eye at even steps along the way, each over what the feet stand on; their mean over about two paces makes a ramp of a
// stair, as a body goes up one. Where the straight from stop to stop does not follow them, places on the way do. Space: metres.
import type { Vec3 } from '../math/index.ts'
import type { TravelStop } from './types.ts'

/** Heights are asked so far apart. */
export const FLOOR_STEP_M = 0.1
/** Of the mean: twice over this, which leaves no corner. */
const SMOOTH_M = 0.6
/** Nearer to the straight than this needs no place, and places lie so far apart. */
const LEVEL_M = 0.008
const APART_M = 0.45

/** Twice the running mean over a window; a row of one height stays what it is. Ends keep their own height by mirroring about them. */
function smoothed(row: readonly number[], window: number): number[] {
  const half = Math.floor(window / 2)
  const mean = (list: readonly number[]): number[] => {
    const n = list.length
    const at = (i: number): number => {
      if (i < 0) return 2 * list[0]! - list[Math.min(n - 1, -i)]!
      if (i >= n) return 2 * list[n - 1]! - list[Math.max(0, 2 * (n - 1) - i)]!
      return list[i]!
    }
    return list.map((_, i) => {
      let sum = 0
      for (let k = -half; k <= half; k++) sum += at(i + k)
      return sum / (2 * half + 1)
    })
  }
  return mean(mean(row))
}

export interface FloorAsked<S extends TravelStop> {
  readonly stops: readonly S[]
  /** Places of the way at even steps, `FLOOR_STEP_M` apart, from its first stop to its end. */
  readonly places: readonly Vec3[]
  /** Of the eye there; null where there is no floor: it stays as high as it was. */
  readonly heightsM: readonly (number | null)[]
  /** How far along each stop lies; the last of a closed way is its length. */
  readonly stopsM: readonly number[]
}
/** The stops at the floor's height, and with places between them that follow it. */
export function onFloor<S extends TravelStop>({ stops, places, heightsM, stopsM }: FloorAsked<S>): S[] {
  let last = heightsM.find((h) => h !== null) ?? null
  if (last === null || places.length === 0) return stops.map((s) => ({ ...s, via: [] }))
  const known = heightsM.map((h) => (last = h ?? last)!)
  const heights = smoothed(known, Math.round(SMOOTH_M / FLOOR_STEP_M))
  const heightAt = (m: number): number => {
    const i = Math.min(heights.length - 1, Math.max(0, m / FLOOR_STEP_M))
    const [a, b] = [Math.floor(i), Math.ceil(i)]
    // means of one height are that height again
    return Math.round((heights[a]! + (heights[b]! - heights[a]!) * (i - a)) * 1e6) / 1e6
  }
  const placeAt = (m: number): Vec3 => {
    const p = places[Math.min(places.length - 1, Math.round(m / FLOOR_STEP_M))]!
    return [p[0], p[1], heightAt(Math.round(m / FLOOR_STEP_M) * FLOOR_STEP_M)]
  }
  return stops.map((s, i) => {
    const [from, to] = [stopsM[i]!, stopsM[i + 1]]
    const station: Vec3 = [s.station[0], s.station[1], heightAt(from)]
    if (to === undefined) return { ...s, station, via: [] }
    const [a, b] = [heightAt(from), heightAt(to)]
    const n = Math.floor((to - from) / APART_M)
    const marks = Array.from({ length: Math.max(0, n - 1) }, (_, k) => from + ((to - from) * (k + 1)) / n)
    const isStraight = marks.every((m) => Math.abs(heightAt(m) - (a + ((b - a) * (m - from)) / (to - from))) < LEVEL_M)
    return { ...s, station, via: isStraight ? [] : marks.map(placeAt) }
  })
}
