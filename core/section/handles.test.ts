import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cameraOf } from '../../tests/support/cameras.ts'
import { projectPoint, rayThrough } from '../camera/index.ts'
import { addScaled, dot, sub, type Vec3 } from '../math/index.ts'
import { CUT_KINDS, cutHandles, heldAlong, newCut, planesOf } from './index.ts'

const model = { min: [-3, -2, 0], max: [5, 6, 4] } as const
const place = { point: [1, 2, 1.5] as Vec3, bearingDeg: 20, mainBearingDeg: 5, model, round: null, heightM: 1.2 }

describe('handles of cuts', () => {
  it('one a plane, on it', () => {
    for (const kind of CUT_KINDS) {
      const cut = newCut(kind, 'a', 'A', place)
      const handles = cutHandles(cut, model)
      expect(handles).toHaveLength(planesOf(cut).length)
      handles.forEach((h, i) => expect(dot(h.normal, sub(h.at, planesOf(cut)[i]!.point))).toBeCloseTo(0, 9))
    }
  })
  it('stay under the pointer: the ray through a handle moved along its normal holds it just there', () => {
    const camera = cameraOf({ station: [1, -9, 2.4], bearingDeg: 12, tiltDeg: -8 })
    const number = (m: number) => fc.double({ min: -m, max: m, noNaN: true })
    fc.assert(
      fc.property(fc.tuple(number(3), number(3), number(3)), fc.tuple(number(1), number(1), number(1)), number(2), (at, n, t) => {
        const long = Math.hypot(...n)
        fc.pre(long > 0.1)
        const normal = n.map((v) => v / long) as unknown as Vec3
        const px = projectPoint(camera, addScaled(at, normal, t))
        fc.pre(px !== null)
        const ray = rayThrough(camera, px!.xPx, px!.yPx)!
        const found = heldAlong(at, normal, ray)
        fc.pre(found !== null && 1 - dot(normal, ray.direction) ** 2 > 1e-3)
        expect(found).toBeCloseTo(t, 5)
      }),
    ) // prettier-ignore
  })
  it('say nothing when one looks along the way', () => {
    expect(heldAlong([0, 0, 0], [0, 1, 0], { origin: [0, -5, 0], direction: [0, 1, 0] })).toBeNull()
  })
})
