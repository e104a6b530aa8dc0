// The focus as the page handles it: what is sharp from where to where, how much is blurred at the output's size, and changes of it.
import { createSharedComposable } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import { isPerspective, principalPointPx } from '#core/camera'
import { blurDiscMm, depthOf, diffractionMm, fNumberForBlur, F_STOPS, keepSharp } from '#core/optics'
import type { Vec3 } from '#core/math'
import type { Command, Setup } from '#model'
import { useFocusing, type FocusAt } from '../../stores/focusing.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { formatLength, lengthSuffix } from '#core/base'

export type Focus = Setup['focus']
/** A blur of fewer pixels than this is not seen. */
export const SEEN_PX = 2
/** When focus is switched on, what lies twice as far is blurred by so many pixels of the output at least. */
const WANTED_PX = 12
/** Places picked lately. */
const RECENT = 5

/** What is sharp, and how much is blurred. */
function createFacts() {
  const project = useProject()
  const focusing = useFocusing()
  const part = computed<Focus | null>(() => project.working?.focus ?? null)
  /** Only a lens blurs: perspective. */
  const hasLens = computed(() => project.camera !== null && isPerspective(project.camera))
  const at = computed<FocusAt | null>(() => (project.workingShown ? focusing.at(project.workingShown) : null))
  const pxPerMm = computed(() => (project.camera && hasLens.value ? principalPointPx(project.camera).pxPerMm : 0))
  const cocMm = computed(() => (project.working ? focusing.cocMm(project.working) : 0.03))
  const sharp = computed(() => (project.workingShown ? focusing.sharpZone(project.workingShown) : null))
  /** Diameter in pixels of the output that a point at a depth is blurred to. */
  function blurPx(distanceM: number, fNumber = part.value?.fNumber ?? 8): number {
    const w = project.working
    if (!w || !at.value || !hasLens.value || !(distanceM > 0)) return 0
    if (!(at.value.distanceM > w.lens.focalMm / 1000)) return 0
    return pxPerMm.value * blurDiscMm({ focalMm: w.lens.focalMm, fNumber, focusM: at.value.distanceM, distanceM })
  }
  const diffractionPx = computed(() => {
    const w = project.working
    if (!w || !at.value || !(at.value.distanceM > w.lens.focalMm / 1000)) return 0
    return pxPerMm.value * diffractionMm({ focalMm: w.lens.focalMm, fNumber: w.focus.fNumber, focusM: at.value.distanceM }) // prettier-ignore
  })
  const withFocus = (changes: Partial<Focus>): Command => ({
    type: 'setPart',
    part: 'focus',
    value: { ...part.value!, ...changes },
  })
  const set = (changes: Partial<Focus>): boolean => part.value !== null && project.run(withFocus(changes))
  const long = (m: number): string => {
    const unit = project.document?.unit ?? 'm'
    // a sharp zone can be a few tenths of a millimetre deep
    if (unit === 'm' && Math.abs(m) < 1) return `${(m * 1000).toFixed(Math.abs(m) < 0.01 ? 2 : 1)} mm`
    return m === Infinity ? '∞' : `${formatLength(m, unit)}${unit === 'ft-in' ? '' : ` ${lengthSuffix(unit)}`}`
  }
  const depth = (point: Vec3): number => (project.camera ? depthOf(project.camera.pose, point) : 0)
  return { part, hasLens, at, pxPerMm, cocMm, sharp, blurPx, diffractionPx, withFocus, set, long, depth }
}
export const useFocus = createSharedComposable(() => {
  const facts = createFacts()
  return { ...facts, ...createChanges(facts), ...createSolutions(facts) }
})
type Facts = ReturnType<typeof createFacts>

function createChanges({ part, at, blurPx, set, sharp, depth }: Facts) {
  const project = useProject()
  const focusing = useFocusing()
  const stage = useStage()
  const notices = useNotices()
  /** Picked places, the last one first. */
  const recent = shallowRef<readonly { readonly point: Vec3; readonly name: string }[]>([])

  /** Switched on for the first time it takes an f-number at which something is seen of it. */
  function switchOn(): void {
    if (!part.value || !project.working) return
    if (part.value.on) return void set({ on: false })
    const far = (at.value?.distanceM ?? 0) * 2
    if (blurPx(far) >= WANTED_PX) return void set({ on: true })
    const fNumber = F_STOPS.full.findLast((n) => n <= part.value!.fNumber && blurPx(far, n) >= WANTED_PX) ?? 1.4
    if (!set({ on: true, fNumber })) return
    notices.say(`f/${fNumber}: what lies twice as far as the focus is blurred by ${blurPx(far, fNumber).toFixed(0)} px in the finished picture.`) // prettier-ignore
  }
  /** On a place: a click, J or Alt-click. */
  function focusOn(point: Vec3, nodeId: string | null): boolean {
    const m = depth(point)
    if (!(m > 0)) {
      notices.say('That lies behind the camera. Click something in the picture.', 'warning')
      return false
    }
    const name = (nodeId !== null && stage.byId.get(nodeId)?.name) || 'a place'
    recent.value = [{ point, name }, ...recent.value.filter((r) => r.name !== name)].slice(0, RECENT)
    return set({ on: true, mode: { kind: 'point', point } })
  }
  function focusOnObject(nodeId: string): boolean {
    const before = part.value?.mode
    const own = before?.kind === 'object' ? { at: before.at, offsetM: before.offsetM } : { at: 'surface' as const, offsetM: 0 } // prettier-ignore
    const mode = { kind: 'object', nodeId, ...own } as const
    const w = project.workingShown
    const there = w && focusing.at({ ...w, focus: { ...w.focus, mode } })
    return set({ on: true, mode: { ...mode, ...(there?.trouble === null && { lastM: there.distanceM }) } })
  }
  const toHyperfocal = (): void =>
    void (sharp.value && set({ mode: { kind: 'distance', distanceM: sharp.value.hyperfocalM } }))
  return { recent, switchOn, focusOn, focusOnObject, toHyperfocal }
}

/** Distance and f-number that do what is wanted of picked places. */
function createSolutions({ at, blurPx, set, cocMm, long, pxPerMm, depth }: Facts) {
  const project = useProject()
  const notices = useNotices()
  /** Everything sharp from one picked place to another. */
  function sharpBetween(a: Vec3, b: Vec3): boolean {
    const w = project.working
    const [from, to] = [depth(a), depth(b)].sort((x, y) => x - y) as [number, number]
    if (!w || !(from > 0)) {
      notices.say('One of the places lies behind the camera.', 'warning')
      return false
    }
    const r = keepSharp({ fromM: from, toM: to, focalMm: w.lens.focalMm, cocMm: cocMm.value })
    if (!r.ok) {
      notices.say(r.message, 'warning')
      return false
    }
    const fNumber = Math.min(256, Math.max(0.5, r.value.fNumber))
    if (!set({ on: true, fNumber, mode: { kind: 'distance', distanceM: r.value.focusM } })) return false
    const blurred = pxPerMm.value * diffractionMm({ focalMm: w.lens.focalMm, fNumber, focusM: r.value.focusM })
    const limit = blurred > SEEN_PX ? ` At this aperture diffraction alone spreads points over ${blurred.toFixed(1)} px.` : '' // prettier-ignore
    notices.say(`Sharp from ${long(from)} to ${long(to)}: focused at ${long(r.value.focusM)}, f/${fNumber.toFixed(1)}.${limit}`) // prettier-ignore
    return true
  }
  /** The f-number at which a picked place is blurred by so many pixels. */
  function blurredThere(point: Vec3, px: number): boolean {
    const w = project.working
    if (!w || !at.value) return false
    const fNumber = fNumberForBlur({ focalMm: w.lens.focalMm, focusM: at.value.distanceM, distanceM: depth(point), discMm: px / pxPerMm.value }) // prettier-ignore
    if (!(fNumber >= 0.5 && fNumber <= 256)) {
      notices.say(fNumber < 0.5 ? `No lens opens that far: f/0.5 blurs it by ${blurPx(depth(point), 0.5).toFixed(1)} px.` : 'That place is in focus: it is not blurred at any aperture.', 'warning') // prettier-ignore
      return false
    }
    return set({ on: true, fNumber })
  }
  return { sharpBetween, blurredThere }
}
