// What is said of a reel as a whole: rates of every frame, and where it would not be comfortable.
import { fieldOfView, type Frame, type Lens } from '../camera/index.ts'
import type { ClipPlay } from './clips.ts'
import { comfortOf, type ComfortFinding, type ComfortLimits, type Through } from './comfort.ts'
import { motionOf, stationAt, type Motion } from './motion.ts'
import type { ObjectMoved } from './objects.ts'
import type { Vec3 } from '../math/index.ts'
import { reelOf, type Reel } from './reel.ts'
import type { ReelCut, Shot } from './types.ts'

/** All of it is plain data, so that it can be asked of a worker. */
export interface ReportAsked {
  readonly cuts: readonly ReelCut[]
  /** Clips of the models on the reel's time. */
  readonly plays?: readonly ClipPlay[]
  readonly fps: number
  /** By cut: its lens and frame, which tell how wide a focal length is. */
  readonly lenses: readonly { readonly lens: Lens; readonly frame: Frame }[]
  readonly limits: ComfortLimits
}
/** What the model says of a reel's frames. */
export interface BesideWay {
  /** Metres to the nearest thing. */
  readonly clearanceM: ArrayLike<number>
  /** Over the floor below; NaN where there is none. */
  readonly heightM: ArrayLike<number>
  /** What the eye goes through between a frame and the next one. */
  readonly through?: readonly Through[]
}
export interface ReelReport {
  readonly motion: Motion
  readonly findings: readonly ComfortFinding[]
  readonly beside: BesideWay | null
}

/** Frames of one cut in a row in which everything stands the same. */
export interface StillRun {
  readonly cut: number
  /** First frame, and the one after the last. */
  readonly from: number
  readonly to: number
  readonly moved: readonly ObjectMoved[]
}

/** `measured`: what stands beside the stations and under them; left out, clearance is not judged. Cost linear in frames. */
export function reportOf(
  { cuts, plays = [], fps, lenses, limits }: ReportAsked,
  measured?: (stations: Float64Array, places: readonly Vec3[], runs: readonly StillRun[]) => BesideWay,
): ReelReport {
  const reel = reelOf(cuts, plays)
  const motion = motionOf(reel, fps)
  const acrossDeg = (k: number): number => acrossOf(lenses[motion.cut[k]!], motion.focalMm[k]!)
  const places = measured ? Array.from({ length: motion.timeS.length }, (_, k) => stationAt(motion, k)) : []
  const beside =
    measured && places.length > 0
      ? measured(
          motion.stations,
          places,
          stillRuns(reel, motion, (cut) => plays.length > 0 || movesThings(cuts[cut]!.shot)),
        )
      : null
  const findings = comfortOf({ reel, motion, shots: cuts.map((c) => c.shot), acrossDeg, limits, ...(beside && { clearanceM: beside.clearanceM, through: beside.through ?? [] }) }) // prettier-ignore
  return { motion, findings, beside }
}
/** Whether things can stand elsewhere in it than in their file. */
const movesThings = (s: Shot): boolean =>
  Boolean(s.objects?.length || s.placed?.length || (s.kind === 'turntable' && s.spins))
function stillRuns(reel: Reel, { timeS, cut }: Motion, moves: (cut: number) => boolean): StillRun[] {
  const out: StillRun[] = []
  const movedAt = (k: number): readonly ObjectMoved[] =>
    reel.at(timeS[k]!).find((s) => s.cut === cut[k])?.take.moved ?? []
  let key = ''
  for (let k = 0; k < timeS.length; k++) {
    const moved = moves(cut[k]!) ? movedAt(k) : []
    const now = `${cut[k]!}${moved.length > 0 ? JSON.stringify(moved) : ''}`
    const last = out.at(-1)
    if (last && now === key) out[out.length - 1] = { ...last, to: k + 1 }
    else out.push({ cut: cut[k]!, from: k, to: k + 1, moved })
    key = now
  }
  return out
}
/** Degrees across the picture of a cut at a focal length; 360 where that has no meaning. */
export const acrossOf = (of: ReportAsked['lenses'][number] | undefined, focalMm: number): number =>
  (of && fieldOfView({ ...of.lens, focalMm }, of.frame)?.horizontalDeg) ?? 360
