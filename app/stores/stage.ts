// The page's hold on the two workers: the stage that draws and the geometry that answers rays. Loads a project's models, bakes the
// light, and asks for pictures whenever what they show changed.
// Model: the page never draws a model itself. While the camera moves, cheap frames; a moment after it stops, the full picture. Asked
// and answered in world coordinates, whatever origin the workers have.

import { defineStore } from 'pinia'
import { markRaw } from 'vue'
import type { CheckSetup, Finding } from '#core/checks'
import type { Closedness, Questions } from '#mesh'
import type { CheckRequest } from '#workers'
import { createBytes } from './stage-bytes.ts'
import { createModels } from './stage-models.ts'
import { createRequests } from './stage-requests.ts'
import { createWorkers } from './stage-workers.ts'

export { appearanceOf, evOf, openedBy } from './appearance.ts'
export type { LoadState } from './stage-known.ts'

export const useStage = defineStore('stage', () => {
  const workers = createWorkers()
  const bytes = createBytes()
  const models = createModels(workers, bytes)
  const { geometryNow } = workers

  /** Any question of the geometry worker's list (`mesh/questions.ts`); null before there is a model. */
  const rays = markRaw(
    new Proxy({} as { -readonly [K in keyof Questions]: Questions[K] }, {
      has: () => true,
      get: (own, name: keyof Questions) =>
        own[name] ?? (async (...args: never[]) => geometryNow()?.ask(name, args as never) ?? null),
    }),
  )
  /** The frame check, worked out beside the page; null before the model is there. */
  const check = async (setup: CheckSetup, about: CheckRequest): Promise<readonly Finding[] | null> =>
    models.storeys.value.length > 0 ? ((await geometryNow()?.check(setup, about)) ?? null) : null
  const closedness = async (modelKey: string): Promise<Closedness | null> =>
    (await geometryNow()?.closedness(modelKey)) ?? null

  const { state, facts, byId, storeys, walls, light, epoch, lightEpoch, placings, ready, show, load, place, relight } =
    models
  return {
    ...{ state, facts, byId, storeys, walls, light, epoch, lightEpoch, placings, ready, show, load, place, relight },
    ...createRequests(workers, models),
    ...{ warm: workers.warm, offer: bytes.offer, rays, check, closedness },
  }
})
