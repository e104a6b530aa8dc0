// Exact framing: fits against a search, stand rays on many triangles, the frame check of the hall, readings that follow a drag.
import { performance } from 'node:perf_hooks'
import { seededRandom } from '#core/base'
import { projectPoint, rayThrough, type Camera } from '#core/camera'
import { ALL_SHOWN } from '#core/section'
import { frameCheck, type CheckSetup } from '#core/checks'
import { fitPoints } from '#core/framing'
import type { Vec3 } from '#core/math'
import { loadGlb } from '#formats/scene'
import { checkScene, MeshScene, soupOf } from '#mesh'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { drag, middle, openStand, pictureAt } from '../tests/support/browser.ts'
import { cameraOf } from '../tests/support/cameras.ts'
import { median, type Row } from './harness.ts'
import { tori } from './models.ts'

const timed = (work: () => unknown): number => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const many = (rounds: number, work: () => unknown): number => median(Array.from({ length: rounds }, () => timed(work)))

/** The smallest distance by bisection: every point projected at each of 40 distances along the axis through the points' middle. */
function searched(camera: Camera, points: readonly Vec3[], middle: Vec3, forward: Vec3): number {
  const { widthPx: w, heightPx: h } = camera.frame
  const fits = (away: number): boolean => {
    const station = middle.map((v, k) => v - forward[k]! * away) as unknown as Vec3
    const at = { ...camera, pose: { ...camera.pose, station } }
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity]
    for (const p of points) {
      const q = projectPoint(at, p)
      if (!q) return false
      x0 = Math.min(x0, q.xPx)
      x1 = Math.max(x1, q.xPx)
      y0 = Math.min(y0, q.yPx)
      y1 = Math.max(y1, q.yPx)
    }
    return x0 >= 0.05 * w && x1 <= 0.95 * w && y0 >= 0.05 * h && y1 <= 0.95 * h
  }
  let [short, far] = [0, 200]
  for (let i = 0; i < 40; i++) {
    const mid = (short + far) / 2
    if (fits(mid)) far = mid
    else short = mid
  }
  return far
}

export async function fit(): Promise<Row[]> {
  const rng = seededRandom(7)
  const points = Array.from({ length: 100_000 }, (): Vec3 => [rng() * 8 - 4, rng() * 5 - 2.5, rng() * 3])
  const camera = cameraOf({ bearingDeg: 33, tiltDeg: -12, station: [0, -20, 2] }, { focalMm: 35, riseMm: 2 })
  const forward: Vec3 = [Math.sin(0.576) * Math.cos(-0.2094), Math.cos(0.576) * Math.cos(-0.2094), Math.sin(-0.2094)]
  // as a mesh holds its corners
  const corners = new Float64Array(points.flat())
  const work = (): unknown => fitPoints(camera, corners, { margin: 0.05 })
  // in the page fits come one after another: measured warm
  many(60, work)
  const ours = many(40, work)
  const search = many(2, () => searched(camera, points, [0, 0, 1.5], forward))
  return [
    {
      what: 'tight fit of 100,000 points by distance',
      measured: `${ours.toFixed(2)} ms`,
      reference: `${search.toFixed(0)} ms, bisection by projecting`,
      ratio: search / ours,
      wanted: 'under 5 ms, 50 times',
      ok: ours < 5 && search / ours >= 50,
    },
  ]
}

const sceneOf = async (bytes: Uint8Array): Promise<MeshScene> => {
  const { soup, facts } = soupOf(await loadGlb(bytes, { textures: false }))
  return new MeshScene(soup, facts)
}

/** Where would one stand: the picture's ray to the first floor, then the floor below the eye. */
export async function standRay(): Promise<Row[]> {
  const scene = await sceneOf(tori(35))
  const camera = cameraOf({ station: [4, -3, 2.2], bearingDeg: 0, tiltDeg: -16 }, {}, [1200, 800])
  const rng = seededRandom(3)
  const times: number[] = []
  let found = 0
  for (let i = 0; i < 600; i++) {
    const ray = rayThrough(camera, rng() * 1200, rng() * 800)!
    times.push(
      timed(() => {
        const hit = scene.pickFloor(ray)
        if (!hit) return
        found++
        scene.floorBelow([hit.point[0], hit.point[1], hit.point[2] + 1.58])
      }),
    )
  }
  const sorted = times.slice(50).sort((a, b) => a - b)
  const mid = median(sorted)
  const high = sorted[Math.floor(sorted.length * 0.99)]!
  return [
    {
      what: `stand ray with floor search, ${scene.facts.triangles.toLocaleString('en')} triangles`,
      measured: `${mid.toFixed(3)} ms (99 of 100 under ${high.toFixed(2)} ms; ${found} of 600 met a floor)`,
      reference: '',
      ratio: null,
      wanted: 'under 5 ms',
      ok: high < 5 && found > 50,
    },
  ]
}

/** The whole check as the geometry worker runs it, on the hall, against its plain rays alone. */
export async function check(): Promise<Row[]> {
  const scene = await sceneOf(hallModel().bytes)
  const setup: CheckSetup = {
    stand: { station: [1, 2.5, 1.58], aim: { kind: 'direction', bearingDeg: 91.2, tiltDeg: 0.4 }, rollDeg: 0 },
    lens: cameraOf({}, { riseMm: 2.1 }).lens,
    frame: { widthPx: 2400, heightPx: 1600, densityPpi: 300, guides: [] },
    shown: ALL_SHOWN,
  }
  const lamp = scene.facts.nodes.find((n) => n.name === 'Germination lamp')!.id
  const work = (): unknown =>
    frameCheck(
      setup,
      checkScene(scene, {
        station: setup.stand.station,
        shown: ALL_SHOWN,
        kind: 'room',
        eyeHeightM: 1.58,
        subjectId: lamp,
      }),
    )
  const first = timed(work)
  many(3, work)
  const ours = many(15, work)
  const camera = cameraOf(
    { station: setup.stand.station, bearingDeg: 91.2, tiltDeg: 0.4 },
    { riseMm: 2.1 },
    [2400, 1600],
  )
  const rays = many(15, () => {
    for (let i = 0; i < 442; i++)
      scene.pick(rayThrough(camera, ((i % 26) + 0.5) * 92, (Math.floor(i / 26) + 0.5) * 94)!)
  })
  return [
    {
      what: 'whole frame check of the hall, subject known, in the worker',
      measured: `${ours.toFixed(1)} ms (the first of a scene ${first.toFixed(0)} ms)`,
      reference: `${rays.toFixed(1)} ms, 442 picture rays alone`,
      ratio: ours / rays,
      wanted: 'under 50 ms',
      ok: ours < 50,
    },
  ]
}

/** During a drag: frames in which lean, distance and eye height are those of the camera shown. */
export async function readings(): Promise<Row[]> {
  const stand = await openStand({ demo: true })
  const page = await stand.page()
  await page.goto(`${stand.server.url}/project/demo-hall`)
  await pictureAt(page, 'all')
  await page.getByTitle('Up and down drags', { exact: false }).click()
  const from = await middle(page, 'plan-station')
  await drag(page, from, { x: 4, y: 2 })
  await page.waitForTimeout(1500)
  // as text: the loader that runs this file would add helpers that the page does not have
  await page.evaluate(`{
    const pinia = document.querySelector('#app').__vue_app__.config.globalProperties.$pinia
    const project = pinia._s.get('project')
    window.frames5 = { n: 0, place: 0, gaps: [] }
    let last = performance.now()
    const input = (label) => [...document.querySelectorAll('label')].find((l) => l.textContent === label)
    const value = (label) => Number(document.getElementById(input(label).htmlFor).value.replace('−', '-'))
    const tick = (t) => {
      window.frames5.gaps.push(t - last)
      last = t
      const live = project.live
      if (live) {
        window.frames5.n++
        const s = project.camera.pose.station
        if (Math.abs(value('East (x)') - s[0]) < 0.006 && Math.abs(value('Eye height') - 1.58) < 0.006) window.frames5.place++
      }
      requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
  }`)
  const at = await middle(page, 'plan-station')
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  const start = Date.now()
  for (let i = 0; Date.now() - start < 4000; i++) {
    await page.mouse.move(at.x + 30 + 24 * Math.sin(i / 12), at.y - 8 * Math.sin(i / 7))
    await page.waitForTimeout(16)
  }
  const r = (await page.evaluate('window.frames5')) as { n: number; place: number; gaps: number[] }
  await page.mouse.up()
  await stand.end()
  const worst = Math.max(...r.gaps.slice(2))
  return [
    {
      what: 'station and eye height shown are those of the moment, in a 4 s drag on Plan',
      measured: `${r.place} of ${r.n} frames, longest gap ${worst.toFixed(0)} ms`,
      reference: '',
      ratio: null,
      wanted: 'every frame',
      ok: r.n > 60 && r.place >= r.n * 0.98,
    },
  ]
}
