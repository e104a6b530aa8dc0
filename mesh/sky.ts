// Is a point out of doors?
// Model: straight up, and up at 45 degrees to eight sides; out of doors most of these ways are free. A roof light leaves one free, a
// facade beside the point takes three or four. Space: world metres, Z up.

import { normalize, type Vec3 } from '#core/math'
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
