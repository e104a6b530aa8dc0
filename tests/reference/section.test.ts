// Sections judged by manifold-3d: the same area within 1e-6 and as many loops, on closed meshes of packages, planes at random.
import bunny from 'bunny'
import fc from 'fast-check'
import Module, { type ManifoldToplevel } from 'manifold-3d'
import { beforeAll, describe, expect, it } from 'vitest'
import { normalize, type Vec3 } from '#core/math'
import {
  contourArea,
  filledRegion,
  flattened,
  planeAxes,
  sectionArea,
  sliceChains,
  sliceMesh,
  sliceTree,
  type Mesh,
} from '#core/section'

let manifold: ManifoldToplevel
beforeAll(async () => {
  manifold = await Module()
  manifold.setup()
})

const BUNNY: Mesh = {
  positions: Float32Array.from(bunny.positions.flat()),
  indices: Uint32Array.from(bunny.cells.flat()),
}
/** The judge cuts level only: the plane is turned to lie level at nought. */
function judged(mesh: Mesh, point: Vec3, normal: Vec3): { area: number; loops: number } {
  const a = planeAxes({ point, normal })
  const p = new Float32Array(mesh.positions.length)
  for (let i = 0; i < p.length; i += 3) {
    const d = [0, 1, 2].map((k) => mesh.positions[i + k]! - point[k]!)
    ;[a.right, a.up, a.normal].forEach((axis, k) => (p[i + k] = axis[0] * d[0]! + axis[1] * d[1]! + axis[2] * d[2]!))
  }
  const solid = new manifold.Manifold(new manifold.Mesh({ numProp: 3, vertProperties: p, triVerts: mesh.indices }))
  const cut = solid.slice(0)
  const answer = { area: cut.area(), loops: cut.numContour() }
  cut.delete()
  solid.delete()
  return answer
}

describe('sections against manifold-3d', () => {
  it('bunny (package bunny 1.0.1): areas at z = -2, 0, 2 as measured with the judge (5.7738, 48.0494, 44.5430)', () => {
    for (const [z, area] of [[-2, 5.7738], [0, 48.0494], [2, 44.543]] as const) {
      const { loops, open } = sliceMesh(BUNNY, { point: [0, 0, z], normal: [0, 0, 1] })
      expect(open).toEqual([])
      expect(sectionArea(loops, [0, 0, 1])).toBeCloseTo(area, 3)
    } // prettier-ignore
  })
  it('bunny, planes at random: the area within 1e-6, as many loops', () => {
    const tree = sliceTree(BUNNY)
    const unit = fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })) // prettier-ignore
    fc.assert(
      fc.property(unit, fc.double({ min: -3, max: 3, noNaN: true }), (n, off) => {
        fc.pre(Math.hypot(...n) > 0.1)
        const normal = normalize(n)
        const point: Vec3 = [normal[0] * off + 0.1, normal[1] * off + 4.9, normal[2] * off]
        const judge = judged(BUNNY, point, normal)
        const chains = sliceChains(tree, { point, normal })
        expect(chains.every((c) => c.isClosed && c.isOriented)).toBe(true)
        const axes = planeAxes({ point, normal })
        const contours = filledRegion(chains.map((c) => flattened(axes, c.points)))
        const area = contours.reduce((s, c) => s + contourArea(c), 0)
        // the judge holds 32-bit numbers: turned corners are rounded by a part of the extent of ten
        expect(Math.abs(area - judge.area)).toBeLessThan(1e-6 * Math.max(10, judge.area) + 2e-5)
        expect(contours.length).toBe(judge.loops)
      }),
      { numRuns: 60 },
    )
  })
  it('solids of the judge (spheres, boxes, tubes), and two that overlap: united as the judge unites them', () => {
    const { Manifold } = manifold
    const a = Manifold.sphere(1.3, 48)
    const b = Manifold.cube([1.5, 1.1, 2], true).rotate([20, 30, 40]).translate([0.6, 0.2, 0.1])
    const tube = Manifold.cylinder(3, 0.7, 0.4, 40, true).subtract(Manifold.cylinder(4, 0.2, 0.2, 24, true))
    const meshOf = (m: typeof a): Mesh => {
      const { vertProperties, triVerts, numProp } = m.getMesh()
      expect(numProp).toBe(3)
      return { positions: vertProperties, indices: triVerts }
    }
    const both = (p: Mesh, q: Mesh): Mesh => ({
      positions: Float32Array.from([...p.positions, ...q.positions]),
      indices: Uint32Array.from([...p.indices, ...[...q.indices].map((i) => i + p.positions.length / 3)]),
    })
    for (const z of [-0.7, -0.2, 0.05, 0.3, 0.81]) {
      const { loops } = sliceMesh(both(meshOf(a), meshOf(b)), { point: [0, 0, z], normal: [0, 0, 1] })
      const union = a.add(b).slice(z)
      expect(sectionArea(loops, [0, 0, 1]) / union.area()).toBeCloseTo(1, 5)
      const ring = sliceMesh(meshOf(tube), { point: [0, 0, z], normal: [0, 0, 1] })
      expect(ring.loops).toHaveLength(2)
      expect(sectionArea(ring.loops, [0, 0, 1]) / tube.slice(z).area()).toBeCloseTo(1, 5)
    }
  })
})
