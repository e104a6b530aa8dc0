// A photograph in a worker: decoded once, handed out in parts. The largest are held at full size too: nothing of it is in the page.
import { expose, transfer } from 'comlink'
import { AppError, failureData, type Outcome } from '#core/base'
import { distort } from '#core/camera'
import type { PhotoLens } from '#core/match'
import { findSegments, focalFromTags, refinedEdge, suggestBundles, type Grey } from '#core/photo'
import { readTags } from '#formats/exif'
import { readPhotoHeader } from '#formats/photo'
import type { FoundEdges, OpenedPhoto, PhotoDoor } from './photo-contract.ts'

/** Edges are found on so many pixels, and refined on no more than so many. */
const [FOUND_ON_PX, REFINED_ON_PX] = [3e6, 40e6]
/** Most edges that are refined and shown. */
const MOST_EDGES = 1500
let photo: ImageBitmap | null = null
let fine: { readonly grey: Grey; readonly k: number } | null = null

const hex = (b: ArrayBuffer): string => [...new Uint8Array(b)].map((v) => v.toString(16).padStart(2, '0')).join('')

async function open(file: Blob): Promise<OpenedPhoto> {
  const bytes = await file.arrayBuffer()
  const header = readPhotoHeader(new Uint8Array(bytes))
  if (!header.ok) throw new AppError('photo-unreadable', header.message)
  const { type } = header.value
  const [bitmap, digest] = await Promise.all([
    createImageBitmap(new Blob([bytes], { type }), { imageOrientation: 'from-image' }).catch(() => null),
    crypto.subtle.digest('SHA-256', bytes),
  ])
  if (!bitmap) throw new AppError('photo-unreadable', type === 'image/avif' ? 'This browser does not read AVIF.' : 'Its picture is damaged.') // prettier-ignore
  photo?.close()
  photo = bitmap
  fine = null
  const { width: widthPx, height: heightPx } = bitmap
  const tags = readTags(bytes)
  const told = focalFromTags(tags, widthPx, heightPx)
  return {
    ...{ type, sha256: hex(digest), widthPx, heightPx, camera: tags.camera ?? '' },
    focal: told.ok ? told.value : null,
    untold: told.ok ? '' : told.message,
  }
}

function drawn(width: number, height: number): OffscreenCanvasRenderingContext2D {
  const paper = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!paper) throw new AppError('photo-unreadable', 'There is not enough memory for it.')
  paper.imageSmoothingQuality = 'high'
  return paper
}
/** Brightness at a scale, strip by strip. */
async function greyAt(k: number): Promise<Grey> {
  const width = Math.max(4, Math.round(photo!.width * k))
  const height = Math.max(4, Math.round(photo!.height * k))
  const small = await createImageBitmap(photo!, { resizeWidth: width, resizeHeight: height, resizeQuality: 'high' })
  const data = new Uint8Array(width * height)
  const rows = Math.max(1, Math.floor(4e6 / width))
  const paper = drawn(width, Math.min(rows, height))
  for (let y = 0; y < height; y += rows) {
    const n = Math.min(rows, height - y)
    paper.clearRect(0, 0, width, rows)
    paper.drawImage(small, 0, -y)
    const p = paper.getImageData(0, 0, width, n).data
    for (let i = 0, o = y * width; i < p.length; i += 4)
      data[o++] = (p[i]! * 54 + p[i + 1]! * 183 + p[i + 2]! * 19) >> 8
  }
  small.close()
  return { width, height, data }
}
async function fineGrey(): Promise<NonNullable<typeof fine>> {
  const k = Math.min(1, Math.sqrt(REFINED_ON_PX / (photo!.width * photo!.height)))
  fine ??= { grey: await greyAt(k), k }
  return fine
}

async function edges(): Promise<FoundEdges> {
  const start = performance.now()
  const k = Math.min(1, Math.sqrt(FOUND_ON_PX / (photo!.width * photo!.height)))
  const grey = await greyAt(k)
  const found = findSegments(grey)
  const bundles = suggestBundles(found, grey.width, grey.height)
  const shown = new Set([...bundles.flatMap((b) => b.members), ...found.keys()].slice(0, Math.max(MOST_EDGES, bundles.flatMap((b) => b.members).length))) // prettier-ignore
  const kept = [...shown].sort((a, b) => a - b)
  const full = k < 1 ? await fineGrey() : { grey, k: 1 }
  const ends = new Float64Array(kept.length * 4)
  kept.forEach((at, i) => {
    const s = found[at]!
    const [a, b] = [s.a, s.b].map(([x, y]) => [(x / k) * full.k, (y / k) * full.k] as const) as [readonly [number, number], readonly [number, number]] // prettier-ignore
    const r = s.lengthPx > 12 ? refinedEdge(full.grey, a, b, (1.5 / k) * full.k) : null
    ends.set(
      [...(r?.a ?? a), ...(r?.b ?? b)].map((v) => v / full.k),
      i * 4,
    )
  })
  const place = new Map(kept.map((at, i) => [at, i]))
  return {
    ends,
    bundles: bundles.map((b) => ({ kind: b.kind, members: b.members.map((m) => place.get(m)!), supportPx: b.supportPx / k })), // prettier-ignore
    tookMs: performance.now() - start,
  }
}

/** Every pixel looked up where the lens put it. */
async function straightened({ focalPx, principal, distortion }: PhotoLens): Promise<Blob | null> {
  if (!photo) return null
  const { width, height } = photo
  const from = drawn(width, height)
  from.drawImage(photo, 0, 0)
  const source = from.getImageData(0, 0, width, height).data
  const out = new ImageData(width, height)
  const brown = { kind: 'brown' as const, ...distortion }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const d = distort(brown, (x + 0.5 - principal[0]) / focalPx, (y + 0.5 - principal[1]) / focalPx)
      if (!d) continue
      bilinear(source, width, height, d[0] * focalPx + principal[0] - 0.5, d[1] * focalPx + principal[1] - 0.5, out.data, (y * width + x) * 4) // prettier-ignore
    }
  from.putImageData(out, 0, 0)
  return from.canvas.convertToBlob({ type: 'image/png' })
}
function bilinear(
  s: Uint8ClampedArray,
  w: number,
  h: number,
  u: number,
  v: number,
  out: Uint8ClampedArray,
  o: number,
): void {
  // prettier-ignore
  if (u < -0.5 || v < -0.5 || u > w - 0.5 || v > h - 0.5) return
  const x = Math.min(Math.max(u, 0), w - 1)
  const y = Math.min(Math.max(v, 0), h - 1)
  const [i, j] = [Math.min(Math.floor(x), w - 2), Math.min(Math.floor(y), h - 2)]
  const [fx, fy] = [x - i, y - j]
  const at = (j * w + i) * 4
  for (let c = 0; c < 3; c++) {
    const top = s[at + c]! * (1 - fx) + s[at + 4 + c]! * fx
    const low = s[at + w * 4 + c]! * (1 - fx) + s[at + w * 4 + 4 + c]! * fx
    out[o + c] = top * (1 - fy) + low * fy
  }
  out[o + 3] = 255
}

const door: PhotoDoor = {
  open: async (file): Promise<Outcome<OpenedPhoto>> => {
    try {
      return { ok: true, value: await open(file) }
    } catch (e) {
      return failureData(e instanceof AppError ? e : new AppError('photo-unreadable', e instanceof Error ? e.message : String(e))) // prettier-ignore
    }
  },
  preview: async (longestPx) => {
    if (!photo) return null
    const k = Math.min(1, longestPx / Math.max(photo.width, photo.height))
    const [resizeWidth, resizeHeight] = [Math.max(1, Math.round(photo.width * k)), Math.max(1, Math.round(photo.height * k))] // prettier-ignore
    const small = await createImageBitmap(photo, { resizeWidth, resizeHeight, resizeQuality: 'high' })
    return transfer(small, [small])
  },
  part: async (x, y, width, height, toWidth, toHeight) => {
    if (!photo) return null
    const paper = drawn(toWidth, toHeight)
    paper.imageSmoothingEnabled = toWidth < width
    paper.drawImage(photo, x, y, width, height, 0, 0, toWidth, toHeight)
    const bitmap = paper.canvas.transferToImageBitmap()
    return transfer(bitmap, [bitmap])
  },
  edges: async () => {
    if (!photo) return { ends: new Float64Array(), bundles: [], tookMs: 0 }
    const found = await edges()
    return transfer(found, [found.ends.buffer as ArrayBuffer])
  },
  refine: async (a, b, reachPx) => {
    if (!photo) return null
    const { grey, k } = await fineGrey()
    const r = refinedEdge(grey, [a[0] * k, a[1] * k], [b[0] * k, b[1] * k], reachPx * k)
    return r && { ...r, a: [r.a[0] / k, r.a[1] / k], b: [r.b[0] / k, r.b[1] / k] }
  },
  straightened,
}
expose(door)
