// The germination lamp: a turned wooden foot, a ribbed glass dome with a rim, a dial and 24 small LEDs; a seed tin and a dibber
// beside it. `drawLamp` also sets one on a counter of the hall.

import { shift, turn, Pen } from './kit.ts'
import type { GltfNode } from '#formats/gltf'

/** The lamp's pieces standing at the local origin, 300 mm tall. */
function pieces(pen: { foot: Pen; dome: Pen; works: Pen }, fine = true): void {
  const { foot, dome, works } = pen
  const round = (segments: number): number => (fine ? segments : Math.max(12, Math.round(segments / 3)))
  foot.use('walnut', 1).lathe(0, 0, [[0, 0], [0.086, 0], [0.092, 0.004], [0.094, 0.012], [0.09, 0.02], [0.076, 0.026], [0.068, 0.034], [0.066, 0.044], [0.072, 0.052], [0.082, 0.058], [0.086, 0.066], [0.084, 0.074], [0.078, 0.078], [0, 0.078]], round(96), 32) // prettier-ignore
  foot.use('brass').lathe(0, 0, [[0.079, 0.078], [0.0815, 0.08], [0.0815, 0.085], [0.079, 0.087], [0, 0.087]], round(96), 40) // prettier-ignore
  // soil bed in a shallow tray, with seedlings
  works.use('tin').lathe(0, 0, [[0, 0.087], [0.07, 0.087], [0.073, 0.1], [0.071, 0.1], [0.068, 0.091], [0, 0.091]], round(64), 35) // prettier-ignore
  works.use('soil').lathe(0, 0, [[0, 0.09], [0.069, 0.09], [0.069, 0.097], [0.04, 0.1], [0, 0.101]], round(48), 60) // prettier-ignore
  for (let i = 0; i < 34; i++) {
    const a = (i * 137.5 * Math.PI) / 180
    const d = 0.062 * Math.sqrt((i + 0.5) / 34)
    const [x, y] = [Math.cos(a) * d, Math.sin(a) * d]
    const h = 0.014 + 0.016 * ((i * 7) % 5) * 0.25
    works.use('leaf', [0.85, 1, 0.7]).tube([[x, y, 0.098], [x + 0.001, y, 0.098 + h]], 0.0006, 5) // prettier-ignore
    for (const s of [0, 180]) {
      const b = a + (s * Math.PI) / 180
      works.leaf([x + 0.001, y, 0.098 + h], [Math.cos(b) * 0.9, Math.sin(b) * 0.9, 0.4], 0.009, 0.005, 0.002)
    }
  }
  // lamp ring with 24 LEDs, carried by a stem at the back
  works.use('brass').tube([[0, 0.0655, 0.088], [0, 0.0655, 0.2], [0, 0.06, 0.214], [0, 0.046, 0.219]], 0.0032, 14) // prettier-ignore
  works.use('brass').lathe(0, 0, [[0.04, 0.215], [0.05, 0.215], [0.052, 0.218], [0.05, 0.222], [0.04, 0.222], [0.038, 0.218], [0.04, 0.215]], round(72), 30) // prettier-ignore
  for (let i = 0; i < 24; i++) {
    const a = (i * 15 * Math.PI) / 180
    works.use('led chip').ball([Math.cos(a) * 0.045, Math.sin(a) * 0.045, 0.2146], 0.0011, fine ? 12 : 6)
  }
  // ribbed dome: 36 ribs, thick glass, a rolled rim and a knob
  const rib = (a: number): number => 1 + 0.012 * Math.cos(36 * a)
  dome.use('dome glass').lathe(0, 0, [[0.077, 0.087], [0.077, 0.17], [0.0755, 0.2], [0.069, 0.228], [0.056, 0.25], [0.038, 0.264], [0.012, 0.271], [0, 0.272], [0, 0.2695], [0.0115, 0.2685], [0.037, 0.2618], [0.0545, 0.248], [0.067, 0.2268], [0.0733, 0.1995], [0.0748, 0.17], [0.0748, 0.087], [0.077, 0.087]], fine ? 216 : 72, 40, rib) // prettier-ignore
  dome.lathe(0, 0, [[0.0765, 0.087], [0.0795, 0.088], [0.0805, 0.0905], [0.0795, 0.093], [0.0765, 0.0938], [0.0748, 0.0905], [0.0765, 0.087]], round(120), 60) // prettier-ignore
  dome.use('brass').lathe(0, 0, [[0, 0.271], [0.013, 0.271], [0.0145, 0.2735], [0.009, 0.278], [0.007, 0.284], [0.0115, 0.29], [0.0125, 0.296], [0.008, 0.3015], [0, 0.303]], round(40), 30) // prettier-ignore
  // dial on the foot, facing south, before the foot's widest ring
  works.within(turn('x', 78, [0, -0.0885, 0.05]), () => {
    works.use('brass').lathe(0, 0, [[0.019, -0.02], [0.0205, 0.002], [0.019, 0.004], [0, 0.004]], round(48), 30) // prettier-ignore
    works.use('ceramic').lathe(0, 0, [[0.0165, 0.0038], [0.0165, 0.0052], [0, 0.0055]], round(48), 30) // prettier-ignore
    for (let i = 0; i <= 10; i++)
      works.within(turn('z', -135 + i * 27), () =>
        works.use('ink').box(-0.00035, 0.0118, 0.005, 0.00035, i % 5 === 0 ? 0.0155 : 0.0145, 0.0056, { bevel: 0 }),
      )
    works.use('walnut').lathe(0, 0, [[0.0095, 0.005], [0.009, 0.0125], [0.0078, 0.0138], [0, 0.0138]], round(40), 30) // prettier-ignore
    works.within(turn('z', 40), () =>
      works.use('brass').box(-0.0006, 0.002, 0.0132, 0.0006, 0.0082, 0.0146, { bevel: 0.0002 }),
    )
  })
}

/** One node holding the whole lamp, standing at (x, y, z). */
export function lampOn(name: string, x: number, y: number, z: number, turnDeg = 0): GltfNode {
  const pen = new Pen(name, { kind: 'object' })
  pen.within(turn('z', turnDeg, [x, y, z]), () => pieces({ foot: pen, dome: pen, works: pen }, false))
  return pen.node()
}

/** The product scene: lamp, tin and dibber on a slab before a curved backdrop. Metres, standing at z = 0. */
export function lampScene(): GltfNode[] {
  const foot = new Pen('Lamp foot', { kind: 'object' })
  const dome = new Pen('Lamp dome', { kind: 'object' })
  const works = new Pen('Lamp ring, dial and bed', { kind: 'object' })
  pieces({ foot, dome, works })

  const tin = new Pen('Seed tin', { kind: 'object' })
  tin.within(shift(0.19, 0.035, 0), () => {
    tin.use('tin').lathe(0, 0, [[0, 0], [0.044, 0], [0.046, 0.0015], [0.046, 0.003], [0.0452, 0.004], [0.0452, 0.092], [0, 0.092]], 72, 30) // prettier-ignore
    tin.use('green paint').lathe(0, 0, [[0.0452, 0.012], [0.0454, 0.013], [0.0454, 0.078], [0.0452, 0.079]], 72, 30) // prettier-ignore
    tin.use('paper').lathe(0, 0, [[0.0454, 0.03], [0.0456, 0.031], [0.0456, 0.06], [0.0454, 0.061]], 72, 30) // prettier-ignore
    tin.use('tin').lathe(0, 0, [[0.0452, 0.086], [0.0475, 0.087], [0.0475, 0.106], [0.0465, 0.108], [0.044, 0.108], [0.042, 0.1065], [0, 0.1065]], 72, 30) // prettier-ignore
    tin.use('brass').lathe(0, 0, [[0.006, 0.1065], [0.0045, 0.112], [0.009, 0.118], [0.0075, 0.1235], [0, 0.125]], 32, 35) // prettier-ignore
  })
  const dibber = new Pen('Dibber', { kind: 'object' })
  dibber.within(turn('z', 28, [-0.1, -0.135, 0.0152]), () =>
    dibber.within(turn('y', 90), () => {
      dibber.use('oak').lathe(0, 0, [[0, -0.1], [0.012, -0.099], [0.0152, -0.09], [0.0148, -0.07], [0.011, -0.045], [0.0105, -0.02], [0.0125, -0.006], [0.0125, 0.004], [0, 0.004]], 40, 35) // prettier-ignore
      dibber.use('copper').lathe(0, 0, [[0.0128, 0.002], [0.0128, 0.02], [0.0115, 0.03], [0.006, 0.098], [0.002, 0.112], [0, 0.113]], 40, 35) // prettier-ignore
      for (const z of [0.045, 0.065, 0.085]) dibber.use('ink').lathe(0, 0, [[0.0102 - (z - 0.045) * 0.062, z], [0.0105 - (z - 0.045) * 0.062, z + 0.0006], [0.0102 - (z - 0.045) * 0.062, z + 0.0012]], 40, 35) // prettier-ignore
    }),
  )
  const seeds = new Pen('Loose seeds', { kind: 'object' })
  for (let i = 0; i < 22; i++) {
    const a = seeds.between(0, 6.28)
    const d = seeds.between(0.004, 0.055)
    seeds
      .use('seed', seeds.varied(0.35, 0.1))
      .within(turn('z', seeds.between(0, 180), [0.2 + Math.cos(a) * d * 1.3, -0.09 + Math.sin(a) * d, 0]), () => {
        seeds.lathe(0, 0, [[0, 0], [0.0022, 0.0006], [0.003, 0.0016], [0.0022, 0.0027], [0, 0.0032]], 10, 60) // prettier-ignore
      })
  }
  const slab = new Pen('Oak slab', { kind: 'floor', storey: 'Table' })
  slab.use('oak', 1).box(-0.36, -0.26, -0.03, 0.36, 0.24, 0, { bevel: 0.006, grain: 'x' })
  const sweep = new Pen('Backdrop', { kind: 'surroundings' })
  const rows: [number, number][] = [[-1.6, -0.031], [0.55, -0.031]] // prettier-ignore
  for (let k = 1; k <= 16; k++) {
    const a = (k * Math.PI) / 32
    rows.push([0.55 + Math.sin(a) * 0.5, -0.031 + (1 - Math.cos(a)) * 0.5])
  }
  rows.push([1.05, 1.7])
  sweep.use('sweep')
  for (let k = 0; k + 1 < rows.length; k++) {
    const [a, b] = [rows[k]!, rows[k + 1]!]
    sweep.prism('x', [a, b, [b[0] + 0.004, b[1] - 0.004], [a[0] + 0.001, a[1] - 0.006]], -2, 2)
  }
  return [foot.node(), dome.node(), works.node(), tin.node(), dibber.node(), seeds.node(), slab.node(), sweep.node()]
}
