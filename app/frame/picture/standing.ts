// Standing on a floor by a click: the spot under the pointer, and the stand over it.
import { ref } from 'vue'
import { aimPointOf, directionOf, type Camera } from '#core/camera'
import { addScaled, distance, type Vec3 } from '#core/math'
import type { Hit } from '#mesh'
import { aimAt } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFlight } from '../camera/flight.ts'
import { usePointer } from '../camera/pointer.ts'

export interface Ghost {
  readonly point: Vec3
  readonly heightM: number
  readonly floorName: string
}

export function useStanding() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const pointer = usePointer()
  const flyTo = useFlight()
  const ghost = ref<Ghost | null>(null)
  let hovering = 0

  /** Where one would stand: the floor, furniture passed through unless it is asked for. */
  const spot = (camera: Camera, x: number, y: number, onto: boolean): Promise<Hit | null> => {
    const sight = pointer.sightAt(camera, x, y)
    if (!sight) return Promise.resolve(null)
    return onto || view.onFurniture
      ? stage.rays.pickLevel(sight, project.shown)
      : stage.rays.pickFloor(sight, project.shown)
  }
  const standHeight = (): number => view.standHeightM ?? project.document?.eyeHeightM ?? 1.58

  /** Stands on the floor under the pointer at eye height, level, looking the same way. */
  async function standAt(x: number, y: number, camera: Camera, onto: boolean): Promise<void> {
    const doc = project.document
    if (!doc) return
    const hit = await spot(camera, x, y, onto)
    if (!hit) {
      notices.say('No floor there. Click where the floor can be seen, or draw the stand in Plan.', 'warning')
      return
    }
    const station: Vec3 = [hit.point[0], hit.point[1], hit.point[2] + standHeight()]
    const { bearingDeg } = camera.pose
    const aim = addScaled(
      station,
      directionOf(bearingDeg, 0),
      Math.max(1, Math.min(6, distance(aimPointOf(project.working!.stand.aim, centreOf) ?? station, station))),
    )
    ghost.value = null
    flyTo(aimAt(station, aim), 'Stood')
    view.tool = doc.subject === 'room' ? 'turn' : 'orbit'
  }

  /** Shows where one would stand. */
  async function hover(camera: Camera, x: number, y: number, onto: boolean): Promise<void> {
    if (view.tool !== 'stand' || view.picking) {
      leave()
      return
    }
    const mine = ++hovering
    const hit = await spot(camera, x, y, onto)
    if (mine === hovering)
      ghost.value = hit ? { point: hit.point, heightM: standHeight(), floorName: hit.nodeName } : null
  }
  function leave(): void {
    hovering++
    ghost.value = null
  }
  return { ghost, standAt, hover, leave }
}
