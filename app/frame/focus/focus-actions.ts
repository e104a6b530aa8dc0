// What can be done with the focus by name.
import { action, type Action } from '../../actions/registry.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePointer } from '../camera/pointer.ts'
import { usePicking } from '../straighten/picking.ts'
import { useFocusPicks } from './focus-picks.ts'
import { useFocus } from './focus.ts'

export function focusActions(): Action[] {
  const view = useView()
  const { begin } = usePicking()
  const { probe } = usePointer()
  const { part, hasLens, sharp, switchOn, focusOn, toHyperfocal, set } = useFocus()
  useFocusPicks()
  const isOpen = (): boolean => useProject().document !== null
  const canBlur = (): boolean => part.value !== null && hasLens.value
  /** On what lies under the pointer, as Alt-click does; without one it asks for a click. */
  const focusHere = (): void => {
    const hit = probe.value?.hit
    if (hit) focusOn(hit.point, hit.nodeId)
    else begin('focus-point')
  }
  return [
    action('focus', 'Focus on what lies under the pointer, or on a clicked place', focusHere, { key: 'J', enabled: canBlur }), // prettier-ignore
    action('focus-on', 'Focus on or off: a lens that blurs', () => (view.open('focus'), switchOn()), { enabled: canBlur }), // prettier-ignore
    action('focus-aim', 'Focus on the aim', () => set({ on: true, mode: { kind: 'aim' } }), { enabled: canBlur }),
    action('focus-object', 'Focus on an object: click it', () => begin('focus-object'), { enabled: canBlur }),
    action('focus-between', 'Keep sharp from here to there: click both', () => begin('focus-between'), { enabled: canBlur }), // prettier-ignore
    action('sharp-zone', 'Outline what is sharp in the picture', () => (view.open('focus'), (view.zone = !view.zone)), {
      enabled: canBlur,
    }),
    action('hyperfocal', 'Focus at the hyperfocal distance', toHyperfocal, { enabled: () => isOpen() && sharp.value !== null && part.value?.on === true }), // prettier-ignore
  ]
}
