// A walk by hand: its stops placed, moved, inserted and taken out, in Plan, Side and picture; heights follow the floor. One edit a gesture.
import { createSharedComposable } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { poseOfStand, rayThrough, type Camera } from '#core/camera'
import { distance, scale, type Vec3 } from '#core/math'
import type { Shown } from '#core/section'
import { FLOOR_STEP_M, onFloor, wayOf, type Way } from '#core/reel'
import { refused, type Result } from '#core/base'
import { REEL_LIMITS, type ShotPart, type WalkStop } from '#model'
import { centreOf } from '../stores/centres.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useAiming } from './aiming.ts'
import { useFilm } from './film.ts'
import { useTurning } from './turning.ts'

export type Travel = Extract<ShotPart, { kind: 'travel' }>
/** What a click in a drawing or the picture means now. */
export type WalkTool = 'stop' | 'look' | 'object' | 'aim' | 'watch' | 'pivot' | null
const PACE_MPS = 1
const REST_S = 1.5

/** The way through the stops alone, at its own heights. */
export const wayOfPart = (t: Travel): Result<Way, string> => (t.stops.length === 0 ? refused('no-stops', '') : wayOf({ ...t, speedsMps: t.stops.map((s) => s.speedMps) } as Parameters<typeof wayOf>[0])) // prettier-ignore

function walking() {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const { shot, dragged } = useFilm()
  const travel = computed(() => (shot.value?.kind === 'travel' ? shot.value : null))
  const tool = ref<WalkTool>(null)
  const stopId = ref<string | null>(null)
  const chosen = computed(() => travel.value?.stops.findIndex((s) => s.id === stopId.value) ?? -1)
  watch(() => travel.value?.id, () => {
    stopId.value = null
    if (!travel.value) tool.value = null
  }) // prettier-ignore
  const way = computed<Way | null>(() => {
    const r = travel.value && wayOfPart(travel.value)
    return r?.ok ? r.value : null
  })
  const eyeM = computed(() => project.document?.eyeHeightM ?? 1.6)

  /** The walk over the floor as the model has it now; as it is where no floor is told. */
  async function followed(next: Travel): Promise<Travel> {
    if (next.heights === 'free') return next
    const plain = { ...next, isReversed: false, stops: next.stops.map((s) => ({ ...s, via: [] })) }
    const r = wayOfPart(plain)
    if (!r.ok) return plain
    const { route, stopsM } = r.value
    const n = Math.floor(route.lengthM / FLOOR_STEP_M)
    const places = Array.from({ length: n + 1 }, (_, i) => route.at(i * FLOOR_STEP_M).point)
    const heightsM = await stage.rays.eyeHeights(places, eyeM.value, project.shown)
    if (!heightsM) return plain
    const stops = onFloor({ stops: plain.stops, places, heightsM, stopsM })
    return { ...next, stops: stops.map((s) => ({ ...s, via: s.via?.slice(0, REEL_LIMITS.via) })) }
  }
  let asked = 0
  /** One edit; of changes that come while the floor is asked the newest counts. */
  async function commit(next: Travel): Promise<void> {
    const mine = ++asked
    dragged.value = next
    const placed = await followed(next).catch(() => next)
    if (mine !== asked) return
    dragged.value = null
    project.run({ type: 'putReels', shots: [placed] })
  }
  const change = (changes: Partial<Travel>): Promise<void> =>
    travel.value ? commit({ ...travel.value, ...changes }) : Promise.resolve()
  const live = (changes: Partial<Travel>): void => {
    if (travel.value) dragged.value = { ...travel.value, ...changes }
  }
  const cancel = (): void => void (dragged.value = null)

  const stops = createStops({ travel, way, stopId, chosen, change, live, say: (t) => notices.say(t, 'warning') })
  return { travel, tool, stopId, chosen, way, eyeM, change, live, cancel, commit, ...stops, ...createTangents({ travel, way, chosen, change }), ...createHere({ chosen, change, ...stops }), ...createPicks({ travel, tool, change, eyeM, add: stops.add }) } // prettier-ignore
}

interface StopsOf {
  readonly travel: { readonly value: Travel | null }
  readonly way: { readonly value: Way | null }
  readonly stopId: { value: string | null }
  readonly chosen: { readonly value: number }
  readonly change: (changes: Partial<Travel>) => Promise<void>
  readonly live: (changes: Partial<Travel>) => void
  readonly say: (text: string) => void
}
function createStops({ travel, way, stopId, chosen, change, live, say }: StopsOf) {
  const newStop = (station: Vec3, more: Partial<WalkStop> = {}): WalkStop => ({ id: newId(), station, holdS: 0, look: null, speedMps: PACE_MPS, ...more }) // prettier-ignore
  const room = (): boolean => {
    if ((travel.value?.stops.length ?? 0) < REEL_LIMITS.stops) return true
    say(`There is room for ${REEL_LIMITS.stops} stops.`)
    return false
  }
  /** At the end of the way. */
  async function add(station: Vec3, more: Partial<WalkStop> = {}): Promise<void> {
    const t = travel.value
    if (!t || !room()) return
    const last = t.stops.at(-1)
    if (last && distance(last.station, station) < 0.02) return say('A stop is there already.')
    // one rests where a walk begins and where it ends, not between
    const stops = t.stops.map((s, i) => (i > 0 && i === t.stops.length - 1 && s.holdS === REST_S ? { ...s, holdS: 0 } : s)) // prettier-ignore
    const own = newStop(station, { holdS: REST_S, ...(last && { speedMps: last.speedMps }), ...more })
    stopId.value = own.id
    await change({ stops: [...stops, own] })
  }
  /** Into the way, so far along it. */
  async function insertAt(alongM: number): Promise<void> {
    const [t, w] = [travel.value, way.value]
    if (!t || !w || t.isReversed || !room()) return
    const before = w.stopsM.findLastIndex((m) => m <= alongM)
    const own = newStop(w.route.at(alongM).point, { speedMps: t.stops[before]?.speedMps ?? PACE_MPS })
    stopId.value = own.id
    await change({ stops: [...t.stops.slice(0, before + 1), own, ...t.stops.slice(before + 1)] })
  }
  const withStop = (i: number, changes: Partial<WalkStop>): Pick<Travel, 'stops'> => ({ stops: travel.value!.stops.map((s, k) => (k === i ? { ...s, ...changes } : s)) }) // prettier-ignore
  /** While a hand moves it: places that follow the floor are asked anew when it is let go. */
  const moving = (i: number, station: Vec3): Partial<Travel> => ({
    stops: travel.value!.stops.map((s, k) => (k === i ? { ...s, station, via: [] } : k === i - 1 ? { ...s, via: [] } : s)), // prettier-ignore
  })
  async function remove(i = chosen.value): Promise<void> {
    const t = travel.value
    if (!t || i < 0) return
    stopId.value = t.stops[i + 1]?.id ?? t.stops[i - 1]?.id ?? null
    await change({ stops: t.stops.filter((_, k) => k !== i) })
  }
  /** Every stop but the chosen one, the ends and those that are rested at comes nearer to the middle of its neighbours. */
  async function smooth(): Promise<void> {
    const t = travel.value
    if (!t) return
    const n = t.stops.length
    const stays = (s: WalkStop, i: number): boolean => s.id === stopId.value || s.holdS > 0 || (!t.isClosed && (i === 0 || i === n - 1)) // prettier-ignore
    const stops = t.stops.map((s, i) => {
      if (stays(s, i)) return { ...s, via: [] }
      const [a, b] = [t.stops[(i - 1 + n) % n]!.station, t.stops[(i + 1) % n]!.station]
      return { ...s, via: [], station: s.station.map((v, k) => v + 0.5 * ((a[k]! + b[k]!) / 2 - v)) as unknown as Vec3 }
    })
    await change({ stops })
  }
  const drag = (i: number, station: Vec3): void => live(moving(i, station))
  const drop = (): Promise<void> => change({})
  return { add, insertAt, withStop, remove, smooth, drag, drop }
}
/** The direction of the way at the chosen stop. */
function createTangents({ travel, way, chosen, change }: Pick<StopsOf, 'travel' | 'way' | 'chosen' | 'change'>) {
  /** A tangent as the way goes there now, a third of its shorter leg long. */
  async function direct(): Promise<void> {
    const [t, w, i] = [travel.value, way.value, chosen.value]
    const own = t?.stops[i]
    if (!t || !w || !own) return
    const beside = [t.stops[i - 1], t.stops[i + 1]].flatMap((s) => (s ? [distance(s.station, own.station)] : []))
    const sign = t.isReversed ? -1 : 1
    const at = w.stops.findIndex((s) => (s as WalkStop).id === own.id)
    const tangentM = scale(w.route.at(w.stopsM[at]!).way, (sign * Math.min(...beside)) / 3)
    await change({ stops: t.stops.map((s) => (s === own ? { ...s, tangentM } : s)) })
  }
  async function undirect(): Promise<void> {
    const own = travel.value?.stops[chosen.value]
    if (!own) return
    const { tangentM: _, ...plain } = own
    await change({ stops: travel.value!.stops.map((s) => (s === own ? plain : s)) })
  }
  return { direct, undirect }
}
/** Stops where the frame's camera stands. */
function createHere(o: {
  readonly chosen: { readonly value: number }
  readonly change: (changes: Partial<Travel>) => Promise<void>
  readonly add: (station: Vec3, more: Partial<WalkStop>) => Promise<void>
  readonly withStop: (i: number, changes: Partial<WalkStop>) => Partial<Travel>
}) {
  const { chosen, change, add, withStop } = o
  const project = useProject()
  /** Where the frame stands now: station and look. */
  function here(): Partial<WalkStop> | null {
    const w = project.working
    if (!w) return null
    const { station, bearingDeg, tiltDeg } = poseOfStand(w.stand, centreOf)
    return { station, look: { bearingDeg, tiltDeg } }
  }
  async function addHere(): Promise<void> {
    const h = here()
    if (h) await add(h.station!, { look: h.look! })
  }
  async function setHere(): Promise<void> {
    const h = here()
    if (h && chosen.value >= 0) await change(withStop(chosen.value, { ...h, via: [] }))
  }
  return { addHere, setHere }
}

/** Clicks in the picture and in drawings. */
function createPicks(o: {
  readonly travel: { readonly value: Travel | null }
  readonly tool: { value: WalkTool }
  readonly eyeM: { readonly value: number }
  readonly change: (changes: Partial<Travel>) => Promise<void>
  readonly add: (station: Vec3) => Promise<void>
}) {
  const { tool, change, eyeM, add } = o
  const stage = useStage()
  const notices = useNotices()
  const { addNow, watchThing } = useAiming()
  const { set } = useTurning()
  const look = (point: Vec3): Promise<void> => {
    tool.value = null
    return change({ gaze: { kind: 'point', point } })
  }
  /** A click in the picture, frame pixels; `shown`: what it shows. */
  async function inPicture(camera: Camera, xPx: number, yPx: number, shown: Shown): Promise<void> {
    const ray = rayThrough(camera, xPx, yPx)
    if (!ray) return
    if (tool.value === 'aim' || tool.value === 'watch' || tool.value === 'pivot') {
      const hit = await stage.rays.pick(ray, shown)
      if (!hit) return void notices.say('Nothing of the model is there.')
      if (tool.value === 'aim') addNow(hit.point)
      else if (tool.value === 'pivot') set({ pivot: hit.point })
      else watchThing(hit.nodeId)
      tool.value = null
      return
    }
    if (!o.travel.value) return
    if (tool.value === 'stop') {
      const hit = await stage.rays.pickFloor(ray, shown)
      if (hit) return add([hit.point[0], hit.point[1], hit.point[2] + eyeM.value])
      return void notices.say('There is no floor: click one, or place the stop in Plan.')
    }
    const hit = await stage.rays.pick(ray, shown)
    if (!hit) return void notices.say('Nothing of the model is there.')
    if (tool.value === 'look') return look(hit.point)
    tool.value = null
    await change({ gaze: { kind: 'object', objectId: hit.nodeId } })
  }
  return { look, inPicture }
}
export const useWalking = createSharedComposable(walking)
