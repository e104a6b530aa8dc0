// Picked places that the focus asks for.
import { ref } from 'vue'
import { useNotices } from '../../stores/notices.ts'
import { takesPicks, usePlacesSoFar } from '../straighten/picking.ts'
import { useFocus } from './focus.ts'

/** Pixels of blur that a picked place is to have; typed. */
export const wantedBlurPx = ref(10)

/** Registers what clicks do that the focus asks for; once a Frame view. */
export function useFocusPicks(): void {
  const notices = useNotices()
  const { focusOn, focusOnObject, sharpBetween, blurredThere } = useFocus()
  const places = usePlacesSoFar()
  takesPicks('focus-point', (point, hit) => focusOn(point, hit?.nodeId ?? null))
  takesPicks('focus-object', (_, hit) => {
    if (hit) return focusOnObject(hit.nodeId)
    notices.say('This needs an object: click it in the picture.', 'warning')
    return false
  })
  takesPicks('focus-blur', (point) => blurredThere(point, wantedBlurPx.value))
  takesPicks('focus-between', (point) => {
    const [from] = places.value
    if (!from) {
      places.value = [point]
      notices.say('Now the farthest place that is to be sharp.')
      return false
    }
    places.value = []
    return sharpBetween(from, point)
  })
}
