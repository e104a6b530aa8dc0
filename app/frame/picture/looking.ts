// What lies under a page position on the picture, and what drags there may do: shared by all tools.
import type { Ref } from 'vue'
import { aimPointOf, directionOf, poseOfStand, rayThrough, type Camera, type Framing } from '#core/camera'
import { add, addScaled, distance, scale, type Box as Box3, type Vec3 } from '#core/math'
import { seenThrough } from '#core/section'
import type { Hit } from '#mesh'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView, type Tool } from '../../stores/view.ts'
import { useHoldLevel } from '../camera/hold-level.ts'
import { useMovable, type Movable } from '../camera/movable.ts'

export interface Box {
  readonly width: number
  readonly height: number
}
export const LABELS: Record<Tool, string> = {
  turn: 'Turned',
  orbit: 'Orbited',
  slide: 'Slid',
  dolly: 'Moved',
  stand: 'Stood',
  pick: 'Turned',
}
/** Where nothing is under the pointer, things are taken to be this far away. */
export const FALLBACK_M = 5

export const aimOf = (f: Framing): Vec3 =>
  aimPointOf(f.stand.aim, centreOf) ??
  addScaled(f.stand.station, directionOf(poseOfStand(f.stand, centreOf).bearingDeg, 0), FALLBACK_M)

/** What the wheel goes towards over nothing: the aim; from far off, where the aim is a spot in the void, the model's middle. */
export function middleAhead(f: Framing, model: Box3 | null): Vec3 {
  if (!model) return aimOf(f)
  const middle = scale(add(model.min, model.max), 0.5)
  return distance(middle, f.stand.station) > 2 * distance(model.min, model.max) ? middle : aimOf(f)
}

/** Where a drag began: what it moves, from where, and the place in the frame's pixels. */
export interface Grip {
  readonly t: Movable
  readonly camera: Camera
  readonly from: Framing
  readonly at: readonly [number, number]
}

export function useLooking(box: Ref<Box>) {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const holdLevel = useHoldLevel()
  const movable = useMovable()

  /** From outside one looks about freely: keeping level and square are for the camera. */
  const options = (t: Movable) => ({
    holdLevel: t.isCamera && holdLevel.value,
    holdSquare: t.isCamera && view.holdSquare,
    centreOf,
  })
  /** A page position on the picture in the frame's own pixels. */
  function framePx(e: MouseEvent, camera: Camera): [number, number] {
    const r = (e.currentTarget as HTMLElement | null)?.getBoundingClientRect() ?? lastRect
    lastRect = r
    return [
      ((e.clientX - r.left) / r.width) * camera.frame.widthPx,
      ((e.clientY - r.top) / r.height) * camera.frame.heightPx,
    ]
  }
  let lastRect = new DOMRect(0, 0, 1, 1)

  /** What is under a place in the frame's pixels; with `ghosts` what is hidden counts too. */
  async function under(x: number, y: number, camera: Camera, ghosts = false): Promise<Hit | null> {
    // from outside the camera's own cuts cut nothing
    const all = ghosts ? { ...project.shown, hidden: [] } : project.shown
    if (movable().isCamera) {
      const seen = seenThrough(camera, all, x, y)
      return seen ? stage.rays.pick(seen.sight, seen.shown) : null
    }
    const ray = rayThrough(camera, x, y)
    return ray ? stage.rays.pick(ray, all) : null
  }

  /** Frame pixels for one of the page's. */
  const pxPerPage = (camera: Camera): number => camera.frame.widthPx / box.value.width
  return { movable, options, framePx, under, pxPerPage }
}
export type Looking = ReturnType<typeof useLooking>
