// Is a point out of doors, and does a building stand round it?
// Model: two questions, for a court is both. Out of doors: straight up, and up at 45 degrees to eight sides, most of the ways are
// free (a roof light leaves one free, a facade beside the point takes three or four). Enclosed: walls on three of four sides, or
// something above; faces met from behind are the outside of what the point lies in, and do not count. Space: world metres, Z up.

import { dot, normalize, type Vec3 } from '#core/math'
import { ALL_SHOWN, type Shown } from '#core/section'
import type { MeshScene } from './scene.ts'

const WAYS: readonly Vec3[] = [
  [0, 0, 1],
  ...Array.from({ length: 8 }, (_, i): Vec3 => {
    const a = ((i + 0.5) * Math.PI) / 4
    return normalize([Math.cos(a), Math.sin(a), 1])
  }),
]

/** Whether more than half of the ways up from `point` (metres) meet nothing that is shown. */
export function underSky(scene: MeshScene, point: Vec3, shown: Shown = ALL_SHOWN): boolean {
  // cuts open a building for the view, not for the light
  const whole: Shown = { ...ALL_SHOWN, hidden: shown.hidden }
  const free = WAYS.filter((direction) => scene.pick({ origin: point, direction }, whole) === null)
  return free.length * 2 > WAYS.length
}

const SIDES: readonly Vec3[] = [[0, 1, 0], [1, 0, 0], [0, -1, 0], [-1, 0, 0]] // prettier-ignore

/** Whether walls stand on three sides of `point` (metres) at least, or a roof above it; inside a solid it is not enclosed. */
export function enclosed(scene: MeshScene, point: Vec3, shown: Shown = ALL_SHOWN): boolean {
  const isFaced = (direction: Vec3): boolean => {
    const met = scene.passing({ origin: point, direction }, { shown, clearToo: true })
    return met !== null && dot([met.hit.normal.x, met.hit.normal.y, met.hit.normal.z], direction) < 0
  }
  return isFaced([0, 0, 1]) || SIDES.filter(isFaced).length >= 3
}
