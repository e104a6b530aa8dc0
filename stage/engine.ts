// The stage: one GL context that draws the picture, Plan, Side, thumbnails and finished stills, one request at a time.
// Model: requests are tasks of short steps; between two steps newer requests come in. The sample sequence is fixed, so the same
// request gives the same picture. Source: haeberli1990 (accumulation), halton1960.

import { WebGLRenderer, type Object3D } from 'three'
import { AppError } from '#core/base'
import type { Camera } from '#core/camera'
import { clippedShares, aroundLux, bakedSky, skyLightOf, tonesOf, type Clipped, type Tones } from '#core/optics'
import { withDensity } from '#formats/png'
import { loadGlb } from '#formats/scene'
import { assemble, quickFacts, soupOf, type LightVolume, type SceneFacts } from '#mesh'
import type { Size } from './aim.ts'
import { innerOf, ownPixels } from './counted-pixels.ts'
import type { DrawnFaces } from './cut-faces.ts'
import { FaceSource } from './face-source.ts'
import { DrawingPass } from './drawing.ts'
import { FullPasses } from './full-passes.ts'
import { OutlinePass } from './outline.ts'
import { LightMeter } from './light-meter.ts'
import { lyingIn, PhotoBehind } from './behind.ts'
import { pictureOf } from './map-picture.ts'
import { Passes, type Finished } from './passes.ts'
import { GhostPass } from './ghosts.ts'
import { TaskQueue } from './queue.ts'
import { StageScene } from './scene.ts'
import { BORDER_PX, drawLine, pngOf, sheetOf, tilesOf } from './sheet.ts'
import type { Owner } from './targets.ts'
import type {
  Appearance,
  DrawingRequest,
  Loaded,
  OutlineRequest,
  PictureFrame,
  PictureRequest,
  StageContract,
  StageModel,
  StillRequest,
} from './types.ts'

/** A moving picture aims at this time. */
const MOVING_MS = 60

/** Lower goes first. */
const PRIORITY = { load: -1, moving: 0, picture: 1, drawing: 2, refine: 3, still: 4, begun: 5, thumbnail: 6 } as const
/** Places of the lens that make a picture without ghosts. */
const LENS_SAMPLES = 8
/** The picture refines this far before thumbnails have their turn. */
const SOON = 4

export class StageEngine implements StageContract {
  private readonly renderer: WebGLRenderer
  private readonly stage: StageScene
  private readonly gl: FullPasses
  private readonly passes: Passes
  private readonly drawings: DrawingPass
  private readonly outlines: OutlinePass
  private readonly ghosts: GhostPass
  private readonly queue = new TaskQueue()
  private movingScale = 0.5
  private readonly light: LightMeter
  private readonly behind = new PhotoBehind()
  private roots = new Map<string, { sha256: string; root: Object3D }>()
  private scene: Object3D | null = null
  private loading: Promise<unknown> = Promise.resolve()

  constructor(canvas: OffscreenCanvas | HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: false, alpha: false, stencil: false, depth: false })
    this.stage = new StageScene(anisotropyOf(this.renderer))
    this.gl = new FullPasses(this.renderer)
    this.passes = new Passes(this.gl, this.stage)
    this.light = new LightMeter(this.gl, this.stage, this.passes)
    this.drawings = new DrawingPass(this.gl, this.stage)
    this.outlines = new OutlinePass(this.gl, this.stage)
    this.ghosts = new GhostPass(this.gl, this.stage)
  }

  load(models: readonly StageModel[], exact: SceneFacts | null = null): Promise<SceneFacts> {
    // one after the other: the last one asked for is the one that stays
    const mine = this.loading.then(() => this.loadNow(models, exact))
    this.loading = mine.catch(() => undefined)
    return mine
  }

  private async loadNow(models: readonly StageModel[], exact: SceneFacts | null): Promise<SceneFacts> {
    const next = new Map<string, { sha256: string; root: Object3D }>()
    for (const { placed, sha256, bytes } of models) {
      const old = this.roots.get(placed.key)
      if (old?.sha256 === sha256) next.set(placed.key, old)
      else if (bytes)
        next.set(placed.key, {
          sha256,
          root: await loadGlb(bytes instanceof Blob ? new Uint8Array(await bytes.arrayBuffer()) : bytes),
        })
      else throw new RangeError(`StageEngine.load: no bytes for “${placed.key}”`)
    }
    // in turn with what is drawn: no picture is of two scenes, and a finished one is not finished with another model
    this.queue.cancel('still')
    let facts: SceneFacts | null = exact
    await this.queue.run('load', PRIORITY.load, async () => {
      this.stage.takeApart()
      this.scene = assemble(models.map((m) => ({ placed: m.placed, root: next.get(m.placed.key)!.root })))
      facts ??= quickFacts(this.scene)
      this.stage.setModel(this.scene, facts)
      this.roots = next
      return true
    })
    if (!facts) throw new RangeError('StageEngine.load: the stage was disposed')
    return facts
  }

  async soup(): Promise<Loaded> {
    await this.loading
    if (!this.scene) throw new RangeError('StageEngine.soup: nothing is loaded')
    this.stage.takeApart()
    try {
      const { soup, facts } = soupOf(this.scene, pictureOf)
      this.stage.setFacts(facts)
      this.faces?.begin(++this.scenes)
      return { soup, facts, scene: this.scenes }
    } catch (e) {
      throw new AppError('model-unreadable', e instanceof Error ? e.message : String(e))
    }
  }

  connect(port: MessagePort): void {
    this.faces = new FaceSource(port)
    this.faces.begin(this.scenes)
  }
  /** The cut faces that belong to an appearance; null where there are none, or no geometry yet. */
  private async facesOf({
    camera,
    appearance,
  }: Pick<PictureRequest, 'camera' | 'appearance'>): Promise<DrawnFaces | null> {
    return (await this.faces?.of(camera, appearance.shown, appearance.classes)) ?? null
  }
  private faces: FaceSource | null = null
  /** Counts the scenes handed to the geometry. */
  private scenes = 0

  async setLight(volume: LightVolume, appearance: Appearance): Promise<void> {
    await this.queue.run('light', PRIORITY.drawing, async () => {
      this.stage.setLight(volume, aroundLux(bakedSky(skyLightOf(appearance['look.sun']))))
      this.light.begin()
      this.passes.captureEnvironment(appearance)
      return true
    })
  }

  picture(request: PictureRequest, onFrame: (frame: PictureFrame) => void): Promise<boolean> {
    const place = request.place ?? 'picture'
    const key = this.sceneKey(request)
    const size = { width: request.widthPx, height: request.heightPx }
    let sample = 0
    let quick = request.quickFirst === true
    let isBegun = false
    return this.queue.run(place, request.moving || quick ? PRIORITY.moving : PRIORITY.picture, async (me) => {
      const start = performance.now()
      const tell = async (look: Appearance): Promise<void> => {
        const isLast = sample >= request.samples && place === 'picture'
        const { bitmap, clipped, tones } = await this.present(place, size, { camera: request.camera, look }, isLast, request.pastFrame) // prettier-ignore
        const points = this.passes.pointsIn(place, request.camera, look)
        const { ev100 } = look.exposure
        onFrame({
          bitmap,
          clipped,
          points,
          ...(tones && { tones }),
          sample,
          samples: request.samples,
          tookMs: performance.now() - start,
          ev100,
        })
      }
      if (!isBegun) {
        isBegun = true
        // the same scene is there already: only its exposure or its development is another one
        sample = Math.min(this.passes.heldOf(place, key), request.samples)
        if (sample > 0) {
          await tell(await this.light.exposed(request))
          return request.moving || sample >= request.samples
        }
      }
      if (request.moving) {
        await this.movingFrame(request, onFrame)
        return true
      }
      if (quick) {
        quick = false
        me.priority = PRIORITY.picture
        await this.movingFrame(request, (f) => onFrame({ ...f, sample: 0, samples: request.samples }))
        return false
      }
      const faces = await this.facesOf(request)
      const look = await this.light.exposed(request)
      const { camera, look: seen } = openAt(request, look, sample)
      this.passes.sample(place, camera, seen, size, null, sample, { faces, key, of: request.samples, isMoving: request.open !== undefined }) // prettier-ignore
      await this.gl.idle()
      sample++
      const last = sample >= request.samples
      // of a lens a few places are ghosts of each other: the first frame, blurred by itself, stands until there are enough
      const isShown = look.blur ? sample === 1 || sample % LENS_SAMPLES === 0 : sample <= 2 || sample % 4 === 0
      if (last || isShown) await tell(look)
      // after the first full frame the drawings go first, after a few more thumbnails and stills do
      me.priority = sample < SOON ? PRIORITY.refine : PRIORITY.thumbnail + 1
      return last
    })
  }

  private async movingFrame(request: PictureRequest, onFrame: (frame: PictureFrame) => void): Promise<void> {
    const start = performance.now()
    const k = this.movingScale
    const size = {
      width: Math.max(16, Math.round(request.widthPx * k)),
      height: Math.max(16, Math.round(request.heightPx * k)),
    }
    const faces = await this.facesOf(request)
    const look = await this.light.exposed(request)
    this.passes.sample('moving', request.camera, look, size, null, 0, { faces })
    const { bitmap, clipped } = await this.present('moving', size, { camera: request.camera, look }, false, request.pastFrame) // prettier-ignore
    const tookMs = performance.now() - start
    onFrame({ bitmap, clipped, sample: 1, samples: 1, tookMs, ev100: look.exposure.ev100 })
    // few steps of size, so that targets are not made anew for every frame
    const wanted = k * Math.sqrt(MOVING_MS / tookMs)
    if (wanted > k * 1.3) this.movingScale = Math.min(1, k * 1.25)
    else if (wanted < k * 0.8) this.movingScale = Math.max(0.3, k / 1.25)
  }

  async thumbnail(key: string, request: PictureRequest): Promise<ImageBitmap | null> {
    let bitmap: ImageBitmap | null = null
    let sample = 0
    const size = { width: request.widthPx, height: request.heightPx }
    const done = await this.queue.run(`thumb:${key}`, PRIORITY.thumbnail, async (me) => {
      const faces = await this.facesOf(request)
      const look = await this.light.exposed(request)
      this.passes.sample('thumbnail', request.camera, look, size, null, sample, { faces, of: request.samples })
      await this.gl.idle()
      // one set of targets serves all thumbnails: one that is begun is drawn to its end before the next
      me.priority = PRIORITY.begun
      if (++sample < request.samples) return false
      bitmap = (await this.present('thumbnail', size, { camera: request.camera, look })).bitmap
      return true
    })
    return done ? bitmap : null
  }

  async drawing(request: DrawingRequest): Promise<ImageBitmap | null> {
    let bitmap: ImageBitmap | null = null
    const done = await this.queue.run(request.key, PRIORITY.drawing, async () => {
      bitmap = await createImageBitmap(await this.drawings.draw(request))
      return true
    })
    return done ? bitmap : null
  }

  async outline(request: OutlineRequest): Promise<ImageBitmap | null> {
    let bitmap: ImageBitmap | null = null
    const pass = request.style === 'outline' ? this.outlines : this.ghosts
    const done = await this.queue.run(request.key ?? request.style, PRIORITY.moving, async () => {
      bitmap = await createImageBitmap(await pass.draw(request))
      return true
    })
    return done ? bitmap : null
  }

  async still(request: StillRequest, onProgress: (done: number) => void): Promise<Blob | null> {
    const { widthPx, heightPx, densityPpi } = request.camera.frame
    const sheet = sheetOf(widthPx, heightPx)
    const paper = sheet.getContext('2d') as OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D | null
    if (!paper) throw new Error(`No memory for a picture of ${widthPx} x ${heightPx} pixels.`)
    const tiles = tilesOf(widthPx, heightPx)
    const border = tiles.length > 1 ? BORDER_PX : 0
    let t = 0
    let sample = 0
    const done = await this.queue.run('still', PRIORITY.still, async () => {
      const tile = tiles[t]!
      const wide = {
        x: tile.x - border,
        y: tile.y - border,
        width: tile.width + 2 * border,
        height: tile.height + 2 * border,
      }
      const faces = await this.facesOf(request)
      const look = await this.light.exposed(request)
      if (t === 0 && sample === 0) this.passes.lookAtWhole(request.camera, look, faces)
      this.passes.sample('still', request.camera, look, wide, wide, sample, { faces, of: request.samples })
      await this.gl.idle()
      sample++
      onProgress((t + sample / request.samples) / tiles.length)
      if (sample < request.samples) return false
      const { bitmap } = await this.present('still', wide, { camera: request.camera, look, tile: wide })
      paper.drawImage(bitmap, border, border, tile.width, tile.height, tile.x, tile.y, tile.width, tile.height)
      bitmap.close()
      sample = 0
      return ++t >= tiles.length
    })
    this.passes.forgetWhole()
    this.behind.release()
    if (!done) return null
    for (const line of request.lines ?? []) drawLine(paper, line)
    const png = new Uint8Array(await (await pngOf(sheet)).arrayBuffer())
    return new Blob([withDensity(png, densityPpi) as BlobPart], { type: 'image/png' })
  }

  stopPicture(place: 'picture' | 'outside'): void {
    this.queue.cancel(place)
  }

  async held(): Promise<{ geometries: number; textures: number; programs: number }> {
    const { memory, programs } = this.renderer.info
    return { geometries: memory.geometries, textures: memory.textures, programs: programs?.length ?? 0 }
  }

  cancelStill(): void {
    this.queue.cancel('still')
  }

  async meter(request: PictureRequest): Promise<number> {
    let ev = request.appearance.exposure.ev100
    await this.queue.run('meter', PRIORITY.drawing, async () => {
      ev = (await this.light.metered(request.camera, request.appearance)) ?? ev
      return true
    })
    return ev
  }

  async spot(
    request: PictureRequest,
    place: readonly [number, number],
  ): Promise<readonly [number, number, number] | null> {
    let mean: readonly [number, number, number] | null = null
    await this.queue.run('spot', PRIORITY.drawing, async () => {
      mean = await this.light.spot(request, place, await this.facesOf(request))
      return true
    })
    return mean
  }

  dispose(): void {
    this.queue.cancelAll()
    this.stage.clear()
    this.passes.dispose()
    this.drawings.dispose()
    this.outlines.dispose()
    this.ghosts.dispose()
    this.gl.dispose()
    this.behind.dispose()
    this.renderer.dispose()
  }

  private async present(
    owner: Owner,
    size: Size,
    by: Finished,
    isCounted = false,
    pastFrame = 0,
  ): Promise<{ readonly bitmap: ImageBitmap; readonly clipped: Clipped; readonly tones: Tones | null }> {
    const image = await this.passes.finished(owner, size, by)
    const data = pastFrame > 0 ? innerOf(image, pastFrame) : image.data
    const { photo } = by.look
    const counted = photo ? ownPixels(data) : data
    return {
      bitmap: photo
        ? await this.behind.compose(
            image,
            photo,
            lyingIn(by.camera.frame, by.tile ?? null, pastFrame),
            owner === 'still',
          )
        : await createImageBitmap(image),
      clipped: clippedShares(counted),
      tones: isCounted ? tonesOf(counted) : null,
    }
  }
  /** What the samples of a picture are of: all but how it is exposed and developed. */
  private sceneKey({ camera, widthPx, heightPx, appearance, open }: PictureRequest): string {
    const { exposure: _, metered: __, clipping: ___, zone: _z, blur: lens, table: _t, photo, ...rest } = appearance
    // how bright the points are is a matter of the finish
    const scene = {
      ...rest,
      isClear: photo !== undefined,
      groundM: photo?.groundM,
      blur: lens && { ...lens, highlights: 1 },
    }
    const { pose, lens: l, frame } = camera
    // guides and other shapes lie over the picture
    const seen = [pose, l, frame.widthPx, frame.heightPx, frame.densityPpi]
    return JSON.stringify([
      seen,
      widthPx,
      heightPx,
      scene,
      open ?? null,
      this.stage.revision,
      this.light.count,
      this.faces?.count,
    ])
  }
}

/** Readings of a map at a slant: drawn in software each costs a good part of the picture (measured: an eighth at two). */
const ANISOTROPY = 8
function anisotropyOf(renderer: WebGLRenderer): number {
  const gl = renderer.getContext()
  const info = gl.getExtension('WEBGL_debug_renderer_info')
  const name = String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER))
  const isSoftware = /swiftshader|llvmpipe|softpipe|software|basic render/i.test(name)
  return isSoftware ? 1 : Math.min(ANISOTROPY, renderer.capabilities.getMaxAnisotropy())
}

/** What a sample of a picture sees: its own moment while the shutter is open. */
function openAt(
  { open, camera }: PictureRequest,
  look: Appearance,
  sample: number,
): { readonly camera: Camera; readonly look: Appearance } {
  const moment = open?.[sample % open.length]
  if (!moment) return { camera, look }
  return { camera: moment.camera, look: { ...look, shown: { ...look.shown, moved: moment.moved } } }
}
