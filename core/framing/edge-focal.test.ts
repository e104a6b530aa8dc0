import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rayThrough } from '#core/camera'
import { focalOfEdge } from '#core/framing'
import { cameraOf } from '../../tests/support/cameras.ts'

describe('the focal length whose edge passes over a place', () => {
  it('is the one whose picture ray passes there, at any tilt, roll and shift', () => {
    const sizes = fc.constantFrom<[number, number]>([1800, 1200], [900, 1600])
    fc.assert(
      fc.property(
        fc.record({
          bearingDeg: fc.double({ min: 0, max: 360, noNaN: true }),
          tiltDeg: fc.double({ min: -80, max: 80, noNaN: true }),
          rollDeg: fc.double({ min: -40, max: 40, noNaN: true }),
        }),
        fc.record({ focalMm: fc.double({ min: 8, max: 400, noNaN: true }), riseMm: fc.double({ min: -12, max: 12, noNaN: true }), crossMm: fc.double({ min: -12, max: 12, noNaN: true }) }),
        sizes,
        fc.constantFrom('left' as const, 'right' as const),
        fc.double({ min: 0.1, max: 50, noNaN: true }),
        (pose, lens, size, side, m) => {
          const camera = cameraOf({ ...pose, station: [3, -2, 1.6] }, lens, size)
          const { origin, direction } = rayThrough(camera, side === 'left' ? 0 : size[0], size[1] / 2)!
          // an edge that falls together with the axis in plan says nothing about the lens
          const wide = cameraOf({ ...pose, station: [3, -2, 1.6] }, { ...lens, focalMm: lens.focalMm * 1.5 }, size)
          const other = rayThrough(wide, side === 'left' ? 0 : size[0], size[1] / 2)!.direction
          if (Math.abs(direction[0] * other[1] - direction[1] * other[0]) < 1e-4) return
          const got = focalOfEdge(camera, side, origin[0] + m * direction[0], origin[1] + m * direction[1])
          expect(got! / lens.focalMm).toBeCloseTo(1, 6)
        },
      ),
    )
  }) // prettier-ignore
  it('does not jump when an edge is grabbed at -30 degrees', () => {
    // (0.5 * 36 mm) over 24 mm: at a tilt the edge lies flatter in plan, and the lens stays the same
    const camera = cameraOf({ tiltDeg: -30 })
    expect(focalOfEdge(camera, 'right', 18, 24 * Math.cos(Math.PI / 6))).toBeCloseTo(24, 9)
  })
  it('is none behind, across the axis, or in a picture without perspective', () => {
    const camera = cameraOf()
    expect(focalOfEdge(camera, 'right', 1, -2)).toBeNull()
    expect(focalOfEdge(camera, 'right', -1, 2)).toBeNull()
    expect(focalOfEdge(camera, 'right', 0, 2)).toBeNull()
    expect(focalOfEdge(cameraOf({}, { projection: { kind: 'parallel', widthM: 4 } }), 'right', 1, 2)).toBeNull()
  })
})
