// Hiding and showing: single objects, all of a storey or a material, named sets; nothing but some; and back.
import { createSharedComposable } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { byMaterial, byStorey, type ObjectGroup } from '#core/section'
import {
  allShown,
  isBelowHidden,
  isolated,
  withHidden,
  withSet,
  withShadows,
  withShown,
  type ObjectSet,
  type Visible,
} from '#model'
import { newId, useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** How much of a group is shown. */
export type Showing = 'all' | 'some' | 'none'

function hiding() {
  const project = useProject()
  const stage = useStage()
  const view = useView()

  const hidden = computed(() => new Set(project.shown.hidden))
  const isGone = (id: string): boolean => hidden.value.has(id) || isBelowHidden(id, hidden.value)
  const sets = computed<readonly ObjectSet[]>(() => project.document?.objectSets ?? [])
  const visible = (): Visible | null => project.document?.working.visible ?? null
  const nodes = () => stage.facts?.nodes ?? []
  const set = (value: Visible): boolean => project.run({ type: 'setPart', part: 'visible', value })

  function hide(ids: readonly string[]): void {
    const v = visible()
    if (v && ids.length > 0) set(withHidden(v, ids))
  }
  function show(ids: readonly string[]): void {
    const v = visible()
    if (v && ids.length > 0) set(withShown(v, sets.value, nodes(), ids))
  }
  const showAll = (): void => void (visible() && set(allShown(visible()!)))

  /** What was shown before isolating, as long as what is shown is what isolating left. */
  const before = shallowRef<{ readonly was: Visible; readonly made: Visible } | null>(null)
  const isIsolated = computed(() => before.value !== null && project.document?.working.visible === before.value.made)
  /** Nothing but the selection; again: what was shown before. */
  function isolate(): void {
    const v = visible()
    if (!v) return
    if (isIsolated.value && before.value) {
      set(before.value.was)
      before.value = null
      return
    }
    if (view.selection.length === 0) return
    if (set(isolated(v, nodes(), view.selection))) before.value = { was: v, made: visible()! }
  }
  const shadowsKept = computed(() => project.working?.visible.shadows === 'kept')
  const keepShadows = (on: boolean): void => void (visible() && set(withShadows(visible()!, on)))

  const showing = (ids: readonly string[]): Showing => {
    const gone = ids.filter(isGone).length
    return gone === 0 ? 'all' : gone === ids.length ? 'none' : 'some'
  }
  const storeys = computed<readonly ObjectGroup[]>(() => byStorey(nodes(), stage.storeys))
  const materials = computed<readonly ObjectGroup[]>(() => byMaterial(nodes()))

  const asked = { hidden, isGone, showing, storeys, materials, isIsolated, shadowsKept }
  return { ...asked, hide, show, showAll, isolate, keepShadows, ...naming(sets, visible, set) }
}

/** Named sets of objects. */
function naming(
  sets: { readonly value: readonly ObjectSet[] },
  visible: () => Visible | null,
  set: (value: Visible) => boolean,
) {
  const project = useProject()
  const view = useView()
  const isOff = (s: ObjectSet): boolean => project.working?.visible.sets?.includes(s.id) ?? false
  const switchSet = (s: ObjectSet, hide: boolean): void => void (visible() && set(withSet(visible()!, s.id, hide)))
  const addSet = (name: string, objects: readonly string[]): boolean =>
    project.run({ type: 'addSet', set: { id: newId(), name, objects: [...objects] } })
  const rename = (s: ObjectSet, name: string): boolean =>
    project.run({ type: 'changeSet', setId: s.id, changes: { name } })
  /** Takes what is selected into a set, or out of it. */
  function change(s: ObjectSet, take: 'in' | 'out'): void {
    const chosen = new Set(view.selection)
    const rest = s.objects.filter((o) => !chosen.has(o))
    project.run({ type: 'changeSet', setId: s.id, changes: { objects: take === 'in' ? [...rest, ...chosen] : rest } })
  }
  const drop = (s: ObjectSet): boolean => project.run({ type: 'deleteSet', setId: s.id })
  return { sets, isOff, switchSet, addSet, rename, change, drop }
}
export const useHiding = createSharedComposable(hiding)
