// What lighting and clear materials share: the light from all sides, the sun, its shadow, the mirrored surroundings.

import { Color, Data3DTexture, DataUtils, HalfFloatType, LinearFilter, RGBAFormat, Vector2, Vector3 } from 'three'

export type Uniforms = Record<string, { value: unknown }>

/** Uniforms that lighting and clear materials share. */
export const lightUniforms = (): Uniforms => ({
  uLightR: { value: flatVolume() },
  uLightG: { value: flatVolume() },
  uLightB: { value: flatVolume() },
  uLightOrigin: { value: new Vector3() },
  uLightStep: { value: new Vector3(1, 1, 1) },
  uLightSize: { value: new Vector3(1, 1, 1) },
  uLightScale: { value: 1 },
  uReach: { value: 0.3 },
  uSun: { value: new Vector3(0, 0, 1) },
  uSunColour: { value: new Color() },
  uShadow: { value: null },
  uShadowFromWorld: { value: null },
  uShadowTint: { value: null },
  uShadowTintOn: { value: 0 },
  uShadowOn: { value: 1 },
  uShadowTexelM: { value: 0.01 },
  uSeed: { value: 0 },
  uEnvironment: { value: null },
  uEnvironmentOn: { value: 0 },
  uDepth: { value: null },
  uApart: { value: 0 },
  uInverseSize: { value: new Vector2(1, 1) },
})

/** Coefficients of the light from all sides, four a place, as a texture of half floats. */
export function volumeTexture(data: Float32Array, size: readonly [number, number, number]): Data3DTexture {
  const half = new Uint16Array(data.length)
  for (let i = 0; i < data.length; i++) half[i] = DataUtils.toHalfFloat(Math.min(60_000, Math.max(-60_000, data[i]!)))
  const t = new Data3DTexture(half, ...size)
  t.format = RGBAFormat
  t.type = HalfFloatType
  t.minFilter = t.magFilter = LinearFilter
  t.needsUpdate = true
  return t
}
/** Before the light is baked: the same soft light everywhere, a little more from above. */
const flatVolume = (): Data3DTexture => volumeTexture(new Float32Array([1700, 0, 0, 500]), [1, 1, 1])
