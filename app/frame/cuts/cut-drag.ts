// A plane of a cut dragged along its normal: live everywhere, caught by walls and round values, one edit at the end.
import { shallowRef } from 'vue'
import { formatLength, lengthSuffix } from '#core/base'
import { snapTo } from '#core/framing'
import { dot, type Vec3 } from '#core/math'
import { movePlane, type Cut } from '#core/section'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useCutSnaps } from './cut-snaps.ts'
import { useCuts } from './cuts.ts'

/** A plane taken hold of: the cut as it was, its plane, the normal towards what goes, and a point of it. */
export interface Grip {
  readonly cut: Cut
  readonly plane: number
  readonly normal: Vec3
  readonly at: Vec3
}
const REACH_PX = 7

export function useCutDrag() {
  const project = useProject()
  const view = useView()
  const { chosenId, withCut } = useCuts()
  const snapsOf = useCutSnaps()
  let grip: Grip | null = null
  /** The plane that is dragged now, and what caught it. */
  const dragging = shallowRef('')
  const caught = shallowRef('')

  function begin(g: Grip): void {
    chosenId.value = g.cut.id
    grip = g.cut.locked ? null : g
    dragging.value = grip ? keyOf(g) : ''
  }
  /** So far from where it was, metres along the normal; a pixel is so many metres there. */
  function drag(byM: number, e: { altKey: boolean }, metresPerPx: number): void {
    if (!grip) return
    const { cut, plane, normal, at } = grip
    const was = dot(normal, at)
    let to = was + byM
    caught.value = ''
    if (!e.altKey && view.snapping) {
      const found = snapTo(to, snapsOf(normal), REACH_PX * metresPerPx, roundM(metresPerPx))
      to = found.value
      caught.value = found.label ?? ''
    }
    project.showEdit(withCut(movePlane(cut, plane, to - was)))
  }
  function nudge({ cut, plane }: Grip, byM: number): void {
    if (!cut.locked && byM !== 0) project.run(withCut(movePlane(cut, plane, byM)))
  }
  function over(): void {
    grip = null
    dragging.value = caught.value = ''
  }
  function done(): void {
    over()
    project.settleEdit()
  }
  function cancel(): void {
    over()
    project.letGo()
  }
  const reading = (g: Grip): string => {
    const { unit } = project.document!
    const what = dragging.value === keyOf(g) && caught.value ? `, ${caught.value}` : ''
    return `${formatLength(placeOf(g), unit)} ${lengthSuffix(unit)}${what}`
  }
  return { dragging, begin, drag, nudge, done, cancel, reading }
}
export const keyOf = ({ cut, plane }: Grip): string => `${cut.id}|${plane}`

/** Where a plane lies, as the panel says it: a height, along the way the cut looks, or along the axis it is nearest to. */
export function placeOf({ cut, normal, at }: Grip): number {
  if (cut.kind === 'level') return cut.heightM
  const along = dot(normal, at)
  if (cut.kind === 'upright' || cut.kind === 'free' || cut.kind === 'slice') return cut.reversed ? along : -along
  const largest = normal.reduce((m, v) => (Math.abs(v) > Math.abs(m) ? v : m), 0)
  return largest < 0 ? -along : along
}
/** Round values that a pixel can tell apart. */
function roundM(metresPerPx: number): number {
  const k = 10 ** Math.ceil(Math.log10(metresPerPx * 2))
  return k / 2 >= metresPerPx * 2 ? k / 2 : k
}
