// Runs in the browser: Yoroi's stage and the reference, each in a worker of its own, on the same file.
import { wrap, type Remote } from 'comlink'
import type { Brown, Camera, Lens } from '#core/camera'
import { ALL_SHOWN } from '#core/section'
import { AT_ORIGIN } from '#core/placing'
import { createGeometry } from '#workers'
import { createStage, type Appearance, type PictureRequest } from '#stage'
import { newSetup, aimAt } from '#model'
import { setupAt } from '#model/reel'
import { poseOfStand } from '#core/camera'
import { reelOf } from '#core/reel'
import { bring } from './bring.ts'

interface Bare {
  load(bytes: Uint8Array): Promise<void>
  frame(step: number): number
}
const DRAWER = 'hall/Saltmarsh Seed Library/Furniture/Marigold drawer'
const WIDTH = 684
const HEIGHT = 456

const bytesOf = async (url: string): Promise<Uint8Array> => new Uint8Array(await (await fetch(url)).arrayBuffer())

function request(step: number): PictureRequest {
  const setup = newSetup('room', aimAt([1.2, 2.6, 1.58], [10, 3.9, 1.58]))
  const camera: Camera = {
    pose: { station: [1.2 + step * 0.01, 2.6, 1.58], bearingDeg: 81.6, tiltDeg: 0, rollDeg: 0 },
    lens: setup.lens,
    frame: { ...setup.frame, widthPx: WIDTH, heightPx: HEIGHT },
  }
  const appearance: Appearance = {
    shown: ALL_SHOWN,
    exposure: { ...setup.exposure, ev100: 10 },
    'look.sun': setup.look.sun,
    'look.backdrop': setup.look.backdrop,
  }
  return { camera, widthPx: WIDTH, heightPx: HEIGHT, appearance, moving: false, samples: 1 }
}

const bench = {
  bring: { ...bring, memory: (base: string, url: string) => bring.memory(base, url, request(0)) },
  /** Milliseconds from bytes to the first drawn picture, then for `frames` pictures after small moves. */
  async yoroi(url: string, frames: number): Promise<{ first: number; frames: number[] }> {
    const bytes = await bytesOf(url)
    const stage = await createStage()
    const start = performance.now()
    await stage.load([
      { placed: { key: 'hall', unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] }, sha256: 'hall', bytes },
    ])
    const times: number[] = []
    const draw = async (step: number): Promise<number> => {
      let took = 0
      await stage.picture(request(step), (f) => {
        took = f.tookMs
        f.bitmap.close()
      })
      await new Promise((r) => setTimeout(r, 20))
      return took
    }
    await draw(0)
    const first = performance.now() - start
    for (let i = 1; i <= frames; i++) times.push(await draw(i))
    stage.dispose()
    return { first, frames: times }
  },
  /** Milliseconds of a picture of four samples with distortion and without, and of five small pictures at five lenses and at one, in turns. */
  async distorted(url: string, distortion: Brown, turns: number) {
    const stage = await createStage()
    const placed = { key: 'hall', unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] } as const
    await stage.load([{ placed, sha256: 'hall', bytes: await bytesOf(url) }])
    const at = (step: number, changes: Partial<Lens>): PictureRequest => {
      const own = request(step)
      return { ...own, camera: { ...own.camera, lens: { ...own.camera.lens, ...changes } } }
    }
    const timed = async (work: () => Promise<unknown>): Promise<number> => {
      const start = performance.now()
      await work()
      return performance.now() - start
    }
    const picture = (step: number, changes: Partial<Lens>) =>
      timed(() => stage.picture({ ...at(step, changes), samples: 8 }, (f) => f.bitmap.close()))
    const small = (step: number, focal: (i: number) => number) =>
      timed(async () => {
        for (let i = 0; i < 5; i++) {
          const r = at(step + i, { focalMm: focal(i) })
          ;(await stage.thumbnail(`t${step}-${i}`, { ...r, widthPx: 280, heightPx: 186, samples: 4 }))?.close()
        }
      })
    const t = { bent: [] as number[], straight: [] as number[], five: [] as number[], thumbs: [] as number[] }
    await picture(0, {})
    await picture(1, { distortion })
    for (let i = 1; i <= turns; i++) {
      t.bent.push(await picture(10 * i, { distortion }))
      t.straight.push(await picture(10 * i + 1, {}))
      t.five.push(await small(10 * i, (k) => [18, 24, 35, 50, 85][k]!))
      t.thumbs.push(await small(10 * i + 5, () => 24))
    }
    stage.dispose()
    return t
  },
  /** Milliseconds a picture after small moves, with a level cut and its faces and without, in turns. */
  async cut(url: string, turns: number): Promise<{ cut: number[]; plain: number[] }> {
    const bytes = await bytesOf(url)
    const stage = await createStage()
    const geometry = createGeometry()
    const { port1, port2 } = new MessageChannel()
    stage.connect(port1)
    geometry.connect(port2)
    const placed = { key: 'hall', unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] } as const
    await stage.load([{ placed, sha256: 'hall', bytes }])
    const { soup, facts, scene } = await stage.soup()
    await geometry.setScene(soup, facts, [0, 0, 0], scene)
    const list = [{ id: 'a', name: 'A', on: true, reversed: false, kind: 'level', heightM: 1.2 }] as const
    const shown = { ...ALL_SHOWN, cuts: { ...ALL_SHOWN.cuts, list, face: 'solid' as const } }
    const draw = async (step: number, isCut: boolean): Promise<number> => {
      const own = request(step)
      let took = 0
      await stage.picture(isCut ? { ...own, appearance: { ...own.appearance, shown } } : own, (f) => {
        took = f.tookMs
        f.bitmap.close()
      })
      await new Promise((r) => setTimeout(r, 20))
      return took
    }
    await draw(0, true)
    await draw(0, false)
    const times = { cut: [] as number[], plain: [] as number[] }
    for (let i = 1; i <= turns; i++) {
      times.plain.push(await draw(i, false))
      times.cut.push(await draw(i, true))
    }
    stage.dispose()
    geometry.dispose()
    return times
  },
  /**
   * A picture of 16 samples with a lens that blurs and without, and the same exposed otherwise, milliseconds of the processor's time; a
   * moving frame with blur and balance and without, milliseconds; in turns. `of`: f-number, focus distance and focal length.
   */
  async lens(
    url: string,
    turns: number,
    [fNumber, focusM, focalMm]: readonly [number, number, number] = [1.4, 3, 24],
  ): Promise<Record<'soft' | 'sharp' | 'movingSoft' | 'moving' | 'exposed', number[]>> {
    const bytes = await bytesOf(url)
    const stage = await createStage()
    await stage.load([
      { placed: { key: 'hall', unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] }, sha256: 'hall', bytes },
    ])
    const blur = { focusM, fNumber, shape: { blades: 7, rotationDeg: 0, roundness: 0.2 } }
    const draw = async (
      step: number,
      isSoft: boolean,
      changes: Partial<PictureRequest> = {},
      ev100 = 10,
    ): Promise<number> => {
      const r = request(step)
      const own = { ...r, camera: { ...r.camera, lens: { ...r.camera.lens, focalMm } } }
      const exposure = { ...own.appearance.exposure, ev100, whiteBalance: { kelvin: isSoft ? 4200 : 6504, tint: 0 } }
      const begun = await window.cpuMs()
      let took = 0
      const appearance = { ...own.appearance, exposure, ...(isSoft && { blur }) }
      await stage.picture({ ...own, ...changes, appearance }, (f) => {
        took = f.tookMs
        f.bitmap.close()
      })
      const all = (await window.cpuMs()) - begun
      await new Promise((r) => setTimeout(r, 20))
      return changes.moving ? took : all
    }
    const times = {
      soft: [] as number[],
      sharp: [] as number[],
      movingSoft: [] as number[],
      moving: [] as number[],
      exposed: [] as number[],
    }
    await draw(0, true)
    await draw(0, false)
    for (let i = 1; i <= turns; i++) {
      times.sharp.push(await draw(i, false, { samples: 16 }))
      times.exposed.push(await draw(i, false, { samples: 16 }, 11))
      times.soft.push(await draw(i, true, { samples: 16 }))
      for (let k = 0; k < 3; k++) {
        times.moving.push(await draw(100 * i + k, false, { moving: true }))
        times.movingSoft.push(await draw(100 * i + k, true, { moving: true }))
      }
    }
    stage.dispose()
    return times
  },
  /** Milliseconds from a moment to its frame: cameras that are there, a reel's moments, and those with a drawer that opens, in turns. */
  async playback(url: string, frames: number): Promise<Record<'bare' | 'played' | 'drawer', number[]>> {
    const stage = await createStage()
    const placed = { key: 'hall', unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] } as const
    await stage.load([{ placed, sha256: 'hall', bytes: await bytesOf(url) }])
    const { camera, appearance } = request(0)
    const setup = newSetup('room', aimAt([1.2, 2.6, 1.58], [10, 3.9, 1.58]))
    const take = { pose: camera.pose, lens: camera.lens, focusM: null, fNumber: 8, ev: 10 }
    const stops = ([[1.2, 2.6, 1.58], [6, 3.2, 1.58], [10, 4, 1.58]] as const).map((station) => ({ station, holdS: 0, look: null })) // prettier-ignore
    const walk = { kind: 'travel', view: take, stops, isClosed: false, speedsMps: [1], gaze: { kind: 'along', aheadM: 1.5, tiltDeg: 0 } } as const // prettier-ignore
    const out = { objectId: DRAWER, moveM: [0, -0.3, 0], turnDeg: 0, hinge: [0, 0, 0] } as const
    const opens = { ...walk, objects: [{ from: null, to: out, fromShare: 0, toShare: 1 }] }
    const reels = { played: reelOf([{ shot: walk, dissolveS: 0 }]), drawer: reelOf([{ shot: opens, dissolveS: 0 }]) }
    const timed = async (make: () => Pick<PictureRequest, 'camera' | 'appearance'>): Promise<number> => {
      const start = performance.now()
      await stage.picture({ ...request(0), ...make(), moving: true }, (f) => f.bitmap.close())
      return performance.now() - start
    }
    const shown = (kind: 'played' | 'drawer', t: number): Pick<PictureRequest, 'camera' | 'appearance'> => {
      const moment = setupAt(setup, reels[kind].at(t)[0]!.take)
      const { moved = [] } = reels[kind].at(t)[0]!.take
      const pose = poseOfStand(moment.stand, () => null)
      return {
        camera: { pose, lens: moment.lens, frame: camera.frame },
        appearance: { ...appearance, shown: { ...ALL_SHOWN, moved }, exposure: moment.exposure },
      }
    }
    const times = { bare: [] as number[], played: [] as number[], drawer: [] as number[] }
    for (let i = 0; i <= frames; i++) {
      const t = 1 + i * 0.3
      const there = { camera: { ...camera, pose: reels.played.at(t)[0]!.take.pose }, appearance }
      const bare = await timed(() => there)
      const played = await timed(() => shown('played', t + 0.1))
      const drawer = await timed(() => shown('drawer', t + 0.2))
      // the first ones compile
      if (i > 0) for (const [k, v] of Object.entries({ bare, played, drawer })) times[k as 'bare'].push(v)
    }
    stage.dispose()
    return times
  },
  async bare(url: string, frames: number): Promise<{ first: number; frames: number[] }> {
    const bytes = await bytesOf(url)
    const worker = new Worker(new URL('./bare.worker.ts', import.meta.url), { type: 'module' })
    const bare: Remote<Bare> = wrap<Bare>(worker)
    const start = performance.now()
    await bare.load(bytes)
    const first = performance.now() - start
    const times: number[] = []
    for (let i = 1; i <= frames; i++) times.push(await bare.frame(i))
    worker.terminate()
    return { first, frames: times }
  },
}
Object.assign(window, { bench })
export type BenchApi = typeof bench
