// What fills the frame at a tight fit: picked points, else the selection, else the model.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { boxCorners, joinBoxes, type Box, type Vec3 } from '#core/math'
import { useMeasurements } from '../measure/measurements.ts'
import { useSelection } from '../selection/selection.ts'
import { useStage } from '../../stores/stage.ts'

export interface FitTarget {
  readonly what: string
  readonly points: readonly Vec3[]
  readonly box: Box
  /** The selected objects it is made of; none for picked points and the whole model. */
  readonly ids: readonly string[]
}

function fitTarget() {
  const stage = useStage()
  const measurements = useMeasurements()
  const { nodes } = useSelection()
  const target = computed<FitTarget | null>(() => {
    const picked = measurements.fitPoints
    if (picked.length > 0) {
      const box = picked.map((p): Box => ({ min: p, max: p })).reduce(joinBoxes)
      const what = picked.length === 1 ? 'one picked point' : `${picked.length} picked points`
      return { what, points: picked, box, ids: [] }
    }
    const box = nodes.value.map((n) => n.box).reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null)
    if (box) {
      const what = nodes.value.length === 1 ? `“${nodes.value[0]!.name}”` : `${nodes.value.length} objects`
      const ids = nodes.value.map((n) => n.id)
      return { what, points: nodes.value.flatMap((n) => boxCorners(n.box)), box, ids }
    }
    const all = stage.facts?.box
    return all ? { what: 'the model', points: boxCorners(all), box: all, ids: [] } : null
  })
  return { target }
}
export const useFitTarget = createSharedComposable(fitTarget)
