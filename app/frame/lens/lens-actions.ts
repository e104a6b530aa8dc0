// What can be done with the lens by name.
import { isPerspective } from '#core/camera'
import { action, type Action } from '../../actions/registry.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { takesPicks, usePicking } from '../straighten/picking.ts'
import { useLens } from './lens.ts'

export function lensActions(): Action[] {
  const view = useView()
  const { begin } = usePicking()
  const { depthM } = useLens()
  takesPicks('lens-point', (point) => {
    view.lensPoint = point
    return true
  })
  const hasLens = (): boolean => {
    const w = useProject().working
    return w !== null && isPerspective(w.lens)
  }
  return [
    action('hold-subject', 'Hold the subject’s size while the lens changes: on or off', () => (view.open('lens'), (view.holdSubject = !view.holdSubject)), { enabled: () => hasLens() && depthM.value !== null }), // prettier-ignore
    action('lens-point', 'Pick the subject whose size is held', () => begin('lens-point'), { enabled: hasLens }),
    action('five-lenses', 'Five lenses side by side', () => (view.fiveLenses = !view.fiveLenses), { enabled: hasLens }),
  ]
}
