// A turntable by hand: what it goes round, where it begins, and what turns instead of the camera.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { wrapBearingDeg } from '#core/base'
import { boxCentre, joinBoxes, type Box, type Vec3 } from '#core/math'
import type { ShotPart } from '#model'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useFilm } from './film.ts'

type Turntable = Extract<ShotPart, { kind: 'turntable' }>
/** What a thing stands on or before does not turn with it. */
const STAYS: ReadonlySet<string> = new Set(['surroundings', 'floor'])

/** The largest things that hold nothing of what stays; ids. */
export function whatTurns(nodes: readonly { readonly id: string; readonly parentId: string | null; readonly kind: string | null }[]): string[] {
  const holds = new Set<string>()
  for (const n of [...nodes].reverse()) {
    if (STAYS.has(n.kind ?? '')) holds.add(n.id)
    if (holds.has(n.id) && n.parentId !== null) holds.add(n.parentId)
  }
  return nodes.filter((n) => !holds.has(n.id) && (n.parentId === null || holds.has(n.parentId))).map((n) => n.id)
} // prettier-ignore

function turning() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const notices = useNotices()
  const { shot, moment, dragged } = useFilm()
  const table = computed(() => (shot.value?.kind === 'turntable' ? shot.value : null))
  function put(next: Turntable): void {
    dragged.value = null
    project.run({ type: 'putReels', shots: [next] })
  }
  const set = (changes: Partial<Turntable>): void => {
    if (table.value) put({ ...table.value, ...changes })
  }
  const live = (changes: Partial<Turntable>): void => {
    if (table.value) dragged.value = { ...table.value, ...changes }
  }
  const drop = (): void => void (dragged.value?.kind === 'turntable' && put(dragged.value))
  const cancel = (): void => void (dragged.value = null)

  /** The middle of what is chosen in the frame. */
  function roundChosen(): void {
    const boxes = view.selection.flatMap((id): Box[] => (stage.byId.has(id) ? [stage.byId.get(id)!.box] : []))
    if (boxes.length === 0) return notices.say('Choose what it goes round in the frame first.', 'warning')
    set({ pivot: boxCentre(boxes.reduce(joinBoxes)) })
  }
  /** Bearing of the camera seen from the pivot, at its beginning. */
  const startDeg = computed(() => {
    const [t, from] = [table.value, moment.value.placed?.filmed.at(0).pose.station]
    return t && from ? wrapBearingDeg((Math.atan2(from[0] - t.pivot[0], from[1] - t.pivot[1]) * 180) / Math.PI) : null
  })
  /** Begins elsewhere on its circle; it looks at the pivot then. */
  function from(deg: number): Partial<Turntable> {
    const [t, at] = [table.value!, moment.value.placed!.filmed.at(0).pose.station]
    const [x, y] = [at[0] - t.pivot[0], at[1] - t.pivot[1]]
    const [r, a] = [Math.hypot(x, y), (deg * Math.PI) / 180]
    const station: Vec3 = [t.pivot[0] + r * Math.sin(a), t.pivot[1] + r * Math.cos(a), at[2]]
    return { from: station }
  }
  function asKept(): void {
    const { from: _, ...rest } = table.value!
    put(rest)
  }
  /** What is chosen turns instead of the camera; where nothing is, all that does not stand around it. */
  function spin(): void {
    const { spins, ...rest } = table.value!
    if (spins) return put(rest)
    const chosen =
      view.selection.length > 0 ? [...view.selection] : whatTurns(stage.facts?.nodes ?? []).slice(0, MOST_SPINS)
    if (chosen.length === 0) return notices.say('There is nothing that could turn.', 'warning')
    set({ spins: chosen })
  }
  return { table, set, live, drop, cancel, roundChosen, startDeg, from, asKept, spin }
}
const MOST_SPINS = 200
export const useTurning = createSharedComposable(turning)
