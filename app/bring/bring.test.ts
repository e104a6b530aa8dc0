// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Vec3 } from '#core/math'
import type { Hit } from '#mesh'
import { AppError } from '#core/base'
import type { ModelFacts } from '#formats/import'
import { closeInMemory, openInMemory, roomFacts } from '../../tests/support/app.ts'
import { api } from '../api/client.ts'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import SizeView from './SizeView.vue'
import { useBring } from './bring.ts'
import { freeSpot } from './spot.ts'

const facts: ModelFacts = {
  format: 'OBJ',
  box: { min: [0, 0, 0], max: [1000, 750, 600] },
  triangles: 12,
  objects: 1,
  materials: 1,
  nodes: [{ id: 'Chair', name: 'Chair' }],
  missingTextures: [],
  guess: { unit: 'mm', up: 'y', unitWhy: 'from its size', upWhy: 'usual for OBJ' },
}
const client = {
  read: vi.fn(),
  checksum: vi.fn(async () => 'b'.repeat(64)),
  front: vi.fn(async () => ({ width: 1, height: 1, pixels: new Uint8ClampedArray(4) })),
  closedness: vi.fn(async () => ({ closed: true, openEdges: 0 })),
  dispose: vi.fn(),
}
vi.mock('#workers', () => ({ createImport: () => client, createGeometry: vi.fn() }))

const file = (name: string): File => new File(['x'], name)
beforeEach(async () => {
  vi.clearAllMocks()
  await openInMemory()
  client.read.mockResolvedValue({ glb: new Blob(['glb']), facts })
  const stage = useStage()
  vi.spyOn(stage.rays, 'floorBelow').mockImplementation(async (p) => ({
    point: [p[0], p[1], 0],
    normal: [0, 0, 1],
    distanceM: 1,
    nodeId: 'room',
    nodeName: 'Floor',
  }))
  vi.spyOn(stage.rays, 'freeWay').mockImplementation(async (_f, _d, far) => far)
  vi.spyOn(api, 'upload').mockImplementation(async (blob, name, sha) => ({
    sha256: sha!,
    sizeBytes: blob.size,
    fileName: name,
  }))
})
afterEach(closeInMemory)

describe('bringing in', () => {
  it('stores and changes nothing before the person says so', async () => {
    const before = useProject().document
    const bring = useBring()
    await bring.begin([file('chair.obj'), file('chair.mtl')])
    expect(client.read.mock.calls[0]![1].map((f: File) => f.name)).toEqual(['chair.mtl'])
    expect(bring.judged!.fileName).toBe('chair.obj')
    expect(bring.unit).toBe('mm')
    expect(bring.closedness).toEqual({ closed: true, openEdges: 0 })
    expect(api.upload).not.toHaveBeenCalled()
    bring.cancel()
    expect(bring.busy).toBe(false)
    expect(client.dispose).toHaveBeenCalled()
    expect(useProject().document).toBe(before)
  })
  it('of more than 2 GB is refused in words; one that was cancelled fails in silence, whatever came after it', async () => {
    const bring = useBring()
    const huge = file('huge.stl')
    Object.defineProperty(huge, 'size', { value: 2 ** 31 + 1 })
    await bring.begin([huge])
    expect(bring.busy).toBe(false)
    expect(useNotices().list.at(-1)!.text).toMatch(/2 GB/)
    let fail: (e: Error) => void = () => undefined
    client.read.mockImplementationOnce(() => new Promise((_, no) => (fail = no)))
    const first = bring.begin([file('a.obj')])
    bring.cancel()
    const told = useNotices().list.length
    fail(new Error('worker gone'))
    await first
    expect(useNotices().list).toHaveLength(told)
  })
  it('puts a further model on the floor by the judged unit, selected, under a key of its own', async () => {
    const bring = useBring()
    await bring.begin([file('room.obj')])
    bring.unit = 'cm'
    await bring.accept(false)
    const [, chair] = useProject().document!.models
    expect(chair).toMatchObject({
      key: 'room 2',
      name: 'room.obj',
      unitM: 0.01,
      up: 'y',
      sha256: 'b'.repeat(64),
      fileBox: facts.box,
    })
    // y is up: the base is the x-z face; its middle stands on the floor
    expect(chair!.place.position[2]).toBeCloseTo(0, 9)
    expect(useView().selection).toEqual(['room 2'])
    expect(useProject().document!.trail.steps).toHaveLength(1)
  })
  it('a file of a model’s name can take its place: key and place stay, the report tells', async () => {
    const bring = useBring()
    await bring.begin([file('room.glb')])
    expect(bring.same!.key).toBe('room')
    await bring.accept(true)
    expect(useProject().document!.models).toHaveLength(1)
    expect(useProject().document!.models[0]).toMatchObject({ key: 'room', sha256: 'b'.repeat(64) })
    expect(bring.report).toMatchObject({ name: 'room.glb', kept: 0, added: ['Chair'] })
    expect(bring.report!.gone).toHaveLength(roomFacts.nodes.length - 1)
  })
  it('refuses what holds no model, and one thing at a time', async () => {
    const bring = useBring()
    await bring.begin([file('notes.txt')])
    expect(useNotices().list.at(-1)!.text).toMatch(/“notes.txt”: no GLB/)
    await bring.begin([file('a.stl')])
    await bring.begin([file('b.stl')])
    expect(useNotices().list.at(-1)!.text).toMatch(/One model at a time/)
  })
  it('a broken file or a failing upload leaves the document as it was', async () => {
    const before = useProject().document
    const bring = useBring()
    client.read.mockRejectedValueOnce(new AppError('model-unreadable', 'It is cut off.'))
    await bring.begin([file('a.stl')])
    expect(bring.busy).toBe(false)
    expect(useNotices().list.at(-1)!.text).toMatch(/cut off/)
    await bring.begin([file('a.stl')])
    vi.mocked(api.upload).mockRejectedValueOnce(new AppError('upload-too-large', 'The limit is 1 MB.'))
    await bring.accept(false)
    expect(useNotices().list.at(-1)!.text).toMatch(/limit is 1 MB/)
    expect(useProject().document).toBe(before)
  })
  it('several models picked together come one after the other', async () => {
    const bring = useBring()
    await bring.begin([file('a.stl'), file('b.stl')])
    expect(bring.judged!.fileName).toBe('a.stl')
    await bring.accept(false)
    expect(bring.judged!.fileName).toBe('b.stl')
    await bring.accept(false)
    expect(useProject().document!.models.map((m) => m.key)).toEqual(['room', 'a', 'b'])
  })
})

describe('a free spot', () => {
  it('is before the camera; where something stands the next is tried', async () => {
    const box = { min: [0, 0, 0] as const, max: [0.5, 0.5, 1] as const }
    expect(await freeSpot(box)).toEqual([4, 1, 0])
    // everything within half a metre of the aim is taken
    vi.mocked(useStage().rays.freeWay).mockImplementation(async (from, _d, far) =>
      Math.abs(from[0] - 4) < 0.5 ? 0.2 : far,
    )
    const [x] = await freeSpot(box)
    expect(x).toBeCloseTo(1 + 3 * 0.7, 9)
  })
  it('is the surface under the aim, where that carries all of it', async () => {
    // a table of 0.75 m under the aim at (4, 1), a metre across
    const top = (p: readonly number[]): number => (Math.abs(p[0]! - 4) <= 0.5 && Math.abs(p[1]! - 1) <= 0.5 ? 0.75 : 0)
    const hit = (p: Vec3): Hit => ({ point: [p[0], p[1], top(p)], normal: [0, 0, 1], distanceM: 1, nodeId: 'room/Set/Table', nodeName: 'Table' }) // prettier-ignore
    vi.spyOn(useStage().rays, 'pickLevel').mockImplementation(async (ray) => hit(ray.origin))
    expect(await freeSpot({ min: [0, 0, 0], max: [0.5, 0.5, 0.3] })).toEqual([4, 1, 0.75])
    // too wide for the table: on the floor
    expect((await freeSpot({ min: [0, 0, 0], max: [1.6, 1.6, 0.3] }))[2]).toBe(0)
  })
})

describe('the size beside a door', () => {
  const view = (max: [number, number, number]) =>
    mount(SizeView, { props: { front: null, boxM: { min: [0, 0, 0], max } }, global: { plugins: [PrimeVue] } })
  const door = (w: ReturnType<typeof view>) => Number(w.get('.door rect').attributes('height'))
  it('is at true proportion, the staff in centimetres beside small things and in metres beside large ones', () => {
    const chair = view([0.6, 0.6, 1.05])
    // 2.1 m of door to 2.0 m of staff
    const staff = chair.findAll('.staff rect').reduce((h, r) => h + Number(r.attributes('height')), 0)
    expect(door(chair) / staff).toBeCloseTo(2.1 / 2, 6)
    expect(chair.text()).toContain('0.5 m')
    expect(view([0.1, 0.1, 0.12]).text()).toMatch(/\d+ cm/)
    expect(view([18, 9, 9]).text()).toMatch(/\d m/)
  })
})
