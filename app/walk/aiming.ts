// The aim of the shot at hand over its time: places that it goes through, and a thing that is kept in view.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import type { AimKey } from '#core/reel'
import type { Vec3 } from '#core/math'
import { REEL_LIMITS, type ShotPart } from '#model'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useFilm } from './film.ts'

/** Moments nearer than this share of the time are one. */
const SAME = 0.004

function aiming() {
  const project = useProject()
  const notices = useNotices()
  const { shot, moment, dragged } = useFilm()
  const aim = computed<readonly AimKey[]>(() => shot.value?.aim ?? [])
  const watchId = computed(() => shot.value?.watchId ?? null)

  function withAim(list: readonly AimKey[]): ShotPart {
    const { aim: _, ...plain } = shot.value!
    return (list.length > 0 ? { ...plain, aim: list } : plain) as ShotPart
  }
  function put(next: ShotPart): void {
    dragged.value = null
    project.run({ type: 'putReels', shots: [next] })
  }
  /** At the moment that is shown; one that is there moves. */
  function addNow(point: Vec3): void {
    const rest = aim.value.filter((k) => Math.abs(k.at - moment.value.share) > SAME)
    if (rest.length >= REEL_LIMITS.keys) return notices.say(`There is room for ${REEL_LIMITS.keys} places.`, 'warning')
    put(withAim([...rest, { at: moment.value.share, point }].sort((a, b) => a.at - b.at)))
  }
  /** Kept between its neighbours in time. */
  function changed(i: number, { at, point }: Partial<AimKey>): ShotPart {
    const own = aim.value[i]!
    const [least, most] = [aim.value[i - 1], aim.value[i + 1]].map((k, after) => (k ? k.at + (after ? -SAME : SAME) : after)) as [number, number] // prettier-ignore
    const key = { at: Math.min(most, Math.max(least, at ?? own.at)), point: point ?? own.point }
    return withAim(aim.value.map((k, j) => (j === i ? key : k)))
  }
  const set = (i: number, changes: Partial<AimKey>): void => put(changed(i, changes))
  const live = (i: number, changes: Partial<AimKey>): void => void (dragged.value = changed(i, changes))
  const drop = (): void => void (dragged.value && put(dragged.value))
  const cancel = (): void => void (dragged.value = null)
  const remove = (i: number): void => put(withAim(aim.value.filter((_, j) => j !== i)))
  function watchThing(objectId: string | null): void {
    const { watchId: _, ...plain } = shot.value!
    put((objectId === null ? plain : { ...plain, watchId: objectId }) as ShotPart)
  }
  return { aim, watchId, addNow, set, live, drop, cancel, remove, watchThing }
}
export const useAiming = createSharedComposable(aiming)
