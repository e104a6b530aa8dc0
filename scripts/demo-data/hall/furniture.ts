// Furniture of the reading hall: the drawer wall and its rolling ladder, sorting counters, stools, shelves, benches, lamps.

import type { GltfNode } from '#formats/gltf'
import { Pen, shift, turn } from '../kit.ts'
import { PIERS_X } from './timber.ts'

const ROWS = 11
const COLUMNS = 9

/** Three bays of 99 seed drawers each, between the brick piers; every drawer has a brass pull and a paper label. */
export function drawerWall(): GltfNode[] {
  const opens = new Pen('Marigold drawer', { kind: 'furniture' })
  const bays = [0, 1, 2].map((bay) => {
    const pen = new Pen(`Seed drawers, bay ${bay + 1}`, { kind: 'furniture' })
    const x0 = PIERS_X[bay]! + 0.235
    const x1 = PIERS_X[bay + 1]! - 0.235
    const front = 8.56
    const z0 = 0.14
    const pitchX = (x1 - x0 - 0.04) / COLUMNS
    const pitchZ = 0.223
    const top = z0 + ROWS * pitchZ
    pen.use('walnut', 0.9).box(x0, front + 0.014, 0.02, x1, 9, top + 0.02, { bevel: 0.004 })
    pen.use('walnut', 0.98)
    pen.box(x0, front - 0.01, 0, x1, 9, 0.12, { bevel: 0.006, grain: 'x' })
    pen.box(x0 - 0.004, front - 0.035, top + 0.02, x1 + 0.004, 9, top + 0.062, { bevel: 0.01, grain: 'x' })
    for (let c = 0; c <= COLUMNS; c++)
      pen.box(x0 + 0.02 + c * pitchX - 0.009, front, 0.12, x0 + 0.02 + c * pitchX + 0.009, front + 0.03, top + 0.02, {
        bevel: 0.002,
        grain: 'z',
      })
    for (let r = 0; r <= ROWS; r++)
      pen.box(x0, front + 0.002, z0 + r * pitchZ - 0.008, x1, front + 0.03, z0 + r * pitchZ + 0.008, {
        bevel: 0.002,
        grain: 'x',
      })
    for (let r = 0; r < ROWS; r++)
      for (let c = 0; c < COLUMNS; c++) {
        const x = x0 + 0.02 + (c + 0.5) * pitchX
        const z = z0 + (r + 0.5) * pitchZ
        const open = pen.between(0, 1) > 0.965 ? pen.between(0.03, 0.12) : 0
        const isOwn = bay === 0 && r === OPENS.row && c === OPENS.column
        drawer(
          isOwn ? opens : pen,
          x,
          front - 0.006 - (isOwn ? 0 : open),
          z,
          pitchX - 0.026,
          pitchZ - 0.024,
          isOwn ? 0 : open,
        )
        if (isOwn) box(opens, x, front, z, pitchX - 0.05, pitchZ - 0.05)
      }
    return pen.node()
  })
  return [...bays, opens.node()]
}
/** The drawer that is an object of its own: it can be opened. */
const OPENS = { row: 5, column: 4 } as const
/** What is behind the front of a drawer: bottom, sides and back, and paper bags of seed in it. */
function box(pen: Pen, x: number, y: number, z: number, w: number, h: number): void {
  const deep = 0.38
  const [x0, x1, z0, z1] = [x - w / 2, x + w / 2, z - h / 2, z + h / 2 - 0.03]
  pen.use('drawer wood', 0.9)
  pen.box(x0, y + 0.016, z0, x1, y + deep, z0 + 0.008, { bevel: 0 })
  for (const s of [x0, x1 - 0.01]) pen.box(s, y + 0.016, z0, s + 0.01, y + deep, z1, { bevel: 0.001 })
  pen.box(x0, y + deep - 0.01, z0, x1, y + deep, z1, { bevel: 0.001 })
  for (let i = 0; i < 4; i++)
    pen.use('paper', pen.varied(0.1)).box(x0 + 0.02, y + 0.05 + i * 0.075, z0 + 0.01, x1 - 0.02, y + 0.1 + i * 0.075, z1 - 0.03 + pen.between(0, 0.02), { bevel: 0.008 }) // prettier-ignore
}

function drawer(pen: Pen, x: number, y: number, z: number, w: number, h: number, open: number): void {
  pen
    .use('drawer wood', pen.varied(0.3, 0.12))
    .box(x - w / 2, y, z - h / 2, x + w / 2, y + 0.022 + open, z + h / 2, { bevel: 0.006, grain: 'x' })
  // label frame and paper
  pen.use('brass').box(x - 0.047, y - 0.003, z + 0.012, x + 0.047, y + 0.003, z + 0.062, { bevel: 0 })
  pen.use('paper', pen.varied(0.08)).box(x - 0.041, y - 0.0042, z + 0.018, x + 0.041, y, z + 0.056, { bevel: 0 })
  pen.use('ink').box(x - 0.028, y - 0.0048, z + 0.039, x - 0.028 + pen.between(0.03, 0.056), y, z + 0.043, { bevel: 0 })
  // pull: a small turned knob, lying along -y
  pen.use('brass').within(
    {
      rows: [
        [1, 0, 0],
        [0, 0, -1],
        [0, 1, 0],
      ],
      at: [x, y, z - 0.035],
    },
    () => {
      pen.lathe(0, 0, [[0.011, 0], [0.0055, 0.006], [0.0055, 0.014], [0.0135, 0.021], [0.0125, 0.028], [0, 0.031]], 10, 40) // prettier-ignore
    },
  )
}

export function ladder(): GltfNode {
  const pen = new Pen('Rolling ladder', { kind: 'furniture' })
  pen.use('steel').tube([[5.3, 8.3, 2.66], [15.3, 8.3, 2.66]], 0.016, 10) // prettier-ignore
  for (const x of PIERS_X) pen.tube([[x, 8.3, 2.66], [x, 8.42, 2.66]], 0.012, 8) // prettier-ignore
  const x = 10.6
  const foot = [7.52, 0.07] as const
  const head = [8.27, 2.74] as const
  const at = (t: number): [number, number] => [foot[0] + (head[0] - foot[0]) * t, foot[1] + (head[1] - foot[1]) * t]
  for (const s of [-1, 1]) {
    const sx = x + s * 0.22
    pen.use('oak', 0.93).bar([sx, foot[0], foot[1]], [sx, head[0], head[1]], 0.032, 0.075, { bevel: 0.008 })
    pen
      .use('rubber')
      .within(turn('y', 90, [sx, foot[0], 0.045]), () => pen.cylinder(0, 0, -0.014, 0.014, 0.045, 18, 0.006))
    pen.use('brass').within(turn('y', 90, [sx, foot[0], 0.045]), () => pen.cylinder(0, 0, -0.02, 0.02, 0.014, 12))
    pen.use('steel').tube([[sx, 8.27, 2.72], [sx, 8.3, 2.78], [sx, 8.34, 2.72], [sx, 8.34, 2.62]], 0.009, 8) // prettier-ignore
  }
  for (let i = 1; i <= 9; i++) {
    const [y, z] = at(i / 10)
    pen
      .use('oak', pen.varied(0.1))
      .box(x - 0.21, y - 0.045, z - 0.013, x + 0.21, y + 0.045, z + 0.013, { bevel: 0.006, grain: 'x' })
  }
  return pen.node()
}

/** A long sorting counter: thick oak top on two panelled pedestals with iron brackets between. */
export function longCounter(name: string, x: number, y: number): GltfNode {
  const pen = new Pen(name, { kind: 'furniture' })
  const l = 3.4
  const d = 1.04
  pen.within(shift(x, y, 0), () => {
    for (let i = 0; i < 6; i++) {
      const a = -d / 2 + (d * i) / 6
      pen.use('oak', pen.varied(0.13, 0.05)).box(-l / 2, a, 0.875, l / 2, a + d / 6 - 0.0006, 0.93, {
        bevel: i === 0 || i === 5 ? 0.009 : 0.0012,
        grain: 'x',
      })
    }
    pen
      .use('oak', 0.92)
      .box(-l / 2 + 0.05, -d / 2 + 0.05, 0.8, l / 2 - 0.05, d / 2 - 0.05, 0.875, { bevel: 0.004, grain: 'x' })
    for (const s of [-1, 1]) {
      const cx = s * (l / 2 - 0.55)
      pen.use('green paint')
      pen.box(cx - 0.36, -0.38, 0.09, cx + 0.36, 0.38, 0.8, { bevel: 0.006 })
      pen.use('green paint', 0.72).box(cx - 0.33, -0.35, 0, cx + 0.33, 0.35, 0.09, { bevel: 0.003 })
      for (const f of [-1, 1]) {
        pen.use('green paint', 1)
        for (const k of [-1, 1]) {
          const px = cx + k * 0.175
          for (const [za, zb] of [
            [0.13, 0.54],
            [0.57, 0.76],
          ] as const) {
            pen.box(px - 0.155, f * 0.38, za, px + 0.155, f * 0.392, zb, { bevel: 0.006 })
            pen.use('brass').within({ rows: [[1, 0, 0], [0, 0, f], [0, -f, 0]], at: [px, f * 0.392, (za + zb) / 2] }, () => pen.lathe(0, 0, [[0.014, 0], [0.006, 0.008], [0.006, 0.016], [0.016, 0.026], [0, 0.034]], 12, 40)) // prettier-ignore
            pen.use('green paint', 1)
          }
        }
      }
    }
    pen.use('steel')
    for (const s of [-1, 1]) for (const f of [-1, 1]) pen.tube([[s * (l / 2 - 0.92), f * 0.3, 0.5], [s * (l / 2 - 1.06), f * 0.3, 0.64], [s * (l / 2 - 1.22), f * 0.3, 0.79]], 0.013, 8) // prettier-ignore
    pen.use('oak', 0.9).box(-l / 2 + 0.9, -0.3, 0.2, l / 2 - 0.9, 0.3, 0.235, { bevel: 0.006, grain: 'x' })
  })
  return pen.node()
}

export function roundCounter(x: number, y: number): GltfNode {
  const pen = new Pen('Round sorting counter', { kind: 'furniture' })
  pen.use('oak', 0.98).lathe(x, y, [[0, 0.882], [0.7, 0.882], [0.78, 0.892], [0.8, 0.905], [0.8, 0.922], [0.79, 0.93], [0.6, 0.93], [0.595, 0.927], [0.59, 0.93], [0, 0.93]], 72, 30) // prettier-ignore
  pen.use('walnut').lathe(x, y, [[0, 0], [0.42, 0], [0.43, 0.03], [0.4, 0.06], [0.24, 0.09], [0.15, 0.15], [0.12, 0.3], [0.14, 0.42], [0.17, 0.46], [0.14, 0.5], [0.1, 0.62], [0.12, 0.76], [0.3, 0.85], [0.34, 0.882], [0, 0.882]], 40, 30) // prettier-ignore
  for (let k = 0; k < 4; k++)
    pen.within(turn('z', 45 + 90 * k, [x, y, 0]), () => pen.use('steel').tube([[0.14, 0, 0.5], [0.34, 0, 0.62], [0.6, 0, 0.86]], 0.012, 8)) // prettier-ignore
  return pen.node()
}

export function stool(name: string, x: number, y: number): GltfNode {
  const pen = new Pen(name, { kind: 'furniture' })
  pen.within(turn('z', pen.between(0, 90), [x, y, 0]), () => {
    pen.use('oak', pen.varied(0.15)).lathe(0, 0, [[0, 0.625], [0.15, 0.625], [0.172, 0.636], [0.175, 0.652], [0.165, 0.664], [0.08, 0.656], [0, 0.654]], 36, 40) // prettier-ignore
    for (let k = 0; k < 4; k++)
      pen.within(turn('z', 90 * k), () => pen.use('walnut').tube([[0.1, 0, 0.63], [0.155, 0, 0.3], [0.19, 0, 0]], 0.0155, 8)) // prettier-ignore
    const ring = Array.from(
      { length: 25 },
      (_, i) => [Math.cos((i * Math.PI) / 12) * 0.158, Math.sin((i * Math.PI) / 12) * 0.158, 0.25] as const,
    )
    pen.use('steel').tube(ring, 0.008, 6)
  })
  return pen.node()
}

const COVERS = [
  [0.42, 0.16, 0.12], [0.16, 0.25, 0.2], [0.55, 0.42, 0.2], [0.13, 0.19, 0.28], [0.62, 0.55, 0.42], [0.3, 0.22, 0.17],
  [0.36, 0.38, 0.24], [0.2, 0.3, 0.35], [0.5, 0.27, 0.17], [0.7, 0.64, 0.52],
] as const // prettier-ignore

/** A row of books from a to b on a shelf whose top is at z, backs towards local -y. */
function books(pen: Pen, a: number, b: number, z: number, depth: number, room: number): void {
  for (let x = a; x < b - 0.05;) {
    const w = pen.between(0.018, 0.055)
    if (pen.between(0, 1) > 0.94) {
      x += pen.between(0.05, 0.18)
      continue
    }
    const h = Math.min(room - 0.02, pen.between(0.19, 0.31))
    const d = pen.between(0.14, 0.2)
    const c = pen.pick(COVERS)
    pen.use('book', c).box(x, depth - d, z, x + w - 0.001, depth, z + h, { bevel: 0.003 })
    if (pen.between(0, 1) > 0.6)
      pen
        .use('paper', 0.9)
        .box(x + w * 0.2, depth - d - 0.0008, z + h * 0.62, x + w * 0.8, depth - d + 0.002, z + h * 0.8, { bevel: 0 })
    x += w
  }
}

/** Bookshelves on the south wall, facing north. */
export function bookshelf(): GltfNode[] {
  const shelf = new Pen('Bookshelves', { kind: 'furniture' })
  const inside = new Pen('Books', { kind: 'furniture' })
  const w = 4.6
  const place = turn('z', 180, [5.6, 0.02, 0])
  const d = 0.32
  shelf.within(place, () => {
    shelf.use('walnut', 1.0).box(0, -0.012, 0, w, 0, 2.46, { bevel: 0 })
    for (let i = 0; i <= 4; i++)
      shelf
        .use('walnut', shelf.varied(0.1))
        .box((i * (w - 0.03)) / 4, -d, 0, (i * (w - 0.03)) / 4 + 0.03, -0.012, 2.46, { bevel: 0.003, grain: 'z' })
    for (const z of [0.08, 0.47, 0.86, 1.25, 1.64, 2.03])
      shelf
        .use('walnut', shelf.varied(0.1))
        .box(0.03, -d + 0.01, z, w - 0.03, -0.012, z + 0.026, { bevel: 0.003, grain: 'x' })
    shelf.box(-0.02, -d - 0.02, 2.44, w + 0.02, 0, 2.49, { bevel: 0.008, grain: 'x' })
  })
  inside.within(place, () => {
    for (const z of [0.106, 0.496, 0.886, 1.276, 1.666, 2.056])
      for (let i = 0; i < 4; i++) {
        const a = (i * (w - 0.03)) / 4 + 0.04
        const b = ((i + 1) * (w - 0.03)) / 4 - 0.01
        inside.within(shift(0, -0.24, 0), () => books(inside, a, b - inside.between(0, 0.35), z, 0.2, 0.36))
      }
  })
  return [shelf.node(), inside.node()]
}

/** A long reading bench with cushions, and framed plant studies above it. */
export function bench(): GltfNode[] {
  const seat = new Pen('Reading bench', { kind: 'furniture' })
  seat.within(shift(6.5, 0.03, 0), () => {
    seat.use('oak', 0.95).box(0, 0, 0.38, 3.3, 0.5, 0.42, { bevel: 0.008, grain: 'x' })
    for (const x of [0.06, 1.1, 2.2, 3.24])
      seat.use('oak', 0.88).box(x - 0.03, 0.04, 0, x + 0.03, 0.46, 0.38, { bevel: 0.006, grain: 'z' })
    for (let i = 0; i < 3; i++)
      seat.use('cloth', seat.varied(0.14)).box(0.04 + i * 1.08, 0.02, 0.42, 1.1 + i * 1.08, 0.49, 0.5, { bevel: 0.028 })
    for (const [x, c] of [
      [0.3, [0.55, 0.36, 0.28]],
      [2.7, [0.42, 0.5, 0.42]],
    ] as const)
      seat.within(turn('x', -18, [x, 0.07, 0.5]), () =>
        seat.use('cloth', c).box(0, 0, 0, 0.42, 0.13, 0.4, { bevel: 0.05 }),
      )
  })
  const prints = new Pen('Plant studies', { kind: 'furniture' })
  const frames = [6.75, 7.55, 8.35, 9.15]
  frames.forEach((x, i) => {
    prints.use('walnut').box(x, 0.02, 1.45, x + 0.55, 0.05, 2.2, { bevel: 0.006 })
    prints.use('paper').box(x + 0.035, 0.03, 1.485, x + 0.515, 0.0515, 2.165, { bevel: 0 })
    const cx = x + 0.275
    prints.use('leaf', 0.75)
    for (let k = 0; k < 6 + i; k++) {
      const z = 1.6 + k * 0.055
      const s = k % 2 ? 1 : -1
      prints.prism('y', [[cx, z], [cx + s * 0.1, z + 0.06], [cx + s * 0.15, z + 0.13], [cx + s * 0.05, z + 0.08]], 0.0515, 0.0525) // prettier-ignore
    }
    prints.use('leaf', 0.6).box(cx - 0.003, 0.0515, 1.54, cx + 0.003, 0.0526, 2.05, { bevel: 0 })
  })
  return [seat.node(), prints.node()]
}

/** A low cabinet on the south wall under a cork board with seed packets. */
export function cabinet(): GltfNode[] {
  const pen = new Pen('Packing cabinet', { kind: 'furniture' })
  pen.within(turn('z', 180, [13.6, 0.03, 0]), () => {
    pen.use('cream paint').box(0, -0.46, 0.08, 3, 0, 0.84, { bevel: 0.005 })
    pen.use('cream paint', 0.7).box(0.03, -0.42, 0, 2.97, 0, 0.08, { bevel: 0 })
    pen.use('oak').box(-0.02, -0.49, 0.84, 3.02, 0, 0.88, { bevel: 0.009, grain: 'x' })
    for (let i = 0; i < 5; i++) {
      pen.use('cream paint', 0.98).box(0.025 + i * 0.594, -0.475, 0.12, 0.595 + i * 0.594, -0.46, 0.8, { bevel: 0.006 })
      pen.use('brass').ball([i % 2 ? 0.09 + i * 0.594 : 0.53 + i * 0.594, -0.487, 0.62], 0.015, 10)
    }
  })
  const board = new Pen('Seed packet board', { kind: 'furniture' })
  board.use('oak').box(10.7, 0.02, 1.3, 13.5, 0.045, 2.3, { bevel: 0.006, grain: 'x' })
  board.use('cork').box(10.74, 0.03, 1.34, 13.46, 0.05, 2.26, { bevel: 0 })
  for (let r = 0; r < 4; r++)
    for (let c = 0; c < 15; c++) {
      if (board.between(0, 1) > 0.9) continue
      const x = 10.82 + c * 0.176
      const z = 1.4 + r * 0.215
      const tilt = board.between(-3, 3)
      board.within(turn('y', tilt, [x, 0.05, z]), () => {
        board.use('paper', board.varied(0.1)).box(0, 0, 0, 0.115, 0.006, 0.155, { bevel: 0.001 })
        board.use('book', board.pick(COVERS)).box(0.012, 0.006, 0.05, 0.103, 0.0066, 0.13, { bevel: 0 })
      })
    }
  return [pen.node(), board.node()]
}

/** Enamel pendant lamps over the counters, hung from the roof. */
export function pendants(spots: readonly (readonly [number, number])[]): GltfNode[] {
  return spots.map(([x, y], i) => {
    const pen = new Pen(`Pendant lamp ${i + 1}`, { kind: 'lamp' })
    const z = 2.35
    pen.use('enamel').lathe(x, y, [[0.235, z], [0.24, z + 0.006], [0.2, z + 0.06], [0.09, z + 0.14], [0.055, z + 0.2], [0.05, z + 0.26], [0, z + 0.27]], 40, 30) // prettier-ignore
    pen.use('enamel white').lathe(x, y, [[0, z + 0.25], [0.045, z + 0.2], [0.085, z + 0.132], [0.195, z + 0.056], [0.235, z]], 40, 30) // prettier-ignore
    pen.use('brass').lathe(x, y, [[0, z + 0.26], [0.026, z + 0.262], [0.022, z + 0.33], [0, z + 0.335]], 16, 40) // prettier-ignore
    pen.use('bulb').ball([x, y, z + 0.06], 0.042, 16)
    pen.use('rubber').tube([[x, y, z + 0.32], [x, y, 5.9]], 0.004, 6) // prettier-ignore
    return pen.node()
  })
}

export function rug(): GltfNode {
  const pen = new Pen('Rug', { kind: 'furniture' })
  pen.use('rug').box(6.4, 0.85, 0, 9.9, 2.45, 0.012, { bevel: 0.004 })
  pen.use('rug', [0.85, 0.75, 0.55]).box(6.55, 1.0, 0.011, 9.75, 2.3, 0.0135, { bevel: 0 })
  pen.use('rug').box(6.68, 1.13, 0.0125, 9.62, 2.17, 0.0148, { bevel: 0 })
  return pen.node()
}

/** A low armchair of bent oak and cloth, turned by degrees about the vertical. */
export function armchair(name: string, x: number, y: number, turnDeg: number): GltfNode {
  const pen = new Pen(name, { kind: 'furniture' })
  pen.within(turn('z', turnDeg, [x, y, 0]), () => {
    for (const s of [-1, 1]) {
      pen.use('oak', 0.95)
      pen.bar([s * 0.33, -0.34, 0], [s * 0.33, -0.3, 0.58], 0.032, 0.05, { bevel: 0.008 })
      pen.bar([s * 0.33, 0.4, 0], [s * 0.33, 0.3, 0.62], 0.032, 0.05, { bevel: 0.008 })
      pen.bar([s * 0.33, -0.38, 0.585], [s * 0.33, 0.4, 0.635], 0.06, 0.026, { bevel: 0.009 })
      pen.bar([s * 0.3, 0.18, 0.28], [s * 0.3, 0.44, 0.92], 0.03, 0.05, { bevel: 0.008 })
    }
    pen.box(-0.33, -0.3, 0.27, 0.33, -0.27, 0.32, { bevel: 0.006 })
    pen.within(turn('x', 6, [0, -0.02, 0.3]), () =>
      pen.use('cloth', [0.62, 0.72, 0.66]).box(-0.3, -0.31, 0, 0.3, 0.29, 0.14, { bevel: 0.04 }),
    )
    pen.within(turn('x', -22, [0, 0.24, 0.42]), () =>
      pen.use('cloth', [0.62, 0.72, 0.66]).box(-0.29, -0.06, 0, 0.29, 0.07, 0.52, { bevel: 0.045 }),
    )
  })
  return pen.node()
}
