import { describe, expect, it } from 'vitest'
import { viewsOf } from '#core/camera'
import { cameraOf } from '../tests/support/cameras.ts'
import { drawnView, UNSEEN } from './views.ts'

describe('a tile of a picture through a lens that bends', () => {
  const BORDER = 48
  for (const [name, k1] of [
    ['barrel', -0.06],
    ['pincushion', 0.05],
  ] as const)
    // prettier-ignore
    it(`has every pixel that lies in the picture, at the picture’s edges too: ${name}`, () => {
      const camera = cameraOf({ tiltDeg: -3 }, { riseMm: -0.15, crossMm: -0.1, distortion: { kind: 'brown', k1, k2: 0, k3: 0, p1: 0, p2: 0 } }, [2400, 1600]) // prettier-ignore
      const { resampling } = viewsOf(camera)
      for (const [x, y, width, height] of [
        [0, 0, 1024, 1024],
        [1024, 0, 1024, 1024],
        [2048, 0, 352, 1024],
        [0, 1024, 1024, 576],
        [2048, 1024, 352, 576],
      ] as const) {
        const tile = { x: x - BORDER, y: y - BORDER, width: width + 2 * BORDER, height: height + 2 * BORDER }
        const { tile: box } = drawnView(camera, tile, tile)
        const at: [number, number] = [0, 0]
        for (let i = 0; i <= 64; i++)
          for (let j = 0; j <= 64; j++) {
            expect(resampling!(x + (i / 64) * width, y + (j / 64) * height, at)).toBe(true)
            expect(at[0]).toBeGreaterThanOrEqual(box!.x)
            expect(at[1]).toBeGreaterThanOrEqual(box!.y)
            expect(at[0]).toBeLessThanOrEqual(box!.x + box!.width)
            expect(at[1]).toBeLessThanOrEqual(box!.y + box!.height)
          }
      }
    })
  it('has places on both sides of every pixel, where the tile’s own size is no multiple of anything', () => {
    const camera = cameraOf({}, { distortion: { kind: 'brown', k1: -0.06, k2: 0, k3: 0, p1: 0, p2: 0 } }, [1107, 739])
    const tile = { x: -BORDER, y: -BORDER, width: 1024 + 2 * BORDER, height: 739 + 2 * BORDER }
    const { map } = drawnView(camera, tile, tile)
    const { data, width, height } = map!.texture.image as { data: Float32Array; width: number; height: number }
    const [firstX, firstY] = [BORDER, BORDER].map((b, k) => Math.floor((b / (k ? tile.height : tile.width)) * ((k ? height : width) - 1))) as [number, number] // prettier-ignore
    expect(data[(firstY * width + firstX) * 2]).toBeGreaterThan(-0.02)
    expect(data[(firstY * width + firstX) * 2]).not.toBe(UNSEEN)
    for (let i = firstX + 1; i < width - 14; i++) expect(data[((firstY + 1) * width + i) * 2]).toBeGreaterThanOrEqual(0)
  })
})
