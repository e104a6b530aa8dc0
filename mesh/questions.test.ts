import { beforeAll, describe, expect, it } from 'vitest'
import { cameraOf, hiding } from '../tests/support/cameras.ts'
import { roomGlb } from '../tests/support/models.ts'
import { loadGlb } from '#formats/scene'
import type { Vec3 } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { newLens, newSetup, aimAt } from '#model'
import { ask, assemble, MeshScene, placedCheck, shiftedFacts, shiftedStoreys, soupOf, type Placed } from './index.ts'

/** The room where a survey has it, and the same room at the origin. */
const SITE: Vec3 = [2_600_000, 1_200_000, 400]
let here: Placed
let far: Placed
beforeAll(async () => {
  const placedAt = async (position: Vec3): Promise<MeshScene> => {
    const placed = { key: 'room', unitM: 1, up: 'y', place: { position, turnDeg: 0, scale: 1 }, moved: [] } as const
    const { soup, facts } = soupOf(assemble([{ placed, root: await loadGlb(roomGlb(), { textures: false }) }]))
    return new MeshScene(soup, facts)
  }
  here = { scene: await placedAt([0, 0, 0]), origin: [0, 0, 0] }
  far = { scene: await placedAt([0.123, 0.456, 0]), origin: SITE }
})
const there = (p: Vec3): Vec3 => [p[0] + SITE[0] + 0.123, p[1] + SITE[1] + 0.456, p[2] + SITE[2]]
const near = (a: readonly number[] | undefined, b: readonly number[]): void =>
  b.forEach((v, k) => expect(Math.abs(a![k]! - v)).toBeLessThan(1e-4))

describe('a site in surveyed coordinates answers as the same thing at the origin, to a tenth of a millimetre', () => {
  it('rays, floors, walls and free ways', () => {
    const ray = { origin: [1, 2, 1.6], direction: [1, 0, 0] } as const
    const moved = { ...ray, origin: there(ray.origin as unknown as Vec3) }
    near(ask(far, 'pick', [moved, ALL_SHOWN])!.point, there(ask(here, 'pick', [ray, ALL_SHOWN])!.point))
    near(
      ask(far, 'wallAlong', [moved, 20, ALL_SHOWN])!.point,
      there(ask(here, 'wallAlong', [ray, 20, ALL_SHOWN])!.point),
    )
    near(ask(far, 'floorBelow', [there([1, 1, 1.6]), ALL_SHOWN])!.point, there([1, 1, 0]))
    expect(ask(far, 'freeWay', [there([1, 1, 1.6]), [0, 1, 0], 10, ALL_SHOWN])).toBeCloseTo(ask(here, 'freeWay', [[1, 1, 1.6], [0, 1, 0], 10, ALL_SHOWN]), 4) // prettier-ignore
    const walked = ask(far, 'walk', [there([1, 1, 1.6]), [0.5, 0], 1.6, hiding()])
    near(walked.station, there([1.5, 1, 1.6]))
    expect(walked.groundM).toBeCloseTo(400, 4)
  })
  it('corners under the pointer, bands, cuts and the frame check', () => {
    const at = (station: Vec3) => cameraOf({ station, bearingDeg: 90, tiltDeg: -15 }, {}, [600, 400])
    const camera = at(there([0.5, 2, 1.6]))
    expect(ask(far, 'inBand', [camera, { a: [0, 0], b: [600, 400] }, ALL_SHOWN])).toEqual(['room/Room/Table'])
    const feature = ask(far, 'pickFeature', [camera, [300, 200], 60, ALL_SHOWN])!
    near(feature.point, there(ask(here, 'pickFeature', [at([0.5, 2, 1.6]), [300, 200], 60, ALL_SHOWN])!.point))
    const level = { id: 'l', name: 'A', on: true, reversed: false, kind: 'level', heightM: 400.2 } as const
    const cut = { ...ALL_SHOWN, cuts: { ...ALL_SHOWN.cuts, list: [level] } }
    expect(ask(far, 'pick', [{ origin: there([2, 2, 2.5]), direction: [0, 0, -1] }, cut])!.nodeName).toBe('Floor')
    const stand = aimAt(there([1, 2, 2.4]), there([5, 2.1, 2.4]))
    const setup = { ...newSetup('room', stand), lens: newLens('room'), shown: ALL_SHOWN }
    const found = placedCheck(far, setup, { kind: 'room', eyeHeightM: 1.58, subjectId: null })
    const eye = found.find((f) => f.id === 'eye-height')!
    expect(eye.value).toBeCloseTo(2.4, 4)
    expect(eye.mend!.stand!.station[2]).toBeCloseTo(401.58, 4)
  })
  it('facts and storeys are told where they are in the world', () => {
    near(shiftedFacts(far.scene.facts, SITE).box.min, there(here.scene.facts.box.min))
    expect(shiftedStoreys(far.scene.storeys(), SITE)[0]!.heightM).toBeCloseTo(400, 2)
    expect(shiftedFacts(here.scene.facts, [0, 0, 0])).toBe(here.scene.facts)
  })
})
