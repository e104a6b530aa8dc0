// Ease to fit, and mend: a reel made comfortable step by step, between which the page goes on; then taken as one edit, or left.
import { createSharedComposable } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { fitStep, judged, type ComfortFinding, type FitAsked, type FitReel, type Shot } from '#core/reel'
import type { ReelPart, ShotPart } from '#model'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useFilm, type Trial } from './film.ts'

const MOST_STEPS = 150

/** A shot of the document with what easing changed of it; new stops get ids of their own. */
export function easedPart(part: ShotPart, shot: Shot): ShotPart {
  const keys = shot.keys?.progress ? { keys: { ...part.keys, progress: [...shot.keys.progress] } } : {}
  if (part.kind === 'travel' && shot.kind === 'travel') {
    const known = new Map(part.stops.map((s) => [s.id, s]))
    const used = new Set<string>()
    const stops = shot.stops.map((s, i) => {
      const own = known.get((s as { id?: string }).id ?? '')!
      const id = used.has(own.id) ? newId() : own.id
      used.add(own.id)
      return { ...own, id, station: s.station, holdS: s.holdS, look: s.look, speedMps: Math.max(0.01, shot.speedsMps[i] ?? own.speedMps), ...(s.via && { via: s.via }) } // prettier-ignore
    })
    const gaze = part.gaze.kind === 'along' && shot.gaze.kind === 'along' ? { ...part.gaze, aheadM: shot.gaze.aheadM } : part.gaze // prettier-ignore
    return { ...part, ...keys, stops, gaze }
  }
  return part.kind !== 'travel' && shot.kind !== 'travel' ? { ...part, ...keys, durationS: shot.durationS } : part
}

type Film = ReturnType<typeof useFilm>
type Project = ReturnType<typeof useProject>

/** The reel at hand with each shot once; what names the same shot stays one. */
function asFit(film: Film): { readonly fit: FitReel; readonly ids: readonly string[]; readonly reel: ReelPart } | null {
  const [r, reel] = [film.resolved.value, film.part.value]
  if (!r || !reel || r.cuts.length === 0) return null
  const ids: string[] = []
  const shots: Shot[] = []
  const cuts = r.cuts.map(({ shot, ...cut }, i) => {
    const id = reel.cuts[r.places[i]!]!.shotId
    let at = ids.indexOf(id)
    if (at < 0) {
      at = ids.push(id) - 1
      shots.push(shot)
    }
    return { ...cut, shot: at }
  })
  return { fit: { shots, cuts }, ids, reel }
}
async function eased(
  film: Film,
  project: Project,
  only?: (f: ComfortFinding) => boolean,
): Promise<{ readonly trial: Trial; readonly fit: FitReel; readonly asked: FitAsked } | null> {
  const start = asFit(film)
  const shots = project.document?.shots
  if (!start || !shots) return null
  const first = start.fit.cuts.map((c) => c.shot)
  const asked: FitAsked = { fps: film.fps.value, limits: film.limits.value, plays: film.resolved.value!.plays, acrossDeg: (shot, focal) => film.acrossDeg(first.indexOf(shot), focal) } // prettier-ignore
  let now = start.fit
  for (let i = 0; i < MOST_STEPS; i++) {
    const next = fitStep(now, asked, only)
    if (!next) break
    now = next
    // the page has its turn after every step
    await new Promise((r) => setTimeout(r))
  }
  if (now === start.fit) return null
  const places = film.resolved.value!.places
  const cuts = start.reel.cuts.map((c, i) => {
    const own = now.cuts[places.indexOf(i)]
    return own ? { ...c, ...(own.fromS !== undefined && { fromS: own.fromS }), ...(own.toS !== undefined && { toS: own.toS }) } : c // prettier-ignore
  })
  const parts = start.ids.flatMap((id, i) => {
    const part = shots.find((s) => s.id === id)
    return part && now.shots[i] !== start.fit.shots[i] ? [easedPart(part, now.shots[i]!)] : []
  })
  return { trial: { shots: parts, reel: { ...start.reel, cuts } }, fit: now, asked }
}
/** A walk round a thing becomes a turntable about it, from where the walk begins. */
function makeTurntable(film: Film, project: Project, f: ComfortFinding): void {
  const r = film.resolved.value
  const reel = film.part.value
  const part = project.document?.shots?.find((s) => s.id === reel?.cuts[r?.places[f.cut] ?? -1]?.shotId)
  const shot = r?.cuts[f.cut]?.shot
  if (!part || part.kind !== 'travel' || shot?.kind !== 'travel' || shot.gaze.kind !== 'point') return
  const placed = film.reel.value.cuts.find((c) => c.index === f.cut)!
  const [x, y, z] = placed.filmed.at(0).pose.station
  const next = placed.filmed.at(placed.filmed.durationS * 0.2).pose.station
  const [px, py, pz] = shot.gaze.point
  const isClockwise = (x - px) * (next[1] - py) - (y - py) * (next[0] - px) < 0
  const { id, name, viewpointId } = part
  project.run({
    type: 'putReels',
    shots: [
      {
        ...{ id, name, viewpointId, kind: 'turntable', pivot: [px, py, pz], turns: Math.round(f.value / 360) || 1 },
        ...{
          direction: isClockwise ? 1 : -1,
          durationS: Math.max(film.limits.value.onceRoundS * 2, placed.filmed.durationS),
        },
        ...{ pace: 'soft', distance: [], focal: [], heightM: [], from: [x, y, z] },
      },
    ],
  })
}

function easing() {
  const project = useProject()
  const notices = useNotices()
  const film = useFilm()
  const isRunning = ref(false)
  /** Before and after: seconds and findings. */
  const told = shallowRef<{ readonly beforeS: number; readonly afterS: number; readonly before: number; readonly left: readonly ComfortFinding[] } | null>(null) // prettier-ignore
  const result = shallowRef<Trial | null>(null)
  const showsAfter = computed({
    get: () => film.trial.value !== null,
    set: (after) => void (film.trial.value = after ? result.value : null),
  })

  /** All of it; shown before and after, taken or left. */
  async function ease(): Promise<void> {
    if (isRunning.value) return
    isRunning.value = true
    try {
      const before = { beforeS: film.reel.value.durationS, before: film.findings.value.length }
      const r = await eased(film, project)
      if (!r) return void notices.say('Nothing here can be eased: what is left wants another way or another look.')
      const after = judged(r.fit, r.asked)
      result.value = r.trial
      told.value = { ...before, afterS: after.reel.durationS, left: after.findings }
      film.trial.value = r.trial
    } finally {
      isRunning.value = false
    }
  }
  function drop(): void {
    film.trial.value = result.value = told.value = null
  }
  function take(): void {
    const t = result.value
    drop()
    if (t) project.run({ type: 'putReels', shots: t.shots, reels: [t.reel] })
  }
  /** One finding, as one edit. */
  async function mend(f: ComfortFinding): Promise<void> {
    if (isRunning.value) return
    if (f.kind === 'circle') return makeTurntable(film, project, f)
    isRunning.value = true
    try {
      const r = await eased(film, project, (g) => g.kind === f.kind && g.cut === f.cut)
      if (r) project.run({ type: 'putReels', shots: r.trial.shots, reels: [r.trial.reel] })
      else notices.say(f.kind === 'clearance' || f.kind === 'through' ? 'Move the stops there away from it: the way is yours.' : 'This is not eased by itself: change the shot.') // prettier-ignore
    } finally {
      isRunning.value = false
    }
  }
  return { isRunning, told, result, showsAfter, ease, take, drop, mend }
}
export const useEasing = createSharedComposable(easing)
