// Readings and one-click changes of the present framing that panels, picture and actions share.
import { computed, ref, watch } from 'vue'
import { createSharedComposable } from '@vueuse/core'
import { aimPointOf, toCamera, usedSensor, type Projection } from '#core/camera'
import { convergence, levelKeepingCentre } from '#core/framing'
import { distance } from '#core/math'
import { aimAt, type Setup } from '#model'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'

function framing() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()

  const lean = computed(() => (project.camera ? convergence(project.camera) : null))
  const floor = ref<number | null>(null)
  let asked = 0

  // the floor under the station, looked up while it moves; the answer for an older place is dropped
  watch(
    () => [project.camera?.pose.station, stage.storeys] as const,
    async ([station]) => {
      const mine = ++asked
      if (!station || stage.storeys.length === 0) {
        floor.value = null
        return
      }
      const hit = await stage.floorBelow(station, project.working?.visible.hidden ?? [])
      if (mine === asked) floor.value = hit ? hit.point[2] : null
    },
    { immediate: true },
  )
  const eyeHeight = computed(() =>
    floor.value === null || !project.camera ? null : project.camera.pose.station[2] - floor.value,
  )

  /** Tilt and roll become rise and cross; the centre of the picture stays where it is. */
  function level(): void {
    const w = project.working
    const camera = project.camera
    if (!w || !camera) return
    const r = levelKeepingCentre(camera, { keepSize: view.keepSize })
    if (!r.ok) {
      notices.say(r.message, 'warning')
      return
    }
    const aim = aimPointOf(w.stand.aim)
    const away = aim ? Math.max(0.01, distance(aim, w.stand.station)) : 3
    const { station, bearingDeg } = r.value.pose
    const rad = (bearingDeg * Math.PI) / 180
    const point = [station[0] + away * Math.sin(rad), station[1] + away * Math.cos(rad), station[2]] as const
    const stand: Setup['stand'] = { ...aimAt(station, point), aim: { kind: 'point', point, topBearingDeg: bearingDeg } }
    project.move({ stand, lens: r.value.lens }, 'Levelled')
  }

  /** Perspective and parallel with the subject at the aim kept at its size. */
  function switchProjection(kind: 'perspective' | 'parallel'): void {
    const w = project.working
    const camera = project.camera
    if (!w || !camera || w.lens.projection.kind === kind) return
    const aim = aimPointOf(w.stand.aim)
    const depth = Math.max(0.01, aim ? -toCamera(camera.pose, aim)[2] : 5)
    const { widthMm } = usedSensor(w.lens, w.frame)
    if (kind === 'parallel') {
      const projection: Projection = { kind, widthM: (widthMm * depth) / w.lens.focalMm }
      project.move({ lens: { ...w.lens, projection } }, 'Parallel')
      return
    }
    // back: the station moves along the axis until the width at the aim is the same
    const widthM = 'widthM' in w.lens.projection ? w.lens.projection.widthM : widthMm
    const wanted = (w.lens.focalMm * widthM) / widthMm
    const lens = { ...w.lens, projection: { kind } as Projection }
    if (!aim) {
      project.move({ lens }, 'Perspective')
      return
    }
    const k = wanted / depth
    const station = w.stand.station.map((v, i) => aim[i]! + (v - aim[i]!) * k) as unknown as [number, number, number]
    project.move({ lens, stand: { ...w.stand, station } }, 'Perspective')
  }

  return { lean, floor, eyeHeight, level, switchProjection }
}
export const useFraming = createSharedComposable(framing)
