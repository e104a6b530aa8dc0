// A photograph behind the model, and before it where its masks say so.
// Model: the picture comes developed and clear where nothing stands; the photograph is laid under it untouched, and over it within soft
// polygons. It is fetched once for each content; pictures share a copy of moderate size, a finished one takes it as it is.

import type { Tile } from './aim.ts'
import type { BehindPhoto } from './types.ts'

/** Pictures on the screen need no more pixels than these on the longer side. */
const SHARED_PX = 2400
/** So many photographs are kept at hand. */
const KEPT = 3
type Paper = OffscreenCanvasRenderingContext2D

/** Where a picture lies in the frame that the photograph fills, as shares of it: from the top left, and how large. */
interface Lying {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
export const lyingIn = (frame: { readonly widthPx: number; readonly heightPx: number }, tile: Tile | null, pastFrame: number): Lying =>
  tile
    ? { x: tile.x / frame.widthPx, y: tile.y / frame.heightPx, width: tile.width / frame.widthPx, height: tile.height / frame.heightPx }
    : { x: -pastFrame, y: -pastFrame, width: 1 + 2 * pastFrame, height: 1 + 2 * pastFrame } // prettier-ignore

export class PhotoBehind {
  private readonly shared = new Map<string, Promise<ImageBitmap | null>>()
  private whole: { readonly sha256: string; readonly bitmap: Promise<ImageBitmap | null> } | null = null

  private async load(sha256: string): Promise<ImageBitmap | null> {
    try {
      const res = await fetch(`/api/assets/${sha256}`)
      return res.ok ? await createImageBitmap(await res.blob(), { imageOrientation: 'from-image' }) : null
    } catch {
      return null
    }
  }
  private small(sha256: string): Promise<ImageBitmap | null> {
    const known = this.shared.get(sha256)
    if (known) return known
    const mine = this.load(sha256).then(async (full) => {
      const k = full ? SHARED_PX / Math.max(full.width, full.height) : 1
      if (!full || k >= 1) return full
      const small = await createImageBitmap(full, { resizeWidth: Math.round(full.width * k), resizeHeight: Math.round(full.height * k), resizeQuality: 'high' }) // prettier-ignore
      full.close()
      return small
    })
    // what could not be fetched is asked for again
    void mine.then((b) => b ?? this.shared.delete(sha256))
    this.shared.set(sha256, mine)
    const [oldest] = this.shared.keys()
    if (this.shared.size > KEPT && oldest !== undefined) {
      void this.shared.get(oldest)?.then((b) => b?.close())
      this.shared.delete(oldest)
    }
    return mine
  }
  /** The photograph at its full size, until `release`. */
  private full(sha256: string): Promise<ImageBitmap | null> {
    if (this.whole?.sha256 !== sha256) {
      this.release()
      this.whole = { sha256, bitmap: this.load(sha256) }
    }
    return this.whole!.bitmap
  }
  release(): void {
    void this.whole?.bitmap.then((b) => b?.close())
    this.whole = null
  }

  /** The picture with the photograph behind it; as it is where that cannot be had. */
  async compose(image: ImageData, photo: BehindPhoto, lying: Lying, isFinished: boolean): Promise<ImageBitmap> {
    const bitmap = await (isFinished ? this.full(photo.sha256) : this.small(photo.sha256))
    const { width, height } = image
    const paper = new OffscreenCanvas(width, height).getContext('2d')!
    const model = await createImageBitmap(image)
    if (bitmap) {
      draw(paper, bitmap, lying)
      paper.globalAlpha = photo.opacity ?? 1
    } else {
      paper.fillStyle = '#8a8a88'
      paper.fillRect(0, 0, width, height)
    }
    paper.drawImage(model, 0, 0)
    model.close()
    paper.globalAlpha = 1
    if (bitmap) for (const m of photo.masks) before(paper, bitmap, m, lying)
    return paper.canvas.transferToImageBitmap()
  }
  dispose(): void {
    this.release()
    for (const b of this.shared.values()) void b.then((x) => x?.close())
    this.shared.clear()
  }
}

function draw(paper: Paper, photo: ImageBitmap, { x, y, width, height }: Lying): void {
  const [w, h] = [paper.canvas.width, paper.canvas.height]
  paper.imageSmoothingQuality = 'high'
  paper.drawImage(photo, (-x / width) * w, (-y / height) * h, w / width, h / height)
}
/** The photograph again within a polygon; its edge is soft by a blur, shared out on both sides. */
function before(paper: Paper, photo: ImageBitmap, m: BehindPhoto['masks'][number], lying: Lying): void {
  const [w, h] = [paper.canvas.width, paper.canvas.height]
  const layer = new OffscreenCanvas(w, h).getContext('2d')!
  const softPx = (m.soft / lying.width) * w
  if (softPx > 0.5) layer.filter = `blur(${softPx / 2}px)`
  layer.beginPath()
  m.points.forEach(([x, y], i) => {
    const [u, v] = [((x - lying.x) / lying.width) * w, ((y - lying.y) / lying.height) * h]
    if (i === 0) layer.moveTo(u, v)
    else layer.lineTo(u, v)
  })
  layer.closePath()
  layer.fill()
  layer.filter = 'none'
  layer.globalCompositeOperation = 'source-in'
  draw(layer, photo, lying)
  paper.drawImage(layer.canvas, 0, 0)
}
