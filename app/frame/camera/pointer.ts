// What is under the pointer on the picture: for the readout, and for keys that mean “that there”.
import { createSharedComposable } from '@vueuse/core'
import { shallowRef } from 'vue'
import { rayThrough, toCamera, widthAtDepthM, type Camera, type Ray } from '#core/camera'
import { seenFrom } from '#core/checks'
import { distance } from '#core/math'
import type { Hit } from '#mesh'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'

export interface Probe {
  readonly hit: Hit
  /** From the station; in parallel pictures along the axis. */
  readonly awayM: number
  /** Width of the picture at that depth. */
  readonly widthM: number
}

function pointer() {
  const project = useProject()
  const stage = useStage()
  const probe = shallowRef<Probe | null>(null)
  let at: readonly [number, number] | null = null
  let asked = 0
  let busy = false

  /** The picture's ray at a place in the frame's pixels; behind the near cut when that is on. */
  function pictureRay(camera: Camera, xPx: number, yPx: number): Ray | null {
    const ray = rayThrough(camera, xPx, yPx)
    const w = project.working
    return ray && w ? seenFrom(w, camera, ray) : ray
  }
  /** The newest place is looked up; places passed meanwhile are let go. */
  async function hover(camera: Camera, xPx: number, yPx: number): Promise<void> {
    at = [xPx, yPx]
    if (busy) return
    busy = true
    try {
      for (let mine = -1; mine !== asked && at;) {
        mine = asked
        const [x, y]: readonly [number, number] = at
        const ray = pictureRay(camera, x, y)
        const hit = ray ? await stage.pick(ray, project.working?.visible.hidden ?? []) : null
        if (!at) return
        const depthM = hit ? -toCamera(camera.pose, hit.point)[2] : 0
        const kind = camera.lens.projection.kind
        const flat = kind === 'parallel' || kind === 'oblique'
        const far = project.working?.cut.far
        const seen = hit && !(far?.on && depthM > far.distanceM)
        probe.value = seen
          ? {
              hit,
              awayM: flat ? depthM : distance(hit.point, camera.pose.station),
              widthM: widthAtDepthM(camera, depthM),
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
  return { probe, pictureRay, hover, leave, place }
}
export const usePointer = createSharedComposable(pointer)
