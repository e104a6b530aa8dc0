import { describe, expect, it } from 'vitest'
import { UNMOVED } from '../math/index.ts'
import { clipTime, filmed, playedAt, posed, reelOf, type ClipPlay, type HoldShot, type ModelClip, type Shot } from './index.ts' // prettier-ignore

/** Goes a metre along x in a second, and stays. */
const clip: ModelClip = {
  ...{ modelKey: 'm', name: 'Slide', durationS: 2 },
  nodes: [
    {
      ...{ objectId: 'm/Tray', above: UNMOVED, rest: { translation: [5, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] } }, // prettier-ignore
      tracks: [{ path: 'translation', steps: 'LINEAR', timesS: Float32Array.from([0, 1, 2]), values: Float32Array.from([5, 0, 0, 6, 0, 0, 6, 0, 0]) }], // prettier-ignore
    },
  ],
}
const play = (more: Partial<ClipPlay> = {}): ClipPlay => ({ clip, fromS: 3, speed: 2, repeat: 'once', ...more })
const view: HoldShot['view'] = {
  pose: { station: [5, -3, 0], bearingDeg: 0, tiltDeg: 0, rollDeg: 0 },
  lens: { projection: { kind: 'perspective' }, focalMm: 35 } as never,
  ...{ focusM: 4, fNumber: 2, ev: 10, awayM: 3 },
}
const hold = (durationS: number, beside: Partial<Shot> = {}): Shot => ({ kind: 'hold', view, durationS, creep: 0, ...beside }) as Shot // prettier-ignore

describe('a clip on a reel’s time', () => {
  it('begins where it is said, at its speed; then it stays, begins again, or goes back and forth', () => {
    const at = (more: Partial<ClipPlay>, times: readonly number[]): number[] =>
      times.map((t) => clipTime(play(more), t))
    expect(at({}, [0, 3, 3.5, 4, 9])).toEqual([0, 0, 1, 2, 2])
    expect(at({ repeat: 'again' }, [3.5, 4.5, 5.25])).toEqual([1, 1, 0.5])
    expect(at({ repeat: 'back' }, [3.25, 4.25, 5.25])).toEqual([0.5, 1.5, 0.5])
    expect(clipTime(play({ clip: { ...clip, durationS: 0 }, repeat: 'again' }), 9)).toBe(0)
  })
  it('moves by what lies between now and the file; where they are the same, nothing', () => {
    expect(posed(clip, 0)).toEqual([])
    expect(posed(clip, 0.25)[0]!.affine).toEqual([1, 0, 0, 0.25, 0, 1, 0, 0, 0, 0, 1, 0])
    expect(playedAt([play()], 3.25)[0]!.affine[3]).toBe(0.5)
  })
  it('is seen at the reel’s moment, whatever part of which shot is shown; a camera keeps looking at what it moves', () => {
    const watch = { objectId: 'm/Tray/Cup', centre: [5, 0, 0] as const }
    const cuts = [
      { shot: hold(4), dissolveS: 1, fromS: 1 },
      { shot: hold(5, { watch }), dissolveS: 0 },
    ]
    const reel = reelOf(cuts, [play({ fromS: 1, speed: 0.5 })])
    // three seconds, one of them together with five
    expect(reel.durationS).toBe(7)
    for (const t of [0.5, 1.5, 2.5, 6]) {
      const x = Math.min(1, Math.max(0, (t - 1) / 2))
      for (const { take } of reel.at(t)) expect(take.moved?.[0] ?? null).toEqual(x === 0 ? null : { objectId: 'm/Tray', affine: [1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, 0] }) // prettier-ignore
    }
    expect(reel.at(6)[0]!.take.pose.bearingDeg).toBeCloseTo((Math.atan(1 / 3) * 180) / Math.PI, 9)
  })
  it('is worked out only when somebody asks where things are, once a moment', () => {
    let asked = 0
    const r = filmed(hold(4), (t) => (asked++, posed(clip, t)))
    const take = r.ok ? r.value.at(1) : null
    expect([take!.pose.station, asked]).toEqual([view.pose.station, 0])
    expect([take!.moved, take!.moved, asked]).toEqual([posed(clip, 1), posed(clip, 1), 1])
  })
  it('comes before what the shot moves by itself', () => {
    const r = filmed(hold(4, { placed: [{ objectId: 'm/Tray', moveM: [0, 1, 0], turnDeg: 0, hinge: [0, 0, 0] }] }), (t) => posed(clip, t)) // prettier-ignore
    expect(r.ok && r.value.at(1).moved!.map((m) => 'affine' in m)).toEqual([true, false])
  })
})
