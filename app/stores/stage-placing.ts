// Models shown elsewhere for the time of a drag: on the stage alone. Rays, light and thumbnails stay as they are until it is done.
import type { Vec3 } from '#core/math'
import { shiftedBox, shiftedPoint } from '#core/placing'
import type { SceneFacts } from '#mesh'
import type { ModelRef } from '#model'
import type { Bytes } from './stage-bytes.ts'
import type { Known } from './stage-known.ts'
import type { Workers } from './stage-workers.ts'

export const minus = (o: Vec3): Vec3 => [-o[0], -o[1], -o[2]]
/** A model placed about another origin, and facts about it back in the world. */
export const placedAbout = <M extends { readonly place: ModelRef['place'] }>(m: M, o: Vec3): M => ({
  ...m,
  place: { ...m.place, position: shiftedPoint(m.place.position, minus(o)) },
})
export const inWorld = (f: SceneFacts, o: Vec3): SceneFacts => ({
  ...f,
  box: shiftedBox(f.box, o),
  nodes: f.nodes.map((n) => ({ ...n, box: shiftedBox(n.box, o) })),
})

export function createPlacing({ clients }: Workers, bytes: Bytes, known: Known, originNow: () => Vec3) {
  let wanted: readonly ModelRef[] | null = null
  let running: Promise<void> | null = null
  let isElsewhere = false

  async function put(models: readonly ModelRef[], exact: SceneFacts | null): Promise<void> {
    if (!models.every(bytes.isOn)) return
    const o = originNow()
    const { stage } = await clients()
    const placed = models.map((m) => ({ placed: placedAbout(m, o), sha256: m.sha256, bytes: null }))
    known.facts.value = inWorld(await stage.load(placed, exact), o)
    known.placings.value++
  }
  /** Shows the models where they are dragged to; of many places asked for meanwhile the newest counts. */
  function place(models: readonly ModelRef[]): Promise<void> {
    wanted = models
    isElsewhere = true
    running ??= (async () => {
      while (wanted) {
        const now: readonly ModelRef[] = wanted
        wanted = null
        await put(now, null)
      }
    })().finally(() => (running = null))
    return running
  }
  return {
    place,
    /** Nothing more is placed; resolves when the last place is done. */
    async stop(): Promise<void> {
      wanted = null
      await running
      isElsewhere = false
    },
    /** Puts the models back where the geometry has them, with what was exactly known of them. */
    async back(models: readonly ModelRef[], exact: SceneFacts): Promise<void> {
      if (!isElsewhere) return
      wanted = null
      await running
      isElsewhere = false
      await put(models, exact)
    },
  }
}
