// How much darker is a picture toward its edges by nature?
// Model: cos^4 of the angle between a ray and the optical axis, which a shifted lens keeps. Source: handbook-7.

/** Share of light, 0..1, at a place `xMm`, `yMm` off the principal point on the sensor; `strength` 0 has none, 1 all of it. */
export function vignette(focalMm: number, xMm: number, yMm: number, strength = 1): number {
  const cos2 = (focalMm * focalMm) / (focalMm * focalMm + xMm * xMm + yMm * yMm)
  return (cos2 * cos2) ** strength
}
