// How does a material library of an OBJ become physically based materials?
// Model: three's loader parses it; exponent to roughness is common practice. Source: MTL as commonly documented (common practice).

import { Color } from 'three'
import { MTLLoader, type MaterialInfo } from 'three/addons/loaders/MTLLoader.js'
import { pictureType, PLAIN_MATERIAL, type DraftMaterial } from './draft.ts'
import { fileFor } from './gltf.ts'
import { textOf } from './numbers.ts'
import type { PickedFile } from './types.ts'

export interface MaterialLibrary {
  /** The material of a name, made once; a plain one where no library has it. */
  readonly material: (name: string) => DraftMaterial
  /** Names of pictures that materials ask for and that were not picked. */
  readonly missing: readonly string[]
}

export function materialsOf(libraries: readonly string[], others: readonly PickedFile[]): MaterialLibrary {
  const missing: string[] = []
  const info = new Map<string, MaterialInfo>()
  for (const name of libraries) {
    const file = fileFor(name, others)
    if (!file) continue
    const parsed = new MTLLoader().parse(textOf(file.bytes).replace(/\r\n?/g, '\n'), '').materialsInfo
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
  const share = (v: number | undefined, otherwise: number): number =>
    v !== undefined && Number.isFinite(v) ? Math.min(1, Math.max(0, v)) : otherwise
  const triple = (key: string, otherwise: number): [number, number, number] => {
    const v = raw[key] === undefined ? [] : numbers(raw[key])
    return [share(v[0], otherwise), share(v[1], share(v[0], otherwise)), share(v[2], share(v[0], otherwise))]
  }
  const kd = triple('kd', 0.6)
  const one = (key: string): number | null => {
    const [v] = raw[key] === undefined ? [] : numbers(raw[key])
    return v !== undefined && Number.isFinite(v) ? v : null
  }
  // colours of the format are taken as sRGB, as most writers mean them
  const c = new Color().setRGB(...kd, 'srgb')
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
    colour: [colour[0]!, colour[1]!, colour[2]!, share(alpha, 1)],
    roughness: share(one('pr') ?? Math.sqrt(2 / (Math.max(0, exponent) + 2)), 0.7),
    metallic: share(one('pm') ?? 0, 0),
    emissive: triple('ke', 0),
    picture: file ? { name: file.name, bytes: file.bytes } : null,
    doubleSided: true,
  }
}
