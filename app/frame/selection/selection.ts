// Selecting objects: by click, by rubber band, the parent, everything of the same material. Selecting never moves the camera.
import { createSharedComposable } from '@vueuse/core'
import { computed, watch } from 'vue'
import type { NodeFacts } from '#mesh'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

function selection() {
  const stage = useStage()
  const view = useView()

  const byId = computed(() => stage.byId)
  const nodes = computed(() => view.selection.flatMap((id) => byId.value.get(id) ?? []))
  // objects that went with their model leave the selection
  watch(byId, (map) => {
    if (view.selection.some((id) => !map.has(id))) view.selection = view.selection.filter((id) => map.has(id))
  })

  function select(ids: readonly string[], adding = false): void {
    if (!adding) {
      view.selection = [...ids]
      return
    }
    const now = new Set(view.selection)
    // what is selected already leaves, as long as one thing is meant
    if (ids.length === 1 && now.has(ids[0]!)) now.delete(ids[0]!)
    else for (const id of ids) now.add(id)
    view.selection = [...now]
  }
  const clear = (): void => void (view.selection = [])

  const canParent = computed(() => nodes.value.some((n) => n.parentId !== null))
  const selectParent = (): void => select([...new Set(nodes.value.map((n) => n.parentId ?? n.id))])

  const materials = computed(() => [...new Set(nodes.value.flatMap((n) => n.materials))])
  /** Every object of the same model with a material that a selected one has. */
  function selectSameMaterial(): void {
    const model = (n: NodeFacts): string => n.id.slice(0, n.id.indexOf('/'))
    const wanted = new Set(nodes.value.flatMap((n) => n.materials.map((m) => `${model(n)}/${m}`)))
    select(
      [...byId.value.values()].filter((n) => n.materials.some((m) => wanted.has(`${model(n)}/${m}`))).map((n) => n.id),
    )
  }

  return { byId, nodes, canParent, materials, select, clear, selectParent, selectSameMaterial }
}
export const useSelection = createSharedComposable(selection)
