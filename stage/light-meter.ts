// What light is there: the reading of a whole picture, of a place in it, and the exposure of pictures that ask for the reading.
// Model: samples know no exposure, so that a reading needs none to be guessed. Logarithmic means, as reflected-light meters are read
// (practice).

import { widened, type Camera } from '#core/camera'
import { meteredEv100 } from '#core/optics'
import type { Size } from './aim.ts'
import type { DrawnFaces } from './cut-faces.ts'
import type { FullPasses } from './full-passes.ts'
import type { Passes } from './passes.ts'
import { SCENE_FACTOR } from './scene-light.ts'
import type { StageScene } from './scene.ts'
import type { Appearance, PictureRequest } from './types.ts'

/** A meter's picture, and how many readings are remembered. */
const METER_PX: Size = { width: 96, height: 64 }
const READINGS = 500
/** A spot's picture, and its side as a part of the frame's longer one. */
const SPOT_PX: Size = { width: 8, height: 8 }
const SPOT_PART = 120

export class LightMeter {
  private readonly gl: FullPasses
  private readonly stage: StageScene
  private readonly passes: Passes
  private readonly readings = new Map<string, number>()
  private lastReading: number | null = null
  /** Counts the lights that were set: each has its own readings. */
  count = 0

  constructor(gl: FullPasses, stage: StageScene, passes: Passes) {
    this.gl = gl
    this.stage = stage
    this.passes = passes
  }
  /** Another light: what was read last is of the one before. */
  begin(): void {
    this.count++
    this.lastReading = null
  }

  /** Mean light that comes from a place (shares of width and height from the top left), cd/m2 by channel; null where no surface is. */
  async spot(
    { camera, appearance }: PictureRequest,
    place: readonly [number, number],
    faces: DrawnFaces | null,
  ): Promise<readonly [number, number, number] | null> {
    const { widthPx, heightPx } = camera.frame
    // as large as it would be on a small print, whatever the frame's pixels are
    const side = Math.max(3, Math.round(Math.max(widthPx, heightPx) / SPOT_PART))
    const tile = { x: Math.round(place[0] * widthPx - side / 2), y: Math.round(place[1] * heightPx - side / 2), width: side, height: side } // prettier-ignore
    this.passes.sample('meter', camera, appearance, SPOT_PX, tile, 0, { faces })
    await this.gl.idle()
    return meanOf(this.passes.readSurfaces('meter'))
  }

  /** What a meter reads from the surfaces in the picture, -4..20; null where there are none or they are black. */
  async metered(camera: Camera, look: Appearance): Promise<number | null> {
    this.passes.sample('meter', camera, look, METER_PX, null, 0)
    await this.gl.idle()
    const mean = logMean(this.passes.readSurfaces('meter'))
    // darker than starlight nothing is read
    if (!(mean > 1e-5 * SCENE_FACTOR)) return null
    return Math.min(20, Math.max(-4, meteredEv100(mean / SCENE_FACTOR)))
  }

  /** The appearance with the EV that its picture asks for: its own, or the metered one (while moving, the one metered last). */
  async exposed(request: {
    camera: Camera
    appearance: Appearance
    pastFrame?: number
    moving?: boolean
    place?: string
  }): Promise<Appearance> {
    const { appearance: look } = request
    // of what lies past the frame nothing is metered
    const past = request.pastFrame ?? 0
    const camera = past > 0 ? widened(request.camera, -past / (1 + 2 * past)) : request.camera
    if (!look.metered) return look
    const { exposure: _, clipping: __, table: ___, zone: ____, photo: _____, ...scene } = look
    const key = JSON.stringify([
      camera.pose,
      camera.lens,
      camera.frame.widthPx / camera.frame.heightPx,
      scene,
      this.stage.revision,
      this.count,
    ])
    let ev100 = this.readings.get(key)
    if (ev100 === undefined && request.moving) ev100 = this.lastReading ?? undefined
    if (ev100 === undefined) {
      ev100 = (await this.metered(camera, look)) ?? look.exposure.ev100
      if (this.readings.size >= READINGS) this.readings.clear()
      this.readings.set(key, ev100)
    }
    if (request.moving !== undefined) this.lastReading = ev100
    return { ...look, exposure: { ...look.exposure, ev100 } }
  }
}

/** Logarithmic mean of the luminance of linear RGBA pixels, of those with an alpha; 0 where these are less than a fiftieth. */
function logMean(pixels: Float32Array): number {
  let sum = 0
  let n = 0
  for (let i = 0; i < pixels.length; i += 4) {
    if (pixels[i + 3]! <= 0) continue
    n++
    sum += Math.log(1e-6 + 0.2126 * pixels[i]! + 0.7152 * pixels[i + 1]! + 0.0722 * pixels[i + 2]!)
  }
  return n * 50 < pixels.length / 4 ? 0 : Math.exp(sum / n)
}

/** Mean luminances of linear RGBA pixels, of those with an alpha, cd/m2 by channel; null where there are none. */
function meanOf(pixels: Float32Array): [number, number, number] | null {
  const sum: [number, number, number] = [0, 0, 0]
  let n = 0
  for (let i = 0; i < pixels.length; i += 4) {
    if (pixels[i + 3]! <= 0) continue
    n++
    for (let c = 0; c < 3; c++) sum[c]! += pixels[i + c]! / SCENE_FACTOR
  }
  return n === 0 ? null : [sum[0] / n, sum[1] / n, sum[2] / n]
}
