// How bright is the sky in a direction, and how much light falls from it?
// Model: the standard clear sky (type 12, low turbidity) scaled to a chosen diffuse illuminance, blue away from the sun and paler
// towards the horizon; under the horizon a plain grey ground. The same numbers go to the picture's sky, the baked light and the
// shader (stage/shaders-lighting.ts uses these coefficients).
// Space: world directions, Z up; luminance cd/m2, illuminance lx. Source: iso15469 (coefficients from memory).
// Rejected: a plain gradient (no bright side towards the sun: interiors looked lit from nowhere).

import { RAD_PER_DEG } from '../base/index.ts'
import { directionOf } from '../camera/index.ts'
import { dot, type Vec3 } from '../math/index.ts'

/** Gradation (a, b) and indicatrix (c, d, e) of sky type 12. */
export const CLEAR_SKY = { a: -1, b: -0.32, c: 10, d: -3, e: 0.45 } as const

export interface SkyLight {
  readonly sunBearingDeg: number
  readonly sunElevationDeg: number
  /** Illuminance of the sun on a surface facing it, lx. */
  readonly sunLux: number
  /** Illuminance of the sky alone on open level ground, lx. */
  readonly skyLux: number
}

/** Sunshine through slightly hazy air: contrast that a picture can hold. */
export const DAYLIGHT = { sunLux: 42_000, skyLux: 14_000 } as const
/** At most so much, lx: outside of the air the sun gives 133,000 (astm-e490, from memory), a bright sky with white clouds some 50,000 (practice). */
export const MOST_LUX = { sunLux: 150_000, skyLux: 60_000 } as const
/** A sun and sky that were set; what has no number is as by day. */
export interface SunAndSky {
  readonly on: boolean
  readonly bearingDeg: number
  readonly elevationDeg: number
  readonly sunLux?: number | undefined
  readonly skyLux?: number | undefined
}
/** The light of a sun and sky that were set; a sun that is off leaves the sky. */
export const skyLightOf = ({ on, bearingDeg, elevationDeg, sunLux, skyLux }: SunAndSky): SkyLight => ({
  sunBearingDeg: bearingDeg,
  sunElevationDeg: elevationDeg,
  skyLux: skyLux ?? DAYLIGHT.skyLux,
  sunLux: on ? (sunLux ?? DAYLIGHT.sunLux) : 0,
})
export const GROUND_ALBEDO = 0.22
/** Linear tints: sunlight, the sky away from the sun, and near the horizon. */
export const SUN_COLOUR: Vec3 = [1.05, 0.985, 0.86]
export const SKY_ZENITH_COLOUR: Vec3 = [0.72, 0.99, 1.42]
export const SKY_HORIZON_COLOUR: Vec3 = [0.97, 1.0, 1.05]

export const sunDirection = (sky: Pick<SkyLight, 'sunBearingDeg' | 'sunElevationDeg'>): Vec3 =>
  directionOf(sky.sunBearingDeg, sky.sunElevationDeg)

/** Illuminance of open level ground, lx. */
export const groundLux = (sky: SkyLight): number => sky.skyLux + sky.sunLux * Math.max(0, sunDirection(sky)[2])

/** What of it is about from all sides in the open, lx: the sky's, and what grounds throw back of the sun's. */
export const aroundLux = (sky: SkyLight): number => sky.skyLux + (groundLux(sky) - sky.skyLux) * GROUND_ALBEDO

/** The sky that light from all sides is worked out for: this one; by day where it is dark, so that other skies have what to take a share of. */
export const bakedSky = (sky: SkyLight): SkyLight => (aroundLux(sky) > 0 ? sky : { ...sky, ...DAYLIGHT })

const gradation = (sinElevation: number): number =>
  1 + CLEAR_SKY.a * Math.exp(CLEAR_SKY.b / Math.max(0.01, sinElevation))
const indicatrix = (chi: number): number =>
  1 +
  CLEAR_SKY.c * (Math.exp(CLEAR_SKY.d * chi) - Math.exp((CLEAR_SKY.d * Math.PI) / 2)) +
  CLEAR_SKY.e * Math.cos(chi) ** 2

/** Luminance of the sky relative to its zenith's. Directions at or under the horizon take the horizon's value. */
export function relativeSkyLuminance(direction: Vec3, sun: Vec3): number {
  const chi = Math.acos(Math.min(1, Math.max(-1, dot(direction, sun))))
  return (indicatrix(chi) * gradation(direction[2])) / zenithFactors(sun)
}
const zenithFactors = (sun: Vec3): number => indicatrix(Math.acos(Math.min(1, Math.max(-1, sun[2])))) * gradation(1)

/** What indicatrix times gradation of a direction is to be multiplied by for its luminance, cd/m2. */
export const skyScale = (sky: SkyLight): number => zenithLuminance(sky) / zenithFactors(sunDirection(sky))

/** Zenith luminance, cd/m2, that makes the sky's illuminance on level ground `skyLux`; a sum over 32 x 64 patches. */
export function zenithLuminance(sky: SkyLight): number {
  const sun = sunDirection(sky)
  let sum = 0
  const rows = 32
  const columns = 64
  for (let i = 0; i < rows; i++) {
    const e = ((i + 0.5) / rows) * 90
    const solid = Math.cos(e * RAD_PER_DEG) * ((Math.PI / 2 / rows) * ((2 * Math.PI) / columns))
    for (let j = 0; j < columns; j++) {
      const d = directionOf(((j + 0.5) / columns) * 360, e)
      sum += relativeSkyLuminance(d, sun) * d[2] * solid
    }
  }
  return sky.skyLux / sum
}

/** Colour and luminance seen in a direction, cd/m2 per channel, given the zenith's luminance. */
export function skyRadiance(direction: Vec3, sky: SkyLight, zenith: number): Vec3 {
  const sun = sunDirection(sky)
  if (direction[2] < 0) {
    const level = groundLux(sky) * (GROUND_ALBEDO / Math.PI)
    return [level, level, level * 0.96]
  }
  const l = zenith * relativeSkyLuminance(direction, sun)
  const t = Math.pow(1 - direction[2], 3)
  return [0, 1, 2].map((k) => l * (SKY_ZENITH_COLOUR[k]! * (1 - t) + SKY_HORIZON_COLOUR[k]! * t)) as unknown as Vec3
}
