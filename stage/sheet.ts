// The sheet that a finished picture is put together on: its tiles, guides over it, and how it is written.
import type { Tile } from './aim.ts'
import type { StillLine } from './types.ts'

/** Stills are drawn in tiles of this size, with a border that contact shading needs. */
const TILE_PX = 1024
export const BORDER_PX = 48

/** A guide over a finished picture. */
export function drawLine(
  paper: OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D,
  { places, ink, strength, widthPx }: StillLine,
): void {
  paper.globalAlpha = strength
  paper.strokeStyle = ink
  paper.lineWidth = widthPx
  paper.beginPath()
  places.forEach(([x, y], i) => (i === 0 ? paper.moveTo(x, y) : paper.lineTo(x, y)))
  paper.stroke()
  paper.globalAlpha = 1
}

/** A plain canvas to put tiles together on: of the worker, or of the page where there is no worker. */
export function sheetOf(width: number, height: number): OffscreenCanvas | HTMLCanvasElement {
  if (typeof OffscreenCanvas !== 'undefined') return new OffscreenCanvas(width, height)
  return Object.assign(document.createElement('canvas'), { width, height })
}
export function pngOf(sheet: OffscreenCanvas | HTMLCanvasElement): Promise<Blob> {
  if ('convertToBlob' in sheet) return sheet.convertToBlob({ type: 'image/png' })
  return new Promise((resolve, reject) =>
    sheet.toBlob((b) => (b ? resolve(b) : reject(new Error('The picture could not be written.'))), 'image/png'),
  )
}

export function tilesOf(widthPx: number, heightPx: number): Tile[] {
  const tiles: Tile[] = []
  for (let y = 0; y < heightPx; y += TILE_PX)
    for (let x = 0; x < widthPx; x += TILE_PX)
      tiles.push({ x, y, width: Math.min(TILE_PX, widthPx - x), height: Math.min(TILE_PX, heightPx - y) })
  return tiles
}
