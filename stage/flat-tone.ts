// Colours that are drawn flat: on the screen they are what they are, whatever the exposure is.
import type { Vec3 } from '#core/math'

/** Linear light of a colour of the screen (sRGB, 0..1). Source: iec61966-2-1. */
export const linearOf = (shown: Vec3): Vec3 =>
  shown.map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as unknown as Vec3
