// Hold level: one switch for perspective pictures, one for parallel ones. A measured view is off level by its nature; the framing it
// was taken from finds its own switch as it was.
import { isParallel } from '#core/camera'
import { computed } from 'vue'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

export function useHoldLevel() {
  const project = useProject()
  const view = useView()
  const isFlat = (): boolean => project.working !== null && isParallel(project.working.lens)
  return computed<boolean>({
    get: () => (isFlat() ? view.holdLevelFlat : view.holdLevel),
    set: (on) => {
      if (isFlat()) view.holdLevelFlat = on
      else view.holdLevel = on
    },
  })
}
