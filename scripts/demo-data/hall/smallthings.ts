// Small things: jars of seed, trays, scales, pots and plants of the potting bay, drying racks on the gallery.

import type { GltfNode } from '#formats/gltf'
import { Pen, shift, turn } from '../kit.ts'
import { GALLERY } from './timber.ts'

const SEEDS = [
  [0.85, 0.62, 0.36], [0.35, 0.24, 0.16], [0.9, 0.82, 0.62], [0.42, 0.47, 0.24], [0.62, 0.3, 0.2], [0.2, 0.17, 0.15], [0.75, 0.52, 0.22],
] as const // prettier-ignore

/** A stoppered jar, partly filled. Its foot stands at z. */
function jar(pen: Pen, x: number, y: number, z: number, r: number, h: number): void {
  const w = r - 0.003
  const fill = z + 0.006 + (h - 0.05) * pen.between(0.35, 0.85)
  pen.use('seed', pen.pick(SEEDS)).lathe(x, y, [[0, z + 0.006], [w - 0.001, z + 0.006], [w - 0.001, fill], [0, fill + r * 0.12]], 14, 40) // prettier-ignore
  pen.use('jar glass').lathe(x, y, [[0, z], [r - 0.004, z], [r, z + 0.006], [r, z + h - 0.05], [r * 0.72, z + h - 0.02], [r * 0.72, z + h], [r * 0.66, z + h], [r * 0.66, z + h - 0.022], [w, z + h - 0.052], [w, z + 0.005], [0, z + 0.005]], 14, 40) // prettier-ignore
  pen.use('cork').lathe(x, y, [[0, z + h - 0.018], [r * 0.65, z + h - 0.018], [r * 0.7, z + h + 0.022], [0, z + h + 0.022]], 14, 40) // prettier-ignore
  pen
    .use('paper', 0.96)
    .within(turn('z', pen.between(-40, 40) - 90, [x, y, 0]), () =>
      pen.block(r + 0.0006, 0, z + h * 0.42, 0.0012, r * 0.9, h * 0.22, { bevel: 0 }),
    )
}

export function jarsOn(
  name: string,
  area: readonly [number, number, number, number],
  z: number,
  count: number,
): GltfNode {
  const pen = new Pen(name, { kind: 'object' })
  const placed: [number, number, number][] = []
  for (let tries = 0; placed.length < count && tries < count * 30; tries++) {
    const r = pen.between(0.042, 0.075)
    const x = pen.between(area[0] + r, area[2] - r)
    const y = pen.between(area[1] + r, area[3] - r)
    if (placed.some(([a, b, q]) => Math.hypot(a - x, b - y) < q + r + 0.015)) continue
    placed.push([x, y, r])
    jar(pen, x, y, z, r, pen.between(0.14, 0.27))
  }
  return pen.node()
}

/** Shallow sorting trays with little heaps of seed. */
export function traysOn(name: string, spots: readonly (readonly [number, number, number])[], z: number): GltfNode {
  const pen = new Pen(name, { kind: 'object' })
  for (const [x, y, deg] of spots)
    pen.within(turn('z', deg, [x, y, z]), () => {
      const tone = pen.varied(0.15)
      pen.use('oak pale', tone).box(-0.24, -0.16, 0, 0.24, 0.16, 0.008, { bevel: 0.002 })
      for (const s of [-1, 1]) {
        pen.box(-0.24, s * 0.16 - 0.006, 0, 0.24, s * 0.16 + 0.006, 0.042, { bevel: 0.003 })
        pen.box(s * 0.24 - 0.006, -0.16, 0, s * 0.24 + 0.006, 0.16, 0.042, { bevel: 0.003 })
      }
      pen.box(-0.004, -0.155, 0, 0.004, 0.155, 0.032, { bevel: 0.001 })
      for (const s of [-1, 1]) {
        pen.use('seed', pen.pick(SEEDS)).lathe(s * 0.12, 0, [[0, 0.006], [0.085, 0.008], [0.05, 0.022], [0, 0.03]], 16, 60) // prettier-ignore
        for (let k = 0; k < 26; k++) {
          const a = pen.between(0, 6.28)
          const d = pen.between(0.05, 0.105)
          pen.ball([s * 0.12 + Math.cos(a) * d, Math.sin(a) * d, 0.011], 0.0035, 6)
        }
      }
    })
  return pen.node()
}

/** A beam scale of brass with two pans. */
export function scales(x: number, y: number, z: number): GltfNode {
  const pen = new Pen('Seed scales', { kind: 'object' })
  pen.use('walnut').lathe(x, y, [[0, z], [0.11, z], [0.115, z + 0.012], [0.09, z + 0.03], [0.03, z + 0.045], [0, z + 0.045]], 32, 30) // prettier-ignore
  pen.use('brass').lathe(x, y, [[0.014, z + 0.045], [0.009, z + 0.08], [0.009, z + 0.34], [0.014, z + 0.37], [0, z + 0.39]], 16, 30) // prettier-ignore
  pen.within(turn('y', 4, [x, y, z + 0.35]), () => pen.tube([[-0.19, 0, 0], [0, 0, 0.012], [0.19, 0, 0]], 0.006, 8)) // prettier-ignore
  for (const [s, dz] of [
    [-1, 0.013],
    [1, -0.013],
  ] as const) {
    const px = x + s * 0.19
    const pz = z + 0.12 + dz
    for (const a of [0, 120, 240]) pen.tube([[px, y, z + 0.35 + dz], [px + 0.075 * Math.cos((a * Math.PI) / 180), y + 0.075 * Math.sin((a * Math.PI) / 180), pz + 0.012]], 0.0012, 5) // prettier-ignore
    pen.lathe(px, y, [[0, pz], [0.05, pz + 0.004], [0.08, pz + 0.016], [0.082, pz + 0.018], [0.05, pz + 0.007], [0, pz + 0.003]], 28, 40) // prettier-ignore
  }
  return pen.node()
}

function pot(pen: Pen, x: number, y: number, z: number, r: number, h: number): void {
  pen.use('terracotta', pen.varied(0.24, 0.1)).lathe(x, y, [[0, z], [r * 0.68, z], [r * 0.92, z + h * 0.78], [r, z + h * 0.78], [r, z + h], [r * 0.9, z + h], [r * 0.88, z + h * 0.88], [0, z + h * 0.88]], 24, 30) // prettier-ignore
  pen.use('soil').lathe(x, y, [[0, z + h * 0.86], [r * 0.88, z + h * 0.86], [r * 0.86, z + h * 0.9], [0, z + h * 0.93]], 16, 60) // prettier-ignore
}

function plant(pen: Pen, x: number, y: number, z: number, size: number, leaves: number, upright: number): void {
  for (let k = 0; k < leaves; k++) {
    const a = (k * 137.5 * Math.PI) / 180
    const e = upright * pen.between(0.55, 1.15)
    const l = size * pen.between(0.6, 1)
    const dir = [Math.cos(a) * Math.cos(e), Math.sin(a) * Math.cos(e), Math.sin(e)] as const
    const start = pen.between(0, 0.3) * size
    pen
      .use('leaf', pen.varied(0.4, 0.3))
      .leaf([x + dir[0] * 0.02, y + dir[1] * 0.02, z + start], dir, l, l * 0.3, l * 0.35)
  }
}

export function pottingBay(): GltfNode[] {
  const bench = new Pen('Potting bench', { kind: 'furniture' })
  const [x0, x1, y0, y1] = [17.18, 17.88, 0.7, 5.9]
  for (let i = 0; i < 5; i++)
    bench
      .use('old pine', bench.varied(0.2))
      .box(x0 + i * 0.14, y0, 0.83, x0 + i * 0.14 + 0.138, y1, 0.865, { bevel: 0.003, grain: 'y' })
  for (let i = 0; i < 6; i++)
    bench
      .use('old pine', bench.varied(0.2))
      .box(x0 + 0.02 + i * 0.11, y0 + 0.1, 0.22, x0 + 0.115 + i * 0.11, y1 - 0.1, 0.242, { bevel: 0.003, grain: 'y' })
  for (const y of [y0 + 0.1, 2.45, 4.2, y1 - 0.1]) {
    for (const x of [x0 + 0.05, x1 - 0.05])
      bench.use('old pine', 0.85).box(x - 0.035, y - 0.035, 0, x + 0.035, y + 0.035, 0.83, { bevel: 0.005, grain: 'z' })
    bench.box(x0 + 0.05, y - 0.02, 0.16, x1 - 0.05, y + 0.02, 0.22, { bevel: 0.004, grain: 'x' })
  }
  bench.box(x0 + 0.01, y0 + 0.05, 0.75, x0 + 0.035, y1 - 0.05, 0.83, { bevel: 0.004, grain: 'y' })

  const pots = new Pen('Potted plants', { kind: 'object' })
  for (let y = y0 + 0.2; y < y1 - 0.1;) {
    const r = pots.between(0.07, 0.13)
    const x = pots.between(x0 + 0.18, x1 - 0.16)
    pot(pots, x, y + r, 0.865, r, r * 1.7)
    plant(
      pots,
      x,
      y + r,
      0.865 + r * 1.5,
      r * pots.between(2.2, 3.6),
      Math.round(pots.between(14, 30)),
      pots.between(0.5, 1.25),
    )
    y += 2 * r + pots.between(0.03, 0.16)
  }
  for (let y = y0 + 0.3; y < y1 - 0.2; y += pots.between(0.24, 0.4))
    pot(pots, pots.between(x0 + 0.2, x1 - 0.2), y, 0.242, pots.between(0.06, 0.1), pots.between(0.12, 0.17))
  const tubs = new Pen('Planted tubs', { kind: 'object' })
  for (const [x, y, r] of [
    [16.1, 0.55, 0.3],
    [15.75, 5.6, 0.26],
    [17.5, 8.3, 0.28],
    [16.7, 6.35, 0.22],
  ] as const) {
    pot(tubs, x, y, 0, r, r * 1.6)
    plant(tubs, x, y, r * 1.4, r * 4, 46, 0.95)
    tubs.use('old pine').tube([[x, y, r * 1.3], [x + 0.02, y, r * 3.2]], 0.014, 8) // prettier-ignore
  }
  const hanging = new Pen('Hanging plants', { kind: 'object' })
  for (const y of [1.2, 2.7, 4.3, 5.6]) {
    const x = 17.3
    const z = 3.1 + hanging.between(-0.25, 0.25)
    hanging.use('steel').tube([[x, y, z + 0.2], [x, y, 4.98]], 0.003, 5) // prettier-ignore
    hanging.use('ceramic').lathe(x, y, [[0, z], [0.07, z + 0.01], [0.13, z + 0.09], [0.135, z + 0.18], [0.12, z + 0.18], [0.11, z + 0.16], [0, z + 0.16]], 26, 35) // prettier-ignore
    for (let k = 0; k < 44; k++) {
      const a = (k * 137.5 * Math.PI) / 180
      const l = hanging.between(0.25, 0.55)
      hanging
        .use('leaf', hanging.varied(0.4, 0.3))
        .leaf([x, y, z + 0.17], [Math.cos(a) * 0.8, Math.sin(a) * 0.8, 0.6], l, 0.07, l * hanging.between(0.8, 2))
    }
  }
  hanging.use('steel').tube([[17.3, 0.5, 4.98], [17.3, 6.3, 4.98]], 0.012, 8) // prettier-ignore
  return [bench.node(), pots.node(), tubs.node(), hanging.node()]
}

/** Tall drying racks on the gallery with bundles of herbs and mesh trays. */
export function dryingRacks(): GltfNode[] {
  return [6.6, 9.6, 12.6].map((x, i) => {
    const pen = new Pen(`Drying rack ${i + 1}`, { kind: 'furniture' })
    pen.within(shift(x, 8.25, GALLERY.top), () => {
      for (const s of [-1, 1])
        for (const d of [-0.3, 0.3])
          pen
            .use('oak pale', 0.92)
            .box(s * 0.95 - 0.022, d - 0.022, 0, s * 0.95 + 0.022, d + 0.022, 1.95, { bevel: 0.004, grain: 'z' })
      for (let k = 0; k < 6; k++) {
        const z = 0.22 + k * 0.25
        for (const d of [-0.3, 0.3])
          pen
            .use('oak pale', pen.varied(0.1))
            .box(-0.95, d - 0.016, z, 0.95, d + 0.016, z + 0.035, { bevel: 0.003, grain: 'x' })
        for (let q = -0.85; q < 0.9; q += 0.17)
          pen.box(q - 0.008, -0.3, z + 0.035, q + 0.008, 0.3, z + 0.042, { bevel: 0.001, grain: 'y' })
        pen.use('dried herb', pen.varied(0.35, 0.2))
        for (let q = 0; q < 26; q++) {
          const a = pen.between(0, 6.28)
          pen.leaf(
            [pen.between(-0.8, 0.8), pen.between(-0.22, 0.22), z + 0.045],
            [Math.cos(a), Math.sin(a), 0.15],
            0.13,
            0.03,
            0.02,
          )
        }
      }
      pen.use('oak pale', 0.95).box(-0.97, -0.02, 1.95, 0.97, 0.02, 1.99, { bevel: 0.004, grain: 'x' })
      for (let q = -0.8; q <= 0.81; q += 0.32) {
        pen.use('cork').tube([[q, 0, 1.95], [q, 0, 1.82]], 0.006, 5) // prettier-ignore
        for (let k = 0; k < 20; k++) {
          const a = pen.between(0, 6.28)
          pen
            .use('dried herb', pen.varied(0.4, 0.25))
            .leaf([q, 0, 1.84], [Math.cos(a) * 0.2, Math.sin(a) * 0.2, -0.9], pen.between(0.18, 0.32), 0.03, 0.02)
        }
      }
    })
    return pen.node()
  })
}
