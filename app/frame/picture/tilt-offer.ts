// A drag with the level held that has gone past what real lenses shift: the way it could go on, offered where the drag is.
import { createSharedComposable } from '@vueuse/core'
import { shallowRef, watch } from 'vue'
import { isPastShift, turnInPlace, type Camera, type Framing } from '#core/camera'
import { sameJson } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'

export interface TiltOffer {
  /** On the picture, page pixels. */
  readonly at: readonly [number, number]
  readonly riseMm: number
  /** The framing that tilts instead; null as long as the drag goes on. */
  readonly instead: Framing | null
}
/** The drag it is about: from where, in the frame's pixels. */
export interface LevelDrag {
  readonly camera: Camera
  readonly from: Framing
  readonly grabbedPx: readonly [number, number]
}
type Way = readonly [number, number]

function tiltOffer() {
  const project = useProject()
  const offer = shallowRef<TiltOffer | null>(null)
  /**
   * Follows a drag that holds the level: told its way (page pixels) with what it shows, and at its end without. `pxPerPage` are the
   * frame's pixels for one of the page's. Offers where the lens ends, takes the offer back where it does not.
   */
  function follow(isLevel: boolean, drag: LevelDrag, pxPerPage: number): (way: Way, shown?: Framing) => void {
    offer.value = null
    const { camera, from, grabbedPx } = drag
    let last: Framing | null = null
    return (way, shown) => {
      last = shown ?? last
      if (!isLevel || !last) return
      const rises = Math.abs(last.lens.riseMm) > Math.abs(from.lens.riseMm) + 1e-6
      if (!rises || !isPastShift(last.lens, camera.frame)) return drop()
      // turned in place with tilt from the lens as it was: what was grabbed stays under the pointer that way too
      const options = { holdLevel: false, holdSquare: false, centreOf, grabbedPx }
      const instead = shown ? null : turnInPlace(camera, from, way[0] * pxPerPage, way[1] * pxPerPage, options)
      const at = [grabbedPx[0] / pxPerPage + way[0], grabbedPx[1] / pxPerPage + way[1]] as const
      offer.value = { at, riseMm: last.lens.riseMm, instead }
    }
  }
  function take(): void {
    const { instead } = offer.value ?? {}
    offer.value = null
    if (instead) project.move({ stand: instead.stand, lens: instead.lens }, 'Tilted instead', true)
  }
  const drop = (): void => void (offer.value = null)
  // it is about the framing that the drag left
  let left: unknown = null
  watch(
    () => project.document?.working,
    (w) => {
      if (!offer.value?.instead) return
      const now = w && [w.stand, w.lens]
      if (left && !sameJson(now, left)) drop()
      left = now
    },
    { flush: 'post' },
  )
  watch(offer, (o) => (left = o?.instead && project.document ? [project.document.working.stand, project.document.working.lens] : null), { flush: 'sync' }) // prettier-ignore
  return { offer, follow, take, drop }
}
export const useTiltOffer = createSharedComposable(tiltOffer)
