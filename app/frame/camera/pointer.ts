// What is under the pointer on the picture: for the readout, and for keys that mean “that there”.
import { createSharedComposable } from '@vueuse/core'
import { shallowRef } from 'vue'
import { type Camera, isParallel, toCamera, widthAtDepthM } from '#core/camera'
import { distance } from '#core/math'
import { seenThrough, sightThrough, type Sight } from '#core/section'
import type { ClearAt, Hit } from '#mesh'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'

export interface Probe {
  readonly hit: Hit
  /** From the station; in parallel pictures along the axis. */
  readonly awayM: number
  /** Along the axis. */
  readonly depthM: number
  /** Width of the picture at that depth. */
  readonly widthM: number
  /** The room in the section that is looked through there. */
  readonly clear: ClearAt | null
}

function pointer() {
  const project = useProject()
  const stage = useStage()
  const probe = shallowRef<Probe | null>(null)
  let at: readonly [number, number] | null = null
  let asked = 0
  let busy = false

  /** The sight line at a place in the frame's pixels, from the near cut to the far one. */
  const sightAt = (camera: Camera, xPx: number, yPx: number): Sight | null =>
    sightThrough(camera, project.shown, xPx, yPx)
  /** The newest place is looked up; places passed meanwhile are let go. */
  async function hover(camera: Camera, xPx: number, yPx: number): Promise<void> {
    at = [xPx, yPx]
    if (busy) return
    busy = true
    try {
      for (let mine = -1; mine !== asked && at;) {
        mine = asked
        const [x, y]: readonly [number, number] = at
        const seen = seenThrough(camera, project.shown, x, y)
        const [hit, clear] = seen
          ? await Promise.all([
              stage.rays.pick(seen.sight, seen.shown),
              project.shown.cuts.list.length > 0 ? stage.rays.clearAt(seen.sight, project.shown) : null,
            ])
          : [null, null]
        if (!at) return
        const depthM = hit ? -toCamera(camera.pose, hit.point)[2] : 0
        probe.value = hit
          ? {
              hit,
              depthM,
              awayM: isParallel(camera) ? depthM : distance(hit.point, camera.pose.station),
              widthM: widthAtDepthM(camera, depthM),
              clear,
            }
          : null
        if (at[0] !== x || at[1] !== y) asked++
      }
    } finally {
      busy = false
    }
  }
  function leave(): void {
    at = null
    asked++
    probe.value = null
  }
  /** In the frame's pixels; null when the pointer is not on the picture. */
  const place = (): readonly [number, number] | null => at
  return { probe, sightAt, hover, leave, place }
}
export const usePointer = createSharedComposable(pointer)
