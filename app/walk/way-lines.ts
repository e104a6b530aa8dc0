// The way of the cut at hand as lines for Plan and Side: through a walk's stops, or where other shots take the camera; its seconds.
import { computed } from 'vue'
import type { Vec3 } from '#core/math'
import { useFilm } from './film.ts'
import { useWalking } from './walking.ts'

const PARTS = 160
const MOST_SECONDS = 240

export function useWayLines() {
  const { moment } = useFilm()
  const { travel, way } = useWalking()
  /** The cut at hand on the reel. */
  const placed = computed(() => moment.value.placed)
  /** Of a walk: evenly along it. */
  const along = computed<readonly Vec3[]>(() => {
    const w = way.value
    return w ? Array.from({ length: PARTS + 1 }, (_, i) => w.route.at((i / PARTS) * w.route.lengthM).point) : []
  })
  /** Of other shots: evenly in time. */
  const plainWay = computed<readonly Vec3[]>(() => {
    const p = placed.value
    if (travel.value || !p) return []
    return Array.from({ length: PARTS + 1 }, (_, i) => p.filmed.at(p.fromS + (i / PARTS) * (p.endS - p.startS)).pose.station) // prettier-ignore
  })
  const seconds = computed(() => {
    const p = placed.value
    if (!p) return []
    const lasts = p.endS - p.startS
    const every = Math.max(1, Math.ceil(lasts / MOST_SECONDS))
    return Array.from({ length: Math.floor(lasts / every) + 1 }, (_, i) => ({ t: i * every, at: p.filmed.at(p.fromS + i * every).pose.station })) // prettier-ignore
  })
  /** Metres along a walk of its line's part. */
  const metresAt = (part: number): number => (part / PARTS) * (way.value?.route.lengthM ?? 0)
  return { placed, along, plainWay, seconds, metresAt }
}
