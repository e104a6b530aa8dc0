// Sections: against manifold-3d and a plain loop on many triangles; all faces of the hall; the picture with cuts against the one without.
import Module from 'manifold-3d'
import { performance } from 'node:perf_hooks'
import { dot, type Vec3 } from '#core/math'
import { sliceChains, sliceTree, type Mesh, type Shown } from '#core/section'
import { loadGlb } from '#formats/scene'
import { MeshScene, soupOf } from '#mesh'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { benchPage, median, ms, type Row } from './harness.ts'

const TORI = 35
const AROUND = 112
const TURNS = 25

/** Closed tori, 25,088 triangles each, their seams welded. */
function closedTori(): Mesh {
  const one = AROUND * AROUND
  const positions = new Float32Array(TORI * one * 3)
  const indices = new Uint32Array(TORI * one * 6)
  for (let t = 0, v = 0, k = 0; t < TORI; t++)
    for (let i = 0; i < AROUND; i++)
      for (let j = 0; j < AROUND; j++, v++) {
        const [u, w] = [(2 * Math.PI * i) / AROUND, (2 * Math.PI * j) / AROUND]
        const r = 0.42 + 0.16 * Math.cos(w)
        positions.set([(t % 6) * 1.3 + r * Math.cos(u), Math.floor(t / 6) * 1.3 + r * Math.sin(u), 0.16 * Math.sin(w)], v * 3) // prettier-ignore
        const at = (a: number, b: number): number => t * one + (a % AROUND) * AROUND + (b % AROUND)
        const [a, b, c, d] = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]
        indices.set([a, b, c, a, c, d], k)
        k += 6
      }
  return { positions, indices }
}
/** What anyone would write: every triangle asked for its side. */
function plainLoop({ positions: p, indices }: Mesh, n: Vec3, d: number): number {
  let cut = 0
  for (let i = 0; i < indices.length; i += 3) {
    let above = 0
    for (let k = 0; k < 3; k++) {
      const at = indices[i + k]! * 3
      if (n[0] * p[at]! + n[1] * p[at + 1]! + n[2] * p[at + 2]! - d >= 0) above++
    }
    if (above === 1 || above === 2) cut++
  }
  return cut
}
const timed = (work: () => unknown): number => {
  const start = performance.now()
  work()
  return performance.now() - start
}

export async function sections(): Promise<Row[]> {
  const mesh = closedTori()
  const tree = sliceTree(mesh)
  const manifold = await Module()
  manifold.setup()
  // the judge cuts level only: an upright plane is one of the mesh laid on its side
  const turned = Float32Array.from(mesh.positions, (_, i) => mesh.positions[i - (i % 3) + (((i % 3) + 1) % 3)]!)
  const solid = new manifold.Manifold(new manifold.Mesh({ numProp: 3, vertProperties: turned, triVerts: mesh.indices }))
  const times = { ours: [] as number[], judge: [] as number[], loop: [] as number[] }
  for (let i = 0; i < TURNS * 2; i++) {
    const x = 0.4 + 0.11 * i
    const n: Vec3 = [1, 0, 0]
    const ours = timed(() => sliceChains(tree, { point: [x, 0, 0], normal: n }))
    const judge = timed(() => solid.slice(x).delete())
    const loop = timed(() => plainLoop(mesh, n, dot(n, [x, 0, 0])))
    // the first half warms up
    if (i < TURNS) continue
    times.ours.push(ours)
    times.judge.push(judge)
    times.loop.push(loop)
  }
  solid.delete()
  const [ours, judge, loop] = [median(times.ours), median(times.judge), median(times.loop)]
  return [
    {
      what: 'upright section of 878,080 triangles, tree built before, lines chained',
      measured: `${ours.toFixed(2)} ms`,
      reference: `${judge.toFixed(2)} ms, manifold-3d slice of the same mesh`,
      ratio: ours / judge,
      wanted: 'at most 0.8',
      ok: ours / judge <= 0.8,
    },
    {
      what: 'the same against a plain loop',
      measured: `${ours.toFixed(2)} ms`,
      reference: `${loop.toFixed(2)} ms, every triangle asked for its side`,
      ratio: loop / ours,
      wanted: 'at least 15 times faster',
      ok: loop / ours >= 15,
    },
    await hallFaces(),
  ]
}

async function hallFaces(): Promise<Row> {
  const { soup, facts } = soupOf(await loadGlb(hallModel().bytes, { textures: false }))
  const scene = new MeshScene(soup, facts)
  const at = (i: number): Shown => ({
    hidden: [],
    cuts: {
      nearM: null,
      farM: null,
      list: [
        i % 2
          ? { id: 'a', name: 'A', on: true, reversed: false, kind: 'level', heightM: 1 + 0.004 * i }
          : {
              id: 'a',
              name: 'A',
              on: true,
              reversed: false,
              kind: 'upright',
              point: [5 + 0.05 * i, 4, 0],
              bearingDeg: 90,
            },
      ],
    },
  })
  const took: number[] = []
  for (let i = 0; i < 160; i++) {
    const t = timed(() => scene.faceMesh(at(i)))
    if (i >= 60) took.push(t)
  }
  const m = median(took)
  return {
    what: 'all cut faces of the hall, united and in triangles, level and upright in turns while dragged',
    measured: `${m.toFixed(1)} ms median`,
    reference: '',
    ratio: null,
    wanted: 'under 16 ms median',
    ok: m < 16,
  }
}

/** The picture with a cut and its faces against the same without, in turns. */
export async function cutPictures(): Promise<Row[]> {
  const stand = await benchPage({ '/hall.glb': hallModel().bytes })
  const { cut, plain } = await stand.page.evaluate(() => window.bench.cut('/hall.glb', 9))
  await stand.end()
  const ratio = median(cut) / median(plain)
  return [
    {
      what: 'picture after a camera move, hall, with a level cut and its faces (median of nine in turns)',
      measured: ms(median(cut)),
      reference: `${ms(median(plain))}, without`,
      ratio,
      wanted: 'at most 1.2',
      ok: ratio <= 1.2,
    },
  ]
}
