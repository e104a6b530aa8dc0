// What can be done with the exposure by name.
import { action, type Action } from '../../actions/registry.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import { useExposurePicks } from './exposure-picks.ts'
import { useExposure } from './exposure.ts'
import { useMetering } from './metering.ts'

export function exposureActions(): Action[] {
  const view = useView()
  const { begin } = usePicking()
  const { part, set } = useExposure()
  useExposurePicks()
  const { exposeOnce } = useMetering()
  const isOpen = (): boolean => useProject().document !== null
  const brighter = (by: number) => () =>
    part.value && set({ compensationEv: Math.round((part.value.compensationEv + by) * 100) / 100 })
  return [
    action('meter-place', 'Meter a place: click what is to be mid-grey', () => begin('meter'), { enabled: isOpen }),
    action('expose-once', 'Expose once by what the meter reads of the picture', () => void exposeOnce(), {
      enabled: isOpen,
    }),
    action('grey', 'White balance by a grey: click it', () => begin('grey'), { enabled: isOpen }),
    action('clipping', 'Mark what is clipped, bright and dark', () => (view.clipping = !view.clipping), {
      enabled: isOpen,
    }),
    action('brighter', 'Brighter by a third of a stop', brighter(1 / 3), { enabled: isOpen }),
    action('darker', 'Darker by a third of a stop', brighter(-1 / 3), { enabled: isOpen }),
  ]
}
