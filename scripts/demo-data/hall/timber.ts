// Timber and iron: trusses and purlins, brick piers, the gallery with its railing, the stair.

import type { GltfNode } from '#formats/gltf'
import { Pen, shift, turn } from '../kit.ts'
import { brickFace, EAVES, PITCH_DEG } from './shell.ts'

const RISE = Math.tan((PITCH_DEG * Math.PI) / 180)
const roofZ = (y: number): number => EAVES + (4.5 - Math.abs(y - 4.5)) * RISE

export const TRUSSES_X = [3, 6, 9, 12, 15] as const
export const PIERS_X = [5.2, 8.6, 12, 15.4] as const
export const GALLERY = { x0: 5, x1: 18, y0: 6.3, top: 2.9 } as const

export function trusses(): GltfNode[] {
  return TRUSSES_X.map((x, i) => {
    const pen = new Pen(`Truss ${i + 1}`, { kind: 'structure' })
    const tone = pen.varied(0.16, 0.04)
    pen.use('old pine', tone)
    const w = 0.17
    pen.box(x - w / 2, 0, 5.08, x + w / 2, 9, 5.34, { bevel: 0.012, grain: 'y' })
    const under = 0.17
    pen.bar([x, 0.12, roofZ(0.12) - under + 0.02], [x, 4.45, roofZ(4.45) - under], w, 0.2, { bevel: 0.01 })
    pen.bar([x, 8.88, roofZ(8.88) - under + 0.02], [x, 4.55, roofZ(4.55) - under], w, 0.2, { bevel: 0.01 })
    pen.box(x - w / 2, 4.5 - 0.1, 5.3, x + w / 2, 4.5 + 0.1, roofZ(4.5) - 0.12, { bevel: 0.012, grain: 'z' })
    pen.bar([x, 4.42, 5.5], [x, 2.5, roofZ(2.5) - 0.26], 0.13, 0.14, { bevel: 0.008 })
    pen.bar([x, 4.58, 5.5], [x, 6.5, roofZ(6.5) - 0.26], 0.13, 0.14, { bevel: 0.008 })
    // corbels, iron straps and bolts
    pen.use('stone').box(x - 0.14, 0, 4.86, x + 0.14, 0.2, 5.08, { bevel: 0.02 })
    pen.box(x - 0.14, 8.8, 4.86, x + 0.14, 9, 5.08, { bevel: 0.02 })
    pen.use('steel')
    for (const s of [-1, 1]) {
      pen.box(x + s * (w / 2), 4.44, 5.06, x + s * (w / 2 + 0.008), 4.56, 5.75, { bevel: 0.002 })
      pen.within({ rows: [[0, 0, 1], [0, 1, 0], [-1, 0, 0]], at: [x, 4.5, 5.2] }, () => pen.cylinder(0, 0, s > 0 ? w / 2 : -w / 2 - 0.025, s > 0 ? w / 2 + 0.025 : -w / 2, 0.022, 8)) // prettier-ignore
    }
    pen.box(x - w / 2 - 0.006, 4.44, 5.055, x + w / 2 + 0.006, 4.56, 5.075, { bevel: 0.002 })
    return pen.node()
  })
}

export function purlins(): GltfNode {
  const pen = new Pen('Purlins and ridge', { kind: 'structure' })
  pen.use('old pine', 0.95)
  for (const y of [2.25, 6.75])
    pen.box(0, y - 0.08, roofZ(y) - 0.2, 18, y + 0.08, roofZ(y) - 0.045, { bevel: 0.01, grain: 'x' })
  pen.box(0, 4.42, roofZ(4.5) - 0.22, 18, 4.58, roofZ(4.5) - 0.04, { bevel: 0.01, grain: 'x' })
  pen.box(0, 0, EAVES - 0.16, 18, 0.16, EAVES - 0.01, { bevel: 0.01, grain: 'x' })
  pen.box(0, 8.84, EAVES - 0.16, 18, 9, EAVES - 0.01, { bevel: 0.01, grain: 'x' })
  for (let x = 0.6; x < 18; x += 0.6) {
    if (TRUSSES_X.some((t) => Math.abs(t - x) < 0.05)) continue
    for (const s of [-1, 1]) {
      const y = (d: number): number => 4.5 + s * d
      const hole = s < 0 && [3.7, 6.7, 9.7].some((a) => x > a - 0.04 && x < a + 1.64)
      if (!hole)
        pen
          .use('old pine', pen.varied(0.14))
          .bar([x, y(4.45), roofZ(y(4.45)) - 0.045], [x, y(0.05), roofZ(y(0.05)) - 0.045], 0.055, 0.085, {
            bevel: 0.005,
          })
    }
  }
  return pen.node()
}

export function piers(): GltfNode[] {
  return PIERS_X.map((x, i) => {
    const pen = new Pen(`Brick pier ${i + 1}`, { kind: 'structure' })
    const w = 0.45
    const front = 8.42
    pen.use('mortar').box(x - w / 2 + 0.006, front + 0.006, 0, x + w / 2 - 0.006, 9, EAVES - 0.16, { bevel: 0 })
    pen.within(shift(x - w / 2, front + 0.006, 0), () => brickFace(pen, w, 0.3, () => EAVES - 0.16))
    pen.within({ rows: [[0, 1, 0], [-1, 0, 0], [0, 0, 1]], at: [x - w / 2 + 0.006, 9, 0] }, () => brickFace(pen, 9 - front, 0.3, () => EAVES - 0.16)) // prettier-ignore
    pen.within({ rows: [[0, -1, 0], [1, 0, 0], [0, 0, 1]], at: [x + w / 2 - 0.006, front, 0] }, () => brickFace(pen, 9 - front, 0.3, () => EAVES - 0.16)) // prettier-ignore
    pen.use('stone').box(x - w / 2 - 0.03, front - 0.03, 0, x + w / 2 + 0.03, 9, 0.3, { bevel: 0.015 })
    return pen.node()
  })
}

export function gallery(): GltfNode[] {
  const { x0, x1, y0, top } = GALLERY
  const floor = new Pen('Gallery floor', { kind: 'floor', storey: 'Gallery' })
  for (let y = y0 + 0.02; y < 9 - 1e-6; y += 0.135)
    for (let x = x0 - floor.between(0, 2); x < x1;) {
      const l = floor.between(2, 3.2)
      const a = Math.max(x, x0)
      const b = Math.min(x + l, x1)
      if (b - a > 0.05)
        floor
          .use('oak floor', floor.varied(0.2, 0.06))
          .box(a, y, top - 0.03, b - 0.001, Math.min(y + 0.134, 9), top, { bevel: 0.0015, grain: 'x' })
      x += l
    }
  const frame = new Pen('Gallery beams', { kind: 'structure' })
  frame.use('old pine', 0.96).box(x0, y0, top - 0.28, x1, y0 + 0.16, top - 0.031, { bevel: 0.01, grain: 'x' })
  frame.box(x0, y0 + 0.16, top - 0.24, x0 + 0.1, 9, top - 0.031, { bevel: 0.008, grain: 'y' })
  for (let x = x0 + 0.6; x < x1; x += 0.6)
    frame
      .use('old pine', frame.varied(0.14))
      .box(x - 0.035, y0 + 0.16, top - 0.19, x + 0.035, 9, top - 0.031, { bevel: 0.006, grain: 'y' })
  frame.use('steel').box(x0, y0 - 0.006, top - 0.27, x1, y0, top - 0.04, { bevel: 0.002 })
  const posts = PIERS_X.map((x, i) => {
    const pen = new Pen(`Gallery post ${i + 1}`, { kind: 'structure' })
    const y = y0 + 0.08
    pen
      .use('old pine', pen.varied(0.12))
      .box(x - 0.085, y - 0.085, 0.12, x + 0.085, y + 0.085, top - 0.28, { bevel: 0.014, grain: 'z' })
    pen.use('stone').box(x - 0.14, y - 0.14, 0, x + 0.14, y + 0.14, 0.12, { bevel: 0.012 })
    pen.use('old pine', 0.92)
    if (x > x0 + 0.5) pen.bar([x - 0.08, y, 2.06], [x - 0.62, y, top - 0.27], 0.09, 0.09, { bevel: 0.008 })
    pen.bar([x + 0.08, y, 2.06], [x + 0.62, y, top - 0.27], 0.09, 0.09, { bevel: 0.008 })
    pen.bar([x, y + 0.08, 2.06], [x, y + 0.62, top - 0.2], 0.09, 0.09, { bevel: 0.008 })
    return pen.node()
  })
  return [floor.node(), frame.node(), ...posts]
}

export function railing(): GltfNode {
  const { x0, x1, y0, top } = GALLERY
  const pen = new Pen('Gallery railing', { kind: 'structure' })
  const y = y0 + 0.08
  pen.use('oak', 0.95).box(x0, y - 0.03, top + 1.0, x1, y + 0.03, top + 1.045, { bevel: 0.014, grain: 'x' })
  pen.use('steel').box(x0, y - 0.016, top + 0.08, x1, y + 0.016, top + 0.096, { bevel: 0.003 })
  pen.box(x0, y - 0.016, top + 0.984, x1, y + 0.016, top + 1.0, { bevel: 0.003 })
  for (let x = x0 + 0.02, i = 0; x <= x1; x += 0.108, i++) {
    const heavy = i % 12 === 0
    if (heavy) pen.box(x - 0.019, y - 0.019, top, x + 0.019, y + 0.019, top + 0.99, { bevel: 0.003 })
    else pen.tube([[x, y, top + 0.09], [x, y, top + 0.99]], 0.0075, 6) // prettier-ignore
  }
  // the short west side, beside the stair's landing
  pen.use('oak', 0.95).box(x0 + 0.02, y + 0.03, top + 1.0, x0 + 0.08, 7.72, top + 1.045, { bevel: 0.014, grain: 'y' })
  pen.use('steel').box(x0 + 0.034, y, top + 0.08, x0 + 0.066, 7.7, top + 0.096, { bevel: 0.003 })
  for (let v = y + 0.1; v < 7.7; v += 0.108) pen.tube([[x0 + 0.05, v, top + 0.09], [x0 + 0.05, v, top + 0.99]], 0.0075, 6) // prettier-ignore
  pen.box(x0 + 0.031, 7.69, top, x0 + 0.069, 7.73, top + 1.0, { bevel: 0.003 })
  return pen.node()
}

/** Seventeen risers of 170.6 mm from the hall up to the gallery, along the north wall. */
export function stair(): GltfNode {
  const pen = new Pen('Stair', { kind: 'floor', storey: 'Stair' })
  const n = 17
  const going = 0.25
  const start = GALLERY.x0 - (n - 1) * going
  const rise = GALLERY.top / n
  const [y0, y1] = [7.8, 8.85]
  for (let i = 0; i < n - 1; i++) {
    const z = rise * (i + 1)
    const x = start + i * going
    pen
      .use('oak', pen.varied(0.14, 0.04))
      .box(x - 0.02, y0 + 0.045, z - 0.038, x + going + 0.008, y1 - 0.045, z, { bevel: 0.007, grain: 'y' })
    pen.use('cream paint', 0.97).box(x, y0 + 0.045, z - rise, x + 0.016, y1 - 0.045, z - 0.038, { bevel: 0.002 })
  }
  pen
    .use('cream paint', 0.97)
    .box(GALLERY.x0 - 0.016, y0 + 0.045, GALLERY.top - rise, GALLERY.x0, y1 - 0.045, GALLERY.top - 0.03, {
      bevel: 0.002,
    })
  const slope = Math.hypot(going, rise)
  for (const y of [y0 + 0.022, y1 - 0.022]) {
    pen.use('old pine', 0.9)
    const a = [start - 0.05, y, 0.1] as const
    const l = (n - 1) * slope
    pen.bar(a, [a[0] + (l * going) / slope, y, a[2] + (l * rise) / slope], 0.044, 0.3, { bevel: 0.006 })
  }
  pen.use('steel')
  for (let i = 0; i < n - 1; i += 1) {
    const x = start + (i + 0.5) * going
    const z = rise * (i + 1)
    pen.tube([[x, y0 + 0.022, z - 0.02], [x, y0 + 0.022, z + 0.9]], 0.0075, 6) // prettier-ignore
  }
  pen.box(start - 0.09, y0, 0, start - 0.05, y0 + 0.044, 1.08, { bevel: 0.004 })
  pen
    .use('oak', 0.95)
    .bar(
      [start - 0.07, y0 + 0.022, 1.09],
      [GALLERY.x0 + 0.04, y0 + 0.022, 1.09 + ((GALLERY.x0 - start + 0.11) * rise) / going],
      0.055,
      0.042,
      { bevel: 0.014 },
    )
  pen.within(turn('z', 0), () => pen.ball([start - 0.07, y0 + 0.022, 1.11], 0.035, 14))
  return pen.node()
}
