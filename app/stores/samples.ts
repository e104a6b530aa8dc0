// How many samples is a picture refined with?
/** Of the picture at rest and of a finished one, as long as nobody has set them; of the picture in clay, and of small ones. */
export const SAMPLES = { picture: 16, still: 32, clay: 6, thumbnail: 1, cover: 12 } as const
/** Fewer and more than these nobody sets. */
export const LEAST_SAMPLES = 1
export const MOST_SAMPLES = 1024
export const heldSamples = (n: number): number => Math.round(Math.min(MOST_SAMPLES, Math.max(LEAST_SAMPLES, n || 1)))
