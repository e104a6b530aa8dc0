// The finish: one pass from scene-linear samples to the picture, by exposure, white balance, vignetting, tone and development.

import { Matrix3, Vector2, Vector4, type Texture } from 'three'
import { principalPointPx, type Camera } from '#core/camera'
import { balanceMatrix, exposureFactor } from '#core/optics'
import type { Size, Tile } from './aim.ts'
import { fullPass, type FullPasses } from './full-passes.ts'
import { FINISH_FRAGMENT } from './shaders-finish.ts'
import type { Appearance } from './types.ts'

interface ToFinish {
  readonly source: Texture
  readonly flat: Texture
  /** One by the number of samples. */
  readonly weight: number
  readonly isFiltered: boolean
  readonly size: Size
  readonly camera: Camera
  readonly look: Appearance
  readonly tile: Tile | null
  /** What luminances were multiplied by. */
  readonly sceneFactor: number
  /** Bright points by themselves; null where there are none. */
  readonly points: Texture | null
}

export class Finish {
  private readonly gl: FullPasses
  private readonly pass = fullPass(FINISH_FRAGMENT, {
    uSource: { value: null },
    uFlatSource: { value: null },
    uWeight: { value: 1 },
    uPoints: { value: null },
    uHighlights: { value: 0 },
    uFilter: { value: 0 },
    uPixel: { value: new Vector2() },
    uExposure: { value: 1 },
    uBalance: { value: new Matrix3() },
    uVignette: { value: new Vector4(0, 0, 1, 0) },
    uDevelop: { value: new Vector2(1, 1) },
    uClipping: { value: 0 },
    uTone: { value: 1 },
    toneMappingExposure: { value: 1 },
  })

  constructor(gl: FullPasses) {
    this.gl = gl
  }

  /** RGBA, rows from the top. */
  picture({
    source,
    flat,
    weight,
    isFiltered,
    size,
    camera,
    look,
    tile,
    sceneFactor,
    points,
  }: ToFinish): Promise<ImageData> {
    const { exposure } = look
    const u = this.pass.uniforms
    u['uSource']!.value = source
    u['uFlatSource']!.value = flat
    u['uWeight']!.value = weight
    u['uPoints']!.value = points
    u['uHighlights']!.value = points ? (look.blur?.highlights ?? 1) : 0
    u['uFilter']!.value = isFiltered ? 1 : 0
    ;(u['uPixel']!.value as Vector2).set(1 / size.width, 1 / size.height)
    u['uExposure']!.value = exposureFactor(exposure.ev100, exposure.compensationEv) / sceneFactor
    ;(u['uBalance']!.value as Matrix3).set(...balanceMatrix(exposure.whiteBalance))
    ;(u['uVignette']!.value as Vector4).copy(
      vignetteOf(camera, size, tile, exposure.vignetting ? (exposure.vignettingStrength ?? 1) : 0),
    )
    ;(u['uDevelop']!.value as Vector2).set(exposure.finish?.contrast ?? 1, exposure.finish?.saturation ?? 1)
    u['uClipping']!.value = look.clipping ? 1 : 0
    u['uTone']!.value = exposure.tone === 'linear' ? 0 : 1
    return this.gl.readOut(this.pass, size)
  }
}

/** Principal point and focal length in pixels of what is drawn, rows from the top, and the strength; none where there is no lens. */
function vignetteOf(camera: Camera, size: Size, tile: Tile | null, strength: number): Vector4 {
  if (camera.lens.projection.kind !== 'perspective' || strength === 0) return new Vector4(0, 0, 1, 0)
  const { xPx, yPx, pxPerMm } = principalPointPx(camera)
  const k = tile ? 1 : size.width / camera.frame.widthPx
  return new Vector4(
    (xPx - (tile?.x ?? 0)) * k,
    (yPx - (tile?.y ?? 0)) * k,
    camera.lens.focalMm * pxPerMm * k,
    strength,
  )
}
