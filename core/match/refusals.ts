// What cannot be solved, and what has to be added?
// Source: handbook-9.

import { refused } from '../base/index.ts'
import type { Unknown } from './types.ts'

/** Every reason, with what it means and what helps. */
const REFUSALS = {
  'few-lines': 'Too few lines: two each in two directions of the building are needed at least. Add lines along another wall.',
  'one-direction': 'All lines run in one direction. Add two along another one: across, or upright.',
  'focal-untold': 'These directions run parallel to the picture, and tell nothing of the focal length. Add lines that run away from you, or type the focal length.', // prettier-ignore
  narrow: 'The lines of one direction are too nearly alike to tell where they meet. Add one far from the others, near another edge of the photograph.', // prettier-ignore
  'few-points': 'Too few points for what is to be solved. Add pairs, or hold the focal length or the middle.',
  'one-line': 'All points lie on one line of the building. Add one beside it.',
  'one-plane': 'All points lie on one plane: that cannot tell focal length and middle together with the station. Add one before or behind it, or hold the middle.', // prettier-ignore
  parallel: 'The plane of the points lies parallel to the picture: nearer with a shorter lens looks the same. Add a point before or behind it, or type the focal length.', // prettier-ignore
  'same-point': 'Two pairs name the same place.',
  'zero-length': 'A line has no length.',
  'no-focal': 'The focal length is held, but not known. Type it, or let it be solved.',
  'no-start': 'No camera sees these points so. A pair is likely wrong, or a place is given in other units.',
  'ill-posed': 'What is there does not tell all that is to be solved.',
  'folds': 'The lens found folds its picture over. Hold the distortion, or add lines near the edges.',
} as const // prettier-ignore
export type MatchReason = keyof typeof REFUSALS
export const cannot = (reason: MatchReason) => refused(reason, REFUSALS[reason])

const NAMES: Record<Unknown, string> = {
  focalPx: 'the focal length',
  principalX: 'the middle across',
  principalY: 'the middle up',
  k1: 'the distortion',
  k2: 'the distortion',
  p1: 'the distortion',
  p2: 'the distortion',
  k3: 'the distortion',
  bearingDeg: 'the bearing',
  tiltDeg: 'the tilt',
  rollDeg: 'the roll',
  stationX: 'the station, east',
  stationY: 'the station, north',
  stationZ: 'the station’s height',
}
/** Refused for unknowns that nothing tells apart, weakest first. */
export function cannotTell(loose: readonly Unknown[]) {
  const names = [...new Set(loose.map((u) => NAMES[u]))].slice(0, 3)
  return refused('ill-posed' as MatchReason, `What is there does not tell ${names.join(' from ') || 'all that is to be solved'}. Add lines or points elsewhere, or hold one of them.`) // prettier-ignore
}
