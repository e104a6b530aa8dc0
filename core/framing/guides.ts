// Which lines help to place things in a frame?
// Model: straight pieces in shares of the frame's width and height from the top left; a metre grid lies in the room and is drawn by the
// camera. Source: practice (thirds, golden section, diagonals, triangles); st2046 (action 93 %, title 90 % of the picture).

import { projectSegment, type Camera, type Guide } from '../camera/index.ts'
import { addScaled, cross, dot, normalize, scale, sub, type Vec3 } from '../math/index.ts'

export type GuidePiece = readonly (readonly [x: number, y: number])[]

/** The smaller part of a line in the golden section. */
export const GOLDEN = (3 - Math.sqrt(5)) / 2
/** SMPTE ST 2046-1: shares of width and height. */
export const ACTION_SAFE = 0.93
export const TITLE_SAFE = 0.9

const upright = (x: number): GuidePiece => [[x, 0], [x, 1]] // prettier-ignore
const level = (y: number): GuidePiece => [[0, y], [1, y]] // prettier-ignore
const both = (at: readonly number[]): GuidePiece[] => [...at.map(upright), ...at.map(level)]
function inset(part: number): GuidePiece[] {
  const [a, b] = [(1 - part) / 2, (1 + part) / 2]
  return [[[a, a], [b, a], [b, b], [a, b], [a, a]]] // prettier-ignore
}
const even = (n: number): number[] => Array.from({ length: Math.max(0, n - 1) }, (_, i) => (i + 1) / n)

/** The pieces of a guide over a frame of this shape (width by height); a metre grid has none here. */
export function guidePieces(guide: Guide, aspect: number): readonly GuidePiece[] {
  switch (guide.kind) {
    case 'thirds':
      return both([1 / 3, 2 / 3])
    case 'golden':
      return both([GOLDEN, 1 - GOLDEN])
    case 'diagonals':
      return [[[0, 0], [1, 1]], [[1, 0], [0, 1]]] // prettier-ignore
    case 'triangles':
      return triangles(aspect)
    case 'centre':
      return both([0.5])
    case 'action':
      return inset(ACTION_SAFE)
    case 'title':
      return inset(TITLE_SAFE)
    case 'fields':
      return [...even(guide.across ?? 4).map(upright), ...even(guide.down ?? 4).map(level)]
    case 'metres':
      return []
  }
}
/** A diagonal and the perpendiculars on it from the other two corners. */
function triangles(aspect: number): GuidePiece[] {
  // from the top left corner down to the diagonal from the lower left to the upper right
  const t = (aspect * aspect) / (aspect * aspect + 1)
  const foot = [1 - t, t] as const
  return [[[0, 1], [1, 0]], [[0, 0], foot], [[1, 1], [1 - foot[0], 1 - foot[1]]]] // prettier-ignore
}

/** Lines of a metre grid to each side of its point at most. */
const MOST_LINES = 24

/**
 * A grid on a plane of the room, as the camera draws it: lines every `stepM` metres through its point, level and upright on a wall, along
 * and across `bearingDeg`'s direction on a floor. Pixels of the frame; empty without a plane.
 */
export function metreGrid(camera: Camera, guide: Guide, mainDirection: Vec3): readonly GuidePiece[] {
  const { plane } = guide
  if (!plane) return []
  const stepM = guide.stepM ?? 1
  const n = normalize(plane.normal)
  const isLevel = Math.abs(n[2]) > 0.7
  // along the building on a floor, level on a wall
  const along = normalize(isLevel ? sub(mainDirection, scale(n, dot(mainDirection, n))) : cross([0, 0, 1], n))
  const across = cross(n, along)
  const reach = MOST_LINES * stepM
  const found: GuidePiece[] = []
  for (let i = -MOST_LINES; i <= MOST_LINES; i++)
    for (const [u, v] of [[along, across], [across, along]] as const) {
      const at = addScaled(plane.point, v, i * stepM)
      const seen = projectSegment(camera, addScaled(at, u, -reach), addScaled(at, u, reach))
      if (seen.length > 1 && touches(seen, camera)) found.push(seen)
    } // prettier-ignore
  return found
}
/** Whether a piece comes near the frame at all. */
function touches(piece: GuidePiece, { frame: { widthPx: w, heightPx: h } }: Camera): boolean {
  const [xs, ys] = [piece.map((p) => p[0]), piece.map((p) => p[1])]
  return Math.max(...xs) >= 0 && Math.min(...xs) <= w && Math.max(...ys) >= 0 && Math.min(...ys) <= h
}
