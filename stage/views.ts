// The views that a picture is made of, at the sizes they are drawn at, and the map by which they are resampled.
// Model: where each pixel lies in a view is worked out by the core at places a few pixels apart and interpolated between them (within a
// hundredth of a pixel for any lens that does not fold).

import { DataTexture, FloatType, NearestFilter, RGFormat, Vector2 } from 'three'
import { viewsOf, type Camera, type Resampling } from '#core/camera'
import type { Size, Tile } from './aim.ts'

/** What is drawn of one view, and the picture's map into it. */
export interface DrawnView {
  /** Straight: no distortion is left in it. */
  readonly camera: Camera
  readonly size: Size
  /** Of the view's frame. */
  readonly tile: Tile | null
  /** Null where the view is the picture. */
  readonly map: ViewMap | null
}
/** Places of the drawn view for places of the picture: shares of its width and height, rows from the top; `UNSEEN` where nothing is seen. */
export interface ViewMap {
  readonly texture: DataTexture
}
/** Where a lens sees nothing: a little below nought is just past the view's edge. */
export const UNSEEN = -8
/** At most so many pixels of the picture between two nodes. */
const STEP_PX = 8
/**
 * A view on the screen has at most so many times the picture's pixels: a barrel that draws its corners in by 6 % is 3 % coarser in the
 * middle, which nobody sees there. Tiles of a finished picture are drawn in full.
 */
const MOST_PIXELS = 1.04

/** The view of a picture of `size` pixels: the whole frame, or a tile of it. */
export function drawnView(camera: Camera, size: Size, tile: Tile | null): DrawnView {
  const { views, resampling } = viewsOf(camera)
  if (!resampling) return { camera, size, tile, map: null }
  const [view] = views
  const { widthPx, heightPx } = camera.frame
  const part = tile ?? { x: 0, y: 0, width: widthPx, height: heightPx }
  const [scaleX, scaleY] = [size.width / part.width, size.height / part.height]
  if (tile) {
    const box = boxOf(view, withinFrame(part, camera), resampling)
    const drawn = { width: Math.max(8, Math.round(box.width * scaleX)), height: Math.max(8, Math.round(box.height * scaleY)) } // prettier-ignore
    return { camera: view, size: drawn, tile: box, map: mapOf(size, part, box, resampling, camera.frame) }
  }
  const { widthPx: w, heightPx: h } = view.frame
  const k = Math.min(1, Math.sqrt((MOST_PIXELS * size.width * size.height) / (w * scaleX * h * scaleY)))
  const drawn = { width: Math.max(8, Math.round(w * scaleX * k)), height: Math.max(8, Math.round(h * scaleY * k)) }
  return { camera: view, size: drawn, tile: null, map: mapOf(size, part, { x: 0, y: 0, width: w, height: h }, resampling, camera.frame) } // prettier-ignore
}

/** What of a part lies in the picture: its border may reach past it, where a lens sees nothing. */
function withinFrame(part: Tile, { frame }: Camera): Tile {
  const [x, y] = [Math.max(0, part.x), Math.max(0, part.y)]
  const width = Math.min(frame.widthPx, part.x + part.width) - x
  const height = Math.min(frame.heightPx, part.y + part.height) - y
  return { x, y, width, height }
}
/** Whole pixels of a view's frame that a part of the picture needs. */
function boxOf(view: Camera, part: Tile, resampling: Resampling): Tile {
  const out: [number, number] = [0, 0]
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  const STEPS = 16
  const ask = (x: number, y: number): void => {
    if (!resampling(x, y, out)) return
    x0 = Math.min(x0, out[0])
    x1 = Math.max(x1, out[0])
    y0 = Math.min(y0, out[1])
    y1 = Math.max(y1, out[1])
  }
  for (let i = 0; i <= STEPS; i++)
    for (let j = 0; j <= STEPS; j++) ask(part.x + (part.width * i) / STEPS, part.y + (part.height * j) / STEPS)
  if (x1 < x0) return { x: 0, y: 0, width: Math.min(8, view.frame.widthPx), height: Math.min(8, view.frame.heightPx) }
  // for the filter's neighbours
  const [x, y] = [Math.floor(x0) - 2, Math.floor(y0) - 2]
  return { x, y, width: Math.ceil(x1) + 2 - x, height: Math.ceil(y1) + 2 - y }
}

function mapOf(
  size: Size,
  part: Tile,
  box: Tile,
  resampling: Resampling,
  { widthPx, heightPx }: Camera['frame'],
): ViewMap {
  const out: [number, number] = [0, 0]
  // the last ones lie on the picture's edge: beyond it a lens may fold
  const across = Math.ceil(size.width / STEP_PX) + 1
  const down = Math.ceil(size.height / STEP_PX) + 1
  const data = new Float32Array(across * down * 2)
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const x = part.x + (i * part.width) / (across - 1)
      const y = part.y + (j * part.height) / (down - 1)
      const at = (j * across + i) * 2
      // past the picture's edge it goes on straight, so that the pixels up to it lie between two places
      const [u, v] = [Math.min(Math.max(x, 0), widthPx), Math.min(Math.max(y, 0), heightPx)]
      const isSeen = resampling(u, v, out)
      data[at] = isSeen ? (out[0] + x - u - box.x) / box.width : UNSEEN
      data[at + 1] = isSeen ? (out[1] + y - v - box.y) / box.height : UNSEEN
    }
  const texture = new DataTexture(data, across, down, RGFormat, FloatType)
  texture.minFilter = texture.magFilter = NearestFilter
  texture.needsUpdate = true
  return { texture }
}

export const viewUniforms = () => ({
  uMap: { value: null as DataTexture | null },
  uMapOn: { value: 0 },
  uOut: { value: new Vector2(1, 1) },
})
/** Sets what a pass needs to find its places in a view. */
export function setView(u: ReturnType<typeof viewUniforms>, { map }: DrawnView, size: Size): void {
  u.uMap.value = map?.texture ?? null
  u.uMapOn.value = map ? 1 : 0
  u.uOut.value.set(size.width, size.height)
}

/** GLSL: the place in the view for a place of the picture, both shares with rows from the top; below nought where nothing is seen. */
export const VIEW_PARS = /* glsl */ `
uniform highp sampler2D uMap;
uniform float uMapOn;
uniform vec2 uOut;
vec2 inView(vec2 place) {
  if (uMapOn < 0.5) return place;
  ivec2 last = textureSize(uMap, 0) - 1;
  vec2 t = place * vec2(last);
  ivec2 i = clamp(ivec2(floor(t)), ivec2(0), last - 1);
  vec2 f = t - vec2(i);
  vec2 a = texelFetch(uMap, i, 0).rg, b = texelFetch(uMap, i + ivec2(1, 0), 0).rg;
  vec2 c = texelFetch(uMap, i + ivec2(0, 1), 0).rg, d = texelFetch(uMap, i + ivec2(1, 1), 0).rg;
  if (min(min(a.x, b.x), min(c.x, d.x)) < ${(UNSEEN / 2).toFixed(1)}) return vec2(-1.0);
  return mix(mix(a, b, f.x), mix(c, d, f.x), f.y);
}
`
