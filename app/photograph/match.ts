// The match at hand: what is drawn on the photograph, as it is or as a hand is dragging it, and the camera that follows from it.
// Model: the document holds the match; a drag shows another one and becomes one edit at its end. Solved in a worker, the newest question
// only: while a hand drags from the answer before, at rest from the beginning.

import { createSharedComposable, useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue'
import type { Camera } from '#core/camera'
import type { Result } from '#core/base'
import type { LeftOut, MatchReason, PhotoMatch } from '#core/match'
import { type Photo, type PhotoMatchPart } from '#model'
import { askedOf, cameraFound, solvedOf } from '#model/photo'
import { createMatch, type MatchClient } from '#workers'
import { useProject } from '../stores/project.ts'
import { otherWayRound } from './turning.ts'

/** After the last change what is weakest is looked for. */
const RESTS_MS = 250

/** What is asked about: a photograph, its match as it is shown, and whether a hand is dragging it. */
interface Asked {
  readonly photoId: Ref<string | null>
  readonly photo: ComputedRef<Photo | null>
  readonly match: ComputedRef<PhotoMatchPart | null>
  readonly dragged: ShallowRef<PhotoMatchPart | null>
}

/** Lines alone fit as well from behind: the way round that was chosen stays. */
function asChosen(found: PhotoMatch, m: PhotoMatchPart): PhotoMatch {
  const before = m.solved
  const isTold = m.pairs.length > 1 || m.scale?.kind === 'length'
  if (!before || isTold) return found
  const turn = Math.abs(((found.estimate.poses[0]!.bearingDeg - before.bearingDeg + 540) % 360) - 180)
  return turn > 90 ? { ...found, estimate: otherWayRound(found.estimate, m) } : found
}

function createSolving({ photoId, photo, match, dragged }: Asked) {
  const answer = shallowRef<Result<PhotoMatch, MatchReason> | null>(null)
  /** How long the last answer took, from the question on, milliseconds. */
  const tookMs = ref(0)
  const weakest = shallowRef<LeftOut | null>(null)
  const solved = computed(() => (answer.value?.ok ? answer.value.value : null))
  let client: MatchClient | null = null
  let isBusy = false
  let isStale = false
  async function solve(): Promise<void> {
    const p = photo.value
    const m = match.value
    if (!p || !m) {
      answer.value = null
      return
    }
    isStale = isBusy
    if (isBusy) return
    isBusy = true
    const begun = performance.now()
    client ??= createMatch()
    const asked = askedOf({ ...p, match: m })
    const isLive = dragged.value !== null && solved.value !== null
    try {
      const r = await client.solve(isLive ? { ...asked, previous: solved.value!.estimate } : asked)
      if (p.id !== photoId.value) return
      answer.value = r.ok && !isLive ? { ok: true, value: asChosen(r.value, m) } : r
      tookMs.value = performance.now() - begun
    } finally {
      isBusy = false
      if (isStale) void solve()
    }
  }
  const findWeakest = useDebounceFn(async () => {
    const [p, m, found] = [photo.value, match.value, solved.value]
    if (!p || !m || !found || dragged.value) return
    const [first] = (await client?.weakest(askedOf({ ...p, match: m }), found)) ?? []
    // worth naming only where the rest agrees much better without it
    if (match.value === m) weakest.value = first && first.rmsPx < 0.75 * found.rmsPx ? first : null
  }, RESTS_MS)
  watch(photoId, () => (answer.value = null))
  watch(match, () => void solve(), { immediate: true })
  watch([solved, dragged], () => {
    weakest.value = null
    void findWeakest()
  })
  return { answer, solved, tookMs, weakest }
}

function session() {
  const project = useProject()
  const photoId = ref<string | null>(null)
  const photos = computed(() => project.document?.photos ?? [])
  const photo = computed<Photo | null>(() => photos.value.find((p) => p.id === photoId.value) ?? null)
  const dragged = shallowRef<PhotoMatchPart | null>(null)
  watch(photoId, () => (dragged.value = null))
  const match = computed(() => (photo.value ? (dragged.value ?? photo.value.match) : null))
  const { answer, solved, tookMs, weakest } = createSolving({ photoId, photo, match, dragged })
  const camera = computed<Camera | null>(() => {
    const p = photo.value
    const s = solved.value ? solvedOf(solved.value.estimate) : match.value?.solved
    return p && s ? cameraFound(p, s) : null
  })

  /** Shows a match while a hand drags. */
  const show = (m: PhotoMatchPart): void => void (dragged.value = m)
  const cancel = (): void => void (dragged.value = null)
  /** Makes it the project's, as one edit, with the camera that is known by now. */
  function put(m: PhotoMatchPart): boolean {
    const p = photo.value
    if (!p) return false
    const s = solved.value
    const next = s ? { ...m, solved: solvedOf(s.estimate) } : m
    const done = project.run({ type: 'changePhoto', photoId: p.id, changes: { match: next } })
    dragged.value = null
    return done
  }
  const change = (changes: Partial<PhotoMatchPart>): boolean =>
    match.value !== null && put({ ...match.value, ...changes })
  /** Takes the way round that looks back; both fit lines alike. */
  function turnRound(): void {
    const [m, found] = [match.value, solved.value]
    if (!m || !found) return
    const estimate = otherWayRound(found.estimate, m)
    answer.value = { ok: true, value: { ...found, estimate } }
    put(m)
  }
  return { photoId, photos, photo, match, answer, solved, camera, tookMs, weakest, dragged, show, cancel, put, change, turnRound } // prettier-ignore
}
export const useMatch = createSharedComposable(session)
