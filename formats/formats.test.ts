import { PNG } from 'pngjs'
import { validateBytes } from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { densityOf, encodePngRgb, withDensity } from './png/index.ts'
import { inspectGlb } from './gltf/index.ts'
import { hallModel, lampModel } from '../scripts/demo-data/scenes.ts'
import { roomGlb } from '../tests/support/models.ts'

describe('GLB', () => {
  it.each([
    ['room', roomGlb()],
    ['lamp', lampModel().bytes],
    ['hall', hallModel().bytes],
  ])('the %s is clean by the Khronos validator', async (_name, bytes) => {
    const report = await validateBytes(bytes, { maxIssues: 20 })
    expect(report.issues).toMatchObject({ numErrors: 0, numWarnings: 0 })
  })
  it('is the same to the byte every time', () => expect(Buffer.compare(lampModel().bytes, lampModel().bytes)).toBe(0))

  const glb = roomGlb()
  /** The room with its description changed. */
  function changed(change: (json: Record<string, unknown>) => void): Uint8Array {
    const view = new DataView(glb.buffer)
    const length = view.getUint32(12, true)
    const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as Record<string, unknown>
    change(json)
    const text = new TextEncoder().encode(JSON.stringify(json))
    const padded = Math.ceil(text.length / 4) * 4
    const out = new Uint8Array(20 + padded + glb.length - 20 - length).fill(0x20, 20, 20 + padded)
    out.set(glb.subarray(0, 20))
    out.set(text, 20)
    out.set(glb.subarray(20 + length), 20 + padded)
    new DataView(out.buffer).setUint32(8, out.length, true)
    new DataView(out.buffer).setUint32(12, padded, true)
    return out
  }
  type Any = Record<string, Record<string, unknown>[]>
  it.each([
    ['empty', new Uint8Array(0), 'empty'],
    ['five bytes', new Uint8Array(5), 'truncated'],
    ['a text', new TextEncoder().encode('solid cube with many words'), 'not-glb'],
    ['cut off', glb.subarray(0, glb.length - 10), 'truncated'],
    ['version 1', Uint8Array.from(glb, (b, i) => (i === 4 ? 1 : b)), 'old-version'],
    ['broken description', Uint8Array.from(glb, (b, i) => (i === 20 ? 0x7d : b)), 'bad-json'],
    ['a buffer elsewhere', changed((j) => void ((j as Any)['buffers']![0]!['uri'] = 'room.bin')), 'missing-buffer'],
    [
      'a view outside the buffer',
      changed((j) => void ((j as Any)['bufferViews']![0]!['byteOffset'] = 1e9)),
      'out-of-range',
    ],
    [
      'an accessor outside its view',
      changed((j) => void ((j as Any)['accessors']![0]!['count'] = 1e6)),
      'out-of-range',
    ],
    ['no meshes', changed((j) => void ((j['meshes'] = []), (j['nodes'] = []))), 'no-mesh'],
    ['a node with a mesh that is not there', changed((j) => void (j['meshes'] = [])), 'wrong-type'],
  ])('%s is refused by name', (_what, bytes, reason) => {
    expect(inspectGlb(bytes)).toMatchObject({ ok: false, reason, message: expect.stringMatching(/\.$/) })
  })
  it('a whole one is counted', () =>
    expect(inspectGlb(glb)).toMatchObject({ ok: true, value: { triangles: 72, meshes: 3, nodes: 4 } }))
})

describe('PNG', () => {
  const rgb = Uint8Array.from({ length: 7 * 5 * 3 }, (_, i) => (i * 37) % 256)
  const png = encodePngRgb(rgb, 7, 5)
  it('is read back by another decoder, pixel for pixel', () => {
    const read = PNG.sync.read(Buffer.from(png))
    expect([read.width, read.height]).toEqual([7, 5])
    for (let i = 0; i < 35; i++)
      expect([...read.data.subarray(i * 4, i * 4 + 3)]).toEqual([...rgb.subarray(i * 3, i * 3 + 3)])
  })
  it('says its density, once, in front of the picture', () => {
    expect(densityOf(png)).toBeNull()
    const dense = withDensity(withDensity(png, 72), 300)
    // whole pixels a metre: 300 ppi are 11811
    expect(densityOf(dense)).toBeCloseTo(11811 * 0.0254, 9)
    expect(PNG.sync.read(Buffer.from(dense)).data).toEqual(PNG.sync.read(Buffer.from(png)).data)
    expect(dense.length).toBe(png.length + 21)
    expect(() => withDensity(rgb, 300)).toThrow(RangeError)
  })
})
