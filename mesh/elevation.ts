// What does a model look like from the front, drawn small and without a graphics card?
// Model: parallel projection onto the plane of x and the up axis, a depth buffer, one light from upper left in front. For the
// judgement of size and up axis before a model is brought in. Space: the file's own axes and units.

import type { Box } from '#core/math'
import type { Soup } from './types.ts'

export interface Elevation {
  readonly width: number
  readonly height: number
  /** RGBA rows from the top; clear where nothing is. */
  readonly pixels: Uint8ClampedArray
}

/** The view against the depth axis, `longestPx` on its longer side. Linear in triangles and covered pixels. */
export function elevation(soup: Soup, box: Box, up: 'y' | 'z', longestPx: number): Elevation {
  const v = up === 'y' ? 1 : 2
  const d = up === 'y' ? 2 : 1
  // towards the viewer: the file's +z when y is up (glTF's front), its -y when z is up
  const toViewer = up === 'y' ? 1 : -1
  const w = box.max[0] - box.min[0]
  const h = box.max[v] - box.min[v]
  const k = longestPx / Math.max(w, h, 1e-12)
  const width = Math.max(1, Math.ceil(w * k))
  const height = Math.max(1, Math.ceil(h * k))
  const depth = new Float32Array(width * height).fill(-Infinity)
  const pixels = new Uint8ClampedArray(width * height * 4)
  const { positions: p, indices, albedo } = soup
  const tone = Float32Array.from({ length: 256 }, (_, v) => Math.pow((v / 255) * 0.8 + 0.12, 1 / 2.2))
  for (let t = 0; t < indices.length; t += 3) {
    const a = indices[t]! * 3
    const b = indices[t + 1]! * 3
    const c = indices[t + 2]! * 3
    const ax = (p[a]! - box.min[0]) * k, ay = (box.max[v] - p[a + v]!) * k, az = p[a + d]! * toViewer * k // prettier-ignore
    const bx = (p[b]! - box.min[0]) * k, by = (box.max[v] - p[b + v]!) * k, bz = p[b + d]! * toViewer * k // prettier-ignore
    const cx = (p[c]! - box.min[0]) * k, cy = (box.max[v] - p[c + v]!) * k, cz = p[c + d]! * toViewer * k // prettier-ignore
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
    if (area === 0 || !Number.isFinite(area)) continue
    // the plane's slope gives the light
    const sx = ((bz - az) * (cy - ay) - (cz - az) * (by - ay)) / area
    const sy = ((bx - ax) * (cz - az) - (cx - ax) * (bz - az)) / area
    const lit = Math.max(0.25, Math.min(1, (0.75 + 0.45 * sx + 0.6 * sy) / Math.sqrt(1 + sx * sx + sy * sy)))
    const put = (at: number, z: number): void => {
      if (z <= depth[at]!) return
      depth[at] = z
      for (let i = 0; i < 3; i++) pixels[at * 4 + i] = 255 * tone[albedo[a + i]!]! * lit
      pixels[at * 4 + 3] = 255
    }
    const x0 = Math.max(0, Math.floor(Math.min(ax, bx, cx)))
    const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx, cx)))
    const y0 = Math.max(0, Math.floor(Math.min(ay, by, cy)))
    const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by, cy)))
    // smaller than a pixel: its middle is enough
    if (x1 - x0 <= 1 && y1 - y0 <= 1) {
      put(
        Math.min(y1, Math.floor((ay + by + cy) / 3)) * width + Math.min(x1, Math.floor((ax + bx + cx) / 3)),
        (az + bz + cz) / 3,
      )
      continue
    }
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const px = x + 0.5
        const py = y + 0.5
        const u = ((bx - px) * (cy - py) - (cx - px) * (by - py)) / area
        const q = ((cx - px) * (ay - py) - (ax - px) * (cy - py)) / area
        const r = 1 - u - q
        if (u >= 0 && q >= 0 && r >= 0) put(y * width + x, u * az + q * bz + r * cz)
      }
  }
  return { width, height, pixels }
}
