// How bright does a surface shine by itself?
// Model: with an emissive strength the file states candela per square metre (khr-emissive-strength); without one its emission is that of a
// screen, whose white is taken as 160 cd/m2 (practice of office screens).
import { Color, MeshStandardMaterial } from 'three'

/** White of a screen, cd/m2. */
export const SCREEN_CDM2 = 160

/** Luminance by channel of a material's own light, cd/m2; null where it has none. */
export function emissionOf(m: unknown): Color | null {
  if (!(m instanceof MeshStandardMaterial)) return null
  const { emissive, emissiveIntensity: strength } = m
  if (!(strength * (emissive.r + emissive.g + emissive.b) > 0)) return null
  return emissive.clone().multiplyScalar(strength === 1 ? SCREEN_CDM2 : strength)
}
