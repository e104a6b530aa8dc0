// How a drag on a strip ends, and how the aim is nudged: the same on Plan and Side.
import type { Ref } from 'vue'
import { aimPointOf } from '#core/camera'
import { add, type Vec3 } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'

export function useDragEnd(active: Ref<string>, clearGuides: () => void) {
  const project = useProject()
  const over = (): void => {
    active.value = ''
    clearGuides()
  }
  const done = (label: string): void => {
    over()
    project.settle(label)
  }
  const cancel = (): void => {
    over()
    project.letGo()
  }
  /** The aim point moved by a step, in metres; a free direction has none. */
  function nudgeAimBy(by: Vec3): void {
    const s = project.working?.stand
    const p = s && aimPointOf(s.aim, centreOf)
    if (!s || !p || s.aim.kind === 'direction') return
    const aim = { kind: 'point', point: add(p, by), topBearingDeg: s.aim.topBearingDeg } as const
    project.move({ stand: { ...s, aim } }, 'Nudged')
  }
  return { done, cancel, nudgeAimBy }
}
