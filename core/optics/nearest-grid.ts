// What is nearest within some pixels of a place: distances of a picture, block by block.

/** Pixels a side of a block. */
const BLOCK = 8

export class NearestGrid {
  private readonly across: number
  private readonly down: number
  private readonly least: Float32Array

  /** `depths`: distances along the axis, metres, by rows. */
  constructor(depths: Float32Array, { width, height }: { readonly width: number; readonly height: number }) {
    this.across = Math.ceil(width / BLOCK)
    this.down = Math.ceil(height / BLOCK)
    this.least = new Float32Array(this.across * this.down).fill(Infinity)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = Math.floor(y / BLOCK) * this.across + Math.floor(x / BLOCK)
        if (depths[y * width + x]! < this.least[at]!) this.least[at] = depths[y * width + x]!
      }
  }

  /** Nothing within so many pixels of a place is nearer than this, metres; past the edges the picture goes on as it is there. */
  nearestM(xPx: number, yPx: number, withinPx: number): number {
    const span = (at: number, blocks: number): readonly [number, number] =>
      [at - withinPx, at + withinPx].map((v) => Math.min(blocks - 1, Math.max(0, Math.floor(v / BLOCK)))) as [number, number] // prettier-ignore
    const [left, right] = span(xPx, this.across)
    const [low, high] = span(yPx, this.down)
    let nearest = Infinity
    for (let y = low; y <= high; y++)
      for (let x = left; x <= right; x++) nearest = Math.min(nearest, this.least[y * this.across + x]!)
    return nearest
  }
}
