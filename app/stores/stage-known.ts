// What is shown and what is known of it, in the world's coordinates.
import { computed, ref, shallowRef } from 'vue'
import type { SceneFacts, Storey } from '#mesh'
import type { FoundWalls } from '#workers'

export type LoadState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'loading'; readonly what: string; readonly done: number | null }
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly error: unknown }

/** What is shown and known, in the world's coordinates. */
export function createKnown() {
  const state = ref<LoadState>({ kind: 'idle' })
  const facts = shallowRef<SceneFacts | null>(null)
  const storeys = shallowRef<readonly Storey[]>([])
  return {
    state,
    facts,
    storeys,
    /** Nothing of what was shown is asked any more. */
    forget(): void {
      facts.value = null
      storeys.value = []
    },
    /** The building's directions, walls and centre lines; null until they are found. */
    walls: shallowRef<FoundWalls | null>(null),
    /** Share of the light that is worked out; null when done or not begun. */
    light: ref<number | null>(null),
    /** Counts up with every other model: all drawn before is out of date. */
    epoch: ref(0),
    /** Counts up while models are shown elsewhere for the time of a drag: pictures and drawings are drawn again. */
    placings: ref(0),
    /** Counts up with every other light: pictures are out of date, drawings are not. */
    lightEpoch: ref(0),
    ready: computed(() => state.value.kind === 'ready'),
    byId: computed(() => new Map((facts.value?.nodes ?? []).map((n) => [n.id, n]))),
  }
}

export type Known = ReturnType<typeof createKnown>
