// A sample through a lens as passes read it: its light, distances, what is clear before it, what is taken out of it, what the barrel leaves.
import { Vector2, Vector4, type ShaderMaterial } from 'three'
import { isPerspective, type Camera } from '#core/camera'
import { apertureM } from '#core/optics'
import type { LensPlace } from './aim.ts'
import { clearTextures, NO_CLEAR } from './clear-layer.ts'
import { fullPass } from './full-passes.ts'
import { catOf, fullDisc, inFrame, type LensSample } from './lens-frame.ts'
import type { Uniforms } from './light-uniforms.ts'
import { onLens } from './sample.ts'
import { MOST_PLACES } from './shaders-lens.ts'
import type { Targets } from './targets.ts'
import type { Blur } from './types.ts'

/** Whether a camera has a lens that blurs. */
export const hasLens = (camera: Camera): boolean => isPerspective(camera)

/** Where a place on the lens (radius 1) lies; null where nothing is blurred. */
export function lensPlace(camera: Camera, blur: Blur, [x, y]: readonly [number, number] = [0, 0]): LensPlace | null {
  const { focalMm } = camera.lens
  // focused nearer than the focal length there is no picture: the lens stays a point
  if (!hasLens(camera) || !(blur.focusM > (focalMm / 1000) * 1.001)) return null
  const radius = apertureM({ focalMm, fNumber: blur.fNumber, focusM: blur.focusM }) / 2
  return { xM: x * radius, yM: y * radius, focusM: blur.focusM }
}

/** Diameter of the disc of what lies infinitely far behind the focus, pixels of what is drawn. */
const farDiscPx = ({ camera, blur, perPx }: LensSample): number =>
  fullDisc(camera, blur, { widthPx: camera.frame.widthPx * perPx })

/** Uniforms of passes over a sample (WITHOUT_POINTS_PARS and APERTURE_LEFT_PARS), with those of one's own. */
export const lensUniforms = (own: Uniforms): Uniforms => ({
  uSource: { value: null },
  uFlatSource: { value: null },
  uDepth: { value: null },
  uGlint: { value: null },
  uOver: { value: null },
  uClear: { value: null },
  uPixel: { value: new Vector2() },
  uBlur: { value: new Vector2() },
  uAxial: { value: new Vector2() },
  uPoints2D: { value: null },
  uLensShift: { value: new Vector4() },
  uInFrame: { value: new Vector4(0, 0, 1, 1) },
  uMapped: { value: new Vector4(0, 0, 1, 1) },
  uCat: { value: new Vector4() },
  uLens: { value: new Vector2() },
  uPlaces: { value: Array.from({ length: MOST_PLACES }, () => new Vector2()) },
  uPlaceCount: { value: 0 },
  ...own,
})

export function setLensUniforms(u: Uniforms, t: Targets, by: LensSample): void {
  const { camera, blur, size, tile, takenOut, axial, sample } = by
  const { over, glints } = clearTextures(t)
  u['uSource']!.value = t.lit.textures[0]
  u['uFlatSource']!.value = t.lit.textures[1]
  u['uDepth']!.value = t.facts.depthTexture
  u['uOver']!.value = over
  u['uGlint']!.value = glints
  u['uClear']!.value = t.clear?.layer.textures[1] ?? NO_CLEAR
  ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
  ;(u['uAxial']!.value as Vector2).set(...axial)
  ;(u['uBlur']!.value as Vector2).set(farDiscPx(by), blur.focusM)
  u['uPoints2D']!.value = takenOut?.points ?? null
  if (takenOut) {
    ;(u['uLensShift']!.value as Vector4).copy(takenOut.shift)
    ;(u['uMapped']!.value as Vector4).copy(takenOut.mapped)
  } else (u['uLensShift']!.value as Vector4).set(0, 0, 0, 1)
  ;(u['uInFrame']!.value as Vector4).copy(inFrame(camera, tile))
  const cat = catsEyeOf(by)
  if (cat === 0) return
  ;(u['uCat']!.value as Vector4).copy(catOf(camera, cat))
  ;(u['uLens']!.value as Vector2).set(...sample.lens)
  const n = Math.min(sample.of, MOST_PLACES)
  u['uPlaceCount']!.value = n
  const places = u['uPlaces']!.value as Vector2[]
  for (let i = 0; i < n; i++) places[i]!.set(...onLens(blur, Math.floor((i * sample.of) / n), sample.of))
}
/** How strong the cat's-eye of a sample is; of a picture of one sample there is none. */
const catsEyeOf = ({ blur, sample }: LensSample): number => (sample.of > 1 ? (blur.shape.catsEye ?? 0) : 0)

/** Passes of the same fragment with only what is asked for in them, each made once. */
export class LensPasses {
  private readonly made = new Map<string, ShaderMaterial>()
  private readonly fragment: string
  private readonly uniforms: Uniforms
  private readonly prepare: (pass: ShaderMaterial) => void

  constructor(fragment: string, uniforms: Uniforms, prepare: (pass: ShaderMaterial) => void = () => undefined) {
    this.fragment = fragment
    this.uniforms = uniforms
    this.prepare = prepare
  }
  of(t: Targets, by: LensSample): ShaderMaterial {
    const defines = {
      ...(t.clear?.isApart && { CLEAR: '' }),
      ...(by.hasFlat && { FLAT: '' }),
      ...(by.takenOut && { POINTS: '' }),
      ...(catsEyeOf(by) > 0 && { CATS_EYE: '' }),
    }
    const key = Object.keys(defines).join()
    const made = this.made.get(key)
    if (made) return made
    const pass = fullPass(this.fragment, this.uniforms)
    pass.defines = defines
    this.prepare(pass)
    this.made.set(key, pass)
    return pass
  }
  dispose(): void {
    for (const p of this.made.values()) p.dispose()
  }
}
