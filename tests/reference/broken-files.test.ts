// Files made elsewhere, broken at random: 1,500 mutants with a fixed seed. Each is read with nothing but numbers in it, or refused
// by name in words.
import { readFileSync } from 'node:fs'
import { Mesh } from 'three'
import { describe, expect, it, vi } from 'vitest'
import { AppError, seededRandom } from '#core/base'
import { readModel, type PickedFile } from '#formats/import'
import { loadGlb } from '#formats/scene'

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
type Random = () => number
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!

/** Bytes turned, cut out, doubled or cut off. */
function shaken(bytes: Uint8Array, random: Random, from = 0): Uint8Array {
  const out = bytes.slice()
  const at = (): number => from + Math.floor(random() * (out.length - from))
  const kind = random()
  if (kind < 0.15) return out.slice(0, at())
  if (kind < 0.25) {
    const a = at()
    return Uint8Array.from([...out.slice(0, a), ...out.slice(a + 1 + Math.floor(random() * 40))])
  }
  for (let n = 1 + Math.floor(random() * 20); n > 0; n--)
    out[at()] = pick(random, [0, 255, 127, Math.floor(random() * 256)])
  return out
}
const ODD_WORDS = [
  'NaN',
  'inf',
  '-1',
  '1e999',
  '0',
  '',
  '99999999',
  'f',
  'v',
  'facet',
  'endloop',
  '\\',
  '/',
  '1//',
  '\u0000',
] as const
/** Some words of a text replaced, or its bytes shaken. */
function reworded(bytes: Uint8Array, random: Random): Uint8Array {
  if (random() < 0.3) return shaken(bytes, random)
  const words = new TextDecoder('latin1').decode(bytes).split(/([ \t\r\n]+)/)
  for (let n = 1 + Math.floor(random() * 6); n > 0; n--)
    words[Math.floor(random() * words.length)] = pick(random, ODD_WORDS)
  return Uint8Array.from(words.join(''), (c) => c.charCodeAt(0) & 255)
}
const ODD_VALUES = [null, -1, 0, 1.5, 1e9, 'x', '', [], {}, [null], true, 5126, 'VEC3', 'SCALAR', { a: 1 }] as const
/** Some values of a description replaced or taken out. */
function redescribed(json: unknown, random: Random): void {
  const places: [Record<string, unknown>, string][] = []
  const walk = (v: unknown): void => {
    if (typeof v !== 'object' || v === null) return
    for (const k of Object.keys(v)) {
      places.push([v as Record<string, unknown>, k])
      walk((v as Record<string, unknown>)[k])
    }
  }
  walk(json)
  for (let n = 1 + Math.floor(random() * 3); n > 0; n--) {
    const [o, k] = pick(random, places)
    if (random() < 0.2) delete o[k]
    else o[k] = structuredClone(pick(random, ODD_VALUES))
  }
}
function mutantGlb(bytes: Uint8Array, random: Random): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const length = view.getUint32(12, true)
  const kind = random()
  if (kind < 0.2) return shaken(bytes, random)
  if (kind < 0.5) {
    // numbers of the binary part that are none
    const out = bytes.slice()
    const floats = new DataView(out.buffer)
    for (let n = 1 + Math.floor(random() * 5); n > 0; n--) {
      const at = 28 + length + 4 * Math.floor((random() * (out.length - 32 - length)) / 4)
      floats.setFloat32(at, pick(random, [NaN, Infinity, -Infinity, 1e38, 0]), true)
    }
    return out
  }
  const json: unknown = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)))
  redescribed(json, random)
  const text = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(text.length / 4) * 4
  const out = new Uint8Array(20 + padded + bytes.length - 20 - length).fill(32, 20, 20 + padded)
  out.set(bytes.subarray(0, 20))
  out.set(text, 20)
  out.set(bytes.subarray(20 + length), 20 + padded)
  new DataView(out.buffer).setUint32(8, out.length, true)
  new DataView(out.buffer).setUint32(12, padded, true)
  return out
}
function mutantGltf(bytes: Uint8Array, random: Random): Uint8Array {
  const json: unknown = JSON.parse(new TextDecoder().decode(bytes))
  redescribed(json, random)
  return new TextEncoder().encode(JSON.stringify(json))
}

/** Nothing but numbers, normals of length one where they are written for the file. */
async function soundness(glb: Uint8Array, madeHere: boolean): Promise<string | null> {
  let wrong: string | null = null
  ;(await loadGlb(glb, { textures: false })).traverse((o) => {
    if (!(o instanceof Mesh)) return
    for (const key of ['position', 'normal', 'uv', 'color', 'tangent']) {
      const a = o.geometry.getAttribute(key)
      if (!a) continue
      for (let i = 0; i < a.count; i++)
        for (let k = 0; k < a.itemSize; k++) if (!Number.isFinite(a.getComponent(i, k))) wrong = `${key} ${i}`
      if (key === 'normal' && madeHere)
        for (let i = 0; i < a.count; i++)
          if (Math.abs(Math.hypot(a.getX(i), a.getY(i), a.getZ(i)) - 1) > 0.3) wrong = `normal ${i} has no length`
    }
  })
  return wrong
}

const KINDS: readonly [string, readonly string[], (b: Uint8Array, r: Random) => Uint8Array, number, boolean][] = [
  ['hand.glb', [], mutantGlb, 500, false],
  ['BoxWithInfinites.glb', [], mutantGlb, 150, false],
  ['engine-draco.gltf', ['2CylinderEngine.bin'], mutantGltf, 100, false],
  ['cube_usemtl.obj', ['cube_usemtl.mtl'], reworded, 150, true],
  ['spider.obj', ['spider.mtl'], reworded, 100, true],
  ['spider-ascii.stl', [], reworded, 150, true],
  ['spider-binary.stl', [], shaken, 100, true],
  ['cube.ply', [], reworded, 150, true],
  ['cube_binary.ply', [], shaken, 100, true],
]

describe('a broken file', () => {
  it.each(KINDS)('%s', { timeout: 120_000 }, async (name, others, mutate, count, madeHere) => {
    // the loader tells the console what it passes over
    for (const f of ['warn', 'error', 'log'] as const) vi.spyOn(console, f).mockImplementation(() => undefined)
    const random = seededRandom(1500 + count)
    const whole = fixture(name)
    const beside = others.map(fixture)
    let [read, refused] = [0, 0]
    for (let n = 0; n < count; n++) {
      const bytes = mutate(whole.bytes, random)
      try {
        const { glb, facts } = await readModel({ name, bytes }, beside, decoders)
        expect([...facts.box.min, ...facts.box.max].every(Number.isFinite), `mutant ${n}`).toBe(true)
        expect(await soundness(glb, madeHere), `mutant ${n}`).toBeNull()
        read++
      } catch (e) {
        if (!(e instanceof AppError)) throw e
        expect(e.code).toBe('model-unreadable')
        expect(e.detail, `mutant ${n}`).toMatch(/^[“A-Z][^]*\.$/)
        expect(e.detail).not.toMatch(/undefined|is not a function|Cannot read|TypeError|RangeError|\[object|THREE/)
        refused++
      }
    }
    vi.restoreAllMocks()
    expect(read + refused).toBe(count)
    expect(refused).toBeGreaterThan(0)
    // the one with infinite numbers in it is refused whatever else happens to it
    if (name !== 'BoxWithInfinites.glb') expect(read).toBeGreaterThan(0)
  })
})
