// Moving pictures in numbers: camera frames sampled, and the report of a reel's rates and comfort.
import type { Vec3 } from '#core/math'
import { COMFORT_LIMITS, comfortOf, motionOf, reelOf, type Shot, type View } from '#core/reel'
import { ALL_SHOWN } from '#core/section'
import { loadGlb } from '#formats/scene'
import { ask, MeshScene, soupOf } from '#mesh'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { cameraOf } from '../tests/support/cameras.ts'
import { benchPage, median, ms, type Row } from './harness.ts'

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

/** What the worker does for the check of a reel: a minute through the hall at 60 frames a second, with clearance and heights. */
async function reportOfMinute(): Promise<Row> {
  const { soup, facts } = soupOf(await loadGlb(hallModel().bytes, { textures: false }))
  const scene = new MeshScene(soup, facts)
  const { lens, frame } = cameraOf({})
  const walk: Shot = {
    ...{ kind: 'travel', view: view([1, 2, 1.6], 90), isClosed: true, speedsMps: [0.4], gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 } }, // prettier-ignore
    stops: ([[1.2, 2.6, 1.58], [6, 3.2, 1.58], [11, 2.4, 1.58], [11, 5.6, 1.58], [5, 6, 1.58]] as const).map((station) => ({ station, holdS: 0.5, look: null })), // prettier-ignore
  }
  const asked = { cuts: [{ shot: walk, toS: 60, dissolveS: 0 }], fps: 60, lenses: [{ lens, frame }], limits: COMFORT_LIMITS } // prettier-ignore
  const [full, plain]: [number[], number[]] = [[], []]
  let frames = 0
  for (let i = 0; i < 4; i++) {
    let begun = performance.now()
    const r = ask({ scene, origin: [0, 0, 0] }, 'reelReport', [asked, 2, [ALL_SHOWN]])
    full.push(performance.now() - begun)
    frames = r.beside?.clearanceM.length ?? 0
    begun = performance.now()
    ask({ scene, origin: [0, 0, 0] }, 'reelReport', [asked, null, [ALL_SHOWN]])
    plain.push(performance.now() - begun)
  }
  // the first one builds what is kept
  const [a, b] = [median(full.slice(1)), median(plain.slice(1))]
  return { what: `report of a minute through the hall at 60 frames a second with clearance (${frames} frames), as the worker does it`, measured: ms(a), reference: `${ms(b)}, without clearance`, ratio: a / b, wanted: 'under 1 s', ok: a < 1000 && frames > 3500 } // prettier-ignore
}

/** Playing: each frame is the reel's moment, the camera and an object that moves, against frames of cameras that are there already. */
export async function playback(): Promise<Row[]> {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const t = await stand.page.evaluate(() => window.bench.playback('/hall.glb', 12))
  await stand.end()
  const row = (what: string, a: number[], b: number[], reference: string): Row => {
    const ratio = median(a) / median(b)
    return { what, measured: ms(median(a)), reference: `${ms(median(b))}, ${reference}`, ratio, wanted: 'at most 1.25', ok: ratio <= 1.25 } // prettier-ignore
  }
  return [
    row('a frame of a playing reel, hall, 684 x 456', t.played, t.bare, 'a moving frame of a camera that is there'),
    row('the same with a drawer that opens', t.drawer, t.bare, 'a moving frame of a camera that is there'),
  ]
}

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
    await reportOfMinute(),
  ]
}
