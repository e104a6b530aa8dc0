// The loft's shell: floors, walls, roof with three skylights, the glazed east end, the yard outside.
// Inside: x 0..18 (west to east), y 0..9 (south to north), eaves at 5.4 m, ridge over y = 4.5.

import type { GltfNode } from '#formats/gltf'
import { Pen, shift, turn } from '../kit.ts'

const WALL = 0.45
export const EAVES = 5.4
export const PITCH_DEG = 33.69
const SLOPE = 4.5 / Math.cos((PITCH_DEG * Math.PI) / 180)
/** Skylights in the south slope: x from, x to; all reach from 1.3 to 3.9 m up the slope. */
export const SKYLIGHTS = [
  [3.7, 5.3],
  [6.7, 8.3],
  [9.7, 11.3],
] as const
const LIGHT_FROM = 1.3
const LIGHT_TO = 3.9

function boards(pen: Pen, x0: number, x1: number, y0: number, y1: number, top: number, wide: number): void {
  for (let y = y0; y < y1 - 1e-6; y += wide) {
    for (let x = x0 - pen.between(0, 2.2); x < x1;) {
      const l = pen.between(1.8, 2.9)
      const a = Math.max(x, x0)
      const b = Math.min(x + l, x1)
      if (b - a > 0.05)
        pen
          .use('oak floor', pen.varied(0.24, 0.08))
          .box(a, y, top - 0.024, b - 0.001, Math.min(y + wide, y1) - 0.001, top, { bevel: 0.0015, grain: 'x' })
      x += l
    }
  }
}

export function floors(): GltfNode[] {
  const hall = new Pen('Reading hall floor', { kind: 'floor', storey: 'Ground floor' })
  const slab = new Pen('Foundation', { kind: 'structure' })
  slab.use('stone').box(-WALL, -WALL, -0.3, 18 + WALL, 9 + WALL, -0.025, { bevel: 0 })
  boards(hall, 0, 15.3, 0, 9, 0, 0.15)
  const bay = new Pen('Potting bay floor', { kind: 'floor', storey: 'Ground floor' })
  for (let x = 15.3, i = 0; x < 18 - 1e-6; x += 0.3, i++)
    for (let y = -(i % 2) * 0.15; y < 9; y += 0.3) {
      const a = Math.max(0, y)
      const b = Math.min(9, y + 0.3)
      if (b - a > 0.02)
        bay.use('brick', bay.varied(0.3, 0.1)).box(x + 0.003, a + 0.003, -0.024, x + 0.297, b - 0.003, 0, { bevel: 0 })
    }
  return [slab.node(), hall.node(), bay.node()]
}

/** One face of brickwork in relief: running bond over a width and height, on the plane local y = 0 facing -y. */
export function brickFace(
  pen: Pen,
  width: number,
  z0: number,
  heightAt: (x: number) => number,
  skip?: (x: number, z: number) => boolean,
): void {
  const L = 0.225
  const H = 0.075
  for (let row = 0, z = z0; ; row++, z += H) {
    let any = false
    for (let x = -(row % 2) * (L / 2); x < width - 0.01; x += L) {
      const a = Math.max(0, x) + 0.005
      const b = Math.min(width, x + L) - 0.005
      const mid = (a + b) / 2
      if (b - a < 0.03 || z + H > heightAt(mid)) continue
      any = true
      if (skip?.(mid, z + H / 2)) continue
      const d = 0.009 + pen.between(0, 0.004)
      pen.use('brick', pen.varied(0.42, 0.16)).prism('y', [[a, z + 0.005], [b, z + 0.005], [b, z + H - 0.005], [a, z + H - 0.005]], -d, 0.004) // prettier-ignore
    }
    if (!any) break
  }
}

const gableHeight = (y: number): number => EAVES + (4.5 - Math.abs(y - 4.5)) * Math.tan((PITCH_DEG * Math.PI) / 180)
const DOOR = { y0: 3.55, y1: 5.45, top: 2.6 }

export function westWall(): GltfNode {
  const pen = new Pen('West brick wall', { kind: 'wall' })
  pen.use('mortar')
  pen.prism('x', [[-WALL, 0], [DOOR.y0, 0], [DOOR.y0, gableHeight(0)], [-WALL, gableHeight(0)]], -WALL, 0) // prettier-ignore
  pen.prism('x', [[DOOR.y1, 0], [9 + WALL, 0], [9 + WALL, gableHeight(0)], [DOOR.y1, gableHeight(0)]], -WALL, 0) // prettier-ignore
  pen.box(-WALL, DOOR.y0, DOOR.top, 0, DOOR.y1, EAVES, { bevel: 0 })
  pen.prism('x', [[-WALL, EAVES], [9 + WALL, EAVES], [4.5, gableHeight(4.5) + 0.02]], -WALL, 0) // prettier-ignore
  // brickwork seen from inside: local x runs along -y, the face looks to +x
  pen.within(turn('z', 90, [0, 0, 0]), () => {
    brickFace(
      pen,
      9,
      0.16,
      (y) => gableHeight(y) - 0.05,
      (y, z) => y > DOOR.y0 - 0.14 && y < DOOR.y1 + 0.14 && z < DOOR.top + 0.24,
    )
  })
  // stone lintel and reveals
  pen.use('stone', 0.95)
  pen.box(-WALL - 0.01, DOOR.y0 - 0.18, DOOR.top, 0.018, DOOR.y1 + 0.18, DOOR.top + 0.24, { bevel: 0.008 })
  pen.box(-WALL, DOOR.y0 - 0.14, 0, 0.014, DOOR.y0, DOOR.top, { bevel: 0.006 })
  pen.box(-WALL, DOOR.y1, 0, 0.014, DOOR.y1 + 0.14, DOOR.top, { bevel: 0.006 })
  pen.use('walnut').box(0, 0, 0, 0.022, DOOR.y0 - 0.14, 0.16, { bevel: 0.005, grain: 'y' })
  pen.box(0, DOOR.y1 + 0.14, 0, 0.022, 9, 0.16, { bevel: 0.005, grain: 'y' })
  return pen.node()
}

export function door(): GltfNode {
  const pen = new Pen('Loft doors', { kind: 'door' })
  for (const [a, b] of [
    [DOOR.y0, 4.495],
    [4.505, DOOR.y1],
  ] as const) {
    const n = 6
    for (let i = 0; i < n; i++) {
      const y = a + ((b - a) * i) / n
      pen
        .use('blue paint', pen.varied(0.1))
        .box(-0.3, y + 0.001, 0.02, -0.255, y + (b - a) / n - 0.001, DOOR.top - 0.01, { bevel: 0.004 })
    }
    for (const z of [0.3, 1.25, 2.2])
      pen.use('blue paint', 0.92).box(-0.255, a + 0.03, z, -0.225, b - 0.03, z + 0.16, { bevel: 0.005 })
    pen.bar([-0.24, a + 0.1, 0.46], [-0.24, b - 0.1, 1.25], 0.03, 0.13, { bevel: 0.004 })
    const hy = a < 4 ? b - 0.12 : a + 0.12
    pen.use('brass').tube([[-0.22, hy, 1.0], [-0.18, hy, 1.0], [-0.18, hy, 1.18], [-0.22, hy, 1.18]], 0.011, 10) // prettier-ignore
  }
  return pen.node()
}

export function northWall(): GltfNode {
  const pen = new Pen('North wall', { kind: 'wall' })
  pen.use('plaster').box(0, 9, 0, 18, 9 + WALL, EAVES, { bevel: 0 })
  return pen.node()
}

export function southWall(): GltfNode {
  const pen = new Pen('South wall', { kind: 'wall' })
  pen.use('plaster').box(0, -WALL, 0, 18, 0, EAVES, { bevel: 0 })
  pen.use('cream paint').box(0, 0, 0, 18, 0.02, 0.16, { bevel: 0.005, grain: 'x' })
  pen.box(0, 0, 1.02, 15.3, 0.018, 1.06, { bevel: 0.006, grain: 'x' })
  return pen.node()
}

/** The east end: a plinth, corner piers, the gable, and a steel-framed glass wall between. */
export function eastEnd(): GltfNode[] {
  const wall = new Pen('East wall', { kind: 'wall' })
  wall.use('plaster')
  wall.box(18, -WALL, 0, 18 + WALL, 0.5, EAVES, { bevel: 0.004 })
  wall.box(18, 8.5, 0, 18 + WALL, 9 + WALL, EAVES, { bevel: 0.004 })
  wall.box(18, 0.5, 0, 18 + WALL, 8.5, 0.5, { bevel: 0.004 })
  wall.box(18, 0.5, 5.05, 18 + WALL, 8.5, EAVES, { bevel: 0.004 })
  wall.prism('x', [[-WALL, EAVES], [9 + WALL, EAVES], [4.5, gableHeight(4.5) + 0.02]], 18, 18 + WALL) // prettier-ignore
  wall.use('stone').box(17.94, 0.5, 0.5, 18.3, 8.5, 0.54, { bevel: 0.006 })

  const frame = new Pen('East glazing frame', { kind: 'window' })
  frame.use('steel')
  const x0 = 18.14
  for (let i = 0; i <= 10; i++) {
    const y = 0.5 + i * 0.8
    const w = i % 5 === 0 ? 0.06 : 0.034
    frame.block(x0, y === 0.5 ? y + w / 2 : y === 8.5 ? y - w / 2 : y, 2.795, 0.07, w, 4.51, { bevel: 0.004 })
  }
  for (const z of [0.56, 1.44, 2.34, 3.24, 4.14, 5.03]) frame.block(x0, 4.5, z, 0.06, 8, 0.034, { bevel: 0.004 })
  const glass = new Pen('East glazing', { kind: 'glass' })
  glass.use('window glass').box(x0 - 0.004, 0.5, 0.54, x0 + 0.004, 8.5, 5.05, { bevel: 0 })
  return [wall.node(), frame.node(), glass.node()]
}

/** Local place of a roof slope: x along the building, y up the slope, z out of the roof. */
const southSlope = turn('x', PITCH_DEG, [0, 0, EAVES])
const northSlope = (() => {
  const c = Math.cos((PITCH_DEG * Math.PI) / 180)
  const s = Math.sin((PITCH_DEG * Math.PI) / 180)
  return { rows: [[-1, 0, 0], [0, -c, s], [0, s, c]], at: [18, 9, EAVES] } as const // prettier-ignore
})()

function slopeDeck(pen: Pen, holes: readonly (readonly [number, number])[]): void {
  pen.use('stone', 0.6)
  const eaves = -0.75
  const deck = (x0: number, x1: number, s0: number, s1: number): void =>
    void pen.box(x0, s0, 0.02, x1, s1, 0.24, { bevel: 0 })
  let x = -WALL
  for (const [a, b] of holes) {
    deck(x, a, eaves, SLOPE + 0.1)
    deck(a, b, eaves, LIGHT_FROM)
    deck(a, b, LIGHT_TO, SLOPE + 0.1)
    x = b
  }
  deck(x, 18 + WALL, eaves, SLOPE + 0.1)
  // lining of boards, seen from below
  const wide = 0.145
  for (let s = 0; s < SLOPE; s += wide) {
    const top = Math.min(s + wide, SLOPE + 0.01)
    const cuts = s + wide > LIGHT_FROM && s < LIGHT_TO ? holes : []
    let from = 0
    for (const [a, b] of [...cuts, [18, 18] as const]) {
      if (a > from)
        pen
          .use('roof boards', pen.varied(0.2, 0.06))
          .box(from, s + 0.001, 0, a, top - 0.001, 0.022, { bevel: 0.003, grain: 'x' })
      from = b
    }
  }
}

export function roof(): GltfNode[] {
  const south = new Pen('Roof, south slope', { kind: 'roof' })
  south.within(southSlope, () => slopeDeck(south, SKYLIGHTS))
  const north = new Pen('Roof, north slope', { kind: 'roof' })
  north.within(northSlope, () => slopeDeck(north, []))
  return [south.node(), north.node()]
}

export function skylights(): GltfNode[] {
  return SKYLIGHTS.flatMap(([a, b], i) => {
    const pen = new Pen(`Skylight ${i + 1}`, { kind: 'window' })
    const glass = new Pen(`Skylight ${i + 1} glass`, { kind: 'glass' })
    pen.within(southSlope, () => {
      pen.use('cream paint')
      const t = 0.035
      pen.box(a, LIGHT_FROM, -0.02, a + t, LIGHT_TO, 0.3, { bevel: 0.004 })
      pen.box(b - t, LIGHT_FROM, -0.02, b, LIGHT_TO, 0.3, { bevel: 0.004 })
      pen.box(a, LIGHT_FROM, -0.02, b, LIGHT_FROM + t, 0.3, { bevel: 0.004 })
      pen.box(a, LIGHT_TO - t, -0.02, b, LIGHT_TO, 0.3, { bevel: 0.004 })
      pen
        .use('steel')
        .block((a + b) / 2, (LIGHT_FROM + LIGHT_TO) / 2, 0.27, 0.03, LIGHT_TO - LIGHT_FROM, 0.04, { bevel: 0.003 })
      pen.block((a + b) / 2, (LIGHT_FROM + LIGHT_TO) / 2, 0.27, b - a, 0.03, 0.04, { bevel: 0.003 })
    })
    glass.within(southSlope, () => {
      glass.use('window glass').box(a + 0.03, LIGHT_FROM + 0.03, 0.268, b - 0.03, LIGHT_TO - 0.03, 0.274, { bevel: 0 })
    })
    return [pen.node(), glass.node()]
  })
}

/** What is seen through the glass: the yard, a hedge, a path and the far marsh. Left out of the model's size. */
export function yard(): GltfNode[] {
  const ground = new Pen('Yard', { kind: 'surroundings' })
  ground.use('leaf', [0.75, 0.85, 0.62]).box(-30, -30, -0.6, 70, 40, -0.31, { bevel: 0 })
  ground.use('stone').box(18.45, 1.2, -0.31, 34, 3.2, -0.27, { bevel: 0.02 })
  const trees = new Pen('Yard trees', { kind: 'surroundings' })
  for (const [x, y, r] of [
    [27, 8, 1.5],
    [31, 5.5, 1.9],
    [29.5, -2, 1.7],
    [36, 1, 2.3],
    [25, -4.5, 1.2],
    [38, 10, 2.4],
    [33, 14, 2],
  ] as const) {
    trees.use('old pine').cylinder(x, y, -0.3, 1.8, 0.11, 10)
    for (let k = 0; k < 170; k++) {
      const t = (k + 0.5) / 170
      const a = k * 2.39996
      const w = r * Math.sin(Math.PI * (0.1 + 0.82 * t)) * trees.between(0.5, 1)
      const at = [x + Math.cos(a) * w, y + Math.sin(a) * w, 1.2 + r * 1.9 * t] as const
      const out = [Math.cos(a) * 0.8, Math.sin(a) * 0.8, trees.between(-0.2, 0.7)] as const
      const tone = trees.between(0.3, 0.75)
      trees
        .use('leaf', [tone * 0.8, tone, tone * 0.75])
        .leaf(at, out, trees.between(0.5, 0.95), trees.between(0.3, 0.5), 0.25)
    }
  }
  trees.within(shift(40, -20, -0.3), () => {
    for (let y = 0; y < 52; y += 0.9)
      trees.use('leaf', [0.4, 0.5, 0.42]).ball([trees.between(-1, 1), y, 0.3], trees.between(0.7, 1.2), 8)
  })
  return [ground.node(), trees.node()]
}
