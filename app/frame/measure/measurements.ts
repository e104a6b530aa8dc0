// Distances measured between picked points: shown in picture, Plan and Side until cleared; never part of the project.
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { distancesBetween } from '#core/framing'
import type { Vec3 } from '#core/math'

export const MOST_MEASUREMENTS = 12

export const useMeasurements = defineStore('measurements', () => {
  const pairs = shallowRef<readonly (readonly [Vec3, Vec3])[]>([])
  /** The first point of a measure under way. */
  const from = shallowRef<Vec3 | null>(null)
  /** Points picked for a fit. */
  const fitPoints = shallowRef<readonly Vec3[]>([])
  const list = computed(() => pairs.value.map(([a, b]) => ({ a, b, ...distancesBetween(a, b) })))

  function add(point: Vec3): void {
    if (!from.value) {
      from.value = point
      return
    }
    pairs.value = [...pairs.value, [from.value, point] as const].slice(-MOST_MEASUREMENTS)
    from.value = null
  }
  const remove = (at: number): void => void (pairs.value = pairs.value.filter((_, i) => i !== at))
  function clear(): void {
    pairs.value = []
    from.value = null
  }
  const addFitPoint = (p: Vec3): void => void (fitPoints.value = [...fitPoints.value, p])
  const clearFitPoints = (): void => void (fitPoints.value = [])
  return { pairs, from, fitPoints, list, add, remove, clear, addFitPoint, clearFitPoints }
})
