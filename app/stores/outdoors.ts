// Does a framing take an exposure of its own? Measured views of a building do, and stands under the open sky; a product has one light.
import { defineStore } from 'pinia'
import { computed, shallowReactive, toRaw, watch } from 'vue'
import { isParallel, poseOfStand } from '#core/camera'
import { fingerprint, movedOf, setupAsShown, shownOf, type Setup } from '#model'
import { appearanceOf } from './appearance.ts'
import { centreInFile, centresIn } from './centres.ts'
import { useFocusing } from './focusing.ts'
import { useProject } from './project.ts'
import { useStage } from './stage.ts'

/** Stations are told apart by this much, metres. */
const STEP_M = 0.25
const NEAR = [0, -1, 1, -2, 2]
const NEIGHBOURS = NEAR.flatMap((i) => NEAR.flatMap((j) => NEAR.map((k) => [i, j, k] as const)))

export const useOutdoors = defineStore('outdoors', () => {
  const project = useProject()
  const stage = useStage()
  const focusing = useFocusing()
  const known = shallowReactive(new Map<string, boolean>())
  const asked = new Set<string>()
  watch(
    () => stage.epoch,
    () => {
      known.clear()
      asked.clear()
    },
  )

  /** As beside it, or false, until the rays have answered, which then changes it. */
  function isOutdoors(raw: Setup): boolean {
    const setup = setupAsShown(raw, project.document, centreInFile)
    // rays answer a moment after the model is there
    if (project.document?.subject !== 'room' || !stage.ready || stage.storeys.length === 0) return false
    if (isParallel(setup.lens)) return true
    const { station } = poseOfStand(setup.stand, centresIn(setup))
    const cell = station.map((v) => Math.round(v / STEP_M))
    const hides = `${fingerprint(setup.visible)}${fingerprint(movedOf(setup.visible))}`
    const key = `${cell.join()}|${hides}`
    const answer = known.get(key)
    if (answer !== undefined) return answer
    if (!asked.has(key)) {
      asked.add(key)
      void stage.rays.underSky(station, shownOf(setup)).then((is) => (is === null ? asked.delete(key) : known.set(key, is)), () => asked.delete(key)) // prettier-ignore
    }
    return besides(cell, hides) ?? false
  }
  /** What is known of a neighbouring cell: on a walk the answer holds until the next one is there, so that nothing flashes. */
  function besides(cell: readonly number[], hides: string): boolean | undefined {
    // not followed: the cell's own answer is on its way
    const now = toRaw(known)
    for (const [i, j, k] of NEIGHBOURS) {
      const answer = now.get(`${cell[0]! + i},${cell[1]! + j},${cell[2]! + k}|${hides}`)
      if (answer !== undefined) return answer
    }
    return undefined
  }
  const appearance = (setup: Setup): ReturnType<typeof appearanceOf> => {
    const { materialClasses, tables, photos } = project.document ?? {}
    const shown = setupAsShown(setup, project.document, centreInFile)
    return appearanceOf(shown, isOutdoors(setup), {
      classes: materialClasses,
      blur: focusing.blur(shown),
      tables,
      photos,
    })
  }
  /** Changes when a photograph that may stand behind a picture does, or its masks: not with the lines drawn on it. */
  const behindKey = computed(() => {
    const photos = project.document?.photos
    return photos ? JSON.stringify(photos.map((p) => [p.id, p.sha256, p.match.masks])) : ''
  })
  return { isOutdoors, appearance, behindKey }
})
