// How does a model stand in a project?
// Space: world metres, Z up; turns in degrees, clockwise seen from above.

import type { Vec3 } from '../math/index.ts'

/** Where a model stands in the project: turned about the vertical (clockwise from above), then moved. */
export interface Placement {
  readonly position: Vec3
  readonly turnDeg: number
  readonly scale: number
}
/** One object moved by itself: turned about the vertical through the middle of its bounds, then moved, in world metres. */
export interface ObjectMove {
  readonly path: string
  readonly moveM: Vec3
  readonly turnDeg: number
}
/** How a model's file is read and where it stands. All its nodes' ids begin with `key`. */
export interface PlacedModel {
  readonly key: string
  /** Metres that one unit of the file stands for. */
  readonly unitM: number
  /** The file's axis that points up. */
  readonly up: 'y' | 'z'
  readonly place: Placement
  readonly moved: readonly ObjectMove[]
}

export const AT_ORIGIN: Placement = { position: [0, 0, 0], turnDeg: 0, scale: 1 }
