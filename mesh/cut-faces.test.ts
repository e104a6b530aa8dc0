// Cut faces of a scene: box and stepped cuts against the set operations on single planes, objects left whole, what is open.
import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { loadGlb } from '#formats/scene'
import type { Vec3 } from '#core/math'
import { inSpace, isCutAway, isInside, planesOf, polygonArea, seenThrough, type Cut, type Shown } from '#core/section'
import { Pen } from '../scripts/demo-data/kit.ts'
import { cameraOf } from '../tests/support/cameras.ts'
import { glbOf } from '../tests/support/models.ts'
import { cutFacts, MeshScene, soupOf, type CutFace } from './index.ts'

let scene: MeshScene
/** Two overlapping blocks of one object, one beside them, and a sheet. */
beforeAll(async () => {
  const block = new Pen('Block', { kind: 'thing' }).use('walnut').box(0, 0, 0, 2, 1, 1, { bevel: 0 }).box(1.5, 0.5, 0, 3, 2, 1.5, { bevel: 0 }) // prettier-ignore
  const pier = new Pen('Pier', { kind: 'thing' }).use('oak').box(4, 0, 0, 4.4, 0.4, 3, { bevel: 0 })
  const { soup, facts } = soupOf(
    await loadGlb(glbOf([{ name: 'Set', children: [block.node(), pier.node()] }]), { textures: false }),
  )
  scene = new MeshScene(soup, facts)
})
const base = { id: 'a', name: 'A', on: true, reversed: false }
const level = (heightM: number): Cut => ({ ...base, kind: 'level', heightM })
const shown = (...list: Cut[]): Shown => ({ hidden: [], cuts: { nearM: null, farM: null, list } })
const area = (faces: readonly CutFace[]): number =>
  faces.reduce((s, f) => s + f.polygons.reduce((t, p) => t + polygonArea(p), 0), 0)
/** Whether a point of the world lies in a solid of the scene: by the boxes it is made of. */
const BOXES = [[[0, 0, 0], [2, 1, 1]], [[1.5, 0.5, 0], [3, 2, 1.5]], [[4, 0, 0], [4.4, 0.4, 3]]] as const // prettier-ignore
const isSolid = (p: Vec3): boolean => BOXES.some(([lo, hi]) => p.every((v, k) => v > lo[k]! && v < hi[k]!))
const holds = (f: CutFace, x: number, y: number): boolean =>
  f.polygons.some((p) => isInside(p.outer, x, y) && !p.holes.some((h) => isInside(h, x, y)))

describe('cut faces', () => {
  it('by object, overlaps of one object once', () => {
    const faces = scene.faces(shown(level(0.5)))
    expect(faces.map((f) => f.nodeId.split('/').pop()).sort()).toEqual(['Block', 'Pier'])
    const block = faces.find((f) => f.nodeId.endsWith('Block'))!
    expect(area([block])).toBeCloseTo(2 + 2.25 - 0.25, 6)
    expect(area(faces)).toBeCloseTo(4.16, 6)
    expect(cutFacts(faces)[0]).toMatchObject({ areaM2: expect.closeTo(4.16, 6), cutId: 'a', plane: 0 })
  })
  it('nothing of what is hidden or left whole, with all below it', () => {
    const some = (changes: Partial<Shown['cuts']>, hidden: string[] = []): CutFace[] =>
      scene.faces({ hidden, cuts: { ...shown(level(0.5)).cuts, ...changes } })
    expect(some({}, ['Set/Block']).map((f) => f.nodeId)).toEqual(['Set/Pier'])
    expect(some({ whole: ['Set/Pier'] }).map((f) => f.nodeId)).toEqual(['Set/Block'])
    expect(some({ whole: ['Set'] })).toEqual([])
  })
  it('a ray passes through what is cut away, not through what is left whole', () => {
    const down = { origin: [4.2, 0.2, 9] as Vec3, direction: [0, 0, -1] as Vec3 }
    expect(scene.pick(down)?.point[2]).toBeCloseTo(3, 5)
    expect(scene.pick(down, shown(level(0.5)))?.point[2]).toBeCloseTo(0, 5)
    expect(scene.pick(down, { ...shown(level(0.5)), cuts: { ...shown(level(0.5)).cuts, whole: ['Set/Pier'] } })?.point[2]).toBeCloseTo(3, 5) // prettier-ignore
  })
  it('a ray meets the cut face, from the side that is gone, and says whose it is; where cuts show no faces it goes in', () => {
    const down = { origin: [0.5, 0.5, 9] as Vec3, direction: [0, 0, -1] as Vec3 }
    const solid = { ...shown(level(0.5)), cuts: { ...shown(level(0.5)).cuts, face: 'solid' as const } }
    expect(scene.pick(down, solid)).toMatchObject({ point: [0.5, 0.5, expect.closeTo(0.5, 9)], normal: [0, 0, 1], nodeName: 'Block' }) // prettier-ignore
    expect(scene.pick(down, shown(level(0.5)))!.point[2]).toBeCloseTo(0, 5)
    // beside the solid nothing is met; from below the solid itself is
    expect(scene.pick({ ...down, origin: [0.5, 1.6, 9] }, solid)).toBeNull()
    expect(scene.pick({ origin: [0.5, 0.5, -3], direction: [0, 0, 1] }, solid)!.point[2]).toBeCloseTo(0, 5)
  })
  it('any cuts together: a place of a plane is face just where the solid behind it stays and the cut takes what is before it', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    const at: fc.Arbitrary<Vec3> = fc.tuple(number(0.2, 4), number(0.1, 1.8), number(0.1, 2))
    const cut = fc.oneof(
      fc.record({ reversed: fc.boolean(), heightM: number(0.1, 2) }).map((c): Cut => ({ ...base, ...c, kind: 'level' })),
      fc.record({ reversed: fc.boolean(), point: at, bearingDeg: number(0, 360) }).map((c): Cut => ({ ...base, ...c, kind: 'upright' })),
      fc.record({ reversed: fc.boolean(), centre: at, sizeM: fc.tuple(number(0.3, 3), number(0.3, 3), number(0.3, 3)), turnDeg: number(0, 90) }).map((c): Cut => ({ ...base, ...c, kind: 'box' })),
      fc.record({ reversed: fc.boolean(), x: number(0.5, 3), y: number(0.2, 1.5), jog: number(0.2, 0.8) }).map(({ reversed, x, y, jog }): Cut => ({ ...base, reversed, kind: 'stepped', points: [[-1, y], [x, y], [x, y + jog], [6, y + jog]] })),
      fc.record({ reversed: fc.boolean(), point: at, thicknessM: number(0.1, 1) }).map((c): Cut => ({ ...base, ...c, kind: 'slice', normal: [0.6, 0, 0.8] })),
    ) // prettier-ignore
    fc.assert(
      fc.property(fc.array(cut, { minLength: 1, maxLength: 3 }), (cuts) => {
        const list = cuts.map((c, i) => ({ ...c, id: `c${i}`, name: `c${i}` }))
        const faces = scene.faces(shown(...list))
        for (const c of list)
          for (const [k, plane] of planesOf(c).entries()) {
            const mine = faces.filter((f) => f.cutId === c.id && f.plane === k)
            const axes = mine[0]?.axes
            if (!axes) continue
            for (let i = 0; i < 40; i++) {
              const [x, y] = [((i * 0.618034) % 1) * 8 - 3, ((i * 0.754878) % 1) * 8 - 3]
              const p = inSpace(axes, x, y)
              const off = (m: number): Vec3 => [0, 1, 2].map((n) => p[n]! + m * plane.normal[n]!) as unknown as Vec3
              // places that the face's own edges are near to say nothing
              const around = [off(-1e-4), off(1e-4)].flatMap((q) => [-1e-3, 1e-3].flatMap((d) => [0, 1, 2].map((n) => q.map((v, m) => (m === n ? v + d : v)) as unknown as Vec3))) // prettier-ignore
              if (new Set(around.map(isSolid)).size > 1) continue
              const behind = around.slice(0, 6).map((q) => isCutAway(list, q))
              const before = around.slice(6).map((q) => isCutAway([c], q))
              if (new Set(behind).size > 1 || new Set(before).size > 1) continue
              const isFace = isSolid(off(-1e-4)) && !behind[0] && before[0]!
              expect(mine.some((f) => holds(f, x, y))).toBe(isFace)
            }
          }
      }),
      { numRuns: 60 },
    )
  })
})

describe('the near cut', () => {
  it('is met as a face where it goes through a solid, and passed where it goes through air', () => {
    // from the west along y = 0.25, the cut at x = 1 within the block
    const camera = cameraOf({ station: [-2, 0.25, 0.5], bearingDeg: 90, tiltDeg: 0 }, {}, [300, 200])
    const at = (nearM: number) => {
      const seen = seenThrough(camera, { ...shown(), cuts: { ...shown().cuts, nearM, face: 'solid' } }, 150, 100)!
      return scene.pick(seen.sight, seen.shown)!
    }
    expect(at(3).point[0]).toBeCloseTo(1, 6)
    expect(at(3).nodeName).toBe('Block')
    // before the block: its own west side
    expect(at(1).point[0]).toBeCloseTo(0, 6)
    // behind it: the pier
    expect(at(5.5)).toMatchObject({ nodeName: 'Pier' })
  })
})
