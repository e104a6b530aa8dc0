// Which numbers of a shot can have a curve of their own over its time, and within what limits?

/**
 * `progress`: how far the shot has come, its share; `focal`: a factor; `focusM`: what is sharp; `ev`: added; the rest are added to where it
 * stands and looks: `aheadM`, `asideM` (to the right) level along its own bearing, `riseM` up, `panDeg` clockwise, `tiltDeg` up.
 */
export const KEY_CURVES = {
  focusM: { least: 0.01, most: 1e6 },
  focal: { least: 0.01, most: 100 },
  ev: { least: -20, most: 20 },
  progress: { least: 0, most: 1 },
  aheadM: { least: -1000, most: 1000 },
  asideM: { least: -1000, most: 1000 },
  riseM: { least: -1000, most: 1000 },
  panDeg: { least: -3600, most: 3600 },
  tiltDeg: { least: -180, most: 180 },
} as const
export type KeyCurve = keyof typeof KEY_CURVES
