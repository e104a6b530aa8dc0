// Focus and exposure in the running application: discs of blurred points against the formula, an exposure that draws nothing again, a
// picked grey, focus by Alt-click, what is kept sharp.
import { readFileSync } from 'node:fs'
import { Readable } from 'node:stream'
import { PNG } from 'pngjs'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { poseOfStand, principalPointPx, projectPoint, type Camera } from '#core/camera'
import { blurDiscMm, depthOf, exposureFactor } from '#core/optics'
import type { Vec3 } from '#core/math'
import { aimAt, applyCommand, newModel, newProject, type ProjectDocument, type Setup } from '#model'
import { Pen } from '../../scripts/demo-data/kit.ts'
import { MATERIALS } from '../../scripts/demo-data/surfaces.ts'
import { meanDifference, openStand, pictureAt, picturePixels, typeNumber, type Stand } from '../support/browser.ts'
import { linearOf } from '../../stage/flat-tone.ts'
import { glbOf } from '../support/models.ts'

let stand: Stand
let page: Page
let id = ''
beforeAll(async () => {
  stand = await openStand({ demo: true })
  page = await stand.page({ width: 1120, height: 560, samples: 32 })
})
afterAll(async () => {
  expect(stand.errors).toEqual([])
  await stand.end()
})
const saved = async (): Promise<ProjectDocument> => {
  await expect.poll(() => page.getByTestId('save-state').textContent(), { timeout: 30_000 }).toMatch(/^Saved/)
  return (await stand.server.projects.open(id)).document
}
/** So many samples from the next page on, on the screen and in what is saved. */
const refineWith = (samples: number): Promise<unknown> =>
  page.addInitScript((n) => ['samples', 'stillSamples'].forEach((k) => localStorage.setItem(`yoroi.${k}`, n)), String(samples)) // prettier-ignore
const LINEAR = Array.from({ length: 256 }, (_, v) => linearOf([v / 255, v / 255, v / 255])[0])
type Pixels = Awaited<ReturnType<typeof picturePixels>>

/** Energy, middle and variance of what shines round a place, in linear light. */
function spotOf({ width, height, data }: Pixels, at: { x: number; y: number }, reach: number) {
  let [e, sx, sy] = [0, 0, 0]
  const each = (f: (x: number, y: number, v: number) => void): void => {
    for (let y = Math.max(0, Math.round(at.y - reach)); y < Math.min(height, at.y + reach); y++)
      for (let x = Math.max(0, Math.round(at.x - reach)); x < Math.min(width, at.x + reach); x++) {
        const v = LINEAR[data[(y * width + x) * 4 + 1]!]!
        // the half level of noise over black is none of it
        if (v > LINEAR[1]!) f(x, y, v)
      }
  }
  each((x, y, v) => {
    e += v
    sx += x * v
    sy += y * v
  })
  const [mx, my] = [sx / e, sy / e]
  let r2 = 0
  each((x, y, v) => (r2 += v * ((x - mx) ** 2 + (y - my) ** 2)))
  let peak = 0
  each((_x, _y, v) => (peak = Math.max(peak, v)))
  return { peak, energy: e, x: mx + 0.5, y: my + 0.5, r2: r2 / e }
}

describe('a bright point out of focus', () => {
  const LIGHTS: readonly (readonly [Vec3, number])[] = [[[-0.22, 1.2, 1], 0.014], [[0, 3, 1.3], 0.03], [[1.5, 8, 0.5], 0.09]] // prettier-ignore
  const base = aimAt([0, 0, 1], [0, 3, 1])
  async function picture(focus: Partial<Setup['focus']>): Promise<{ pixels: Pixels; camera: Camera }> {
    const pen = LIGHTS.map(
      ([p, a], i) =>
      new Pen(`Light ${i}`).use('led').box(p[0] - a / 2, p[1] - a / 2, p[2] - a / 2, p[0] + a / 2, p[1] + a / 2, p[2] + a / 2, { bevel: 0 }).node(), // prettier-ignore
    )
    const glb = glbOf([{ name: 'Lights', children: pen }])
    const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glb)]), mediaType: 'model/gltf-binary', fileName: 'lights.glb' }) // prettier-ignore
    const models = [newModel({ id: 'm', name: 'lights.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
    const made = newProject({ name: 'Lights', subject: 'room', stand: base, models })
    const { working: w } = made
    const working: Setup = {
      ...w,
      lens: { ...w.lens, focalMm: 50, riseMm: 2.5, crossMm: -3 },
      frame: { ...w.frame, widthPx: 600, heightPx: 400 },
      focus: { ...w.focus, ...focus },
      exposure: { ...w.exposure, mode: 'direct', ev100: 18.56, outsideEv100: 18.56, tone: 'linear' },
      look: { ...w.look, sun: { ...w.look.sun, on: false }, backdrop: { kind: 'colour', colour: [0, 0, 0] } },
    }
    id = (await stand.server.projects.create({ ...made, working })).id
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 'all')
    return { pixels: await picturePixels(page), camera: { pose: poseOfStand(working.stand), lens: working.lens, frame: working.frame } } // prettier-ignore
  }
  it('is a disc of the formula’s size within a pixel, in its place though the lens is shifted, with the energy it had', async () => {
    const focus = { on: true, fNumber: 0.7, mode: { kind: 'distance', distanceM: 3 } } as const
    const sharp = await picture({ on: false })
    const soft = await picture(focus)
    const k = soft.pixels.width / 600
    const { pxPerMm } = principalPointPx(soft.camera)
    for (const [point] of LIGHTS) {
      const at = projectPoint(soft.camera, point)!
      const place = { x: at.xPx * k, y: at.yPx * k }
      const mm = blurDiscMm({ focalMm: 50, fNumber: 0.7, focusM: 3, distanceM: depthOf(soft.camera.pose, point) })
      const wanted = mm * pxPerMm * k
      const reach = wanted * 0.8 + 14
      const [before, after] = [spotOf(sharp.pixels, place, reach), spotOf(soft.pixels, place, reach)]
      // the mean square radius of a disc is half its radius squared
      const disc = 2 * Math.sqrt(Math.max(0, 2 * (after.r2 - before.r2)))
      expect(Math.abs(disc - wanted), `${point[1]} m: ${disc} for ${wanted}`).toBeLessThan(1)
      expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(0.6)
      expect.soft(Math.abs(after.energy / before.energy - 1), `${point[1]} m`).toBeLessThan(0.02)
    }
  }, 120_000)
})

describe('a bright point drawn as the aperture', () => {
  async function opened(
    focus: Partial<Setup['focus']>,
    ev100: number,
    finish?: Setup['exposure']['finish'],
    before: ReturnType<Pen['node']>[] = [],
    plain?: readonly [number, number, number],
  ): Promise<{ pixels: Pixels; camera: Camera }> {
    // about ten pixels a side: of a smaller one the samples' places would tell its area no better than this
    const a = 0.03
    const nodes = [
      new Pen('Light')
        .use('led')
        .box(-a, 5 - a, 1 - a, a, 5 + a, 1 + a, { bevel: 0 })
        .node(),
      ...(plain ? [] : [new Pen('Wall').use('plaster').box(-6, 9, -4, 6, 9.2, 6, { bevel: 0 }).node()]),
      ...before,
    ]
    const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glbOf([{ name: 'Lights', children: nodes }]))]), mediaType: 'model/gltf-binary', fileName: 'lights.glb' }) // prettier-ignore
    const models = [newModel({ id: 'm', name: 'lights.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
    const made = newProject({ name: 'Light', subject: 'room', stand: aimAt([0, 0, 1], [0, 3, 1]), models })
    const { working: w } = made
    const working: Setup = {
      ...w,
      lens: { ...w.lens, focalMm: 85, riseMm: 0, crossMm: 0 },
      frame: { ...w.frame, widthPx: 600, heightPx: 400 },
      focus: { ...w.focus, ...focus },
      exposure: {
        ...w.exposure,
        mode: 'direct',
        ev100,
        outsideEv100: ev100,
        tone: 'linear',
        ...(finish && { finish }),
      },
      look: {
        ...w.look,
        sun: { ...w.look.sun, on: false },
        ...(plain && { backdrop: { kind: 'colour', colour: plain } }),
      },
    }
    id = (await stand.server.projects.create({ ...made, working })).id
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 'all')
    return { pixels: await picturePixels(page), camera: { pose: poseOfStand(working.stand), lens: working.lens, frame: working.frame } } // prettier-ignore
  }
  it('has as many corners as the aperture, turned as it is, its size and its light', async () => {
    const [EV, SHARP_EV] = [15, 19]
    const focus = { on: true, fNumber: 1, mode: { kind: 'distance', distanceM: 1 }, aperture: { blades: 6, rotationDeg: 20, roundness: 0 } } as const // prettier-ignore
    const sharp = await opened({ on: false }, SHARP_EV)
    const without = await opened({ ...focus, highlights: 0 }, EV)
    const soft = await opened(focus, EV)
    const { width, height } = soft.pixels
    const shape = Float64Array.from({ length: width * height }, (_, i) => LINEAR[soft.pixels.data[i * 4 + 1]!]! - LINEAR[without.pixels.data[i * 4 + 1]!]!) // prettier-ignore
    const inner = shape[(height >> 1) * width + (width >> 1)]!
    expect(inner).toBeGreaterThan(0.02)
    // from the middle outward, where it ends in each direction
    const n = 144
    const edge = Array.from({ length: n }, (_, k) => {
      const t = (2 * Math.PI * k) / n
      for (let r = 0; ; r += 0.25) {
        const [x, y] = [Math.floor(width / 2 + r * Math.cos(t)), Math.floor(height / 2 - r * Math.sin(t))]
        if (x < 0 || y < 0 || x >= width || y >= height || shape[y * width + x]! < inner / 2) return r
      }
    })
    const harmonic = (m: number): readonly [number, number] => [0, 1].map((q) => edge.reduce((s, r, k) => s + r * (q ? Math.sin : Math.cos)((2 * Math.PI * k * m) / n), 0) / n) as [number, number] // prettier-ignore
    const strengths = [3, 4, 5, 6, 7, 8, 9].map((m) => Math.hypot(...harmonic(m)))
    expect(3 + strengths.indexOf(Math.max(...strengths))).toBe(6)
    // the first corner points up, turned clockwise by 20 degrees: 70 degrees, as each sixth of a turn from it
    const [re, im] = harmonic(6)
    const corner = ((Math.atan2(im, re) * 180) / Math.PI / 6 + 360) % 60
    expect(Math.abs(corner - 10)).toBeLessThan(2)
    // its corners lie on the disc of the formula
    const k = width / 600
    const disc = blurDiscMm({ focalMm: 85, fNumber: 1, focusM: 1, distanceM: 5 - 0.03 }) * principalPointPx(soft.camera).pxPerMm * k // prettier-ignore
    expect(Math.abs(2 * Math.max(...edge) - disc)).toBeLessThan(3)
    // what it lost in the samples it has as a shape
    const lost = { sharp: 0, soft: 0 }
    const wall = LINEAR[sharp.pixels.data[5]!]!
    for (let i = 0; i < shape.length; i++) {
      lost.soft += shape[i]!
      // only where it is: the noise of half a level over a dark wall would add up
      const off = Math.hypot((i % width) - width / 2, Math.floor(i / width) - height / 2)
      if (off < 20) lost.sharp += Math.max(0, LINEAR[sharp.pixels.data[i * 4 + 1]!]! - wall)
    }
    const energy = lost.soft / (lost.sharp * 2 ** (SHARP_EV - EV))
    expect(Math.abs(energy - 1), `${energy}`).toBeLessThan(0.02)
    await page.getByTestId('cell-focus').click()
    expect(await page.getByTestId('points-told').textContent()).toMatch(/^1 bright point, discs of \d+ px/)
  }, 180_000)
  it('is an even shape too where a post hides it from the middle of the lens', async () => {
    const [half, away] = [0.012, 1.5]
    const post = new Pen('Post')
      .use('plaster')
      .box(-half, away - 0.002, 0, half, away, 2, { bevel: 0 })
      .node()
    const focus = { on: true, fNumber: 1, mode: { kind: 'distance', distanceM: 1 } } as const
    const without = await opened({ ...focus, highlights: 0 }, 15, undefined, [post])
    const soft = await opened(focus, 15, undefined, [post])
    const { width, height } = soft.pixels
    const radius = (blurDiscMm({ focalMm: 85, fNumber: 1, focusM: 1, distanceM: 4.97 }) * principalPointPx(soft.camera).pxPerMm * width) / 600 / 2 // prettier-ignore
    const at = (u: number, v: number): number => {
      const i = (Math.floor(height / 2 - v * radius) * width + Math.floor(width / 2 + u * radius)) * 4 + 1
      return LINEAR[soft.pixels.data[i]!]! - LINEAR[without.pixels.data[i]!]!
    }
    // the lens sees past the post from |u| > half / (its radius times what is left of the way), by similar triangles
    const sees = half / (0.085 / 2) / (1 - away / 4.97)
    expect(sees).toBeLessThan(0.5)
    const seen: number[] = []
    const hidden: number[] = []
    for (let u = -0.85; u <= 0.86; u += 0.05)
      for (let v = -0.4; v <= 0.41; v += 0.05) {
        // the light itself is as wide as a fifth of its disc
        if (Math.hypot(u, v) > 0.82) continue
        if (Math.abs(u) > sees + 0.12) seen.push(at(u, v))
        else if (Math.abs(u) < sees - 0.2) hidden.push(at(u, v))
      }
    const mean = seen.reduce((a, b) => a + b) / seen.length
    expect(seen.length).toBeGreaterThan(80)
    expect(mean).toBeGreaterThan(0.02)
    for (const v of seen) expect(Math.abs(v / mean - 1)).toBeLessThan(0.05)
    for (const v of hidden) expect(Math.abs(v)).toBeLessThan(0.1 * mean)
    await page.getByTestId('cell-focus').click()
    expect(await page.getByTestId('points-told').textContent()).toMatch(/^1 bright point/)
  }, 180_000)
  it('shines over a plain backdrop too, which stays its colour elsewhere', async () => {
    const focus = { on: true, fNumber: 1, mode: { kind: 'distance', distanceM: 1 } } as const
    const grey = 0.4
    const wall = await opened(focus, 15)
    const plain = await opened(focus, 15, undefined, [], [grey, grey, grey])
    const { width, height } = plain.pixels
    const radius = (blurDiscMm({ focalMm: 85, fNumber: 1, focusM: 1, distanceM: 4.97 }) * principalPointPx(plain.camera).pxPerMm * width) / 600 / 2 // prettier-ignore
    const [middle, corner] = [((height >> 1) * width + (width >> 1)) * 4 + 1, 4 * width * 3 + 13]
    const light = LINEAR[wall.pixels.data[middle]!]! - LINEAR[wall.pixels.data[corner]!]!
    expect(light).toBeGreaterThan(0.02)
    // its edge is a ramp as wide as the light itself: a disc laid over a square
    const side = (0.06 * 85 * principalPointPx(wall.camera).pxPerMm * width) / 600 / (4.97 - 0.085)
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const)
      for (const [off, share] of [
        [-0.3, 0.8],
        [0, 0.5],
        [0.3, 0.2],
      ] as const) {
        const r = radius + off * side
        const i = (Math.round(height / 2 - 0.5 + dy * r) * width + Math.round(width / 2 - 0.5 + dx * r)) * 4 + 1
        const seen = (LINEAR[wall.pixels.data[i]!]! - LINEAR[wall.pixels.data[corner]!]!) / light
        expect.soft(Math.abs(seen - share), `${dx} ${dy}, ${off} of its side past the rim: ${seen}`).toBeLessThan(0.12)
      }
    const level = Math.round(grey * 255)
    const ground = LINEAR[level]!
    for (let k = 0; k < 32; k++) {
      const at = (r: number): number => {
        const [x, y] = [Math.floor(width / 2 + r * Math.cos(k * 0.2)), Math.floor(height / 2 + r * Math.sin(k * 0.2))]
        return x < 0 || y < 0 || x >= width || y >= height ? level : plain.pixels.data[(y * width + x) * 4 + 1]!
      }
      // as much of what the ground leaves to white as the light is by itself
      const wanted = ground + (1 - ground) * light
      for (const share of [0.2, 0.4, 0.65])
        expect
          .soft(LINEAR[at(share * radius)]! / wanted, `${k}, ${share} of the radius; ${wanted}, ${light}`)
          .toBeCloseTo(1, 1)
      expect(Math.abs(at(1.2 * radius) - level)).toBeLessThanOrEqual(1)
    }
  }, 180_000)
  it('an edge before a plain backdrop is blurred without steps, of few samples too', async () => {
    await page.addInitScript(() => localStorage.setItem('yoroi.samples', '8'))
    const [away, edgeX] = [4.5, 0.3]
    const box = new Pen('Box').use('plaster').box(-6, away, -4, edgeX, 4.7, 6, { bevel: 0 }).node()
    const focus = { on: true, fNumber: 2, mode: { kind: 'distance', distanceM: 1 } } as const
    const { pixels, camera } = await opened(focus, 24, undefined, [box], [0.8, 0.8, 0.8])
    await page.addInitScript(() => localStorage.setItem('yoroi.samples', '32'))
    const { width, height, data } = pixels
    const { pxPerMm } = principalPointPx(camera)
    const radius = (blurDiscMm({ focalMm: 85, fNumber: 2, focusM: 1, distanceM: away }) * pxPerMm * width) / 600 / 2
    const edge = width * (0.5 + ((edgeX / away) * 85 * pxPerMm) / 600)
    const [top, bottom] = [Math.round(height * 0.3), Math.round(height * 0.7)]
    const misses: number[] = []
    for (let x = Math.round(edge - 1.3 * radius); x < edge + 1.3 * radius; x++) {
      let sum = 0
      for (let y = top; y < bottom; y++) sum += LINEAR[data[(y * width + x) * 4 + 1]!]!
      // the share of a disc to one side of a line
      const u = Math.min(1, Math.max(-1, (x + 0.5 - edge) / radius))
      const share = 0.5 + (u * Math.sqrt(1 - u * u) + Math.asin(u)) / Math.PI
      misses.push(sum / (bottom - top) / LINEAR[204]! - share)
    }
    expect(Math.max(...misses.map(Math.abs))).toBeLessThan(0.06)
  }, 120_000)
  it('a colour table is what the finish says; a broken file is said beside the field and the old one stays', async () => {
    const before = await opened({ on: false }, 13)
    await page.getByTestId('cell-exposure').click()
    const corners = [0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${1 - r} ${1 - g} ${1 - b}`)))
    const cube = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
    const file = page.getByLabel('Colour table file')
    await file.setInputFiles(cube('negative.cube', `LUT_3D_SIZE 2\n${corners.join('\n')}\n`))
    await expect.poll(() => page.getByRole('combobox', { name: 'Colour table' }).textContent()).toContain('negative')
    const isNegative = async (): Promise<boolean> => {
      const after = await picturePixels(page)
      return [0, 40, 80, 120].every((i) => Math.abs(after.data[i]! + before.pixels.data[i]! - 255) <= 2)
    }
    await expect.poll(isNegative).toBe(true)
    await file.setInputFiles(cube('odd.cube', 'LUT_3D_SIZE 2\n0 0 zero\n'))
    expect(await page.getByTestId('table-said').textContent()).toBe('odd.cube was not taken. Line 2: “zero” is not a number.') // prettier-ignore
    expect((await saved()).working.exposure.finish?.table?.strength).toBe(1)
    expect(await isNegative()).toBe(true)
  }, 120_000)
})

describe('a lamp of the file', () => {
  it('gives candela by the distance squared, and a shadow', async () => {
    const D = 2
    const CANDELA = 4e5
    const { NodeIO } = await import('@gltf-transform/core')
    const { ALL_EXTENSIONS, KHRLightsPunctual } = await import('@gltf-transform/extensions')
    const nodes = [
      new Pen('Wall')
        .use('plaster')
        .box(-4, D, -4, 4, D + 0.2, 4, { bevel: 0 })
        .node(),
      new Pen('Plate')
        .use('plaster')
        .box(0.2, D / 2 - 0.01, -0.1, 0.4, D / 2 + 0.01, 0.1, { bevel: 0 })
        .node(),
    ]
    const io = new NodeIO().registerExtensions(ALL_EXTENSIONS)
    const doc = await io.readBinary(glbOf([{ name: 'Set', children: nodes }]))
    const bulb = doc.createExtension(KHRLightsPunctual).createLight('Bulb').setType('point').setIntensity(CANDELA)
    const shining = await io.writeBinary(doc).then(async () => {
      doc.getRoot().listScenes()[0]!.addChild(doc.createNode('Bulb').setExtension('KHR_lights_punctual', bulb)) // prettier-ignore
      return io.writeBinary(doc)
    })
    const wallOf = async (glb: Uint8Array): Promise<Pixels> => {
      const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glb)]), mediaType: 'model/gltf-binary', fileName: 'set.glb' }) // prettier-ignore
      const models = [newModel({ id: 'm', name: 'set.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
      const made = newProject({ name: 'Lamp', subject: 'room', stand: aimAt([0, -1, 0], [0, 1, 0]), models })
      const { working: w } = made
      const working: Setup = {
        ...w,
        lens: { ...w.lens, focalMm: 24, riseMm: 0, crossMm: 0 },
        frame: { ...w.frame, widthPx: 600, heightPx: 400 },
        exposure: { ...w.exposure, mode: 'direct', ev100: 15, outsideEv100: 15, tone: 'linear' },
        look: { ...w.look, sun: { ...w.look.sun, on: false } },
      }
      id = (await stand.server.projects.create({ ...made, working })).id
      await page.goto(`${stand.server.url}/project/${id}`)
      await pictureAt(page, 'all')
      return picturePixels(page)
    }
    const dark = await wallOf(glbOf([{ name: 'Set', children: nodes }]))
    const lit = await wallOf(shining)
    const { width, height } = lit
    // 24 mm, 3 m away: metres on the wall to shares of the picture
    const at = (x: number): number => {
      const px = Math.round(width * (0.5 + (x / 3) * (24 / 36)))
      const i = ((height >> 1) * width + px) * 4 + 1
      return LINEAR[lit.data[i]!]! - LINEAR[dark.data[i]!]!
    }
    const middle = at(0)
    expect(middle).toBeGreaterThan(0.2)
    expect(middle).toBeLessThan(0.98)
    // E = I cos^3 / d2 on a wall square to the way: one metre aside
    const cos = D / Math.hypot(D, 1)
    expect(at(-1) / middle).toBeCloseTo(cos ** 3, 1)
    // behind the plate, which the lamp sees at 0.2 to 0.4 m halfway: 0.4 to 0.8 m on the wall
    expect(at(0.62) / at(-0.62)).toBeLessThan(0.35)
  }, 120_000)
})

describe('the lamp’s lights', () => {
  it('are the same discs in the saved picture as on the screen', async () => {
    const { document } = await stand.server.projects.open('demo-lamp')
    const lights = document.viewpoints.find((v) => v.name === 'Lights of the ring')!
    const frame = { ...document.working.frame, widthPx: 420, heightPx: 280, densityPpi: 72 }
    const working: Setup = { ...document.working, ...lights.parts, frame } as Setup
    id = (await stand.server.projects.create({ ...document, name: 'Ring', working })).id
    await refineWith(8)
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 'all')
    const shown = await picturePixels(page)
    const download = page.waitForEvent('download', { timeout: 120_000 })
    await page.keyboard.press('Control+s')
    const png = PNG.sync.read(readFileSync((await (await download).path())!))
    expect([png.width, png.height]).toEqual([420, 280])
    /** Means over a grid of 60 by 40 cells. */
    const cells = (p: { width: number; height: number; data: ArrayLike<number> }): number[] =>
      Array.from({ length: 2400 }, (_, i) => {
        const [x0, y0] = [(i % 60) / 60, Math.floor(i / 60) / 40]
        let [sum, n] = [0, 0]
        for (let y = Math.ceil(y0 * p.height); y < (y0 + 1 / 40) * p.height; y++)
          for (let x = Math.ceil(x0 * p.width); x < (x0 + 1 / 60) * p.width; x++, n++)
            sum += p.data[(y * p.width + x) * 4 + 1]!
        return n > 0 ? sum / n : 0
      })
    const [a, b] = [cells(shown), cells(png)]
    const gaps = a.map((v, i) => Math.abs(v - b[i]!))
    expect(gaps.reduce((s, v) => s + v, 0) / gaps.length).toBeLessThan(3)
    // the discs stand out: a good part of the cells is at its brightest, in both
    for (const c of [a, b]) expect(c.filter((v) => v > 245).length).toBeGreaterThan(40)
    await page.getByTestId('cell-focus').click()
    expect(await page.getByTestId('points-told').textContent()).toMatch(/^\d+ bright points?, discs of/)
  }, 180_000)
})

describe('glass in the sun', () => {
  it('tints the light that goes through it, once for a pane with two faces, and nothing before it', async () => {
    const { NodeIO } = await import('@gltf-transform/core')
    const { ALL_EXTENSIONS } = await import('@gltf-transform/extensions')
    const nodes = [
      new Pen('Floor').use('paper').box(-5, -5, -0.2, 5, 5, 0, { bevel: 0 }).node(),
      new Pen('Pane').use('dome glass').box(-2, -1, 1.5, 0, 1, 1.51, { bevel: 0 }).node(),
    ]
    const io = new NodeIO().registerExtensions(ALL_EXTENSIONS)
    const doc = await io.readBinary(glbOf([{ name: 'Set', children: nodes }]))
    for (const m of doc.getRoot().listMaterials())
      if (m.getAlphaMode() === 'BLEND') m.setBaseColorFactor([1, 0.1, 0.1, 0.6])
    const glb = await io.writeBinary(doc)
    const asset = await stand.server.assets.store({ body: Readable.from([Buffer.from(glb)]), mediaType: 'model/gltf-binary', fileName: 'pane.glb' }) // prettier-ignore
    const models = [newModel({ id: 'm', name: 'pane.glb', sha256: asset.sha256, sizeBytes: asset.sizeBytes })]
    const made = newProject({ name: 'Pane', subject: 'room', stand: aimAt([0, -6, 4], [0, 0, 0]), models })
    const { working: w } = made
    const working: Setup = {
      ...w,
      lens: { ...w.lens, focalMm: 24, riseMm: 0, crossMm: 0 },
      frame: { ...w.frame, widthPx: 600, heightPx: 400 },
      exposure: { ...w.exposure, mode: 'direct', ev100: 15.5, outsideEv100: 15.5, tone: 'linear' },
      look: { ...w.look, sun: { ...w.look.sun, on: true, shadow: true, bearingDeg: 180, elevationDeg: 60 } },
    }
    // with a viewpoint that keeps its light
    const kept = applyCommand({ ...made, working }, { type: 'keepAsNew', id: 'day', name: 'By day', parts: ['stand', 'lens', 'frame', 'look.sun', 'exposure'] }) // prettier-ignore
    if (!kept.ok) throw new Error('not kept')
    id = (await stand.server.projects.create(kept.value.document)).id
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 'all')
    const { width, data } = await picturePixels(page)
    const camera: Camera = { pose: poseOfStand(working.stand), lens: working.lens, frame: working.frame }
    const at = (p: Vec3): readonly [number, number] => {
      const q = projectPoint(camera, p)!
      const i = (Math.round((q.yPx * width) / 600) * width + Math.round((q.xPx * width) / 600)) * 4
      return [LINEAR[data[i]!]!, LINEAR[data[i + 2]!]!]
    }
    // the sun stands in the south at 60 degrees: the pane's light falls 0.87 m north of it
    const [under, beside] = [at([-1, 0.9, 0]), at([1, 0.9, 0])]
    const redder = under[0] / under[1] / (beside[0] / beside[1])
    // of the sun 1 - 0.6 * 0.9 = 0.46 of the blue is left, of the sky all
    expect(redder).toBeGreaterThan(1.4)
    expect(redder).toBeLessThan(2.2)
    expect(under[0] / beside[0]).toBeGreaterThan(0.85)
  }, 120_000)
  it('lies on open ground in lux: the sky’s, and the sun’s by the sine of its height; no light is black', async () => {
    // green of paper out in the open: the light's colours hardly tint it. Of a matt surface luminance is albedo * lux / pi
    const { width, height } = await picturePixels(page)
    const ground = async (): Promise<number> => {
      const { data } = await picturePixels(page)
      let sum = 0
      for (let y = -4; y <= 4; y++)
        for (let x = -4; x <= 4; x++) sum += LINEAR[data[((Math.round(height * 0.8) + y) * width + Math.round(width * 0.7) + x) * 4 + 1]!]! / 81 // prettier-ignore
      return sum
    }
    const [, paper] = MATERIALS.find((m) => m.name === 'paper')!.baseColour
    const seen = (lux: number): number => ((paper * lux) / Math.PI) * exposureFactor(15.5)
    const sine = Math.sin(Math.PI / 3)
    const near = (lux: number) => expect.poll(async () => (await ground()) / seen(lux), { timeout: 30_000 })
    await page.getByTestId('cell-look').click()
    await near(14_000 + 42_000 * sine).toBeCloseTo(1, 1)
    const tile = page.getByTestId('viewpoint').first().locator('canvas')
    /** Of the viewpoint that was kept by day, as its small picture shows it. */
    const kept = async (): Promise<number> => {
      await expect.poll(() => tile.getAttribute('data-drawn'), { timeout: 30_000 }).toBe('yes')
      return tile.evaluate((c: HTMLCanvasElement) => {
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height)
        return data.reduce((sum, v, i) => sum + (i % 4 === 1 ? v : 0), 0) / (data.length / 4)
      })
    }
    const byDay = await kept()
    await typeNumber(page, 'Sunlight', '30000')
    await typeNumber(page, 'Skylight', '24000')
    await near(24_000 + 30_000 * sine).toBeCloseTo(1, 1)
    await page.getByLabel('Sun', { exact: true }).click()
    await near(24_000).toBeCloseTo(1, 1)
    /** Which light from all sides the finished picture has. */
    const lights = async (): Promise<string | null> => {
      await pictureAt(page, 'all')
      return page.getByTestId('picture-canvas').getAttribute('data-lights')
    }
    const before = await lights()
    await typeNumber(page, 'Skylight', '24')
    await expect.poll(lights, { timeout: 30_000 }).not.toBe(before)
    // the light that is worked out is of dusk now: what is by day is not dark for that
    expect(Math.abs((await kept()) / byDay - 1)).toBeLessThan(0.12)
    const atDusk = await lights()
    await typeNumber(page, 'Skylight', '0')
    await expect.poll(ground, { timeout: 30_000 }).toBe(0)
    await expect.poll(lights, { timeout: 30_000 }).not.toBe(atDusk)
    expect(await ground()).toBe(0)
    expect(Math.abs((await kept()) / byDay - 1)).toBeLessThan(0.12)
    await typeNumber(page, 'Skylight', '-5')
    await expect.poll(() => page.getByRole('alert').first().textContent()).toMatch(/0/)
    const { sun } = (await saved()).working.look
    expect([sun.sunLux, sun.skyLux]).toEqual([30_000, 0])
  }, 120_000)
})

describe('the hall', () => {
  async function openHall(change: (s: Setup) => Setup = (s) => s): Promise<void> {
    const { document } = await stand.server.projects.open('demo-hall')
    const small = { ...document.working.frame, widthPx: 600, heightPx: 400, densityPpi: 72 }
    const made = await stand.server.projects.create({ ...document, name: 'Copy', working: change({ ...document.working, frame: small }) }) // prettier-ignore
    id = made.id
    await refineWith(4)
    await page.goto(`${stand.server.url}/project/${id}`)
    await pictureAt(page, 'all')
  }
  const linearMean = (p: Pixels): number => {
    let sum = 0
    for (let i = 1; i < p.data.length; i += 4) sum += LINEAR[p.data[i]!]!
    return sum / (p.data.length / 4)
  }

  it('an EV more of compensation doubles the light, and draws no surface again', async () => {
    await openHall((s) => ({ ...s, exposure: { ...s.exposure, tone: 'linear', ev100: 15.5 } }))
    await page.getByTestId('cell-exposure').click()
    const before = await picturePixels(page)
    await page.evaluate(() => {
      const c = document.querySelector<HTMLCanvasElement>('[data-testid=picture-canvas]')!
      const seen: string[] = []
      new MutationObserver(() => seen.push(c.dataset['sample']!)).observe(c, { attributeFilter: ['data-sample'] })
      Object.assign(window, { seen })
    })
    await typeNumber(page, 'Brighter by', '1')
    await pictureAt(page, 'all')
    const after = await picturePixels(page)
    // of pixels that are neither clipped nor lost in the levels of eight bits
    let [sum, n] = [0, 0]
    for (let i = 1; i < before.data.length; i += 4) {
      if (before.data[i]! < 60 || before.data[i]! > 170) continue
      sum += LINEAR[after.data[i]!]! / LINEAR[before.data[i]!]!
      n++
    }
    expect(n).toBeGreaterThan(2000)
    expect(sum / n).toBeGreaterThan(1.98)
    expect(sum / n).toBeLessThan(2.02)
    // asked for, and finished at once: no sample between
    expect(await page.evaluate(() => (window as unknown as { seen: string[] }).seen)).toEqual(['0', '4'])
    expect(linearMean(after)).toBeGreaterThan(linearMean(before))
  })
  it('a clicked grey comes out without a colour, by the light that falls on it', async () => {
    await page.getByRole('button', { name: 'a grey…' }).click()
    const box = (await page.getByTestId('picture-canvas').boundingBox())!
    // the plaster of the south wall, in the light of the room
    await page.mouse.click(box.x + box.width * 0.9, box.y + box.height * 0.3)
    await expect.poll(async () => (await saved()).working.exposure.whiteBalance.kelvin).not.toBe(6504)
    await pictureAt(page, 'all')
    const { width, height, data } = await picturePixels(page)
    const rgb = [0, 0, 0]
    for (let y = -3; y <= 3; y++)
      for (let x = -3; x <= 3; x++)
        for (let c = 0; c < 3; c++)
          rgb[c]! += data[((Math.round(height * 0.3) + y) * width + Math.round(width * 0.9) + x) * 4 + c]! / 49
    expect(Math.max(...rgb) - Math.min(...rgb)).toBeLessThan(2.5)
    await page.getByRole('button', { name: 'day', exact: true }).click()
    await expect.poll(async () => (await saved()).working.exposure.whiteBalance.kelvin).toBe(6504)
  })
  it('Alt-click focuses; the zone stands in Plan; sharp from here to there is solved; refused values stay', async () => {
    await page.getByTestId('cell-focus').click()
    const box = (await page.getByTestId('picture-canvas').boundingBox())!
    const before = await picturePixels(page)
    await page.keyboard.down('Alt')
    await page.mouse.click(box.x + box.width * 0.28, box.y + box.height * 0.78)
    await page.keyboard.up('Alt')
    await expect.poll(async () => (await saved()).working.focus.mode.kind).toBe('point')
    expect(await page.getByTestId('focus-zone').count()).toBe(2)
    await typeNumber(page, 'f-number', '1')
    await pictureAt(page, 'all')
    expect(meanDifference(before, await picturePixels(page))).toBeGreaterThan(0.5)
    await page.getByRole('button', { name: 'from here to there' }).click()
    await page.mouse.click(box.x + box.width * 0.28, box.y + box.height * 0.78)
    await page.getByText('Now the farthest place').waitFor()
    await page.mouse.click(box.x + box.width * 0.8, box.y + box.height * 0.45)
    await expect.poll(async () => (await saved()).working.focus.mode.kind).toBe('distance')
    const { focus } = (await saved()).working
    // both ends lie in the zone that is told
    const text = await page.getByTestId('sharp').innerText()
    const [near, far] = [...text.matchAll(/([\d.]+) m/g)].map((m) => Number(m[1]))
    expect(focus.mode.kind === 'distance' && focus.mode.distanceM).toBeCloseTo((2 * near! * far!) / (near! + far!), 1)
    await typeNumber(page, 'f-number', '0')
    expect((await saved()).working.focus.fNumber).toBe(focus.fNumber)
    // the mark is dragged in Plan
    const mark = (await page.getByTestId('focus-mark-right').boundingBox())!
    await page.mouse.move(mark.x + mark.width / 2, mark.y + mark.height / 2)
    await page.mouse.down()
    await page.mouse.move(mark.x + mark.width / 2 + 18, mark.y + mark.height / 2, { steps: 4 })
    await page.mouse.up()
    await expect.poll(async () => JSON.stringify((await saved()).working.focus.mode)).not.toBe(JSON.stringify(focus.mode)) // prettier-ignore
  })
  it('glare spreads light and keeps all of it: what is dark beside the windows is lifted', async () => {
    const plain = (s: Setup): Setup => ({ ...s, exposure: { ...s.exposure, tone: 'linear', ev100: 16 } })
    await openHall(plain)
    const before = await picturePixels(page)
    await page.getByTestId('cell-exposure').click()
    await typeNumber(page, 'Glare', '30')
    await pictureAt(page, 'all')
    const after = await picturePixels(page)
    expect(linearMean(after) / linearMean(before)).toBeCloseTo(1, 1)
    const sorted = (p: Pixels): number[] => Array.from({ length: p.data.length / 4 }, (_, i) => LINEAR[p.data[i * 4 + 1]!]!).sort((a, b) => a - b) // prettier-ignore
    const [a, b] = [sorted(before), sorted(after)]
    const at = (s: number[], q: number): number => s[Math.floor(s.length * q)]!
    expect(at(b, 0.1)).toBeGreaterThan(at(a, 0.1) * 1.3)
    expect(at(b, 0.98)).toBeLessThan(at(a, 0.98))
  }, 120_000)
  it('cos^4 of a shifted lens falls off from its axis, not from the middle of the frame', async () => {
    const lens = { riseMm: 8, focalMm: 24 }
    const plain = (s: Setup): Setup => ({ ...s, lens: { ...s.lens, ...lens }, exposure: { ...s.exposure, tone: 'linear', ev100: 12, vignetting: false } }) // prettier-ignore
    await openHall(plain)
    const even = await picturePixels(page)
    await page.getByTestId('cell-exposure').click()
    await page.getByLabel(/^darker toward the edges/).click()
    await pictureAt(page, 'all')
    const dark = await picturePixels(page)
    const { width, height } = even
    // 36 x 24 mm, its axis 8 mm below the middle of a frame that was raised by it
    for (const [u, v] of [
      [0.5, 0.06],
      [0.5, 0.94],
      [0.1, 0.5],
    ] as const) {
      // prettier-ignore
      const off = Math.hypot((u - 0.5) * 36, (0.5 - v) * 24 + lens.riseMm)
      const wanted = (24 / Math.hypot(24, off)) ** 4
      let [a, b] = [0, 0]
      for (let y = -5; y <= 5; y++)
        for (let x = -12; x <= 12; x++) {
          const i = ((Math.round(v * height) + y) * width + Math.round(u * width) + x) * 4 + 1
          a += LINEAR[dark.data[i]!]!
          b += LINEAR[even.data[i]!]!
        }
      expect(Math.abs(a / b / wanted - 1), `${u}, ${v}: ${a / b} for ${wanted}`).toBeLessThan(0.05)
    }
  }, 120_000)
})
