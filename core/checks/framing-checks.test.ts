// Findings about the frame's edge, the lens and parallel views, on scenes made to have exactly them; silence otherwise.
import { describe, expect, it } from 'vitest'
import { frameOf, lensOf } from '../../tests/support/cameras.ts'
import type { Guide, Lens, Projection } from '../camera/index.ts'
import { projectPoint } from '../camera/index.ts'
import type { Box, Vec3 } from '../math/index.ts'
import { frameCheck, LIMITS, type CheckObject, type CheckScene, type FindingId, type Limits } from './index.ts'

const boxAt = ([x, y, z]: Vec3, size: Vec3): Box => ({
  min: [x - size[0] / 2, y - size[1] / 2, z - size[2] / 2],
  max: [x + size[0] / 2, y + size[1] / 2, z + size[2] / 2],
})
const thing = (name: string, at: Vec3, size: Vec3 = [0.5, 0.3, 0.8], more: Partial<CheckObject> = {}): CheckObject => ({
  ...{ id: name, name, box: boxAt(at, size), isBuilding: false, isPerson: false },
  ...more,
})
/** Where a ray meets a box; null where it does not. */
function entry(origin: Vec3, direction: Vec3, { min, max }: Box): number | null {
  let [near, far] = [0, Infinity]
  for (let k = 0; k < 3; k++) {
    const [a, b] = [(min[k]! - origin[k]!) / direction[k]!, (max[k]! - origin[k]!) / direction[k]!]
    near = Math.max(near, Math.min(a, b))
    far = Math.min(far, Math.max(a, b))
  }
  return near <= far ? near : null
}
interface Shot {
  readonly objects: readonly CheckObject[]
  readonly lens?: Partial<Lens>
  readonly guides?: readonly Guide[]
  readonly subject?: string
  readonly kind?: 'room' | 'product'
  readonly limits?: Limits
  readonly station?: Vec3
  readonly levelFaces?: CheckScene['levelFaces']
}
function scene({ objects, kind = 'room', subject, levelFaces = [] }: Shot): CheckScene {
  const of = objects.find((o) => o.id === subject)
  return {
    box: { min: [-6, 0, 0], max: [6, 12, 3] },
    kind,
    eyeHeightM: 1.58,
    floorM: 0,
    subject: of ? { id: of.id, name: of.name, box: of.box } : null,
    objects,
    levelFaces,
    walls: [],
    laidOpenM2: () => null,
    objectOf: () => null,
    centreOf: () => null,
    first({ origin, direction }) {
      const hits = objects.flatMap((o) => {
        const t = entry(origin, direction, o.box)
        return t === null ? [] : [{ o, t }]
      })
      const [hit] = hits.sort((a, b) => a.t - b.t)
      if (!hit) return null
      const point = origin.map((v, k) => v + direction[k]! * hit.t) as unknown as Vec3
      // slanting to all: nothing is square to anything
      return { point, normal: [0.6, -0.6, 0.53], distanceM: hit.t, nodeId: hit.o.id, nodeName: hit.o.name }
    },
    before: () => [],
  }
}
const WALL = thing('Wall', [0, 11, 1.5], [12, 0.2, 3], { isBuilding: true })
const camera = (shot: Shot) => ({
  stand: {
    station: shot.station ?? ([0, 0, 1.58] as Vec3),
    aim: { kind: 'direction' as const, bearingDeg: 0, tiltDeg: 0 },
    rollDeg: 0,
  },
  lens: lensOf({ focalMm: 28, ...shot.lens }),
  frame: { ...frameOf(1200, 800), guides: shot.guides ?? [] },
})
const found = (shot: Shot) =>
  frameCheck(
    { ...camera(shot), shown: { hidden: [], cuts: { nearM: null, farM: null, list: [] } }, limits: shot.limits },
    scene({ ...shot, objects: [WALL, ...shot.objects] }),
  )
const ids = (shot: Shot): FindingId[] => found(shot).map((f) => f.id)
/** An object's middle that comes to this column of the picture, 4 m ahead. */
const across = (px: number): Vec3 => [((px - 600) * 36 * 4) / (1200 * 28), 4, 1.4]

const THIRDS: Guide = { kind: 'thirds', colour: 'white', strength: 0.4 }
const PLAN: Projection = { kind: 'parallel', widthM: 8 }

describe('the frame’s edge', () => {
  it('a sliver off an object is found with its part; cut clearly, or all inside, it is not', () => {
    const at = (px: number): Shot => ({ objects: [thing('Chair', across(px))] })
    const cropped = found(at(1130))
    expect(cropped.map((f) => f.id)).toEqual(['just-cropped'])
    expect(cropped[0]!.value).toBeLessThan(LIMITS.cropped.value)
    expect(cropped[0]!.show.nodeIds).toEqual(['Chair'])
    expect(ids(at(1180))).toEqual([])
    expect(ids(at(1040))).toEqual([])
    expect(ids({ ...at(1130), limits: { cropped: 0 } })).toEqual([])
    // a wall goes on beyond the frame
    expect(ids({ objects: [] })).toEqual([])
  })
  it('an outline within a few pixels of the edge is found with its gap', () => {
    const chair = (x: number): CheckObject => thing('Chair', [x, 4, 1.4], [0.5, 1e-6, 0.8])
    // its right end comes to 1197 px
    const end = across(1197)[0]
    const touching = found({ objects: [chair(end - 0.25)] })
    expect(touching.map((f) => f.id)).toEqual(['touches-edge'])
    expect(touching[0]!.value).toBeCloseTo(3, 1)
    expect(ids({ objects: [chair(across(1180)[0] - 0.25)] })).toEqual([])
    expect(ids({ objects: [chair(end - 0.25)], limits: { tangent: 2 } })).toEqual([])
  })
})

describe('guides', () => {
  it('a subject almost on a chosen guide is told; on it, far from it, or without one, not', () => {
    const at = (px: number, guides: readonly Guide[] = [THIRDS]): Shot => ({ objects: [thing('Vase', across(px), [0.2, 0.2, 0.2])], subject: 'Vase', guides }) // prettier-ignore
    const off = found(at(420))
    expect(off.map((f) => f.id)).toEqual(['off-guide'])
    expect(off[0]!.value).toBeCloseTo((100 * 20) / 1200, 1)
    expect(ids(at(400))).toEqual([])
    expect(ids(at(250))).toEqual([])
    expect(ids(at(420, []))).toEqual([])
  })
})

describe('the lens', () => {
  it('a ball 45 degrees off the axis is stretched 1.41 times; a box is not judged, a person is', () => {
    const wide = { focalMm: 16 }
    const at: Vec3 = [3.9, 3.9, 1.58]
    const ball = found({ objects: [thing('Ball', at, [0.4, 0.4, 0.4])], lens: wide })
    expect(ball.map((f) => f.id)).toEqual(['stretched'])
    expect(ball[0]!.value).toBeCloseTo(Math.SQRT2, 2)
    expect(ids({ objects: [thing('Box', at, [0.4, 0.9, 0.4])], lens: wide })).toEqual([])
    expect(ids({ objects: [thing('Visitor', at, [0.4, 0.3, 1.7], { isPerson: true })], lens: wide })).toContain(
      'stretched',
    )
    expect(ids({ objects: [thing('Ball', [1, 3.9, 1.58], [0.4, 0.4, 0.4])], lens: wide })).toEqual([])
    expect(ids({ objects: [thing('Ball', at, [0.4, 0.4, 0.4])], lens: wide, limits: { stretch: 1.5 } })).toEqual([])
  })
  it('rise past what shift lenses have, and a lens for rooms near a product', () => {
    expect(ids({ objects: [], lens: { crossMm: 6 } })).toEqual([])
    const past = found({ objects: [], lens: { crossMm: 18 } })
    expect(past.map((f) => f.id)).toEqual(['past-shift'])
    expect(past[0]!.value).toBeGreaterThan(past[0]!.limit)
    expect(ids({ objects: [], kind: 'product' })).toEqual(['too-wide'])
    expect(ids({ objects: [], kind: 'product', lens: { focalMm: 50 } })).toEqual([])
    // 28 mm on a small sensor is a long lens
    expect(ids({ objects: [], kind: 'product', lens: { focalMm: 28, sensorMm: { width: 17.3, height: 13 } } })).toEqual(
      [],
    )
  })
})

describe('parallel views', () => {
  const near = thing('Bench', [-0.8, 3, 1.5])
  const far = thing('Shelf', [-0.6, 9, 1.7])
  it('things that overlap far apart in depth are told; side by side, near each other or in perspective they are not', () => {
    const apart = found({ objects: [near, far], lens: { projection: PLAN } })
    expect(apart.map((f) => f.id)).toEqual(['depth-untold'])
    expect(apart[0]!.message).toContain('“Bench” and “Shelf” lie 6.00 m apart')
    expect(ids({ objects: [near, thing('Shelf', [-0.6, 3.4, 1.7])], lens: { projection: PLAN } })).toEqual([])
    expect(ids({ objects: [near, thing('Shelf', [0.8, 9, 1.5])], lens: { projection: PLAN } })).toEqual([])
    expect(ids({ objects: [near, far] })).toEqual([])
    // an oblique picture shows it
    const cabinet: Projection = { kind: 'oblique', widthM: 8, angleDeg: 45, receding: 0.5 }
    expect(ids({ objects: [near, far], lens: { projection: cabinet } })).toEqual([])
  })
  it('a table top seen exactly from its edge is told in an elevation', () => {
    const table = thing('Table', [0, 4, 0.7], [1.6, 0.8, 0.1])
    const levelFaces = [{ nodeId: 'Table', nodeName: 'Table', heightM: 0.75, areaM2: 1.28, min: [-0.8, 3.6], max: [0.8, 4.4] } as const] // prettier-ignore
    const lens = { projection: PLAN }
    expect(ids({ objects: [table], levelFaces, lens, station: [0, 0, 1.2] })).toEqual(['edge-on-level'])
    expect(ids({ objects: [table], lens, station: [0, 0, 1.2] })).toEqual([])
  })
})

describe('mends', () => {
  const ball = thing('Ball', [3.9, 3.9, 1.58], [0.4, 0.4, 0.4])
  const vase = thing('Vase', across(420), [0.2, 0.2, 0.2])
  it.each<[string, FindingId, Shot]>([
    ['a longer lens', 'stretched', { objects: [ball], lens: { focalMm: 16 } }],
    ['a shift within reach', 'past-shift', { objects: [], lens: { crossMm: 18 } }],
    ['a lens for products', 'too-wide', { objects: [], kind: 'product' }],
    ['a subject on its guide', 'off-guide', { objects: [vase], subject: 'Vase', guides: [THIRDS] }],
  ])('%s leaves nothing to say', (_, id, shot) => {
    const f = found(shot).find((x) => x.id === id)!
    const c = camera(shot)
    const setup = { ...c, stand: f.mend!.stand ?? c.stand, lens: f.mend!.lens ?? c.lens, shown: { hidden: [], cuts: { nearM: null, farM: null, list: [] } } } // prettier-ignore
    const left = frameCheck(setup, scene({ ...shot, objects: [WALL, ...shot.objects] }))
    expect(left.map((x) => x.id)).not.toContain(id)
  })
})

it('the places used here lie where they are said to', () => {
  const c = { pose: { station: [0, 0, 1.58] as Vec3, bearingDeg: 0, tiltDeg: 0, rollDeg: 0 }, lens: lensOf({ focalMm: 28 }), frame: frameOf(1200, 800) } // prettier-ignore
  expect(projectPoint(c, across(1130))!.xPx).toBeCloseTo(1130, 6)
})
