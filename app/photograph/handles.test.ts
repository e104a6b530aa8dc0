import { describe, expect, it } from 'vitest'
import type { PhotoMatchPart } from '#model'
import { newMatch } from '#model/photo'
import { isTaken } from '../../tests/support/photograph.ts'
import { handlesOf } from './handles.ts'
import { LENS_UNKNOWNS, POSE_UNKNOWNS } from '#core/match'
import { kindOf, startOf, treated, unknownRows, valueOf, withStart } from './unknowns.ts'

const drawn: PhotoMatchPart = {
  ...newMatch({ widthPx: 3000, heightPx: 2000, bundleIds: ['a', 'b', 'c'] }),
  lines: [
    { id: 'l', bundleId: 'a', points: [[1, 2], [3, 4], [5, 6]] },
    { id: 'k', bundleId: 'b', points: [[7, 8], [9, 10]] },
  ],
  pairs: [{ id: 'p', world: [1, 2, 3], image: [11, 12] }],
  measures: [{ id: 'm', bundleId: 'a', from: [13, 14], to: [15, 16] }],
  masks: [{ id: 'k', points: [[17, 18], [19, 20], [21, 22]], softPx: 3 }],
  scale: { kind: 'length', from: [23, 24], to: [25, 26], bundleId: 'c', lengthM: 2, at: [0, 0, 0] },
} // prettier-ignore

describe('what can be taken hold of', () => {
  it('is every place that was put, and moving one moves that one alone', () => {
    const handles = handlesOf(drawn)
    expect(handles.map((h) => h.at[0])).toEqual([1, 3, 5, 7, 9, 11, 13, 15, 17, 19, 21, 23, 25])
    handles.forEach((h, i) => {
      const moved = h.moved(drawn, [500, 600])
      expect(isTaken(moved)).toBe(true)
      const places = handlesOf(moved).map((x) => x.at)
      expect(places[i]).toEqual([500, 600])
      places.forEach((p, j) => j !== i && expect(p).toEqual(handles[j]!.at))
    })
  })
  it('the place under the eye height is one too; where nothing is drawn there is none', () => {
    const eye = handlesOf({ ...drawn, scale: { kind: 'eye', foot: [31, 32], heightM: 1.6, at: [0, 0, 0] } })
    expect(eye.at(-1)!.at).toEqual([31, 32])
    expect(handlesOf(newMatch({ widthPx: 30, heightPx: 20, bundleIds: ['a', 'b', 'c'] }))).toEqual([])
  })
})

describe('unknowns as rows', () => {
  const rows = unknownRows(3000, true)
  it('name every unknown of the match once', () => {
    expect(rows.flatMap((r) => r.fields.map((f) => f.unknown)).sort()).toEqual([...LENS_UNKNOWNS, ...POSE_UNKNOWNS].sort()) // prettier-ignore
    expect(unknownRows(3000, false).flatMap((r) => r.fields.map((f) => f.unknown))).not.toContain('stationX')
  })
  it('what is typed is where it starts, in the match and by the schema', () => {
    rows.forEach((r, i) =>
      r.fields.forEach((f, k) => {
        const v = f.unknown === 'focalPx' ? 1800 : 0.01 * (i + k + 1)
        const next = withStart(drawn, f.unknown, v)
        expect(startOf(next, f.unknown)).toBe(v)
        expect(isTaken(next)).toBe(true)
      }),
    )
  })
  it('are held where they are found, near that, or solved', () => {
    const found = { focalPx: 2222, principal: [1490, 1010] as const, distortion: { k1: -0.04, k2: 0.01, k3: 0, p1: 0, p2: 0 }, station: [1, 2, 3] as const, bearingDeg: 10, tiltDeg: 2, rollDeg: 1 } // prettier-ignore
    for (const r of rows) {
      for (const kind of ['free', 'near', 'fixed'] as const) {
        const m = treated(drawn, r, kind, found)
        for (const f of r.fields) expect(kindOf(m, f.unknown)).toBe(kind)
        expect(isTaken(m)).toBe(true)
      }
    }
    const bearing = rows.find((r) => r.name === 'Bearing')!
    expect(startOf(treated(drawn, bearing, 'fixed', found), 'bearingDeg')).toBe(10)
    expect(valueOf(found, 'principalY')).toBe(1010)
    expect(valueOf(found, 'stationZ')).toBe(3)
  })
})
