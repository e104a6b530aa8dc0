// Files made elsewhere, read by the project: the same thing in several formats comes out the same; compressed files match what the
// glTF library's own reader finds; broken ones are refused by name.
import { NodeIO, type Document } from '@gltf-transform/core'
import { ALL_EXTENSIONS, EXTMeshoptCompression } from '@gltf-transform/extensions'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { AppError } from '#core/base'
import { UNIT_M } from '#core/placing'
import { formatOf, readModel, type PickedFile } from '#formats/import'
import { inspectGlb } from '#formats/gltf'
import { watertight } from '#mesh'

const fixture = (name: string): PickedFile => ({
  name,
  bytes: new Uint8Array(readFileSync(new URL(`../fixtures/models/${name}`, import.meta.url))),
})
const decoders = {
  dracoWasm: async () => {
    const b = readFileSync(new URL('../../node_modules/draco3d/draco_decoder.wasm', import.meta.url))
    return b.buffer.slice(b.byteOffset, b.byteOffset + b.byteLength) as ArrayBuffer
  },
}
const read = (main: string | PickedFile, ...others: string[]) =>
  readModel(typeof main === 'string' ? fixture(main) : main, others.map(fixture), decoders)
const sizeOf = ({ box }: { box: { min: readonly number[]; max: readonly number[] } }): number[] =>
  [0, 1, 2].map((i) => box.max[i]! - box.min[i]!)
const refusal = async (work: Promise<unknown>): Promise<string> => {
  const e = await work.then(
    () => null,
    (e: unknown) => e,
  )
  expect(e).toBeInstanceOf(AppError)
  expect((e as AppError).code).toBe('model-unreadable')
  return (e as AppError).detail ?? ''
}

describe('one model in several formats', () => {
  it('has the same triangles and extents as OBJ, STL and PLY', async () => {
    const obj = await read('figure.obj')
    const stl = await read('figure.stl')
    const ply = await read('figure.ply')
    expect([obj, stl, ply].map((r) => r.facts.format)).toEqual(['OBJ', 'STL', 'PLY'])
    expect(stl.facts.triangles).toBe(3732)
    expect(ply.facts.triangles).toBe(stl.facts.triangles)
    expect(obj.facts.triangles).toBe(stl.facts.triangles)
    // exporters chose their axes: the extents are the same lengths
    const sorted = (r: typeof obj) => sizeOf(r.facts).sort((a, b) => a - b)
    sorted(stl).forEach((v, i) => expect(v).toBeCloseTo(sorted(ply)[i]!, 3))
    sorted(obj).forEach((v, i) => expect(v).toBeCloseTo(sorted(ply)[i]!, 3))
    for (const r of [obj, stl, ply]) expect(inspectGlb(r.glb)).toMatchObject({ ok: true, value: { triangles: 3732 } })
  })
  it('reads text and binary STL alike, and the OBJ of the same thing', async () => {
    const text = await read('spider-ascii.stl')
    const binary = await read('spider-binary.stl')
    expect(text.facts.triangles).toBe(binary.facts.triangles)
    sizeOf(text.facts).forEach((v, i) => expect(v).toBeCloseTo(sizeOf(binary.facts)[i]!, 3))
    const obj = await read('spider.obj', 'spider.mtl')
    expect(obj.facts.triangles).toBe(binary.facts.triangles)
    expect(obj.facts.objects).toBeGreaterThan(3)
    expect(obj.facts.materials).toBeGreaterThan(3)
    // its pictures were not picked: named, not fatal
    expect(obj.facts.missingTextures).toContain('SpiderTex.jpg')
  })
  it('reads text and binary PLY, UTF-16 OBJ and material libraries', async () => {
    for (const name of ['cube.ply', 'cube_binary.ply', 'box_UTF16BE.obj']) {
      const { facts, soup } = await read(name)
      expect(facts.triangles, name).toBe(12)
      expect(watertight(soup()), name).toEqual({ closed: true, openEdges: 0 })
    }
    const cube = await read('cube_usemtl.obj', 'cube_usemtl.mtl')
    // a third name has no entry in the library: it gets a plain material of its own
    expect(cube.facts.materials).toBe(3)
  })
})

/** Bounds and triangles by the glTF library's own document, placed by its own nodes. */
function byLibrary(doc: Document): { triangles: number; min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  let triangles = 0
  for (const node of doc.getRoot().listNodes()) {
    const m = node.getWorldMatrix()
    for (const p of node.getMesh()?.listPrimitives() ?? []) {
      const position = p.getAttribute('POSITION')!
      triangles += (p.getIndices() ?? position).getCount() / 3
      const v: number[] = []
      for (let i = 0; i < position.getCount(); i++) {
        position.getElement(i, v)
        for (let k = 0; k < 3; k++) {
          const w = m[k]! * v[0]! + m[4 + k]! * v[1]! + m[8 + k]! * v[2]! + m[12 + k]!
          min[k] = Math.min(min[k]!, w)
          max[k] = Math.max(max[k]!, w)
        }
      }
    }
  }
  return { triangles, min, max }
}

describe('glTF of all sorts', () => {
  it('a product’s GLB in metres stays as it is to the byte', async () => {
    const file = fixture('hand.glb')
    const { glb, facts } = await read(file)
    expect(glb).toBe(file.bytes)
    const judge = byLibrary(await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(file.bytes))
    expect(facts.triangles).toBe(judge.triangles)
    facts.box.min.forEach((v, i) => expect(v).toBeCloseTo(judge.min[i]!, 6))
    facts.box.max.forEach((v, i) => expect(v).toBeCloseTo(judge.max[i]!, 6))
    expect(facts.guess).toMatchObject({ unit: 'm', up: 'y', unitWhy: 'as glTF says' })
  })
  it('Draco with files beside it, judged by the library’s reader with the same decoder', async () => {
    const { facts, glb } = await read('engine-draco.gltf', '2CylinderEngine.bin')
    const io = new NodeIO().registerExtensions(ALL_EXTENSIONS)
    const draco = await import('draco3d/draco_decoder_nodejs.js')
    io.registerDependencies({ 'draco3d.decoder': await draco.default({ wasmBinary: await decoders.dracoWasm() }) })
    const judge = byLibrary(await io.read(new URL('../fixtures/models/engine-draco.gltf', import.meta.url).pathname))
    expect(facts.triangles).toBe(judge.triangles)
    facts.box.max.forEach((v, i) => expect(v).toBeCloseTo(judge.max[i]!, 3))
    expect(inspectGlb(glb)).toMatchObject({ ok: true, value: { extensionsRequired: [] } })
    // hundreds of units long: not metres, whatever the format says
    expect(Math.max(...sizeOf(facts))).toBeGreaterThan(500)
    expect(facts.guess.unit).toBe('mm')
  })
  it('meshopt, packed by the library’s encoder', async () => {
    const { MeshoptEncoder } = await import('meshoptimizer/encoder')
    await MeshoptEncoder.ready
    const io = new NodeIO()
      .registerExtensions(ALL_EXTENSIONS)
      .registerDependencies({ 'meshopt.encoder': MeshoptEncoder })
    const doc = await io.readBinary(fixture('hand.glb').bytes as Uint8Array<ArrayBuffer>)
    doc.createExtension(EXTMeshoptCompression).setRequired(true)
    const packed = await io.writeBinary(doc)
    expect(packed.length).toBeLessThan(fixture('hand.glb').bytes.length)
    const plain = await read('hand.glb')
    const unpacked = await read({ name: 'packed.glb', bytes: packed })
    expect(unpacked.facts.triangles).toBe(plain.facts.triangles)
    unpacked.facts.box.max.forEach((v, i) => expect(v).toBeCloseTo(plain.facts.box.max[i]!, 5))
  })
})

describe('files that cannot be used are refused with what is wrong', () => {
  const cut = (name: string, share: number): PickedFile => {
    const f = fixture(name)
    return { ...f, bytes: f.bytes.slice(0, Math.floor(f.bytes.length * share)) }
  }
  it.each([
    ['an empty file', () => read({ name: 'a.glb', bytes: new Uint8Array() }), /is empty/],
    ['another kind of file', () => read({ name: 'notes.txt', bytes: new TextEncoder().encode('hello') }), /none of the kinds/],
    ['a program with a model’s name', () => read({ name: 'x.stl', bytes: new Uint8Array(40).fill(7) }), /none of the kinds/],
    ['a cut GLB', () => read(cut('hand.glb', 0.6)), /cut off: \d+ of \d+ bytes/],
    ['a cut binary STL', () => read(cut('figure.stl', 0.5)), /cut off: \d+ of 3732 triangles/],
    ['a cut text STL', () => read(cut('spider-ascii.stl', 0.5)), /cut off/],
    ['a cut PLY', () => read(cut('figure.ply', 0.4)), /cut off|corner/],
    ['a cut glTF', () => read(cut('engine-draco.gltf', 0.5), '2CylinderEngine.bin'), /cut off/],
    ['a glTF without its buffer', () => read('BoxTextured.gltf'), /“BoxTextured0\.bin” is missing/],
    ['a glTF whose buffer is cut', () => readModel(fixture('engine-draco.gltf'), [{ ...cut('2CylinderEngine.bin', 0.5), name: '2CylinderEngine.bin' }], decoders), /“2CylinderEngine.bin” is cut off/],
    ['indices out of range', () => read('IndexOutOfRange.gltf', 'IndexOutOfRange.bin'), /names corner \d+, but there are \d+/],
    ['infinite positions', () => read('BoxWithInfinites.glb'), /not numbers/],
    ['nodes below themselves', () => read('RecursiveNodes.gltf'), /below (themselves|two others or itself)/],
    ['a list that is none', () => read('badArray.gltf'), /damaged/],
    ['an object that is none', () => read('badObject.gltf'), /damaged/],
    ['a picture that does not exist', () => read('badUint.gltf'), /material 0: “baseColorTexture”/],
    ['a picture that is not named', () => read('badNumber.gltf'), /material 0: “normalTexture”/],
    ['points without faces', () => read('points.ply'), /points without faces/],
    ['an OBJ without triangles', () => read({ name: 'a.obj', bytes: new TextEncoder().encode('v 0 0 0\nv 1 0 0\n') }), /no triangles/],
    ['an OBJ that names corners it has not', () => read({ name: 'a.obj', bytes: new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n') }), /Line 4: a face names corner 9, but there are 3/],
    ['an OBJ with a word for a number', () => read({ name: 'a.obj', bytes: new TextEncoder().encode('v 0 0 0\nv 1 zero 0\nv 0 1 0\nf 1 2 3\n') }), /Line 2: “v 1 zero 0” is not a position/],
    ['a model without size', () => read({ name: 'a.obj', bytes: new TextEncoder().encode('v 1 1 1\nv 1 1 1\nv 1 1 1\nf 1 2 3\n') }), /no size/],
  ])('%s', async (_what, work, message) => {
    expect(await refusal(work())).toMatch(message)
  }) // prettier-ignore
  it('a file that is merely careless is read', async () => {
    // strange numbers in a description need not stop the geometry
    expect(formatOf(fixture('malformed.obj'))).toBe('OBJ')
  })
})

describe('unit and up axis', () => {
  it('a comment in the file goes before its size', async () => {
    const bytes = new TextEncoder().encode('# units: inches\nv 0 0 0\nv 10 0 0\nv 0 20 0\nf 1 2 3\n')
    const { facts } = await read({ name: 'a.obj', bytes })
    expect(facts.guess).toMatchObject({ unit: 'in', unitWhy: 'as the file says' })
    expect(20 * UNIT_M[facts.guess.unit]).toBeCloseTo(0.508, 12)
  })
})
