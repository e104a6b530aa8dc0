// Objects that stand elsewhere: rays, clearances, cut faces and checks are those of a model that has them there in its file.
import fc from 'fast-check'
import { beforeAll, describe, expect, it } from 'vitest'
import { seededRandom } from '#core/base'
import { affineOf, affinePoint, normalize, sub, type Affine, type Vec3 } from '#core/math'
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
/** Numbers without favourites: a ray that meets an edge exactly may be told either face. */
interface Chance {
  point(): Vec3
  move(): Affine
  number(min: number, max: number): number
}
function chance(seed: number): Chance {
  const random = seededRandom(seed)
  const number = (min: number, max: number): number => min + (max - min) * random()
  const turn = (): number[] => {
    const q = [0, 1, 2, 3].map(() => number(-1, 1))
    const l = Math.hypot(...q)
    return l > 0.1 ? q.map((v) => v / l) : turn()
  }
  const move = (): Affine => {
    const size = number(0.5, 2)
    return affineOf([number(-2, 2), number(-1, 1), number(-1, 1)], turn(), [size, size, size])
  }
  return { number, move, point: () => [number(0.2, 5.8), number(0.2, 3.8), number(0.1, 2.9)] }
}
const forAnyChance = (check: (c: Chance) => void): void =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e9 }), (seed) => check(chance(seed))),
    { numRuns: 25 },
  )
const shownWith = (moves: Readonly<Record<string, Affine>>, rest: Partial<Shown> = {}): Shown => ({
  ...ALL_SHOWN,
  ...rest,
  moved: Object.entries(moves).map(([objectId, affine]): ObjectMoved => ({ objectId, affine })),
})

describe('objects that stand elsewhere', () => {
  it('are met by rays there and nowhere else, those below moved ones too (property)', () =>
    forAnyChance((c) => {
      const moves = { [TABLE]: c.move(), [`${TABLE}/Bowl`]: c.move() }
      const [there, shown, from] = [rebuilt(moves), shownWith(moves), c.point()]
      for (let k = 0; k < 20; k++) {
        const sight = { origin: from, direction: normalize(sub(c.point(), from)) }
        const [told, wanted] = [room.pick(sight, shown), there.pick(sight)]
        if (!wanted) {
          expect(told).toBeNull()
          continue
        }
        expect(told!.distanceM).toBeCloseTo(wanted.distanceM, 4)
        expect(told!.nodeId).toBe(wanted.nodeId)
        told!.normal.forEach((v, i) => expect(v).toBeCloseTo(wanted.normal[i]!, 3))
      }
    }))
  it('are kept clear of there, and what is hidden of them is not there (property)', () =>
    forAnyChance((c) => {
      const moves = { [TABLE]: c.move() }
      const hidden = c.number(0, 1) < 0.5 ? [`${TABLE}/Bowl`] : []
      const places = Float64Array.from(Array.from({ length: 10 }, c.point).flat())
      const told = clearances(room, places, ORIGIN, 2, shownWith(moves, { hidden }))
      clearances(rebuilt(moves), places, ORIGIN, 2, { ...ALL_SHOWN, hidden }).forEach((v, i) =>
        expect(told[i]).toBeCloseTo(v, 4),
      )
    }))
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
    forAnyChance((c) => {
      const moves = { [TABLE]: c.move() }
      const cut = { id: 'c', name: 'c', on: true, reversed: false, kind: 'level', heightM: c.number(0.5, 1.5) } as Cut
      const cuts = { ...ALL_SHOWN.cuts, list: [cut], face: 'filled' as const }
      const wanted = area(rebuilt(moves), { ...ALL_SHOWN, cuts })
      const told = area(room, shownWith(moves, { cuts }))
      expect(wanted.size).toBeGreaterThan(0)
      for (const id of new Set([...wanted.keys(), ...told.keys()]))
        expect(told.get(id) ?? 0).toBeCloseTo(wanted.get(id) ?? 0, 4)
    })
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
