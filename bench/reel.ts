// Moving pictures in numbers: camera frames sampled, and the report of a reel's rates and comfort.
import { comfortOf, motionOf, reelOf, type Shot, type View } from '#core/reel'
import type { Vec3 } from '#core/math'
import { cameraOf } from '../tests/support/cameras.ts'
import { median, ms, type Row } from './harness.ts'

const view = (station: Vec3, bearingDeg: number): View => {
  const { pose, lens } = cameraOf({ station, bearingDeg })
  return { pose, lens, focusM: 3, fNumber: 4, ev: 9, awayM: 3 }
}
const stops = Array.from({ length: 24 }, (_, i) => ({ station: [6 * Math.sin(i), 1.4 * i, 1.6] as const, holdS: i % 6 === 0 ? 1 : 0, look: null })) // prettier-ignore
const SHOTS: readonly Shot[] = [
  { kind: 'hold', view: view([0, 0, 1.6], 0), durationS: 6, creep: 0.05 },
  { kind: 'travel', view: view([0, 0, 1.6], 0), stops, isClosed: false, speedsMps: [1.2], gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 } }, // prettier-ignore
  { kind: 'push', from: view([0, 0, 1.6], 0), to: view([3, 4, 1.4], 60), durationS: 8, ease: 'soft', holdsSize: true },
  { kind: 'turntable', view: view([0, -3, 1.6], 0), pivot: [0, 0, 1], turns: 1, direction: 1, durationS: 10, pace: 'loop', distance: [], focal: [], heightM: [] }, // prettier-ignore
]

export async function reels(): Promise<Row[]> {
  const n = 100_000
  const rounds = 5
  const [sampled, bare, reported]: number[][] = [[], [], []]
  const minute = SHOTS.slice(0, 2)
  for (let r = 0; r < rounds; r++) {
    const reel = reelOf(SHOTS.map((shot) => ({ shot, dissolveS: 0.5 })))
    let begun = performance.now()
    let sum = 0
    for (let k = 0; k < n; k++) sum += reel.at((k / n) * reel.durationS)[0]!.take.pose.station[0]
    sampled!.push(performance.now() - begun)
    // the same many poses by two directions and their angles alone
    begun = performance.now()
    for (let k = 0; k < n; k++) sum += Math.atan2(Math.sin(k), Math.cos(k)) + Math.hypot(k, k)
    bare!.push(performance.now() - begun)
    if (!Number.isFinite(sum)) throw new Error('reels: not a number')
    const cut = reelOf(minute.map((shot, i) => ({ shot, ...(i === 1 && { toS: 54 }), dissolveS: 0 })))
    begun = performance.now()
    comfortOf({ reel: cut, motion: motionOf(cut, 60), shots: minute, acrossDeg: () => 73 })
    reported!.push(performance.now() - begun)
  }
  const [a, b, c] = [median(sampled!), median(bare!), median(reported!)]
  return [
    { what: '100,000 camera frames of a reel (a hold, a walk of 24 stops, a push, a turntable), sampled', measured: ms(a), reference: `${ms(b)}, as many turns by two angles alone`, ratio: a / b, wanted: 'under 1 s', ok: a < 1000 }, // prettier-ignore
    { what: 'rates and comfort of a minute of it at 60 frames a second, without clearance', measured: ms(c), reference: '', ratio: null, wanted: 'under 1 s', ok: c < 1000 }, // prettier-ignore
  ]
}
