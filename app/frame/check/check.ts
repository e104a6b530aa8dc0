// The frame check beside the picture: worked out off the page a moment after the picture rests; one finding may be shown in it.
import { isPerspective } from '#core/camera'
import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { clippedFindings, type CheckSetup, type Finding } from '#core/checks'
import { setupAsShown, shownOf, withHidden, type Setup } from '#model'
import { useFraming } from '../camera/framing.ts'
import { useFocus } from '../focus/focus.ts'
import { useFocusing } from '../../stores/focusing.ts'
import { useNotices } from '../../stores/notices.ts'
import { centreInFile } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { sameList } from '../../controls/same-list.ts'

const REST_MS = 220

export const useCheck = defineStore('check', () => {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const { subjectId } = useFraming()
  const checkedSetup = useCheckedSetup()
  const { geometric, findings, forget } = createFindings()
  /** The finding highlighted in the picture, by its place in the list. */
  const shownAt = ref<number | null>(null)
  let asked = 0

  async function look(): Promise<void> {
    const w = project.document?.working
    const doc = project.document
    if (!w || !doc || project.isShowing) return
    const mine = ++asked
    const found = await stage.check(checkedSetup(setupAsShown(w, doc, centreInFile)), {
      kind: doc.subject,
      eyeHeightM: doc.eyeHeightM,
      subjectId: subjectId.value,
      ...(doc.people && { people: doc.people }),
    })
    if (mine !== asked || !found) return
    const before = shownAt.value === null ? null : findings.value[shownAt.value]
    geometric.value = found
    // what was shown stays shown as long as it is still found
    const again = before ? findings.value.findIndex((f) => f.id === before.id) : -1
    shownAt.value = again < 0 ? null : again
  }
  // another project: nothing is known of it yet
  watch(
    () => project.id,
    () => {
      asked++
      forget()
      shownAt.value = null
    },
  )
  const key = () => {
    const { working, eyeHeightM, checkLimits, people, objectSets, models } = project.document ?? {}
    return [working, project.isShowing, stage.storeys, subjectId.value, eyeHeightM, checkLimits, people, objectSets, models] as const // prettier-ignore
  }
  watchDebounced(sameList(key), () => void look().catch((e: unknown) => notices.fail(e)), {
    debounce: REST_MS,
    immediate: true,
  })

  const shown = computed(() => (shownAt.value === null ? null : (findings.value[shownAt.value] ?? null)))
  const show = (at: number): void => void (shownAt.value = shownAt.value === at ? null : at)

  const take = useMends()
  /** Takes over what a finding mends. */
  function mend(at: number): void {
    const wanted = findings.value[at]?.mend
    if (!wanted) return
    shownAt.value = null
    take(wanted)
  }
  return { findings, shownAt, shown, look, show, mend }
})

/** What the geometry tells, and after it what the picture itself does. */
function createFindings() {
  const project = useProject()
  const stage = useStage()
  const geometric = shallowRef<readonly Finding[]>([])
  const findings = computed<readonly Finding[]>(() => [
    ...geometric.value,
    // round a section there is nothing to be told apart: white is its paper
    ...(stage.clipped && project.shown.cuts.list.length === 0 ? clippedFindings(stage.clipped) : []),
  ])
  function forget(): void {
    geometric.value = []
    stage.clipped = null
  }
  return { geometric, findings, forget }
}

/** The parts that the check reads, with what the lens blurs. */
function useCheckedSetup() {
  const project = useProject()
  const focusing = useFocusing()
  const { cocMm } = useFocus()
  return (w: Setup): CheckSetup => {
    const { stand, lens, frame } = w
    const blurs = w.focus.on && isPerspective(lens)
    const { mode, fNumber } = w.focus
    const objectId = mode.kind === 'object' ? mode.nodeId : undefined
    const lensFocus = { ...focusing.at(w), fNumber, cocMm: cocMm.value, objectId }
    return { stand, lens, frame, shown: shownOf(w), limits: project.document?.checkLimits, ...(blurs && { lensFocus }) }
  }
}

/** Takes over a mend: the camera as a step of the trail, what is hidden as an edit. */
function useMends() {
  const project = useProject()
  const focusOf = (now: Setup['focus'], to: NonNullable<NonNullable<Finding['mend']>['focus']>): Setup['focus'] => {
    if (to === 'off') return { ...now, on: false }
    if (to === 'aim') return { ...now, mode: { kind: 'aim' } }
    if ('distanceM' in to) return { ...now, mode: { kind: 'distance', distanceM: to.distanceM } }
    return { ...now, mode: { kind: 'object', nodeId: to.nodeId, at: 'centre', offsetM: 0 } }
  }
  return ({
    label,
    stand,
    lens,
    hide,
    cutsOff,
    farOff,
    cut,
    focus,
    brighterEv,
  }: NonNullable<Finding['mend']>): void => {
    const w = project.document?.working
    if (!w) return
    if (stand || lens) project.move({ ...(stand ? { stand } : {}), ...(lens ? { lens } : {}) }, label, true)
    if (hide) {
      project.run({ type: 'setPart', part: 'visible', value: withHidden(w.visible, hide) })
    }
    const { near, far, cuts } = w.cut
    const put = (value: typeof w.cut): void => void project.run({ type: 'setPart', part: 'cut', value })
    if (cutsOff) put({ ...w.cut, near: { ...near, on: false }, far: { ...far, on: false } })
    if (farOff) put({ ...w.cut, far: { ...far, on: false } })
    if (brighterEv !== undefined) {
      const compensationEv = w.exposure.compensationEv + brighterEv
      project.run({ type: 'setPart', part: 'exposure', value: { ...w.exposure, compensationEv } })
    }
    if (focus) project.run({ type: 'setPart', part: 'focus', value: focusOf(w.focus, focus) })
    if (cut) put({ ...w.cut, cuts: cuts.map((c) => (c.id === cut.id ? cut : c)) })
  }
}
