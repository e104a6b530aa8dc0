import fc from 'fast-check'
import { Mesh } from 'three'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '#core/base'
import { loadGlb } from '../scene/index.ts'
import { glbParts } from '../gltf/index.ts'
import { glbOfDraft, type DraftObject } from './draft.ts'
import { readModel } from './index.ts'
import { readObj } from './obj.ts'
import { readPly } from './ply.ts'
import { newell, triangulate } from './polygons.ts'
import { readStl } from './stl.ts'

const file = (name: string, text: string) => ({ name, bytes: new TextEncoder().encode(text) })
const none = { dracoWasm: () => Promise.reject(new Error('not asked for')) }

/** Signed area of the triangles of a draft along z, and their plain area. */
function areas(objects: readonly DraftObject[]): { alongZ: number; plain: number; triangles: number } {
  let [alongZ, plain, triangles] = [0, 0, 0]
  for (const { positions: p, indices } of objects.flatMap((o) => o.parts)) {
    const n = indices?.length ?? p.length / 3
    for (let t = 0; t < n; t += 3) {
      const v = (i: number, k: number): number => p[(indices ? indices[t + i]! : t + i) * 3 + k]!
      const normal = newell(3, v)
      alongZ += normal[2] / 2
      plain += Math.hypot(...normal) / 2
      triangles++
    }
  }
  return { alongZ, plain, triangles }
}
// an L of three unit squares
const L = [[0, 0], [2, 0], [2, 1], [1, 1], [1, 2], [0, 2]] as const // prettier-ignore

describe('faces of many corners', () => {
  it('an L of area 3 has area 3, from whichever corner it begins and whichever way it turns', () => {
    for (let first = 0; first < 6; first++)
      for (const back of [false, true]) {
        const corners = Array.from({ length: 6 }, (_, i) => L[(first + (back ? 6 - i : i)) % 6]!)
        const obj = corners.map(([x, y]) => `v ${x} ${y} 0\n`).join('') + 'f 1 2 3 4 5 6\n'
        const a = areas(readObj(file('l.obj', obj), []).objects)
        expect(a.plain).toBeCloseTo(3, 12)
        expect(a.alongZ).toBeCloseTo(back ? -3 : 3, 12)
        expect(a.triangles).toBe(4)
      }
  })
  it('an arrowhead of four corners in a PLY, a hexagon, and one face in five sizes', () => {
    const ply = (corners: readonly (readonly number[])[]): string =>
      `ply\nformat ascii 1.0\nelement vertex ${corners.length}\nproperty double x\nproperty double y\nproperty double z\nelement face 1\nproperty list uchar int vertex_index\nend_header\n${corners.map((c) => c.join(' ')).join('\n')}\n${corners.length} ${corners.map((_, i) => i).join(' ')}\n`
    const arrow = [[0, 0, 0], [2, -1, 0], [0, 3, 0], [-2, -1, 0]] as const // prettier-ignore
    expect(areas(readPly(file('a.ply', ply(arrow))).objects)).toEqual({ alongZ: 6, plain: 6, triangles: 2 })
    for (const n of [5, 6, 7, 12, 40]) {
      const round = Array.from({ length: n }, (_, i) => [
        Math.cos((i * 2 * Math.PI) / n),
        Math.sin((i * 2 * Math.PI) / n),
        0,
      ])
      const a = areas(readPly(file('a.ply', ply(round))).objects)
      // the area of a regular polygon in the unit circle
      expect(a.alongZ).toBeCloseTo((n / 2) * Math.sin((2 * Math.PI) / n), 12)
      expect(a.triangles).toBe(n - 2)
    }
  })
  it('any simple polygon keeps its area, tilted any way and far from the origin', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 1, noNaN: true }), { minLength: 4, maxLength: 14 }),
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.constantFrom(0, 100, 2_600_000),
        (radii, tilt, away) => {
          // star-shaped about its middle: simple, seldom convex
          const flat = radii.map((r, i) => [
            r * Math.cos((i * 2 * Math.PI) / radii.length),
            r * Math.sin((i * 2 * Math.PI) / radii.length),
          ])
          const at = (i: number, k: number): number => {
            const [x, y] = flat[i]! as [number, number]
            return away + [x * Math.cos(tilt), y, x * Math.sin(tilt)][k]!
          }
          const whole = Math.hypot(...newell(flat.length, at)) / 2
          const cut = triangulate(flat.length, at)
          let sum = 0
          for (let t = 0; t < cut.length; t += 3) sum += Math.hypot(...newell(3, (i, k) => at(cut[t + i]!, k))) / 2
          expect(Math.abs(sum - whole)).toBeLessThan(1e-6 * Math.max(1, away * 1e-3))
          expect(cut.length).toBe((flat.length - 2) * 3)
        },
      ),
      { numRuns: 400, seed: 3 },
    )
  })
  it('a star that crosses itself, a face without area and one of two corners do no harm', () => {
    const star = Array.from({ length: 5 }, (_, i) => [
      Math.cos((i * 4 * Math.PI) / 5),
      Math.sin((i * 4 * Math.PI) / 5),
      0,
    ])
    expect(triangulate(5, (i, k) => star[i]![k]!).length % 3).toBe(0)
    expect(triangulate(4, () => 1)).toHaveLength(6)
    expect(triangulate(2, () => 1)).toEqual([])
    const flat = readObj(file('a.obj', 'v 0 0 0\nv 0 0 0\nv 0 0 0\nv 1 1 1\nf 1 2 3\nf 1 2 3 4\n'), []).objects
    expect([...flat[0]!.parts[0]!.normals!].every(Number.isFinite)).toBe(true)
  })
})

const TRIANGLE = 'v 0 0 0\nv 1 0 0\nv 0 1 0\n'
describe('OBJ', () => {
  it('objects with lines and points beside their faces keep their faces', () => {
    const text = `${TRIANGLE}o Chair\nl 1 2\nf 1 2 3\np 1\no Wire\nl 1 2 3\no Table\nf 1 2 3\nl 3 1\nf 3 2 1\n`
    const { objects } = readObj(file('a.obj', text), [])
    expect(objects.map((o) => [o.name, areas([o]).triangles])).toEqual([['Chair', 1], ['Table', 2]]) // prettier-ignore
  })
  it.each([
    ['CR alone', '\r', (t: string) => t],
    ['CR LF', '\r\n', (t: string) => t],
    ['upper case', '\n', (t: string) => t.toUpperCase()],
    ['tabs and spaces', ' \t\n', (t: string) => t.replaceAll(' ', '\t ')],
  ])('with %s', async (_what, end, change) => {
    const text = change(`# made by hand\n${TRIANGLE}o Chair\nusemtl wood\nf 1 2 3\n`).replaceAll('\n', end)
    const r = await readModel(file('A.OBJ', text), [file('lib.mtl', '')], none)
    expect(r.facts).toMatchObject({ format: 'OBJ', triangles: 1, objects: 1 })
  })
  it('continued lines, numbers from the end, colours behind the corners, normals of no length', () => {
    const text = 'v 0 0 0 1 0 0\nv 1 0 0 1 0 0\nv 0 1 0\nvn 0 0 0\nvn 0 2 0\nf -3//-2 \\\n-2//-1 \\\r\n-1//-1\n'
    const [part] = readObj(file('a.obj', text), []).objects[0]!.parts
    expect([...part!.normals!]).toEqual([0, 0, 1, 0, 1, 0, 0, 1, 0])
    expect([...part!.colours!]).toEqual([1, 0, 0, 1, 0, 0, 1, 1, 1])
  })
  it.each([
    ['v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 x\nf 1 2 3\n', /Line 4: “vt 0 x” is not a position/],
    [`${TRIANGLE}vt 0 0\nf 1/2 2/1 3/1\n`, /Line 5: a face names texture point 1\/2, but there are 1/],
    [`${TRIANGLE}f 1//1 2//1 3//1\n`, /Line 4: a face names normal 1\/\/1, but there are 0/],
    [`${TRIANGLE}vn 0 NaN 1\nf 1 2 3\n`, /Line 4/],
    [`${TRIANGLE}f 1 2 x\n`, /Line 4: a face names corner x/],
  ])('%j is refused by its line', (text, message) => expect(() => readObj(file('a.obj', text), [])).toThrow(message))
  it('a site in surveyed coordinates keeps its millimetres', async () => {
    const [e, n] = [2_600_123.456, 1_200_321.123]
    const text = `v ${e} ${n} 400.001\nv ${e + 1.001} ${n} 400.001\nv ${e} ${n + 1.002} 400.001\nf 1 2 3\n`
    const { glb, facts } = await readModel(file('site.obj', text), [], none)
    expect(facts.box.max[0]! - facts.box.min[0]!).toBeCloseTo(1.001, 4)
    expect(facts.box.min[0]).toBeCloseTo(e, 4)
    expect(facts.box.min[1]).toBeCloseTo(n, 4)
    const root = await loadGlb(glb, { textures: false })
    root.traverse((o) => {
      if (o instanceof Mesh) expect(Math.abs(o.geometry.getAttribute('position').getX(0))).toBeLessThan(2)
    })
  })
})

describe('STL and PLY', () => {
  const stl =
    'solid thing\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid thing\n'
  it.each([
    ['CR alone', stl.replaceAll('\n', '\r')],
    ['upper case', stl.toUpperCase()],
    ['all in one line', stl.replaceAll('\n', ' ')],
  ])('a text STL with %s', async (_what, text) =>
    expect((await readModel(file('a.stl', text), [], none)).facts.triangles).toBe(1),
  )
  it('a text STL with a word for a number is refused by the triangle', () =>
    expect(() => readStl(file('a.stl', stl.replace('vertex 1 0 0', 'vertex 1 o 0')))).toThrow(/Triangle 1: “1 o 0”/))
  it('PLY in capitals and with CR alone, strips, normals of no length, doubles far away', () => {
    const ply = `PLY\nFORMAT ASCII 1.0\nELEMENT VERTEX 4\nPROPERTY DOUBLE X\nPROPERTY DOUBLE Y\nPROPERTY DOUBLE Z\nPROPERTY FLOAT NX\nPROPERTY FLOAT NY\nPROPERTY FLOAT NZ\nELEMENT TRISTRIPS 1\nPROPERTY LIST INT INT VERTEX_INDICES\nEND_HEADER\n0 0 0 0 0 0\n1 0 0 0 0 0\n0 1 0 0 0 0\n1 1 0 0 0 0\n4 0 1 2 3\n`
    for (const text of [ply, ply.replaceAll('\n', '\r')]) {
      const { objects } = readPly(file('a.ply', text))
      expect(areas(objects)).toMatchObject({ alongZ: 1, triangles: 2 })
      expect([...objects[0]!.parts[0]!.normals!.slice(0, 3)]).toEqual([0, 0, 1])
    }
  })
  it('a big-endian PLY is read as its text', () => {
    const header =
      'ply\nformat binary_big_endian 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n'
    const bytes = new Uint8Array(header.length + 36 + 13)
    bytes.set(new TextEncoder().encode(header))
    const view = new DataView(bytes.buffer, header.length)
    ;[0, 0, 0, 4, 0, 0, 0, 3, 0].forEach((v, i) => view.setFloat32(i * 4, v))
    view.setUint8(36, 3)
    ;[0, 1, 2].forEach((v, i) => view.setInt32(37 + i * 4, v))
    expect(areas(readPly({ name: 'a.ply', bytes }).objects).alongZ).toBe(6)
    expect(() => readPly({ name: 'a.ply', bytes: bytes.slice(0, -2) })).toThrow(/cut off: 0 of 1 faces/)
  })
})

describe('harmless lines in great number', () => {
  // in time linear in the size: the first of these took 7 s for a tenth of this once, twelve minutes for all of it
  it.each([
    ['solid without end', 'a.stl', 'solid '.repeat(500_000)],
    ['empty lines before an OBJ', 'a.obj', `${'\n'.repeat(3_000_000)}${TRIANGLE}f 1 2 3\n`],
    ['blanks in an OBJ', 'a.obj', `${TRIANGLE}${' '.repeat(3_000_000)}f 1 2 3\n`],
    ['comments', 'a.obj', `${'# nothing at all\n'.repeat(200_000)}${TRIANGLE}f 1 2 3\n`],
    ['a header without end', 'a.ply', `ply\n${'comment x\n'.repeat(300_000)}`],
  ])('%s', { timeout: 60_000 }, async (_what, name, text) => {
    await readModel(file(name, text), [], none).catch((e: unknown) =>
      expect(e).toMatchObject({ code: 'model-unreadable' }),
    )
  })
})

describe('glTF', () => {
  const square: DraftObject[] = [
    { name: 'S', parts: readObj(file('a.obj', `${TRIANGLE}f 1 2 3\n`), []).objects[0]!.parts },
  ]
  /** The same GLB with another description and, if given, the binary part elsewhere. */
  async function redescribed(change: (json: Record<string, unknown>, bin: Uint8Array) => void): Promise<Uint8Array> {
    const parts = glbParts(await glbOfDraft(square))
    if (!parts.ok) throw new Error('not a GLB')
    const json = parts.value.json as Record<string, unknown>
    change(json, parts.value.bin!)
    const text = new TextEncoder().encode(JSON.stringify(json))
    return container(text, parts.value.bin!)
  }
  function container(text: Uint8Array, bin: Uint8Array): Uint8Array {
    const padded = Math.ceil(text.length / 4) * 4
    const out = new Uint8Array(28 + padded + bin.length).fill(32, 20, 20 + padded)
    const head = new DataView(out.buffer)
    ;[0x46546c67, 2, out.length, padded, 0x4e4f534a].forEach((v, i) => head.setUint32(i * 4, v, true))
    out.set(text, 20)
    head.setUint32(20 + padded, bin.length, true)
    head.setUint32(24 + padded, 0x004e4942, true)
    out.set(bin, 28 + padded)
    return out
  }
  const read = async (bytes: Uint8Array) => readModel({ name: 'a.glb', bytes }, [], none)

  it('GLB 1.0 says so', async () => {
    const old = new Uint8Array(40)
    old.set(new TextEncoder().encode('glTF'))
    old[4] = 1
    await expect(read(old)).rejects.toMatchObject({
      detail: expect.stringMatching(/GLB of version 1.*Export it as glTF 2\.0/),
    })
  })
  it('a name that is no text, a place that is no number, data that is not there are refused in words', async () => {
    const change = (f: (json: Record<string, { [k: string]: unknown }[]>) => void) =>
      redescribed((json) => f(json as never))
    await expect(read(await change((j) => (j['nodes']![0]!['name'] = 7)))).rejects.toMatchObject({ detail: expect.stringMatching(/name that is no text/) }) // prettier-ignore
    await expect(read(await change((j) => (j['nodes']![0]!['translation'] = [0, null, 0])))).rejects.toMatchObject({ detail: expect.stringMatching(/translation of node 0 is not 3 numbers/) }) // prettier-ignore
    await expect(read(await change((j) => ((j['meshes']![0]!['primitives'] as { attributes: object }[])[0]!.attributes = { POSITION: 0, NORMAL: 99 })))).rejects.toMatchObject({ detail: expect.stringMatching(/data that does not exist/) }) // prettier-ignore
  })
  it('normals that are not numbers are refused like corners', async () => {
    const part = { ...square[0]!.parts[0]!, normals: Float32Array.from({ length: 9 }, () => NaN) }
    const glb = await glbOfDraft([{ name: 'S', parts: [part] }])
    await expect(read(glb)).rejects.toMatchObject({
      detail: expect.stringMatching(/“S” has normals that are not numbers/),
    })
  })
  it('extras without a bottom are fine', async () => {
    // JSON.stringify itself has a bottom: the text is put in afterwards
    const parts = glbParts(await glbOfDraft(square))
    if (!parts.ok) throw new Error('not a GLB')
    const deep = '{"a":'.repeat(50_000) + '1' + '}'.repeat(50_000)
    const described = JSON.stringify({ ...parts.value.json, asset: { version: '2.0', extras: 'HERE' } }).replace(
      '"HERE"',
      deep,
    )
    const { facts } = await read(container(new TextEncoder().encode(described), parts.value.bin!))
    expect(facts.triangles).toBe(1)
  })
  it('data written into an address is taken into the file', async () => {
    const glb = await redescribed((json, bin) => {
      let s = ''
      for (const b of bin) s += String.fromCharCode(b)
      json['buffers'] = [{ byteLength: bin.length, uri: `data:application/octet-stream;base64,${btoa(s)}` }]
    })
    const r = await read(glb)
    expect(r.facts.triangles).toBe(1)
    const parts = glbParts(r.glb)
    expect(parts.ok && (parts.value.json.buffers ?? []).every((b) => b.uri === undefined)).toBe(true)
  })
  it('40,000 nodes of one mesh, and 30,000 instances written as such, are all there', { timeout: 60_000 }, async () => {
    const nodes = await redescribed((json) => {
      json['nodes'] = Array.from({ length: 40_000 }, (_, i) => ({
        name: `N${i}`,
        mesh: 0,
        translation: [i % 200, Math.floor(i / 200), 0],
      }))
      json['scenes'] = [{ nodes: Array.from({ length: 40_000 }, (_, i) => i) }]
    })
    expect((await read(nodes)).facts).toMatchObject({ triangles: 40_000, objects: 40_000 })
    const { Document, WebIO } = await import('@gltf-transform/core')
    const { EXTMeshGPUInstancing } = await import('@gltf-transform/extensions')
    const doc = new Document()
    const buffer = doc.createBuffer()
    const accessor = (array: Float32Array) => doc.createAccessor().setType('VEC3').setArray(array as Float32Array<ArrayBuffer>).setBuffer(buffer) // prettier-ignore
    const mesh = doc.createMesh('Chair').addPrimitive(doc.createPrimitive().setAttribute('POSITION', accessor(Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0])))) // prettier-ignore
    const random = seededRandom(1)
    const batch = doc.createExtension(EXTMeshGPUInstancing).createInstancedMesh()
    batch.setAttribute('TRANSLATION', accessor(Float32Array.from({ length: 90_000 }, () => random() * 100)))
    doc.createScene().addChild(doc.createNode('Chair').setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', batch))
    const glb = await new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeBinary(doc)
    expect((await read(glb)).facts.triangles).toBe(30_000)
  })
})
