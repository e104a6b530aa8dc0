// Which storey plans show, and the height they are cut at.
import { computed } from 'vue'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'

export function useStorey() {
  const [project, stage, view] = [useProject(), useStage(), useView()]
  const index = computed(() => Math.min(view.storey, Math.max(0, stage.storeys.length - 1)))
  const storey = computed(() => stage.storeys[index.value] ?? null)
  /** Above the storey's floor, metres. */
  const cutM = computed(() => project.document?.planCutM ?? 1.2)
  const cutZ = computed(() => (storey.value ? storey.value.heightM + cutM.value : null))
  return { index, storey, cutM, cutZ }
}
