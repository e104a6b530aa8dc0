// Door of core/checks: the frame check, a measured list of findings about the present picture. One registry, one file a subject.
import { cutGrazes, cutsNothing, farInside, planConverges, subjectCut } from './cuts.ts'
import { edgeOnFace } from './edge-on.ts'
import { justCropped, touchesEdge } from './edges.ts'
import { depthUntold, edgeOnInElevation } from './flat-views.ts'
import { focusLost, noBlur, pastHyperfocal, softForeground, subjectSoft, focusedSoft } from './focus.ts'
import { offGuide } from './guides.ts'
import { pastShift, stretched, tooWide } from './lens.ts'
import { lookAt } from './look.ts'
import { eyeHeight, insideObject, nothingInView } from './place.ts'
import { almostSquare } from './square.ts'
import { almostCentred, subjectHidden } from './subject.ts'
import type { Check, CheckSetup, Finding, CheckScene, Severity } from './types.ts'
import { almostLevel, leaningVerticals } from './upright.ts'

export { standsInOrOn } from './subject.ts'
export { clippedFindings } from './clipped.ts'
export { verticalsOf } from './upright.ts'

/** All checks, in the order of the order of work. */
const CHECKS: readonly Check[] = [
  nothingInView,
  insideObject,
  subjectHidden,
  almostLevel,
  leaningVerticals,
  almostSquare,
  almostCentred,
  eyeHeight,
  edgeOnFace,
  subjectCut,
  cutsNothing,
  cutGrazes,
  planConverges,
  farInside,
  focusLost,
  subjectSoft,
  focusedSoft,
  noBlur,
  softForeground,
  pastHyperfocal,
  justCropped,
  touchesEdge,
  offGuide,
  stretched,
  pastShift,
  tooWide,
  depthUntold,
  edgeOnInElevation,
]
const WEIGHT: Record<Severity, number> = { problem: 0, warning: 1, note: 2 }

/**
 * The findings about a picture, weightiest first. Each has its number, the limit it passes, why it matters, what to show, and where
 * possible the mended parts. Cost: some hundreds of rays.
 */
export function frameCheck(setup: CheckSetup, scene: CheckScene): Finding[] {
  const look = lookAt(setup, scene)
  return CHECKS.flatMap((check) => check(look)).sort((a, b) => WEIGHT[a.severity] - WEIGHT[b.severity])
}
export { LIMITS, limitOf, type Limit, type LimitName, type Limits } from './limits.ts'
export type {
  CheckObject,
  CheckScene,
  CheckSetup,
  FocusLook,
  Finding,
  FindingId,
  LevelFace,
  Mend,
  SceneHit,
  Severity,
  Show,
  Subject,
} from './types.ts'
