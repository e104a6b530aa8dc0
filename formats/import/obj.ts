// How is an OBJ file with its material libraries read?
// Model: three's loaders parse both; here materials become physically based ones (exponent to roughness: common practice) and
// what is wrong in the file is named by its line. Source: Wavefront OBJ and MTL as commonly documented (common practice).

import { Color, type BufferGeometry, type Material, type Mesh } from 'three'
import { MTLLoader, type MaterialInfo } from 'three/addons/loaders/MTLLoader.js'
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js'
import { AppError } from '#core/base'
import { statedUnit, type FileUnit } from '#core/placing'
import { pictureType, PLAIN_MATERIAL, type DraftMaterial, type DraftObject, type DraftPart } from './draft.ts'
import { fileFor } from './gltf.ts'
import type { PickedFile } from './types.ts'

export interface ReadObj {
  readonly objects: readonly DraftObject[]
  readonly missingTextures: readonly string[]
  readonly stated: FileUnit | null
}

/** Text in the encodings that OBJ files come in. */
export function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  return new TextDecoder('utf-8').decode(bytes)
}

export function readObj(main: PickedFile, others: readonly PickedFile[]): ReadObj {
  const text = textOf(main.bytes)
  let root: { children: unknown[] }
  try {
    root = new OBJLoader().parse(text)
  } catch (e) {
    throw new AppError('model-unreadable', firstFault(text) ?? `It is not a sound OBJ file (${String(e)}).`)
  }
  const library = materialsOf(text, others)
  const objects: DraftObject[] = []
  for (const [i, child] of root.children.entries()) {
    const mesh = child as Mesh
    if (!mesh.isMesh) continue
    const parts = partsOf(mesh, library.material)
    if (parts.length > 0) objects.push({ name: mesh.name || `Object ${i + 1}`, parts })
  }
  for (const o of objects)
    for (const p of o.parts)
      if (!p.positions.every(Number.isFinite))
        throw new AppError('model-unreadable', firstFault(text) ?? `“${o.name}” has a corner that is not a number.`)
  return { objects, missingTextures: library.missing, stated: statedUnit(commentsOf(text)) }
}

const commentsOf = (text: string): string =>
  text
    .slice(0, 4000)
    .split(/\r?\n/)
    .filter((l) => l.startsWith('#'))
    .join('\n')

/** The first line that cannot be right, in words; null when there is none. Linear; only looked for after something went wrong. */
export function firstFault(text: string): string | null {
  const counts: Record<string, number> = { v: 0, vt: 0, vn: 0 }
  const lines = text.split('\n')
  for (const [i, raw] of lines.entries()) {
    const [word, ...rest] = raw.trim().split(/\s+/)
    if (word === 'v' || word === 'vt' || word === 'vn') {
      counts[word]!++
      if (
        rest.slice(0, word === 'vt' ? 1 : 3).some((t) => !Number.isFinite(parseFloat(t))) ||
        (word === 'v' && rest.length < 3)
      )
        return `Line ${i + 1}: “${raw.trim().slice(0, 60)}” is not a position.`
    } else if (word === 'f')
      for (const corner of rest) {
        const n = parseInt(corner, 10)
        const at = n < 0 ? counts['v']! + n + 1 : n
        if (!(at >= 1 && at <= counts['v']!))
          return `Line ${i + 1}: a face names corner ${corner.split('/')[0]!.slice(0, 20)}, but there are ${counts['v']}.`
      }
  }
  return null
}

function partsOf(mesh: Mesh, material: (name: string) => DraftMaterial): DraftPart[] {
  const g = mesh.geometry as BufferGeometry
  const materials = (Array.isArray(mesh.material) ? mesh.material : [mesh.material]) as Material[]
  const count = g.getAttribute('position')?.count ?? 0
  const groups = g.groups.length > 0 ? g.groups : [{ start: 0, count, materialIndex: 0 }]
  const slice = (name: string, size: number, start: number, n: number): Float32Array | null =>
    (g.getAttribute(name)?.array as Float32Array | undefined)?.slice(start * size, (start + n) * size) ?? null
  return groups.flatMap(({ start, count: n, materialIndex }) => {
    const positions = slice('position', 3, start, n)
    if (!positions || positions.length < 9) return []
    return [
      {
        material: material(materials[materialIndex ?? 0]?.name ?? ''),
        positions,
        normals: slice('normal', 3, start, n),
        uvs: flipped(slice('uv', 2, start, n)),
        colours: slice('color', 3, start, n),
        indices: null,
      },
    ]
  })
}
/** OBJ counts v from the bottom, glTF from the top. */
function flipped(uvs: Float32Array | null): Float32Array | null {
  if (uvs) for (let i = 1; i < uvs.length; i += 2) uvs[i] = 1 - uvs[i]!
  return uvs
}

function materialsOf(text: string, others: readonly PickedFile[]) {
  const missing: string[] = []
  const info = new Map<string, MaterialInfo>()
  for (const [, names] of text.matchAll(/^\s*mtllib\s+(.+?)\s*$/gm)) {
    const file = fileFor(names!, others)
    if (!file) continue
    const parsed = new MTLLoader().parse(textOf(file.bytes), '').materialsInfo
    for (const [name, m] of Object.entries(parsed)) info.set(name, m)
  }
  const made = new Map<string, DraftMaterial>()
  const material = (name: string): DraftMaterial => {
    let m = made.get(name)
    if (!m) made.set(name, (m = materialOf(name, info.get(name), others, missing)))
    return m
  }
  return { material, missing }
}

const numbers = (v: unknown): number[] =>
  Array.isArray(v)
    ? v.map(Number)
    : String(v ?? '')
        .split(/\s+/)
        .map(Number)

function materialOf(
  name: string,
  info: MaterialInfo | undefined,
  others: readonly PickedFile[],
  missing: string[],
): DraftMaterial {
  if (!info) return { ...PLAIN_MATERIAL, name: name || PLAIN_MATERIAL.name }
  const raw = info as unknown as Record<string, unknown>
  const kd = raw['kd'] === undefined ? [0.6, 0.6, 0.6] : numbers(raw['kd'])
  const ke = raw['ke'] === undefined ? [0, 0, 0] : numbers(raw['ke'])
  const one = (key: string): number | null => {
    const [v] = raw[key] === undefined ? [] : numbers(raw[key])
    return v !== undefined && Number.isFinite(v) ? v : null
  }
  // colours of the format are taken as sRGB, as most writers mean them
  const c = new Color().setRGB(kd[0] ?? 0.6, kd[1] ?? 0.6, kd[2] ?? 0.6, 'srgb')
  const tr = one('tr')
  const alpha = one('d') ?? (tr === null ? 1 : 1 - tr)
  const exponent = one('ns') ?? 20
  const wanted = raw['map_kd'] === undefined ? null : String(raw['map_kd']).trim()
  const options = wanted?.split(/\s+/) ?? []
  const pictureName = wanted && fileFor(wanted, others) ? wanted : (options.at(-1) ?? null)
  const file = pictureName && pictureType(pictureName) ? fileFor(pictureName, others) : undefined
  const shown = pictureName?.replace(/^.*[\\/]/, '') ?? ''
  if (wanted && !file && !missing.includes(shown)) missing.push(shown)
  // a picture carries the colour itself where the factor is left black
  const colour = file && c.r + c.g + c.b === 0 ? [1, 1, 1] : c.toArray()
  return {
    name,
    colour: [colour[0]!, colour[1]!, colour[2]!, Math.min(1, Math.max(0, alpha))],
    roughness: Math.min(1, Math.max(0, one('pr') ?? Math.sqrt(2 / (Math.max(0, exponent) + 2)))),
    metallic: Math.min(1, Math.max(0, one('pm') ?? 0)),
    emissive: [ke[0] ?? 0, ke[1] ?? 0, ke[2] ?? 0].map((v) =>
      Math.min(1, Math.max(0, v)),
    ) as unknown as DraftMaterial['emissive'],
    picture: file ? { name: file.name, bytes: file.bytes } : null,
    doubleSided: true,
  }
}
