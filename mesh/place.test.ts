import bunny from 'bunny'
import teapot from 'teapot'
import { BoxGeometry, Group, Mesh, Object3D, PointLight } from 'three'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Vec3 } from '#core/math'
import { AT_ORIGIN, placedPoint, type PlacedModel } from '#core/placing'
import { welded } from '#core/section'
import { loadGlb } from '#formats/scene'
import { roomGlb } from '../tests/support/models.ts'
import { assemble, elevation, MeshScene, place, quickFacts, soupOf, watertight, type SceneFacts } from './index.ts'

const asRead = (key: string, changes: Partial<PlacedModel> = {}): PlacedModel => ({
  key,
  unitM: 1,
  up: 'y',
  place: AT_ORIGIN,
  moved: [],
  ...changes,
})
const load = () => loadGlb(roomGlb(), { textures: false })
const boxOf = (facts: SceneFacts, id: string) => facts.nodes.find((n) => n.id === id)!.box
const near = (a: readonly number[], b: readonly number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 5))

describe('several models in one scene', () => {
  let facts: SceneFacts
  const far = asRead('far', { place: { position: [20, 0, 1], turnDeg: 90, scale: 0.5 } })
  beforeEach(async () => {
    const scene = assemble([
      { placed: asRead('here'), root: await load() },
      { placed: far, root: await load() },
    ])
    facts = soupOf(scene).facts
  })
  it('each under its key, where it is placed', () => {
    expect(facts.nodes.filter((n) => n.parentId === null).map((n) => n.id)).toEqual(['here', 'far'])
    near(boxOf(facts, 'here/Room/Floor').max, [6, 4, 0])
    const corner = placedPoint(far.place, [6, 4, 0])
    const other = placedPoint(far.place, [0, 0, -0.2])
    const box = boxOf(facts, 'far/Room/Floor')
    near(
      box.min,
      [0, 1, 2].map((i) => Math.min(corner[i]!, other[i]!)),
    )
    near(box.max, [0, 1, 2].map((i) => Math.max(corner[i]!, other[i]!))) // prettier-ignore
  })
  it('tells what each object is made of', () => {
    expect(facts.nodes.find((n) => n.id === 'here/Room/Table')!.materials).toEqual(['walnut'])
    expect(facts.nodes.find((n) => n.id === 'here/Room')!.materials).toEqual([])
  })
})

describe('a single object', () => {
  const moved = (moveM: Vec3, turnDeg = 0) => asRead('m', { moved: [{ path: 'm/Room/Table', moveM, turnDeg }] })
  it('is moved and turned about its own middle; everything else stays; and goes back exactly', async () => {
    const scene = assemble([{ placed: asRead('m'), root: await load() }])
    const before = soupOf(scene).facts
    place(scene, [moved([0, 1, 0.25])])
    near(boxOf(soupOf(scene).facts, 'm/Room/Table').min, [2.5, 2.5, 0.95])
    near(boxOf(soupOf(scene).facts, 'm/Room/Floor').max, [6, 4, 0])
    place(scene, [moved([0, 0, 0], 45)])
    const half = Math.SQRT1_2
    near(boxOf(soupOf(scene).facts, 'm/Room/Table').min, [3 - half, 2 - half, 0.7])
    place(scene, [asRead('m')])
    expect(soupOf(scene).facts).toEqual(before)
  })
  it('moves in the world’s directions though its model is turned and in millimetres', async () => {
    const turned = {
      ...moved([0.5, 0, 0]),
      unitM: 0.001,
      place: { position: [0, 0, 0] as Vec3, turnDeg: 90, scale: 1000 },
    }
    const scene = assemble([{ placed: { ...turned, moved: [] }, root: await load() }])
    const before = boxOf(soupOf(scene).facts, 'm/Room/Table')
    place(scene, [turned])
    near(boxOf(soupOf(scene).facts, 'm/Room/Table').min, [before.min[0] + 0.5, before.min[1], before.min[2]])
  })
  it('that the file does not have is passed over', async () => {
    const scene = assemble([{ placed: asRead('m'), root: await load() }])
    const before = soupOf(scene).facts
    place(scene, [asRead('m', { moved: [{ path: 'm/Gone', moveM: [1, 1, 1], turnDeg: 3 }] })])
    expect(soupOf(scene).facts).toEqual(before)
  })
})

it('quick facts agree with the exact ones where nothing is turned', async () => {
  const scene = assemble([{ placed: asRead('m'), root: await load() }])
  const quick = quickFacts(scene)
  const exact = soupOf(scene).facts
  expect(quick.nodes.map((n) => [n.id, n.triangles])).toEqual(exact.nodes.map((n) => [n.id, n.triangles]))
  near(quick.box.min, exact.box.min)
  near(quick.box.max, exact.box.max)
  let meshes = 0
  scene.traverse((o) => o instanceof Mesh && meshes++)
  expect(meshes).toBe(3)
})

/** A list of corners and faces as the packages have them. */
const soup = (m: { positions: number[][]; cells: number[][] }) => ({
  positions: Float32Array.from(m.positions.flat()),
  indices: Uint32Array.from(m.cells.flat()),
})

describe('closed surfaces', () => {
  // packages bunny 1.0.1 (a closed scan) and teapot 1.0.0 (the lid stands apart, the body is open)
  it('a scan made closed is watertight, the old teapot is not', () => {
    expect(watertight(soup(bunny))).toEqual({ closed: true, openEdges: 0 })
    expect(watertight(soup(teapot)).closed).toBe(false)
  })
  it('one face taken out opens three edges; corners at one place count as one', () => {
    const { positions, indices } = soup(bunny)
    expect(watertight({ positions, indices: indices.slice(3) })).toEqual({ closed: false, openEdges: 3 })
    // every face with corners of its own, as STL has them
    const loose = Float32Array.from([...indices].flatMap((i) => [...positions.slice(i * 3, i * 3 + 3)]))
    expect(watertight({ positions: loose, indices: Uint32Array.from(indices, (_, i) => i) }).closed).toBe(true)
    expect(new Set(welded(loose)).size).toBe(positions.length / 3)
  })
  it('a face turned round is no closed surface; nothing at all is none either', () => {
    const { positions, indices } = soup(bunny)
    const turned = indices.slice()
    ;[turned[0], turned[1]] = [turned[1]!, turned[0]!]
    expect(watertight({ positions, indices: turned }).openEdges).toBe(3)
    expect(watertight({ positions: new Float32Array(), indices: new Uint32Array() }).closed).toBe(false)
  })
})

describe('the little elevation', () => {
  it('covers what the model covers, the right side up', async () => {
    const scene = assemble([{ placed: asRead('m', { up: 'z' }), root: await load() }])
    const { soup: s, facts } = soupOf(scene)
    const e = elevation(s, facts.box, 'y', 66)
    // 6.6 m wide and 3.2 m high at 10 px a metre
    expect([e.width, e.height]).toEqual([66, 32])
    const alpha = (x: number, y: number) => e.pixels[(y * e.width + x) * 4 + 3]
    expect(alpha(1, 1)).toBe(255)
    // below the walls' foot only the floor is there, and it is narrower
    expect(alpha(0, 31)).toBe(0)
    expect(alpha(33, 31)).toBe(255)
  })
})

describe('lights and empty nodes', () => {
  const scene = (): Group => {
    const root = new Group()
    const turned = new Group()
    turned.name = 'Turned'
    turned.rotation.y = Math.PI / 2
    const lamp = new PointLight()
    lamp.name = 'Lamp'
    lamp.position.set(1, 2, 3)
    const spot = new Object3D()
    spot.name = 'Spot'
    const box = new Mesh(new BoxGeometry(2, 2, 2))
    box.name = 'Box'
    turned.add(lamp, spot)
    root.add(turned, box)
    return root
  }
  it('are known by their place and axes, so that they can be aimed at; they do not widen the model', () => {
    for (const facts of [quickFacts(scene()), soupOf(scene()).facts]) {
      const node = (name: string) => facts.nodes.find((n) => n.name === name)!
      expect(node('Lamp')).toMatchObject({ kind: 'light', triangles: 0, materials: [] })
      // turned a quarter about y: (1, 2, 3) comes to (3, 2, -1)
      node('Lamp').box.min.forEach((v, i) => expect(v).toBeCloseTo([3, 2, -1][i]!, 9))
      expect(node('Lamp').box.max).toEqual(node('Lamp').box.min)
      expect(node('Spot').kind).toBeNull()
      expect(facts.box).toEqual({ min: [-1, -1, -1], max: [1, 1, 1] })
    }
  })
  it('axes count with z up whatever the file’s are', () => {
    const yUp = quickFacts(scene()).nodes.find((n) => n.name === 'Box')!.axes
    expect(yUp).toEqual([[1, 0, 0], [0, 0, -1], [0, 1, 0]]) // prettier-ignore
    const root = scene()
    for (const child of root.children) child.userData['up'] = 'z'
    const zUp = quickFacts(root).nodes.find((n) => n.name === 'Box')!.axes
    expect(zUp).toEqual([[1, 0, 0], [0, 1, 0], [0, 0, 1]]) // prettier-ignore
  })
  it('are nothing that a ray meets', () => {
    const { soup, facts } = soupOf(scene())
    const mesh = new MeshScene(soup, facts)
    expect(mesh.pick({ origin: [3, 2, 4], direction: [0, 0, -1] })).toBeNull()
    expect(mesh.pick({ origin: [0, 0, 4], direction: [0, 0, -1] })!.nodeName).toBe('Box')
  })
})
