// The list of cuts as the page handles it: new ones through the subject, changes, what is left whole, all on and off.
import { createSharedComposable } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { aimPointOf } from '#core/camera'
import { joinBoxes, boxCentre, type Box, type Vec3 } from '#core/math'
import { newCut, nextLetter, type Cut, type CutKind, type CutPlace } from '#core/section'
import type { Command, Setup } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { newId, useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { useSelection } from '../selection/selection.ts'

export const KIND_WORDS: Record<CutKind, string> = {
  level: 'Level',
  upright: 'Upright',
  free: 'Free plane',
  slice: 'Slice',
  box: 'Box',
  stepped: 'Stepped',
}
/** As many as the document takes. */
export const MOST_CUTS = 64
type CutPart = Setup['cut']

function cuts() {
  const project = useProject()
  const place = usePlace()
  const part = computed<CutPart | null>(() => project.working?.cut ?? null)
  const list = computed<readonly Cut[]>(() => part.value?.cuts ?? [])
  /** The one whose numbers and handles are shown. */
  const chosenId = shallowRef<string | null>(null)
  const chosen = computed(() => list.value.find((c) => c.id === chosenId.value) ?? null)

  const withPart = (changes: Partial<CutPart>): Command => ({
    type: 'setPart',
    part: 'cut',
    value: { ...part.value!, ...changes },
  })
  const set = (changes: Partial<CutPart>): boolean => part.value !== null && project.run(withPart(changes))
  /** The command that puts a changed cut in the place of the one with its id. */
  const withCut = (cut: Cut): Command => withPart({ cuts: list.value.map((c) => (c.id === cut.id ? cut : c)) })
  const change = (cut: Cut): boolean => project.run(withCut(cut))

  const addCut = useAdding(part, chosenId)
  const add = (kind: CutKind): Cut | null => {
    const at = place()
    return at && addCut((id, name) => newCut(kind, id, name, at))
  }
  function remove(id: string): void {
    set({ cuts: list.value.filter((c) => c.id !== id) })
    if (chosenId.value === id) chosenId.value = null
  }
  function allOff(off: boolean): void {
    if (!part.value) return
    const { allOff: _, ...rest } = part.value
    project.run({ type: 'setPart', part: 'cut', value: off ? { ...rest, allOff: true } : rest })
  }
  const isAny = computed(() => list.value.length > 0 || Boolean(part.value?.near.on || part.value?.far.on))
  const switchAll = (): void => allOff(!part.value?.allOff)

  return {
    ...{ part, list, chosenId, chosen, withPart, withCut, set, change, add, addCut, remove, isAny, switchAll },
    ...useLeaving(part, set),
    place,
  }
}
export const useCuts = createSharedComposable(cuts)

/** Adding to the list. */
function useAdding(part: Readonly<{ value: CutPart | null }>, chosenId: { value: string | null }) {
  const project = useProject()
  const notices = useNotices()
  /**
   * Puts a cut into the list, or one that is there already on again; `alone` switches all others off, near and far cut too: a section
   * shows itself. One edit.
   */
  function addCut(make: (id: string, name: string) => Cut, { alone = false } = {}): Cut | null {
    const p = part.value
    if (!p) return null
    if (project.document!.locked.includes('cut')) {
      notices.say('Cut is locked. Unlock it first.', 'warning')
      return null
    }
    const cut = { ...make(newId(), nextLetter(p.cuts.map((c) => c.name))), on: true }
    const others = p.cuts.filter((c) => c.id !== cut.id)
    if (others.length >= MOST_CUTS) {
      notices.say(`A framing holds ${MOST_CUTS} cuts: take one out first.`, 'warning')
      return null
    }
    const { allOff: _, ...rest } = p
    const kept = alone ? others.map((c) => (c.on ? { ...c, on: false } : c)) : others
    const ends = alone ? { near: { ...p.near, on: false }, far: { ...p.far, on: false } } : {}
    project.run({ type: 'setPart', part: 'cut', value: { ...rest, ...ends, cuts: [...kept, cut] } })
    // refused it is not there; one that was there already is
    if (!part.value?.cuts.some((c) => c.id === cut.id)) return null
    chosenId.value = cut.id
    return cut
  }
  return addCut
}

/** Where a new cut lies: through what is selected, else the aim, else the model's middle. */
function usePlace() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const { mainBearingDeg } = useFraming()
  const { nodes } = useSelection()
  return (): CutPlace | null => {
    const camera = project.camera
    const model = stage.facts?.box
    if (!camera || !model || !project.working) return null
    const round = nodes.value.map((n) => n.box).reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null)
    const aim = aimPointOf(project.working.stand.aim, centreOf)
    const isIn = (p: Vec3): boolean => p.every((v, k) => v >= model.min[k]! && v <= model.max[k]!)
    const point = round ? boxCentre(round) : aim && isIn(aim) ? aim : boxCentre(model)
    const floor = stage.storeys[Math.min(view.storey, stage.storeys.length - 1)]?.heightM ?? model.min[2]
    // products are cut through their middle, rooms where their plan is
    const own = floor + project.document!.planCutM
    const heightM = own > model.min[2] && own < model.max[2] ? own : point[2]
    return { point, bearingDeg: camera.pose.bearingDeg, mainBearingDeg: mainBearingDeg.value, model, round, heightM }
  }
}

/** Objects that cuts take nothing from. */
function useLeaving(part: Readonly<{ value: CutPart | null }>, set: (changes: Partial<CutPart>) => boolean) {
  const view = useView()
  const whole = computed(() => part.value?.whole ?? [])
  const leaveWhole = (): void => void set({ whole: [...new Set([...whole.value, ...view.selection])] })
  const cutAgain = (id: string): void => void set({ whole: whole.value.filter((w) => w !== id) })
  return { whole, leaveWhole, cutAgain }
}
