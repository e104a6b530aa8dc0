// The stage's scene without a GL: which meshes take part in what, what is kept and what is let go.
import { movedPoint } from '#core/reel'
import { readFileSync } from 'node:fs'
import {
  BufferAttribute,
  Box3,
  Mesh,
  ShaderMaterial,
  Texture,
  type Matrix3,
  type MeshStandardMaterial,
  type Object3D,
} from 'three'
import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { AT_ORIGIN, type PlacedModel } from '#core/placing'
import { loadGlb } from '#formats/scene'
import { assemble, quickFacts } from '#mesh'
import { roomGlb } from '../tests/support/models.ts'
import { lampModel } from '../scripts/demo-data/scenes.ts'
import { StageScene } from './scene.ts'

beforeAll(() => void vi.stubGlobal('ImageBitmap', class {}))
const placed = (key: string): PlacedModel => ({ key, unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] })
const load = (bytes: Uint8Array) => loadGlb(bytes, { textures: false })
const meshes = (root: Object3D): Mesh[] => {
  const found: Mesh[] = []
  root.traverse((o) => o instanceof Mesh && found.push(o))
  return found
}
const shown = (root: Object3D): string[] => meshes(root).filter((m) => m.visible).map((m) => String(m.userData['nodeId'])) // prettier-ignore
let stage: StageScene
let room: Object3D
let lamp: Object3D
function set(...models: [string, Object3D][]): Object3D {
  stage.takeApart()
  const scene = assemble(models.map(([key, root]) => ({ placed: placed(key), root })))
  stage.setModel(scene, quickFacts(scene))
  return scene
}
beforeEach(async () => {
  stage = new StageScene()
  room = await load(roomGlb())
  lamp = await load(lampModel().bytes)
})

describe('passes', () => {
  it('solid things and clear ones never mix, hidden ones and all below them take no part', () => {
    const scene = set(['lamp', lamp])
    expect(stage.prepare('clear')).toBe(true)
    const clear = shown(scene)
    stage.prepare('solid')
    const solid = shown(scene)
    expect(clear.some((id) => /dome|glass/i.test(id))).toBe(true)
    expect(
      clear.filter((id) => solid.includes(id) && meshes(scene).filter((m) => m.userData['nodeId'] === id).length < 2),
    ).toEqual([])
    const [top] = solid[0]!.split('/').slice(0, 2)
    stage.setHidden([top!])
    expect(stage.prepare('solid')).toBe(false)
    expect(shown(scene)).toEqual([])
  })
  it('objects stand where a picture has them, with what lies below them, and go back', () => {
    const scene = set(['room', room])
    const of = (id: string) => meshes(scene).find((m) => m.userData['nodeId'] === id)!
    const at = (id: string) => new Box3().setFromBufferAttribute(of(id).geometry.getAttribute('position') as never).applyMatrix4(of(id).matrixWorld) // prettier-ignore
    const [table, walls] = [at('room/Room/Table'), at('room/Room/Walls')]
    // a quarter turn clockwise about a corner of the table, then a metre up
    const hinge = [2.5, 1.5, 0] as const
    stage.setMoved([{ objectId: 'room/Room/Table', moveM: [0, 0, 1], turnDeg: 90, hinge }])
    const moved = at('room/Room/Table')
    const wanted = [table.min, table.max].map((p) =>
      movedPoint([p.x, p.y, p.z], 'it', [{ objectId: 'it', moveM: [0, 0, 1], turnDeg: 90, hinge }]),
    )
    expect(moved.min.x).toBeCloseTo(Math.min(wanted[0]![0], wanted[1]![0]), 6)
    expect(moved.max.y).toBeCloseTo(Math.max(wanted[0]![1], wanted[1]![1]), 6)
    expect(moved.max.z).toBeCloseTo(table.max.z + 1, 6)
    expect(at('room/Room/Walls').equals(walls)).toBe(true)
    // another one: all that is not named is back
    stage.setMoved([{ objectId: 'room/Room', moveM: [0, 5, 0], turnDeg: 0, hinge: [0, 0, 0] }])
    expect(at('room/Room/Table').min.y).toBeCloseTo(table.min.y + 5, 6)
    expect(at('room/Room/Walls').min.y).toBeCloseTo(walls.min.y + 5, 6)
    stage.setMoved()
    expect(at('room/Room/Table').equals(table)).toBe(true)
  })
  it('each pass brings its own material; taking apart gives the file’s back', () => {
    const before = meshes(room).map((m) => m.material)
    const scene = set(['room', room])
    stage.prepare('solid')
    const finished = meshes(scene).map((m) => m.material)
    expect(finished.every((m) => m instanceof ShaderMaterial)).toBe(true)
    stage.prepare('drawing')
    meshes(scene).forEach((m, i) => expect(m.material).not.toBe(finished[i]))
    stage.takeApart()
    expect(meshes(scene).map((m) => m.material)).toEqual(before)
  })
  it('an outline is of exactly the objects asked for, with what lies below them, save hidden ones', () => {
    const scene = set(['room', room])
    stage.prepareOnly(['room/Room/Table'])
    expect(shown(scene)).toEqual(['room/Room/Table'])
    stage.setHidden(['room/Room/Walls'])
    stage.prepareOnly(['room'])
    expect(shown(scene)).toEqual(['room/Room/Floor', 'room/Room/Table'])
    stage.prepareOnly([])
    expect(shown(scene)).toEqual([])
  })
})

describe('maps', () => {
  it('have each their own set of places and transform; one whose set is not there is not drawn', () => {
    const mesh = meshes(room).find((m) => m.geometry.hasAttribute('uv'))!
    const source = mesh.material as MeshStandardMaterial
    const map = (channel: number, scale: number): Texture => {
      const t = new Texture()
      t.channel = channel
      t.repeat.set(scale, scale)
      t.updateMatrix()
      return t
    }
    Object.assign(source, { map: map(0, 2), normalMap: map(1, 3), emissiveMap: map(3, 1), alphaTest: 0.4 })
    mesh.geometry.setAttribute('uv1', mesh.geometry.getAttribute('uv'))
    const scene = set(['room', room])
    const finished = (pass: 'solid' | 'shadow' | 'drawing') => {
      stage.prepare(pass)
      return meshes(scene).find((m) => m === mesh)!.material as unknown as ShaderMaterial
    }
    const { defines, uniforms } = finished('solid')
    expect(defines).toMatchObject({ COLOUR_MAP: 'uv', NORMAL_MAP: 'uv1', HAS_UV1: '' })
    expect(defines['EMISSION_MAP']).toBeUndefined()
    expect(['uMapPlace', 'uNormalPlace', 'uRoughPlace'].map((u) => (uniforms[u]!.value as Matrix3).elements[0])).toEqual([2, 3, 1]) // prettier-ignore
    // a cut-out has its holes in shadow and drawing too
    expect(finished('shadow').defines).toMatchObject({ COLOUR_MAP: 'uv' })
    expect(finished('drawing').defines).toMatchObject({ COLOUR_MAP: 'uv' })
  })
})

describe('another scene', () => {
  it('the shadow of a cut-out has its holes, all others share a plain one', () => {
    const leaves = meshes(lamp).find((m) => !(m.material as MeshStandardMaterial).transparent)!
    const plain = (leaves.material as MeshStandardMaterial).clone()
    leaves.geometry.setAttribute('uv', new BufferAttribute(new Float32Array(leaves.geometry.getAttribute('position').count * 2), 2)) // prettier-ignore
    leaves.material = Object.assign(plain, { alphaTest: 0.5, map: new Texture() })
    const root = set(['lamp', lamp], ['room', room])
    stage.prepare('shadow')
    const drawn = meshes(root).filter((m) => m.visible)
    const shadows = new Set(drawn.map((m) => m.material as ShaderMaterial))
    expect(shadows.size).toBe(2)
    const cut = [...shadows].find((m) => m.defines['COLOUR_MAP'] !== undefined)!
    expect(drawn.filter((m) => m.material === cut)).toHaveLength(1)
    expect(cut.uniforms['uAlphaTest']!.value).toBe(0.5)
    stage.takeApart()
    expect(leaves.material).toBe(plain)
  })
  it('keeps what was made for meshes that stay, and lets go of the rest', () => {
    set(['room', room])
    stage.prepare('solid')
    const kept = meshes(room).map((m) => m.material)
    const gone = meshes(lamp).map((m) => vi.spyOn(m.geometry, 'dispose'))
    const stays = meshes(room).map((m) => vi.spyOn(m.geometry, 'dispose'))
    set(['room', room], ['lamp', lamp])
    expect(stage.facts!.nodes.filter((n) => n.parentId === null).map((n) => n.id)).toEqual(['room', 'lamp'])
    set(['room', room])
    for (const d of gone) expect(d).toHaveBeenCalled()
    for (const d of stays) expect(d).not.toHaveBeenCalled()
    stage.prepare('solid')
    expect(meshes(room).map((m) => m.material)).toEqual(kept)
  })
  it('shows a model that was shown before where it is placed now', () => {
    set(['room', room])
    const before = quickFacts(room.parent!).box
    stage.takeApart()
    const place = { position: [10, 0, 0] as const, turnDeg: 90, scale: 2 }
    const scene = assemble([{ placed: { ...placed('room'), place }, root: room }])
    const facts = quickFacts(scene)
    stage.setModel(scene, facts)
    // 6.6 m east and 4.6 m north become twice as much, turned
    expect(facts.box.max[1] - facts.box.min[1]).toBeCloseTo(2 * (before.max[0] - before.min[0]), 4)
    const [mesh] = meshes(scene)
    expect(mesh!.matrixWorld.elements[12]).toBeCloseTo(10, 6)
    expect(facts.nodes[0]!.axes[1].map((v) => Math.round(v))).toEqual([1, 0, 0])
  })
  it('counts its revisions, so that shadows are drawn anew; none at all is a scene too', () => {
    set(['room', room])
    const before = stage.revision
    const { radius } = stage
    set()
    expect(stage.revision).toBeGreaterThan(before)
    expect(stage.radius).toBeLessThan(radius)
    expect(stage.depthRange([0, 0, 0], [0, 1, 0])).toEqual({ nearM: 0, farM: 1 })
    expect(stage.prepare('solid')).toBe(false)
  })
  it('knows how deep it lies along a direction', () => {
    set(['room', room])
    // the room reaches from -0.3 to 6.3 m along x
    const { nearM, farM } = stage.depthRange([-1, 2, 1.5], [1, 0, 0])
    expect(nearM).toBeCloseTo(0.7, 5)
    expect(farM).toBeCloseTo(7.3, 5)
  })
})

it('a product’s file made elsewhere gets materials for every mesh', async () => {
  const bytes = new Uint8Array(readFileSync(new URL('../tests/fixtures/models/hand.glb', import.meta.url)))
  const hand = await load(bytes)
  const scene = set(['hand', hand])
  expect(stage.prepare('solid')).toBe(true)
  for (const m of meshes(scene)) {
    expect(m.material).toBeInstanceOf(ShaderMaterial)
    expect(m.geometry.hasAttribute('normal')).toBe(true)
  }
})
