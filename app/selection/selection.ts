// Selecting objects: by click, by rubber band, the parent, everything of the same material. Selecting never moves the camera.
import { createSharedComposable } from '@vueuse/core'
import { computed, watch } from 'vue'
import { axesOf, toCamera, type Aim } from '#core/camera'
import { fitPoints } from '#core/framing'
import { addScaled, boxCentre, boxCorners, joinBoxes, type Box } from '#core/math'
import type { NodeFacts } from '#mesh'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'

/** Free at each side when an object is framed. */
const MARGIN = 0.05

function selection() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()

  const byId = computed(() => stage.byId)
  const nodes = computed(() => view.selection.flatMap((id) => byId.value.get(id) ?? []))
  const hidden = computed(() => new Set(project.working?.visible.hidden ?? []))
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

  /** Fills the frame with the selection, or with the whole model; the direction of view stays. */
  function tightFit(): void {
    const w = project.working
    const camera = project.camera
    const facts = stage.facts
    if (!w || !camera || !facts) return
    const box = nodes.value.map((n) => n.box).reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null) ?? facts.box
    const r = fitPoints(camera, boxCorners(box), { margin: MARGIN })
    if (!r.ok) {
      notices.say(r.message, 'warning')
      return
    }
    const { station } = r.value.pose
    // the aim goes to the middle of what fills the frame, along the same sight line
    const depth = Math.max(0.01, -toCamera(r.value.pose, boxCentre(box))[2])
    const point = addScaled(station, axesOf(camera.pose).forward, depth)
    const topBearingDeg = camera.pose.bearingDeg
    const aim: Aim = w.stand.aim.kind === 'direction' ? w.stand.aim : { kind: 'point', point, topBearingDeg }
    project.move({ stand: { ...w.stand, station, aim }, lens: r.value.lens }, 'Tight fit')
  }

  return {
    byId,
    nodes,
    hidden,
    select,
    clear,
    canParent,
    selectParent,
    materials,
    selectSameMaterial,
    setHidden,
    tightFit,
  }
}
export const useSelection = createSharedComposable(selection)
