// Objects that stand elsewhere: rays, clearances, cut faces and checks are those of a model that has them there in its file.
import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { affineOf, affinePoint, type Affine, type Vec3 } from '#core/math'
import type { ObjectMoved } from '#core/reel'
import { ALL_SHOWN, type Cut, type Shown } from '#core/section'
import { loadGlb } from '#formats/scene'
import { Pen } from '../scripts/demo-data/kit.ts'
import { glbOf, roomNodes } from '../tests/support/models.ts'
import { clearances } from './clearance.ts'
import { MeshScene, soupOf, type Soup } from './index.ts'

const ORIGIN: Vec3 = [0, 0, 0]
const TABLE = 'Room/Table'
let room: MeshScene
beforeAll(async () => {
  const bowl = new Pen('Bowl').use('enamel white').box(2.8, 1.8, 0.75, 3.1, 2.1, 0.9, { bevel: 0 }).node()
  const pane = new Pen('Pane').use('jar glass').box(2.6, 1.6, 0.75, 2.62, 2.2, 1.2, { bevel: 0 }).node()
  const nodes = roomNodes()
  const table = nodes[0]!.children!.find((n) => n.name === 'Table')!
  const held = { ...nodes[0]!, children: nodes[0]!.children!.map((n) => (n === table ? { ...n, children: [bowl, pane] } : n)) } // prettier-ignore
  const { soup, facts } = soupOf(await loadGlb(glbOf([held]), { textures: false }))
  room = new MeshScene(soup, facts)
})

/** A scene that has them there in its file. */
function rebuilt(moves: Readonly<Record<string, Affine>>): MeshScene {
  const positions = room.soup.positions.slice()
  const of = room.facts.nodes.map(({ id }) => Object.keys(moves).filter((m) => id === m || id.startsWith(`${m}/`)).sort((a, b) => b.length - a.length)) // prettier-ignore
  room.soup.nodeOfVertex.forEach((node, v) => {
    let p: Vec3 = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]
    for (const m of of[node]!) p = affinePoint(moves[m]!, p)
    positions.set(p, v * 3)
  })
  return new MeshScene({ ...room.soup, positions } as Soup, room.facts)
}
const n = (min: number, max: number): fc.Arbitrary<number> => fc.double({ min, max, noNaN: true })
const point = fc.tuple(n(0.2, 5.8), n(0.2, 3.8), n(0.1, 2.9)) as fc.Arbitrary<Vec3>
const turn = fc.tuple(n(-1, 1), n(-1, 1), n(-1, 1), n(-1, 1)).filter((q) => Math.hypot(...q) > 0.1).map((q) => q.map((v) => v / Math.hypot(...q))) // prettier-ignore
const move = (size: fc.Arbitrary<number>): fc.Arbitrary<Affine> =>
  fc.tuple(fc.tuple(n(-2, 2), n(-1, 1), n(-1, 1)), turn, size).map(([at, q, s]) => affineOf(at as Vec3, q, [s, s, s]))
const shownWith = (moves: Readonly<Record<string, Affine>>, rest: Partial<Shown> = {}): Shown => ({
  ...ALL_SHOWN,
  ...rest,
  moved: Object.entries(moves).map(([objectId, affine]): ObjectMoved => ({ objectId, affine })),
})

describe('objects that stand elsewhere', () => {
  it('are met by rays there and nowhere else, those below moved ones too (property)', () => {
    fc.assert(
      fc.property(move(n(0.5, 2)), move(n(0.5, 2)), point, fc.array(point, { minLength: 20, maxLength: 20 }), (a, b, from, to) => {
        const moves = { [TABLE]: a, [`${TABLE}/Bowl`]: b }
        const [there, shown] = [rebuilt(moves), shownWith(moves)]
        for (const t of to) {
          const d = t.map((v, i) => v - from[i]!) as unknown as Vec3
          const l = Math.hypot(...d)
          if (l < 0.1) continue
          const sight = { origin: from, direction: d.map((v) => v / l) as unknown as Vec3 }
          const [told, wanted] = [room.pick(sight, shown), there.pick(sight)]
          if (!wanted) {
            expect(told).toBeNull()
            continue
          }
          expect(told!.distanceM).toBeCloseTo(wanted.distanceM, 4)
          expect(told!.nodeId).toBe(wanted.nodeId)
          told!.normal.forEach((v, i) => expect(v).toBeCloseTo(wanted.normal[i]!, 4))
        }
      }),
      { numRuns: 25 },
    ) // prettier-ignore
  })
  it('are kept clear of there, and what is hidden of them is not there (property)', () => {
    fc.assert(
      fc.property(move(n(0.5, 2)), fc.array(point, { minLength: 10, maxLength: 10 }), fc.boolean(), (a, at, isHidden) => {
        const moves = { [TABLE]: a }
        const hidden = isHidden ? [`${TABLE}/Bowl`] : []
        const places = Float64Array.from(at.flat())
        const told = clearances(room, places, ORIGIN, 2, shownWith(moves, { hidden }))
        clearances(rebuilt(moves), places, ORIGIN, 2, { ...ALL_SHOWN, hidden }).forEach((v, i) => expect(told[i]).toBeCloseTo(v, 4))
      }),
      { numRuns: 25 },
    ) // prettier-ignore
  })
  it('are cut there: as much is laid open as of a model that has them there (property)', () => {
    const area = (scene: MeshScene, shown: Shown): Map<string, number> => {
      const out = new Map<string, number>()
      for (const f of scene.faces(shown))
        for (const { outer, holes } of f.polygons)
          for (const [c, sign] of [[outer, 1], ...holes.map((h) => [h, -1])] as [Float64Array, number][]) {
            let twice = 0
            for (let i = 0; i < c.length; i += 2) twice += c[i]! * c[(i + 3) % c.length]! - c[(i + 2) % c.length]! * c[i + 1]! // prettier-ignore
            out.set(f.nodeId, (out.get(f.nodeId) ?? 0) + (sign * Math.abs(twice)) / 2)
          }
      return out
    }
    fc.assert(
      fc.property(move(n(0.5, 2)), n(0.5, 1.5), (a, heightM) => {
        const moves = { [TABLE]: a }
        const cut = { id: 'c', name: 'c', on: true, reversed: false, kind: 'level', heightM } as Cut
        const cuts = { ...ALL_SHOWN.cuts, list: [cut], face: 'filled' as const }
        const wanted = area(rebuilt(moves), { ...ALL_SHOWN, cuts })
        const told = area(room, shownWith(moves, { cuts }))
        for (const id of new Set([...wanted.keys(), ...told.keys()])) expect(told.get(id) ?? 0).toBeCloseTo(wanted.get(id) ?? 0, 4) // prettier-ignore
      }),
      { numRuns: 25 },
    )
  })
  it('have bounds and edges there; pressed flat they are not met; unknown ones change nothing', () => {
    const up: Affine = [1, 0, 0, 1, 0, 1, 0, 0, 0, 0, 1, 1]
    const shown = shownWith({ [TABLE]: up })
    const [box, at] = [room.node(TABLE)!.box, room.nodesOf(shown).find((x) => x.id === TABLE)!.box]
    expect(at.min).toEqual([box.min[0] + 1, box.min[1], box.min[2] + 1])
    const [own, there] = [room.edgesOf(TABLE, ALL_SHOWN), room.edgesOf(TABLE, shown)]
    expect(there.length).toBe(own.length)
    own.forEach((v, i) => expect(there[i]).toBeCloseTo(v + [1, 0, 1][i % 3]!, 6))
    const down = { origin: [3, 2, 2.5] as Vec3, direction: [0, 0, -1] as Vec3 }
    const flat: Affine = [0, 0, 0, 3, 0, 0, 0, 2, 0, 0, 0, 1]
    expect(room.pick(down, shownWith({ [TABLE]: flat }))!.nodeId).toBe('Room/Floor')
    expect(room.pick(down, shownWith({ 'Room/Gone': up }))!.nodeId).toBe(room.pick(down)!.nodeId)
  })
})
