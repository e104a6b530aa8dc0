// Distances measured between picked points, and measuring staffs stood anywhere: shown in picture, Plan and Side until cleared; never part of the project.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { distancesBetween, staffFor } from '#core/framing'
import type { Vec3 } from '#core/math'
import { useStage } from '../../stores/stage.ts'

export const MOST_MEASUREMENTS = 12

export const useMeasurements = defineStore('measurements', () => {
  const pairs = shallowRef<readonly (readonly [Vec3, Vec3])[]>([])
  /** The first point of a measure under way. */
  const from = shallowRef<Vec3 | null>(null)
  /** Measuring staffs: where they stand, and how high they are. */
  const staffs = shallowRef<readonly { readonly foot: Vec3; readonly heightM: number }[]>([])
  /** Points picked for a fit. */
  const fitPoints = shallowRef<readonly Vec3[]>([])
  const stage = useStage()
  const typedHeightM = ref<number | null>(null)
  /** Height of the next staff: as typed, else one that the model calls for. */
  const staffHeightM = computed({
    get: () => {
      const box = stage.facts?.box
      return typedHeightM.value ?? (box ? staffFor(box.max[2] - box.min[2]) : 2)
    },
    set: (m) => (typedHeightM.value = m),
  })
  const list = computed(() => pairs.value.map(([a, b]) => ({ a, b, ...distancesBetween(a, b) })))

  function add(point: Vec3): void {
    if (!from.value) {
      from.value = point
      return
    }
    pairs.value = [...pairs.value, [from.value, point] as const].slice(-MOST_MEASUREMENTS)
    from.value = null
  }
  /** Stands a staff upright on a point. */
  const addStaff = (foot: Vec3): void =>
    void (staffs.value = [...staffs.value, { foot, heightM: staffHeightM.value }].slice(-MOST_MEASUREMENTS))
  const removeStaff = (at: number): void => void (staffs.value = staffs.value.filter((_, i) => i !== at))
  const remove = (at: number): void => void (pairs.value = pairs.value.filter((_, i) => i !== at))
  function clear(): void {
    pairs.value = []
    staffs.value = []
    from.value = null
  }
  const addFitPoint = (p: Vec3): void => void (fitPoints.value = [...fitPoints.value, p])
  const clearFitPoints = (): void => void (fitPoints.value = [])
  return {
    ...{ staffs, staffHeightM, addStaff, removeStaff },
    ...{ pairs, from, fitPoints, list, add, remove, clear, addFitPoint, clearFitPoints },
  }
})
