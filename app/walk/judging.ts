// Rates and findings of the reel at hand, by the worker that holds the model: at once what the shots tell, and at rest what stands beside them.
// Before there is a model the page does it itself.
import { watchDebounced } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { acrossOf, COMFORT_LIMITS, reportOf, type BesideWay, type ComfortFinding, type ComfortLimits, type Motion, type ReelReport, type ReportAsked } from '#core/reel' // prettier-ignore
import { setupAsShown, shownOf } from '#model'
import type { ReelCuts } from '#model/reel'
import { centreInFile } from '../stores/centres.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'

/** Clearances are asked up to this, metres; and asked for when the reel has rested for so long. */
const FAR_M = 2
const RESTED_MS = 350
interface Told {
  readonly reelId: string
  readonly asked: ReportAsked
  readonly report: ReelReport
}

interface Judged {
  readonly part: { readonly value: { readonly id: string } | null }
  readonly resolved: { readonly value: ReelCuts | null }
  readonly fps: { readonly value: number }
}
export function createJudging(o: Judged) {
  const project = useProject()
  const limits = computed<ComfortLimits>(() => ({ ...COMFORT_LIMITS, ...project.document?.comfortLimits }))
  const asked = computed<ReportAsked>(() => {
    const r = o.resolved.value
    const lenses = (r?.setups ?? []).map(({ lens, frame }) => ({ lens, frame }))
    return { cuts: r?.cuts ?? [], plays: r?.plays ?? [], fps: o.fps.value, lenses, limits: limits.value }
  })
  const { told, isAnswered } = createAsking(o, asked)
  const own = computed<ReelReport | null>(() => (isAnswered.value ? null : reportOf(asked.value)))
  /** The newest that is known of this reel; what is asked for meanwhile takes its place. */
  const report = computed<ReelReport>(() => {
    if (own.value) return own.value
    const t = told.value
    const isOfThis = t && t.reelId === o.part.value?.id && t.asked.cuts.length === asked.value.cuts.length
    return isOfThis ? t.report : NOTHING
  })
  return {
    limits,
    /** Whether what is told is of this reel at all. */
    isJudged: computed(() => report.value !== NOTHING),
    motion: computed<Motion>(() => report.value.motion),
    findings: computed<readonly ComfortFinding[]>(() => report.value.findings),
    beside: computed<BesideWay | null>(() => report.value.beside),
    acrossDeg: (cut: number, focalMm: number): number => acrossOf(asked.value.lenses[cut], focalMm),
  }
}

/** Asks the worker, one question at a time; `isAnswered`: false where there is no model that could answer. */
function createAsking(o: Judged, asked: { readonly value: ReportAsked }) {
  const project = useProject()
  const stage = useStage()
  const told = shallowRef<Told | null>(null)
  const isAway = ref(false)
  const hasModel = computed(() => stage.ready && stage.storeys.length > 0)
  let isGone = false
  onScopeDispose(() => (isGone = true))
  async function ask(farM: number | null): Promise<void> {
    const [a, reelId, setups] = [asked.value, o.part.value?.id, o.resolved.value?.setups ?? []]
    if (!reelId || setups.length === 0 || !hasModel.value) return
    const shown = setups.map((s) => shownOf(setupAsShown(s, project.document, centreInFile)))
    const report = await stage.rays.reelReport(a, farM, shown)
    isAway.value = report === null
    // of a reel that has changed meanwhile the clearance is asked again anyway
    if (!isGone && report && (farM === null || asked.value === a)) told.value = { reelId, asked: a, report }
  }
  // what changes while an answer is awaited is asked for when it is there
  let isBusy = false
  async function askNow(): Promise<void> {
    if (isBusy) return
    isBusy = true
    try {
      for (let a: ReportAsked | null = null; a !== asked.value && !isGone;) {
        a = asked.value
        await ask(null)
      }
    } catch {
      // the worker went: the page does it
      isAway.value = true
    } finally {
      isBusy = false
    }
  }
  watch([() => asked.value, hasModel], () => void askNow(), { immediate: true })
  watchDebounced([() => asked.value, hasModel], () => void ask(FAR_M).catch(() => undefined), { debounce: RESTED_MS, immediate: true }) // prettier-ignore
  return { told, isAnswered: computed(() => hasModel.value && !isAway.value) }
}
const NOTHING: ReelReport = reportOf({ cuts: [], fps: 25, lenses: [], limits: COMFORT_LIMITS })
