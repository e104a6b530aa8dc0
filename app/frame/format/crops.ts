// Other shapes of the same framing: where they lie, and what of the subject they lose.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import type { FrameCrop } from '#core/camera'
import { leftOut } from '#core/framing'
import { boxCorners, type Vec3 } from '#core/math'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useFraming } from '../camera/framing.ts'

/** Less of the subject outside is none. */
const LEAST = 0.01

function createCrops() {
  const project = useProject()
  const stage = useStage()
  const { subject, subjectId } = useFraming()
  const crops = computed(() => project.working?.frame.crops ?? [])
  /** The subject as points: its box, or where it is. */
  const points = computed<readonly Vec3[]>(() => {
    const node = subjectId.value ? stage.byId.get(subjectId.value) : undefined
    if (node) return boxCorners(node.box)
    return subject.value ? [subject.value] : []
  })
  const what = computed(() => {
    const node = subjectId.value ? stage.byId.get(subjectId.value) : undefined
    return node ? `“${node.name}”` : 'the subject'
  })
  const missing = computed(() => {
    const c = project.camera
    if (!c) return []
    return crops.value.flatMap((crop) => {
      const part = leftOut(c, crop, points.value)
      return part > LEAST ? [{ ...crop, part, what: what.value }] : []
    })
  })
  function put(next: readonly FrameCrop[], label: string): void {
    const frame = project.working?.frame
    if (!frame) return
    const { crops: _, ...rest } = frame
    project.move({ frame: next.length > 0 ? { ...rest, crops: next } : rest }, label)
  }
  /** While it is dragged. */
  function showMoved(next: FrameCrop): void {
    const frame = project.working?.frame
    if (frame) project.show({ frame: { ...frame, crops: crops.value.map((c) => (c.id === next.id ? next : c)) } })
  }
  const nameOf = (c: FrameCrop): string => `${Number(c.width.toPrecision(4))}:${c.height}`
  return { crops, missing, put, showMoved, nameOf }
}
export const useCrops = createSharedComposable(createCrops)
