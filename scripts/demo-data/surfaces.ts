// Materials and the small tiling textures of the demo: grain, plaster, brick face, cloth. All made by code, always the same.

import { seededRandom } from '#core/base'
import type { GltfImage, GltfMaterial } from '#formats/gltf'
import { encodePngRgb } from '#formats/png'

const SIZE = 256

/** Value noise that repeats every `px` cells across and `py` cells up. */
function tilingNoise(seed: number, px: number, py: number): (u: number, v: number) => number {
  const random = seededRandom(seed)
  const grid = Float64Array.from({ length: px * py }, () => random())
  const at = (i: number, j: number): number => grid[(((j % py) + py) % py) * px + (((i % px) + px) % px)]!
  const smooth = (t: number): number => t * t * (3 - 2 * t)
  return (u, v) => {
    const x = u * px
    const y = v * py
    const i = Math.floor(x)
    const j = Math.floor(y)
    const a = smooth(x - i)
    const b = smooth(y - j)
    return (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b
  }
}

function paint(name: string, tone: (u: number, v: number) => readonly [number, number, number]): GltfImage {
  const rgb = new Uint8Array(SIZE * SIZE * 3)
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const c = tone((x + 0.5) / SIZE, (y + 0.5) / SIZE)
      for (let k = 0; k < 3; k++) rgb[(y * SIZE + x) * 3 + k] = Math.round(Math.min(1, Math.max(0, c[k]!)) * 255)
    }
  return { name, png: encodePngRgb(rgb, SIZE, SIZE) }
}

export function images(): GltfImage[] {
  const long = tilingNoise(1, 3, 28)
  const fibre = tilingNoise(2, 10, 128)
  const rings = tilingNoise(3, 2, 6)
  const grain = paint('grain', (u, v) => {
    const ring = 0.5 + 0.5 * Math.sin(2 * Math.PI * (v * 9 + 1.6 * rings(u, v)))
    const t = 0.8 + 0.13 * long(u, v) + 0.1 * fibre(u, v) - 0.13 * ring * ring * ring
    return [t, t * (0.985 - 0.02 * ring), t * (0.95 - 0.05 * ring)]
  })
  const coarse = tilingNoise(4, 6, 6)
  const fine = tilingNoise(5, 64, 64)
  const plaster = paint('plaster', (u, v) => {
    const t = 0.93 + 0.05 * coarse(u, v) + 0.03 * fine(u, v)
    return [t, t, t * 0.995]
  })
  const pits = tilingNoise(6, 90, 90)
  const stain = tilingNoise(7, 9, 14)
  const brick = paint('brickface', (u, v) => {
    const p = pits(u, v)
    const t = 0.78 + 0.2 * stain(u, v) + 0.06 * fine(u, v) - (p > 0.86 ? 0.22 : 0)
    return [t, t * 0.97, t * 0.95]
  })
  const cloth = paint('cloth', (u, v) => {
    const weave = Math.sin(u * Math.PI * 2 * 64) * Math.sin(v * Math.PI * 2 * 64)
    const t = 0.88 + 0.08 * weave + 0.06 * fine(u, v)
    return [t, t, t]
  })
  return [grain, plaster, brick, cloth]
}

const linear = (hex: string): readonly [number, number, number, number] => {
  const n = parseInt(hex.slice(1), 16)
  const c = (v: number): number => {
    const s = v / 255
    return Number((s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4).toFixed(4))
  }
  return [c((n >> 16) & 255), c((n >> 8) & 255), c(n & 255), 1]
}
const surface = (name: string, hex: string, roughness: number, more: Partial<GltfMaterial> = {}): GltfMaterial => ({
  name,
  baseColour: linear(hex),
  roughness,
  metallic: 0,
  ...more,
})
const wood = (name: string, hex: string, roughness: number): GltfMaterial =>
  surface(name, hex, roughness, { image: 'grain' })
const clear = (name: string, hex: string, alpha: number, roughness: number): GltfMaterial => {
  const [r, g, b] = linear(hex)
  return { name, baseColour: [r, g, b, alpha], roughness, metallic: 0, blend: true }
}

export const MATERIALS: readonly GltfMaterial[] = [
  wood('oak floor', '#b8946a', 0.36),
  wood('oak', '#cfa469', 0.45),
  wood('oak pale', '#dcbd8c', 0.5),
  wood('walnut', '#7d5a3f', 0.42),
  wood('old pine', '#9a744c', 0.62),
  wood('roof boards', '#c4a176', 0.7),
  wood('drawer wood', '#c08d55', 0.42),
  surface('plaster', '#efe9dd', 0.92, { image: 'plaster' }),
  surface('stone', '#b9b2a3', 0.8, { image: 'plaster' }),
  surface('brick', '#ad6e54', 0.88, { image: 'brickface' }),
  surface('mortar', '#c9bfae', 0.95, { image: 'plaster' }),
  surface('green paint', '#5f7263', 0.5),
  surface('cream paint', '#e8dfcb', 0.5),
  surface('blue paint', '#54707c', 0.5),
  surface('steel', '#33373c', 0.45, { metallic: 0.6 }),
  surface('brass', '#c9a25a', 0.28, { metallic: 1 }),
  surface('copper', '#c07a52', 0.3, { metallic: 1 }),
  surface('tin', '#c8ccce', 0.32, { metallic: 1 }),
  surface('enamel', '#35503f', 0.25),
  surface('enamel white', '#f4efe4', 0.3),
  surface('terracotta', '#b9714e', 0.85, { image: 'brickface' }),
  surface('soil', '#4a3a2d', 0.98, { image: 'brickface' }),
  surface('leaf', '#5d7f45', 0.6, { doubleSided: true }),
  surface('dried herb', '#8c8a57', 0.85, { doubleSided: true }),
  surface('paper', '#f3ecdc', 0.9),
  surface('ink', '#3b3a3c', 0.8),
  surface('cloth', '#a8a290', 0.95, { image: 'cloth' }),
  surface('rug', '#8a4b3c', 0.98, { image: 'cloth' }),
  surface('book', '#ffffff', 0.75),
  surface('seed', '#a9814f', 0.7),
  surface('cork', '#b98d5e', 0.9),
  surface('rubber', '#2c2b2a', 0.8),
  surface('ceramic', '#e9e6de', 0.22),
  clear('window glass', '#dfeef0', 0.04, 0.03),
  clear('jar glass', '#e4f1ee', 0.035, 0.05),
  clear('dome glass', '#eaf4f2', 0.04, 0.03),
  surface('bulb', '#fff2d8', 0.4, { emissive: [1, 0.82, 0.55], emissiveStrength: 3000 }),
  surface('led', '#fff7ee', 0.3, { emissive: [1, 0.93, 0.84], emissiveStrength: 400_000 }),
  surface('led chip', '#fff7ee', 0.3, { emissive: [1, 0.93, 0.84], emissiveStrength: 1_200_000 }),
  surface('sweep', '#d9d5cc', 0.95),
]
