// The reel at hand: what it shows at a moment, the moment that is shown, playing. Time is kept on slow machines: frames are left out.
import { createSharedComposable, useLocalStorage, useRafFn, useSessionStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { RATES, reelOf, TIME_UNITS, type Reel, type TimeUnit } from '#core/reel'
import { setupAsShown, type ReelPart, type ShotPart } from '#model'
import { cutsOf, layersAt, missingIn, missingText, openTakes, type CutFault, type ReelLayer, type SetupReading } from '#model/reel' // prettier-ignore
import { centreInFile, centresIn } from '../stores/centres.ts'
import { useFocusing } from '../stores/focusing.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { createJudging } from './judging.ts'

function film() {
  const project = useProject()
  const stage = useStage()
  // back from another view it is the same reel
  const reelId = useSessionStorage<string | null>('yoroi.walk.reel', null, {
    serializer: { read: (v) => v, write: (v) => v ?? '' },
  })
  const cutId = ref<string | null>(null)
  const reels = computed(() => project.document?.reels ?? [])
  const part = computed<ReelPart | null>(() => reels.value.find((r) => r.id === reelId.value) ?? reels.value[0] ?? null)
  const reading = createReading()
  /** A shot that a number is dragged in, as it would be. */
  const dragged = shallowRef<ShotPart | null>(null)
  /** A whole reel and its shots as they would be, to be taken or left. */
  const trial = shallowRef<Trial | null>(null)
  const resolved = computed(() => {
    const doc = project.document
    // centres of objects are known when the stage is
    void stage.epoch
    if (!doc || !part.value) return null
    const d = dragged.value
    const [t, own] = [trial.value, part.value]
    if (t?.reel.id === own.id) return cutsOf({ ...doc, shots: [...t.shots, ...(doc.shots ?? []).filter((s) => !t.shots.some((x) => x.id === s.id))] }, t.reel, reading) // prettier-ignore
    const shown = d ? { ...doc, shots: (doc.shots ?? []).map((s) => (s.id === d.id ? d : s)) } : doc
    return cutsOf(shown, own, reading)
  })
  const reel = computed(() => reelOf(resolved.value?.cuts ?? [], resolved.value?.plays))
  const fps = computed(() => RATES[part.value?.rate ?? '25'])
  const missing = createMissing(part)
  /** What cannot be shown, by its place in the reel's list. */
  const faults = computed(() => {
    const r = resolved.value
    return r
      ? [
          ...r.faults,
          ...reel.value.faults.map((f) => ({ cut: r.places[f.cut]!, message: f.message })),
          ...missing.value,
        ]
      : []
  })
  const { motion, findings, isJudged, limits, beside, acrossDeg } = createJudging({ part, resolved, fps })
  const transport = createTransport(() => reel.value.durationS, () => fps.value) // prettier-ignore
  watch(part, (now, before) => now?.id !== before?.id && transport.stop())

  /** What the moment shows: one picture, or two laid over each other, what goes below what comes. */
  const layers = computed(() => (resolved.value ? layersAt(resolved.value, reel.value, transport.timeS.value) : []))
  /** The stronger one, which tells where the camera is. */
  const shown = computed<ReelLayer | null>(() => {
    const [a, b] = layers.value
    return (b && b.weight > a!.weight ? b : a) ?? null
  })
  const cut = computed(() => part.value?.cuts.find((c) => c.id === cutId.value) ?? part.value?.cuts[shown.value?.cut ?? 0] ?? null) // prettier-ignore
  const shot = computed(() => dragged.value ?? project.document?.shots?.find((s) => s.id === cut.value?.shotId) ?? null)
  /** While the shutter is open: takes of one of the moment's pictures; null where it is sharp. */
  const openOf = (layer: ReelLayer, n: number) => resolved.value && openTakes(reel.value, resolved.value, layer, { timeS: transport.timeS.value, openS: (part.value?.shutterDeg ?? 0) / 360 / fps.value, n }) // prettier-ignore
  const moment = createMoment({ cut, part, resolved, reel, timeS: transport.timeS })
  return { moment, layers, openOf, reelId, cutId, reels, part, reading, dragged, trial, resolved, reel, fps, faults, motion, findings, isJudged, limits, beside, acrossDeg, shown, cut, shot, ...transport } // prettier-ignore
}

/** What is known of Setups and clips besides their numbers. */
function createReading(): SetupReading {
  const project = useProject()
  const stage = useStage()
  const focusing = useFocusing()
  return {
    centreOf: centreInFile,
    centresIn,
    clipOf: (key, name) => stage.facts?.clips?.find((c) => c.modelKey === key && c.name === name) ?? null,
    focusM: (s) => focusing.blur(setupAsShown(s, project.document, centreInFile))?.focusM ?? null,
  }
}

/** Objects that are gone, by the place of the first cut of a shot that names them. */
function createMissing(part: { readonly value: ReelPart | null }) {
  const project = useProject()
  const stage = useStage()
  return computed<readonly CutFault[]>(() => {
    const doc = project.document
    if (!doc || !part.value || !stage.ready || !stage.facts) return []
    const seen = new Set<string>()
    return part.value.cuts.flatMap((c, cut) => {
      const of = seen.has(c.shotId) ? undefined : doc.shots?.find((s) => s.id === c.shotId)
      seen.add(c.shotId)
      const message =
        of &&
        missingText(
          of,
          missingIn(doc, of, (id) => stage.byId.has(id)),
        )
      return message ? [{ cut, message }] : []
    })
  })
}

/** The moment that is shown, within the shot at hand. */
function createMoment(o: {
  readonly cut: { readonly value: ReelPart['cuts'][number] | null }
  readonly part: { readonly value: ReelPart | null }
  readonly resolved: { readonly value: ReturnType<typeof cutsOf> | null }
  readonly reel: { readonly value: Reel }
  readonly timeS: { readonly value: number }
}) {
  return computed(() => {
    const { part, resolved, cut } = o
    /** Null where it cannot be filmed. */
    const placed = o.reel.value.cuts.find((c) => part.value?.cuts[resolved.value?.places[c.index] ?? -1]?.id === cut.value?.id) ?? null // prettier-ignore
    const lastsS = placed?.filmed.durationS ?? 1
    const share = placed ? Math.min(1, Math.max(0, (placed.fromS + o.timeS.value - placed.startS) / lastsS)) : 0
    return { placed, lastsS, share }
  })
}

/** Shots and reel of one, changed. */
export interface Trial {
  readonly shots: readonly ShotPart[]
  readonly reel: ReelPart
}
function createTransport(durationS: () => number, fps: () => number) {
  const at = ref(0)
  const isPlaying = ref(false)
  const loops = useLocalStorage('yoroi.walk.loops', true)
  const speed = ref(1)
  const kept = useLocalStorage<string>('yoroi.walk.times', 'seconds')
  /** How times are shown, whatever an older page has kept. */
  const timeUnit = computed({
    get: (): TimeUnit => TIME_UNITS.find((u) => u === kept.value) ?? 'seconds',
    set: (u) => void (kept.value = u),
  })
  const timeS = computed(() => Math.min(at.value, durationS()))
  const { pause, resume } = useRafFn(
    ({ delta }) => {
      // a page that was hidden does not jump
      const next = at.value + (Math.min(delta, 500) / 1000) * speed.value
      const d = durationS()
      if (next < d) at.value = next
      else if (loops.value && d > 0) at.value = next % d
      else {
        at.value = d
        stop()
      }
    },
    { immediate: false },
  )
  function play(): void {
    if (durationS() <= 0) return
    if (timeS.value >= durationS()) at.value = 0
    isPlaying.value = true
    resume()
  }
  function stop(): void {
    isPlaying.value = false
    pause()
  }
  const go = (t: number): void => void (at.value = Math.min(Math.max(0, t), durationS()))
  /** Frame by frame. */
  function step(by: number): void {
    stop()
    go((Math.round(timeS.value * fps()) + by) / fps())
  }
  return {
    timeS,
    timeUnit,
    isPlaying,
    loops,
    speed,
    play,
    stop,
    toggle: () => (isPlaying.value ? stop() : play()),
    go,
    step,
  }
}
export const useFilm = createSharedComposable(film)
