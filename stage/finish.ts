// The finish: one pass from scene-linear samples to the picture, by exposure, white balance, vignetting, tone and development.

import { Data3DTexture, FloatType, Matrix3, NearestFilter, RGBAFormat, Vector2, Vector4, type Texture } from 'three'
import { type Camera, isPerspective, principalPointPx } from '#core/camera'
import { balanceMatrix, exposureFactor, unpackTable } from '#core/optics'
import type { Size, Tile } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { inFrame } from './lens-frame.ts'
import { FINISH_FRAGMENT } from './shaders-finish.ts'
import type { Appearance } from './types.ts'
import { setView, viewUniforms, type DrawnView } from './views.ts'

interface ToFinish {
  readonly source: Texture
  readonly flat: Texture
  /** One by the number of samples. */
  readonly weight: number
  readonly isFiltered: boolean
  /** What is resampled is as sharp as its samples are: for pictures that are looked at. */
  readonly isCrisp: boolean
  readonly look: Appearance
  /** What was drawn. */
  readonly view: DrawnView
  /** What is made of it: the camera's picture, or a tile of it. */
  readonly picture: { readonly camera: Camera; readonly size: Size; readonly tile: Tile | null }
  /** What luminances were multiplied by. */
  readonly sceneFactor: number
  /** Bright points by themselves; null where there are none. */
  readonly points: Texture | null
  /** Depth of the sample drawn last, where the sharp zone is outlined. */
  readonly depth: Texture | null
  readonly axial: readonly [number, number]
  /** The light of the whole frame spread by a narrow and a wide bell; null where none is. */
  readonly glare: readonly [Texture, Texture] | null
}

export class Finish {
  private readonly gl: FullPasses
  private readonly view = viewUniforms()
  private readonly pass = fullPass(FINISH_FRAGMENT, {
    ...this.view,
    uSource: { value: null },
    uFlatSource: { value: null },
    uWeight: { value: 1 },
    uPoints: { value: null },
    uHighlights: { value: 0 },
    uFilter: { value: 0 },
    uCrisp: { value: 0 },
    uPixel: { value: new Vector2() },
    uExposure: { value: 1 },
    uBalance: { value: new Matrix3() },
    uVignette: { value: new Vector4(0, 0, 1, 0) },
    uDevelop: { value: new Vector2(1, 1) },
    uShoulder: { value: 0.5 },
    uGrain: { value: 0 },
    uInFrame: { value: new Vector4() },
    uLateral: { value: new Vector4() },
    uTable: { value: null },
    uTableSize: { value: 0 },
    uTableStrength: { value: 0 },
    uGlareNarrow: { value: null },
    uGlareWide: { value: null },
    uGlare: { value: 0 },
    uGlareFrame: { value: new Vector4(0, 0, 1, 1) },
    uClipping: { value: 0 },
    uDepth: { value: null },
    uZone: { value: new Vector4() },
    uClear: { value: 0 },
    uTone: { value: 1 },
    toneMappingExposure: { value: 1 },
  })

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  private table: { readonly data: string; readonly texture: Data3DTexture; readonly size: number } | null = null
  private setTable({ table, exposure }: Appearance): void {
    const u = this.pass.uniforms
    const strength = exposure.finish?.table?.strength ?? 0
    if (table && strength > 0 && this.table?.data !== table.data) {
      this.table?.texture.dispose()
      const read = unpackTable(table.size, table.data)
      this.table = read && { data: table.data, texture: tableTexture(read), size: table.size }
    }
    const isOn = table !== undefined && strength > 0 && this.table?.data === table.data
    u['uTable']!.value = isOn ? this.table!.texture : null
    u['uTableSize']!.value = isOn ? this.table!.size : 0
    u['uTableStrength']!.value = isOn ? strength : 0
  }

  /** RGBA, rows from the top. */
  picture({
    source,
    flat,
    weight,
    isFiltered,
    isCrisp,
    look,
    view,
    picture,
    sceneFactor,
    points,
    depth,
    axial,
    glare,
  }: ToFinish): Promise<ImageData> {
    const { exposure } = look
    const { camera, size, tile } = view
    const u = this.pass.uniforms
    setView(this.view, view, picture.size)
    u['uSource']!.value = source
    u['uFlatSource']!.value = flat
    u['uWeight']!.value = weight
    u['uPoints']!.value = points
    u['uHighlights']!.value = points ? (look.blur?.highlights ?? 1) : 0
    u['uCrisp']!.value = isCrisp ? 1 : 0
    // what is resampled is softened by that
    u['uFilter']!.value = isFiltered && !view.map ? 1 : 0
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    u['uExposure']!.value = exposureFactor(exposure.ev100, exposure.compensationEv) / sceneFactor
    ;(u['uBalance']!.value as Matrix3).set(...balanceMatrix(exposure.whiteBalance))
    ;(u['uVignette']!.value as Vector4).copy(
      vignetteOf(camera, size, tile, exposure.vignetting ? (exposure.vignettingStrength ?? 1) : 0),
    )
    const { finish } = exposure
    ;(u['uDevelop']!.value as Vector2).set(finish?.contrast ?? 1, finish?.saturation ?? 1)
    u['uShoulder']!.value = finish?.shoulder ?? 0.5
    u['uGrain']!.value = (finish?.grain ?? 0) / 255
    const { widthPx, heightPx } = camera.frame
    const [w, h] = tile ? [widthPx, heightPx] : [size.width, size.height]
    // the grain is the picture's: where this lies in it, and grains for a pixel
    const whole = picture.tile ? picture.camera.frame : { widthPx: picture.size.width, heightPx: picture.size.height }
    ;(u['uInFrame']!.value as Vector4).set(picture.tile?.x ?? 0, picture.tile?.y ?? 0, whole.widthPx, whole.heightPx)
    const { xPx, yPx } = principalPointPx(camera)
    const k = w / widthPx
    ;(u['uLateral']!.value as Vector4).set(xPx * k - (tile?.x ?? 0), yPx * k - (tile?.y ?? 0), ((finish?.lateralPx ?? 0) * k) / (Math.hypot(w, h) / 2), 0) // prettier-ignore
    u['uGlareNarrow']!.value = glare?.[0] ?? null
    u['uGlareWide']!.value = glare?.[1] ?? null
    u['uGlare']!.value = glare ? (finish?.glare ?? 0) : 0
    ;(u['uGlareFrame']!.value as Vector4).copy(inFrame(camera, tile))
    this.setTable(look)
    u['uClipping']!.value = look.clipping ? 1 : 0
    u['uDepth']!.value = depth
    const { nearM, farM } = depth && look.zone ? look.zone : { nearM: 0, farM: 0 }
    ;(u['uZone']!.value as Vector4).set(nearM, Math.min(farM, 1e9), axial[0], axial[1])
    u['uClear']!.value = look.photo ? 1 : 0
    u['uTone']!.value = exposure.tone === 'linear' ? 0 : 1
    return this.gl.readOut(this.pass, picture.size)
  }
}

/** Places of a table as a texture; looked up between them by hand, in full precision. */
function tableTexture({ size, values }: NonNullable<ReturnType<typeof unpackTable>>): Data3DTexture {
  const data = new Float32Array(size ** 3 * 4)
  for (let i = 0; i < size ** 3; i++) data.set(values.subarray(i * 3, i * 3 + 3), i * 4)
  const texture = new Data3DTexture(data, size, size, size)
  Object.assign(texture, { format: RGBAFormat, type: FloatType, minFilter: NearestFilter, magFilter: NearestFilter })
  texture.needsUpdate = true
  return texture
}

/** Principal point and focal length in pixels of what is drawn, rows from the top, and the strength; none where there is no lens. */
function vignetteOf(camera: Camera, size: Size, tile: Tile | null, strength: number): Vector4 {
  if (!isPerspective(camera) || strength === 0) return new Vector4(0, 0, 1, 0)
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const k = tile ? 1 : size.width / camera.frame.widthPx
  return new Vector4(
    (xPx - (tile?.x ?? 0)) * k,
    (yPx - (tile?.y ?? 0)) * k,
    camera.lens.focalMm * pxPerMm * k,
    strength,
  )
}
