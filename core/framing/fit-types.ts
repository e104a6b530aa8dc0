// What a fit is asked and why it may be refused.

export type FitBy = 'distance' | 'focal' | 'shift' | 'focal+shift' | 'extent'
export type FitReason = 'no-points' | 'margins' | 'projection' | 'no-extent' | 'behind' | 'too-large' | 'off-axis'
export interface Sides {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
export interface FitOptions {
  /** Free part of the picture at each side, as a share of its width or height; 0 by default. */
  readonly margin?: number | Sides
  /** What gives way; by default the distance, in parallel and oblique pictures the extent. */
  readonly by?: FitBy
  /** No point comes nearer to the station's plane than this, metres; 0.01 by default. */
  readonly nearM?: number
  /** By distance, of level perspective cameras: the station keeps its height, rise shares the room above and below instead. */
  readonly keepHeight?: boolean
  /** By extent: this width of view, so that the points are only centred (a drawing at scale). */
  readonly widthM?: number
}
