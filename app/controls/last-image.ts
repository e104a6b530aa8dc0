// What a place of the page showed last: the view that takes its place shows it until it is drawn anew.
// Model: a canvas keeps its picture when it leaves the page; one of each place is held.

interface Last<T> {
  readonly canvas: HTMLCanvasElement
  readonly about: T
}
const held = new Map<string, Last<unknown>>()
const PLACES = 8

/** Remembers the canvas that shows `place` now, and what its picture is of. */
export function holdImage<T>(place: string, canvas: HTMLCanvasElement, about: T): void {
  held.delete(place)
  held.set(place, { canvas, about })
  if (held.size > PLACES) held.delete(held.keys().next().value!)
}

/** A copy of what `place` showed last; null when nothing is known of it. */
export async function lastImage<T>(place: string): Promise<{ readonly bitmap: ImageBitmap; readonly about: T } | null> {
  const last = held.get(place) as Last<T> | undefined
  if (!last || last.canvas.width === 0 || typeof createImageBitmap === 'undefined') return null
  const bitmap = await createImageBitmap(last.canvas).catch(() => null)
  return bitmap && { bitmap, about: last.about }
}
