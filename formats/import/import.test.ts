import validator from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { inspectGlb } from '../gltf/index.ts'
import { loadGlb } from '../scene/index.ts'
import { Mesh, MeshStandardMaterial } from 'three'
import { glbOfDraft, pictureType, PLAIN_MATERIAL } from './draft.ts'
import { fileFor } from './gltf.ts'
import { formatOf, readModel } from './index.ts'
import { textOf } from './numbers.ts'
import { readObj } from './obj.ts'
import { readPly } from './ply.ts'
import { isBinaryStl, readStl } from './stl.ts'

const bytes = (text: string) => new TextEncoder().encode(text)
const file = (name: string, text: string) => ({ name, bytes: bytes(text) })
const none = { dracoWasm: () => Promise.reject(new Error('not asked for')) }
/** A PNG of one pixel. */
const PNG = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8/5+hHgAHggJ/PchI7wAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
)
const QUAD = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n'

async function faults(glb: Uint8Array): Promise<string[]> {
  const report = await validator.validateBytes(glb)
  return (report as { issues: { messages: { severity: number; code: string }[] } }).issues.messages
    .filter((m) => m.severity === 0)
    .map((m) => m.code)
}

describe('OBJ with a material library', () => {
  const mtl =
    'newmtl wood\nKd 0.5 0.25 0.1\nNs 98\nd 0.5\nKe 0 0.2 0\nmap_Kd textures\\oak.png\nnewmtl steel\nKd 1 1 1\nPm 1\nPr 0.3\n'
  const obj = `mtllib lib.mtl\n${QUAD}o Board\nusemtl wood\nf 1/1 2/2 3/3\nusemtl steel\nf 1/1 3/3 4/4\no Bare\nusemtl unknown\nf 1 2 3 4\n`
  const others = [file('lib.mtl', mtl), { name: 'oak.png', bytes: PNG }]
  const read = readObj(file('a.obj', obj), others)

  it('gives objects with a part for each material', () => {
    expect(read.objects.map((o) => [o.name, o.parts.map((p) => p.material.name)])).toEqual([
      ['Board', ['wood', 'steel']],
      ['Bare', ['unknown']],
    ])
    expect(read.missingTextures).toEqual([])
  })
  it('turns its values into physically based ones', () => {
    const [wood, steel] = read.objects[0]!.parts.map((p) => p.material)
    // sRGB 0.5 is 0.214 linear (IEC 61966-2-1)
    expect(wood!.colour[0]).toBeCloseTo(0.214, 3)
    expect(wood!.colour[3]).toBe(0.5)
    // exponent to roughness as sqrt(2 / (n + 2)): common practice
    expect(wood!.roughness).toBeCloseTo(Math.sqrt(2 / 100), 9)
    expect(wood!.emissive).toEqual([0, 0.2, 0])
    expect(wood!.picture!.name).toBe('oak.png')
    expect(steel).toMatchObject({ metallic: 1, roughness: 0.3 })
    expect(read.objects[1]!.parts[0]!.material).toEqual({ ...PLAIN_MATERIAL, name: 'unknown' })
  })
  it('counts v from the top as glTF does', () => {
    expect([...read.objects[0]!.parts[0]!.uvs!]).toEqual([0, 1, 1, 1, 1, 0])
  })
  it('makes a GLB that the Khronos validator passes and three reads with picture and transparency', async () => {
    const { glb, facts } = await readModel(file('a.obj', obj), others, none)
    expect(await faults(glb)).toEqual([])
    expect(facts).toMatchObject({ format: 'OBJ', triangles: 4, objects: 2, materials: 3 })
    const names: string[] = []
    ;(await loadGlb(glb, { textures: false })).traverse((o) => {
      if (!(o instanceof Mesh)) return
      const m = o.material as MeshStandardMaterial
      names.push(m.name)
      if (m.name === 'wood') expect(m).toMatchObject({ transparent: true, opacity: 0.5 })
    })
    expect(names.sort()).toEqual(['steel', 'unknown', 'wood'])
  })
  it('names pictures that are not there', () => {
    expect(readObj(file('a.obj', obj), others.slice(0, 1)).missingTextures).toEqual(['oak.png'])
  })
})

describe('what is wrong in an OBJ', () => {
  it.each([
    ['v 0 0 0\nf 1 2 3\n', 'Line 2: a face names corner 2, but there are 1.'],
    ['v 0 0 0\nv 1 0 0\nv 0 1 0\nf -1 -2 -4\n', 'Line 4: a face names corner -4, but there are 3.'],
    ['v 0 0\n', 'Line 1: “v 0 0” is not a position.'],
    ['v 0 0 0\nv 1 0 0\nv 0 1 0\nvn 0 0 1\nf -3//1 -2//1 -1//1\n', null],
  ])('%j: %s', (text, fault) => {
    const work = () => readObj(file('a.obj', text), [])
    if (fault === null) expect(work).not.toThrow()
    else expect(work).toThrowError(expect.objectContaining({ detail: fault }))
  })
  it('text in UTF-16 of either order is read', () => {
    const le = Uint8Array.from([0xff, 0xfe, ...[...'v 1'].flatMap((c) => [c.charCodeAt(0), 0])])
    const be = Uint8Array.from([0xfe, 0xff, ...[...'v 1'].flatMap((c) => [0, c.charCodeAt(0)])])
    for (const b of [le, be, bytes('v 1')]) expect(textOf(b).replace('\ufeff', '')).toBe('v 1')
  })
})

describe('STL', () => {
  function binary(triangles: number, header = ''): Uint8Array {
    const b = new Uint8Array(84 + 50 * triangles)
    b.set(bytes(header))
    const view = new DataView(b.buffer)
    view.setUint32(80, triangles, true)
    for (let t = 0; t < triangles; t++)
      [0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0].forEach((v, i) =>
        view.setFloat32(84 + t * 50 + i * 4, v + (i > 2 ? t : 0), true),
      )
    return b
  }
  it('that is binary is told by its length, whatever its header says', () => {
    expect(isBinaryStl(binary(2))).toBe(true)
    expect(isBinaryStl(binary(2, 'solid made by someone'))).toBe(true)
    expect(isBinaryStl(bytes('solid a\nfacet normal 0 0 1\n'.padEnd(120)))).toBe(false)
    expect(isBinaryStl(new Uint8Array(20))).toBe(false)
  })
  it('is read with the file’s name for its one object, and normals worked out where they are nought', () => {
    const { objects } = readStl({ name: 'bracket.v2.stl', bytes: binary(2) })
    expect(objects[0]!.name).toBe('bracket.v2')
    expect([...objects[0]!.parts[0]!.normals!.slice(0, 3)]).toEqual([0, 0, 1])
  })
  it('a unit in its header is believed', () => {
    expect(readStl({ name: 'a.stl', bytes: binary(1, 'units: cm') }).stated).toBe('cm')
  })
})

describe('PLY', () => {
  const ply = (faces: string) =>
    `ply\nformat ascii 1.0\ncomment unit: m\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face ${faces.trim().split('\n').length}\nproperty list uchar int vertex_indices\nend_header\n0 0 0 255 0 0\n1 0 0 255 0 0\n1 1 0 0 0 255\n0 1 0 0 0 255\n${faces}`
  it('is read with corner colours, quadrangles split, and its unit', () => {
    const { objects, stated } = readPly(file('a.ply', ply('4 0 1 2 3\n')))
    const [part] = objects[0]!.parts
    expect(part!.indices).toHaveLength(6)
    expect([...part!.colours!.slice(0, 3)]).toEqual([1, 0, 0])
    expect(part!.material.colour).toEqual([1, 1, 1, 1])
    expect(stated).toBe('m')
  })
  it('a face with a corner that is not there is named', () => {
    expect(() => readPly(file('a.ply', ply('3 0 1 9\n')))).toThrowError(
      /model-unreadable|Face 1 names corner 9, but there are 4/,
    )
  })
})

describe('drafts and files', () => {
  it('a draft with indices, colours and a picture is a valid GLB', async () => {
    const part = {
      material: { ...PLAIN_MATERIAL, picture: { name: 'a.png', bytes: PNG } },
      positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]),
      normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1]),
      uvs: Float32Array.from([0, 0, 1, 0, 0, 1]),
      colours: Float32Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1]),
      indices: Uint32Array.from([0, 1, 2]),
    }
    const glb = await glbOfDraft([{ name: 'One', parts: [part, { ...part, indices: null }] }])
    expect(await faults(glb)).toEqual([])
    expect(inspectGlb(glb)).toMatchObject({ ok: true, value: { triangles: 2, meshes: 1, nodes: 1 } })
  })
  it('a reference finds its file by name, whatever folder and case it is written in', () => {
    const files = [file('Oak Board.PNG', ''), file('b.bin', '')]
    expect(fileFor('textures/oak%20board.png', files)?.name).toBe('Oak Board.PNG')
    expect(fileFor('C:\\maps\\oak board.png', files)?.name).toBe('Oak Board.PNG')
    expect(fileFor('c.bin', files)).toBeUndefined()
    expect(['a.png', 'b.JPEG', 'c.webp', 'd.tif'].map(pictureType)).toEqual([
      'image/png',
      'image/jpeg',
      'image/webp',
      null,
    ])
  })
  it.each([
    ['a.bin', 'glTF\u0002', 'GLB'],
    ['scene.gltf', '{ "scenes": [] }', 'glTF'],
    ['a.json', '{"asset":{"version":"2.0"}}', 'glTF'],
    ['a.txt', 'ply\nformat ascii 1.0\n', 'PLY'],
    ['a.stl', ' solid x\nfacet normal', 'STL'],
    ['a.obj', '# nothing\nv 0 0 0\n', 'OBJ'],
    ['a.txt', 'v 0 0 0\n', null],
    ['a.obj', 'hello there', null],
  ])('%s that begins %j is %s', (name, text, format) => expect(formatOf(file(name, text))).toBe(format))
})
