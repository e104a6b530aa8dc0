// The core's camera put into a three camera: the whole picture or a tile of it, shifted within the pixel for a sample.

import { Matrix4, type Camera as ThreeCamera } from 'three'
import { axesOf, type Camera, cameraFromWorld, clipFromCamera, isPerspective } from '#core/camera'
import { ALL_SHOWN, type Shown } from '#core/section'
import type { StageScene } from './scene.ts'

export interface Size {
  readonly width: number
  readonly height: number
}
/** Rectangle of the whole picture that is drawn, in its pixels from the top left; may reach over its edge. */
export interface Tile extends Size {
  readonly x: number
  readonly y: number
}

/** Offset of the eye in the camera's right and up, metres, and the depth that stays in place. */
export interface LensPlace {
  readonly xM: number
  readonly yM: number
  readonly focusM: number
}
/** Nothing nearer to a perspective eye is drawn. */
export const NEAR_M = 0.02

/** Near and far cut. */
export type ViewCuts = Pick<Shown['cuts'], 'nearM' | 'farM'>

/** Sets view and projection of `eye`; near and far follow the model's depth and the cuts. `jitter` is in pixels of `size`; `lens`: beside its middle. */
export function aimEye(
  eye: ThreeCamera,
  stage: StageScene,
  camera: Camera,
  tile: Tile | null,
  size: Size,
  jitter: readonly [number, number],
  cut: ViewCuts = ALL_SHOWN.cuts,
  lens: LensPlace | null = null,
): void {
  const { forward } = axesOf(camera.pose)
  const range = stage.depthRange(camera.pose.station, forward)
  const perspective = isPerspective(camera)
  const free = perspective
    ? Math.max(NEAR_M, Math.min(range.nearM * 0.98, range.farM / 4), range.farM / 20_000)
    : range.nearM - 1
  // a hair before a near cut, so that its faces are drawn too
  const held = cut.nearM === null ? null : cut.nearM - Math.max(1e-7, Math.abs(cut.nearM) * 1e-6)
  const near = held === null ? free : Math.max(held, perspective ? NEAR_M : -Infinity)
  const all = perspective ? Math.max(range.farM * 1.02 + 1, NEAR_M * 10) : range.farM + 1
  const far = Math.max(cut.farM === null ? all : Math.min(all, cut.farM), near + 1e-3)
  eye.matrixWorldInverse.fromArray(cameraFromWorld(camera.pose) as number[])
  eye.matrixWorld.copy(eye.matrixWorldInverse).invert()
  const p = new Matrix4().fromArray(clipFromCamera(camera, { nearM: near, farM: far }) as number[])
  if (tile) {
    const { widthPx: W, heightPx: H } = camera.frame
    const sx = W / tile.width
    const sy = H / tile.height
    const cx = ((2 * tile.x + tile.width) / W - 1) * sx
    const cy = (1 - (2 * tile.y + tile.height) / H) * sy
    p.premultiply(new Matrix4().set(sx, 0, 0, -cx, 0, sy, 0, -cy, 0, 0, 1, 0, 0, 0, 0, 1))
  }
  if (lens) {
    // seen from beside the middle of the lens, sheared so that the plane of focus stays where it is
    const { xM, yM, focusM } = lens
    const beside = new Matrix4().makeTranslation(-xM, -yM, 0)
    eye.matrixWorldInverse.premultiply(beside)
    eye.matrixWorld.copy(eye.matrixWorldInverse).invert()
    p.multiply(new Matrix4().set(1, 0, -xM / focusM, 0, 0, 1, -yM / focusM, 0, 0, 0, 1, 0, 0, 0, 0, 1))
  }
  p.premultiply(new Matrix4().makeTranslation((2 * jitter[0]) / size.width, (2 * jitter[1]) / size.height, 0))
  eye.projectionMatrix.copy(p)
  eye.projectionMatrixInverse.copy(p).invert()
}
