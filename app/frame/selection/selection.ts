// Selecting objects: by click, by rubber band, the parent, everything of the same material. Selecting never moves the camera.
import { createSharedComposable } from '@vueuse/core'
import { computed, watch } from 'vue'
import type { NodeFacts } from '#mesh'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

function selection() {
  const project = useProject()
  const stage = useStage()
  const view = useView()

  const byId = computed(() => stage.byId)
  const nodes = computed(() => view.selection.flatMap((id) => byId.value.get(id) ?? []))
  const hidden = computed(() => new Set(project.shown.hidden))
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

  /** Hides or shows objects; one edit. */
  function setHidden(ids: readonly string[], hide: boolean): void {
    const now = new Set(hidden.value)
    for (const id of ids) {
      if (hide) now.add(id)
      else now.delete(id)
    }
    project.run({ type: 'setPart', part: 'visible', value: { hidden: [...now] } })
  }

  const asked = { byId, nodes, hidden, canParent, materials }
  return { ...asked, select, clear, selectParent, selectSameMaterial, setHidden }
}
export const useSelection = createSharedComposable(selection)
