// How bright does a luminance come out?
// Model: saturation-based exposure; a luminance of 1.2 x 2^EV100 reaches the sensor's white. Source: iso12232, lagarde2014.

/** Exposure value at ISO 100. f/16, 1/125 s, ISO 100 gives 14.97. */
export const exposureValue100 = (s: { fNumber: number; shutterS: number; iso: number }): number =>
  Math.log2((s.fNumber * s.fNumber) / s.shutterS) - Math.log2(s.iso / 100)

/** Factor from luminance (cd/m2) to linear picture value (1 = saturated). Each +1 of compensation doubles it. */
export const exposureFactor = (ev100: number, compensationEv = 0): number => 2 ** compensationEv / (1.2 * 2 ** ev100)

/** The EV100 a reflected-light meter (K = 12.5) reads from a mean luminance in cd/m2. */
export const meteredEv100 = (luminance: number): number => Math.log2(luminance / 0.125)
