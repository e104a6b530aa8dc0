import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectPoint } from '#core/camera'
import { solvePhoto } from '#core/match'
import type { Vec3 } from '#core/math'
import { applyCommand, newModel, newProject, aimAt, projectSchema, type Command, type Photo, type ProjectDocument } from './index.ts' // prettier-ignore
import { askedOf, bundleDirection, cameraFound, newMatch, setupFound, type SolvedCamera } from './photo/index.ts'

const photo = (id: string): Photo => ({
  ...{ id, name: `Site ${id}`, sha256: 'ab'.repeat(32), sizeBytes: 1000, widthPx: 3000, heightPx: 2000 },
  match: newMatch({ widthPx: 3000, heightPx: 2000, bundleIds: [`${id}x`, `${id}y`, `${id}z`] }),
})
const empty = (): ProjectDocument =>
  newProject({ name: 'P', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 5, 1.6]), models: [newModel({ id: 'm', name: 'a.glb', sha256: 'cd'.repeat(32), sizeBytes: 1 })] }) // prettier-ignore
const run = (doc: ProjectDocument, c: Command): ProjectDocument => {
  const r = applyCommand(doc, c)
  if (!r.ok) throw new Error(r.message)
  return r.value.document
}
const refusal = (doc: ProjectDocument, c: Command): string => {
  const r = applyCommand(doc, c)
  return r.ok ? 'done' : r.reason
}

describe('photographs of a project', () => {
  it('are brought in, renamed, changed and taken out, each as an edit', () => {
    let doc = run(empty(), { type: 'addPhoto', photo: photo('a') })
    expect(applyCommand(doc, { type: 'changePhoto', photoId: 'a', changes: { name: ' North ' } })).toMatchObject({ ok: true, value: { edit: true } }) // prettier-ignore
    doc = run(doc, { type: 'changePhoto', photoId: 'a', changes: { name: ' North ' } })
    expect(doc.photos![0]!.name).toBe('North')
    expect(run(doc, { type: 'removePhoto', photoId: 'a' }).photos).toEqual([])
    expect(refusal(doc, { type: 'removePhoto', photoId: 'b' })).toBe('unknown-photo')
    expect(refusal(doc, { type: 'addPhoto', photo: photo('a') })).toBe('same-key')
    expect(refusal(doc, { type: 'changePhoto', photoId: 'a', changes: { name: ' ' } })).toBe('empty-name')
  })
  it('a line of a bundle that is not there, and numbers that are none, are refused', () => {
    const doc = run(empty(), { type: 'addPhoto', photo: photo('a') })
    const { match } = doc.photos![0]!
    const put = (changes: Partial<Photo['match']>): string => refusal(doc, { type: 'changePhoto', photoId: 'a', changes: { match: { ...match, ...changes } } }) // prettier-ignore
    expect(put({ lines: [{ id: 'l', bundleId: 'nobody', points: [[0, 0], [1, 1]] }] })).toBe('out-of-range') // prettier-ignore
    expect(put({ lines: [{ id: 'l', bundleId: 'ax', points: [[0, NaN], [1, 1]] }] })).toBe('out-of-range') // prettier-ignore
    expect(put({ bundles: [] , lines: [{ id: 'l', bundleId: 'ax', points: [[0, 0], [1, 1]] }] })).toBe('out-of-range') // prettier-ignore
    expect(put({ scale: { kind: 'length', from: [0, 0], to: [1, 1], bundleId: 'ax', lengthM: -1, at: [0, 0, 0] } })).toBe('out-of-range') // prettier-ignore
  })
  it('whatever a hand draws, the schema takes (random journeys)', () => {
    const place = fc.tuple(fc.integer({ min: -500, max: 3500 }), fc.integer({ min: -500, max: 2500 }))
    const bundle = fc.constantFrom('ax', 'ay', 'az')
    const change = fc.oneof(
      fc.record({ lines: fc.array(fc.record({ id: fc.uuid(), bundleId: bundle, points: fc.tuple(place, place) }), { maxLength: 8 }) }),
      fc.record({ pairs: fc.array(fc.record({ id: fc.uuid(), world: fc.tuple(fc.integer({ min: -99, max: 99 }), fc.integer({ min: -99, max: 99 }), fc.integer({ min: 0, max: 9 })), image: place }), { maxLength: 8 }) }),
      fc.record({ measures: fc.array(fc.record({ id: fc.uuid(), bundleId: bundle, from: place, to: place }), { maxLength: 4 }) }),
      fc.record({ masks: fc.array(fc.record({ id: fc.uuid(), points: fc.array(place, { minLength: 3, maxLength: 6 }), softPx: fc.integer({ min: 0, max: 40 }) }), { maxLength: 3 }) }),
      fc.record({ scale: fc.record({ kind: fc.constant('eye' as const), foot: place, heightM: fc.double({ min: 0.01, max: 50, noNaN: true }), at: fc.constant([0, 0, 0] as Vec3) }) }),
      fc.record({ treatments: fc.record({ focalPx: fc.constantFrom('fixed' as const, 'free' as const, { sd: 40 }), k1: fc.constantFrom('fixed' as const, 'free' as const) }) }),
    ) // prettier-ignore
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes) => {
        let doc = run(empty(), { type: 'addPhoto', photo: photo('a') })
        for (const c of changes) {
          doc = run(doc, { type: 'changePhoto', photoId: 'a', changes: { match: { ...doc.photos![0]!.match, ...c } } })
          expect(projectSchema.safeParse(doc).success).toBe(true)
          // and whatever was drawn is answered, or refused in words
          const r = solvePhoto(askedOf(doc.photos![0]!))
          if (!r.ok) expect(r.message.length).toBeGreaterThan(10)
        }
      }),
      { numRuns: 60 },
    )
  })
})

const TRUTH: SolvedCamera = {
  ...{ focalPx: 2200, principal: [1580, 940], station: [1.5, -4, 1.7], bearingDeg: 12, tiltDeg: -3, rollDeg: 0.5 },
  distortion: { k1: -0.05, k2: 0, k3: 0, p1: 0, p2: 0 },
}
describe('the camera of a photograph as a Setup', () => {
  it('sees every place where the match’s lens puts it, shift and distortion included (to a millionth of a pixel)', () => {
    const size = { widthPx: 3000, heightPx: 2000 }
    const camera = cameraFound(size, TRUTH)
    const { focalPx: f, principal: p, distortion: d } = TRUTH
    for (const world of [[1, 3, 0], [3, 2, 2.6], [-0.5, 4, 1]] as Vec3[]) {
      const at = projectPoint(camera, world)!
      const plain = projectPoint({ ...camera, lens: { ...camera.lens, distortion: null } }, world)!
      const [x, y] = [(plain.xPx - p[0]) / f, (plain.yPx - p[1]) / f]
      const r = 1 + d.k1 * (x * x + y * y)
      expect(at.xPx).toBeCloseTo(p[0] + f * x * r, 6)
      expect(at.yPx).toBeCloseTo(p[1] + f * y * r, 6)
    } // prettier-ignore
    const to = setupFound({ widthPx: 20_000, heightPx: 15_000 }, TRUTH, {
      widthPx: 16,
      heightPx: 16,
      densityPpi: 300,
      guides: [],
    })
    expect(to.frame.widthPx).toBe(16_384)
    expect(to.frame.heightPx).toBe(12_288)
  })
  it('is found again from lines, eye height and a length drawn where it sees them', () => {
    const size = { widthPx: 3000, heightPx: 2000 }
    const camera = cameraFound(size, {
      ...TRUTH,
      principal: [1500, 1000],
      distortion: { ...TRUTH.distortion, k1: 0 },
    })
    const seen = (w: Vec3): [number, number] => {
      const at = projectPoint(camera, w)!
      return [at.xPx, at.yPx]
    }
    const match = newMatch({ ...size, bundleIds: ['i', 'a', 'u'] })
    const line = (id: string, bundleId: string, a: Vec3, b: Vec3) => ({ id, bundleId, points: [seen(a), seen(b)] })
    const lines = [
      line('1', 'i', [0, 2, 0], [0, 6, 0]), line('2', 'i', [4, 1, 2.5], [4, 6, 2.5]), line('3', 'i', [4, 1, 0], [4, 6, 0]),
      line('4', 'a', [0, 6, 0], [4, 6, 0]), line('5', 'a', [0, 6, 2.5], [4, 6, 2.5]), line('6', 'a', [0.5, 2, 0.7], [3, 2, 0.7]),
      line('7', 'u', [0, 6, 0], [0, 6, 2.5]), line('8', 'u', [4, 2, 0], [4, 2, 2.5]),
    ] // prettier-ignore
    const at: Vec3 = [0, 6, 0]
    const eye = { ...match, lines, scale: { kind: 'eye' as const, foot: seen(at), heightM: 1.7, at } }
    const long = { ...match, lines, scale: { kind: 'length' as const, from: seen(at), to: seen([4, 6, 0]), bundleId: 'a', lengthM: 4, at } } // prettier-ignore
    for (const m of [eye, long]) {
      const r = solvePhoto(askedOf({ ...size, match: m }))
      if (!r.ok) throw new Error(r.message)
      const { lens, poses } = r.value.estimate
      expect(lens.focalPx).toBeCloseTo(2200, 2)
      poses[0]!.station.forEach((v, k) => expect(v).toBeCloseTo(TRUTH.station[k]!, 4))
    }
    expect(bundleDirection(match.bundles[2]!)[2]).toBe(1)
  })
})
