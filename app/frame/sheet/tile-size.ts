// The three sizes of the contact sheet's pictures, page pixels.
import type { TileSize } from '../../stores/view.ts'

export const TILES: Readonly<Record<TileSize, { readonly width: number; readonly height: number }>> = {
  small: { width: 112, height: 62 },
  medium: { width: 152, height: 86 },
  large: { width: 216, height: 122 },
}
/** The gap behind a tile. */
export const GAP_PX = 10
const rowOf = (size: TileSize): number => TILES[size].height + 42
/** Height of the whole sheet: the picture, two lines of its name, and the room about them. */
export const SHEET_PX: Readonly<Record<TileSize, number>> = {
  small: rowOf('small'),
  medium: rowOf('medium'),
  large: rowOf('large'),
}
