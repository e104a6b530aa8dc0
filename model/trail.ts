// How does the trail grow?
// Model: a list of framings in the order in which they were seen. Who goes back and moves on leaves what lay ahead: of these, steps
// that were looked at or that a named command made go to the left-behind list, the others stay in the list as a branch, which back
// and forward pass by.

import { CAMERA_PARTS, mergeParts, sameJson, type PartName } from './parts.ts'
import { findViewpoint } from './recalled.ts'
import {
  LABEL_LIMIT,
  LIST_LIMITS,
  type LeftBehind,
  type ProjectDocument,
  type Sources,
  type TrailStep,
} from './schema.ts'

/** Longest trail kept; the oldest steps go first. */
export const TRAIL_LIMIT = 200
export const LEFT_BEHIND_LIMIT = Math.min(120, LIST_LIMITS.leftBehind)

export const only = (sources: Sources, parts: readonly PartName[]): Sources =>
  Object.fromEntries(parts.flatMap((p) => (sources[p] === undefined ? [] : [[p, sources[p]]]))) as Sources

/** What left-behind entries are stamped with, should a command leave framings. */
export interface Stamp {
  readonly id: string
  readonly at: string
}
/** How a step came about, and how the one before it is left. */
export interface Stepping {
  /** One step with the trail's last, where that has its label. */
  readonly joins?: boolean | undefined
  /** Made by a command with a name of its own, not by a gesture or a number. */
  readonly named?: boolean | undefined
  /** Whether the framing that is left was looked at for a while. */
  readonly looked?: boolean | undefined
  /** Marks what goes to the left-behind list; without one nothing goes there. */
  readonly stamp?: Stamp | undefined
}

/** What a step of the trail remembers of a document. */
export const stepOf = (doc: ProjectDocument, label: string, named = false): TrailStep => ({
  stand: doc.working.stand,
  lens: doc.working.lens,
  frame: doc.working.frame,
  recalledId: doc.recalledId,
  sources: only(doc.sources, CAMERA_PARTS),
  label: label.slice(0, LABEL_LIMIT),
  ...(named ? { named: true as const } : {}),
})

/** The steps with the present one marked as looked at. */
const leftSteps = ({ trail: { steps, at } }: ProjectDocument, looked: boolean | undefined): readonly TrailStep[] =>
  looked && !steps[at]!.looked ? steps.map((s, i) => (i === at ? { ...s, looked: true as const } : s)) : steps

/** The document (whose working Setup is the new one) with a new step after the present one. */
export function stepped(doc: ProjectDocument, label: string, how: Stepping = {}): ProjectDocument {
  const steps = leftSteps(doc, how.looked)
  const { at } = doc.trail
  const joined = how.joins && at > 0 && at === steps.length - 1 && steps[at]!.label === label && !steps[at]!.looked
  const ahead = steps.slice(at + 1)
  const goes = how.stamp ? ahead.filter((s) => isWorthKeeping(doc, s)) : []
  const branch = ahead.filter((s) => !goes.includes(s)).map((s) => (s.branch ? s : { ...s, branch: true as const }))
  // who goes on from a branch makes it part of the line
  const { branch: _, ...here } = steps[at]!
  const line = joined ? steps.slice(0, at) : [...steps.slice(0, at), steps[at]!.branch ? here : steps[at]!]
  const all = [...line, ...branch, stepOf(doc, label, how.named)].slice(-TRAIL_LIMIT)
  const next = { ...doc, trail: { steps: all, at: all.length - 1 } }
  return goes.length > 0
    ? withLeft(
        next,
        goes.map((s, i) => leftOf(doc, s, how.stamp!, i)),
      )
    : next
}

/** Looked at or named, and kept by no viewpoint. */
function isWorthKeeping(doc: ProjectDocument, s: TrailStep): boolean {
  if (!s.looked && !s.named) return false
  return !doc.viewpoints.some(
    ({ parts }) => parts.stand && CAMERA_PARTS.every((p) => parts[p] === undefined || sameJson(parts[p], s[p])),
  )
}
function leftOf(doc: ProjectDocument, s: TrailStep, stamp: Stamp, i: number): LeftBehind {
  const from = findViewpoint(doc, s.sources.stand ?? s.recalledId)
  return {
    id: `${stamp.id}-${i}`,
    at: stamp.at,
    setup: mergeParts(doc.working, { stand: s.stand, lens: s.lens, frame: s.frame }),
    fromId: from?.id ?? null,
    fromName: from?.name ?? s.label,
  }
}

/** The document with these framings first on the left-behind list. */
export function withLeft(doc: ProjectDocument, entries: readonly LeftBehind[]): ProjectDocument {
  const rest = doc.leftBehind.filter((l) => !entries.some((e) => sameJson(e.setup, l.setup)))
  return { ...doc, leftBehind: [...entries, ...rest].slice(0, LEFT_BEHIND_LIMIT) }
}

/** The place of the step that back (-1) or forward (1) leads to; null at the end. Branches are passed by. */
export function trailNeighbour({ steps, at }: ProjectDocument['trail'], by: -1 | 1): number | null {
  for (let i = at + by; i >= 0 && i < steps.length; i += by) if (!steps[i]!.branch) return i
  return null
}

/** Where step `at` stands among those that back and forward follow, from 1 (a branch: after the one before it), and how many these are. */
export function trailPlace(
  { steps }: ProjectDocument['trail'],
  at: number,
): { readonly place: number; readonly of: number } {
  const place = steps.slice(0, at + 1).filter((s) => !s.branch).length
  return { place: Math.max(1, place), of: steps.filter((s) => !s.branch).length }
}

/** The trail at another of its steps, the left one marked where it was looked at. */
export const trailAt = (doc: ProjectDocument, at: number, looked: boolean | undefined): ProjectDocument['trail'] => ({
  steps: [...leftSteps(doc, looked)],
  at,
})

/** The document with a framing that was only passed through, as a branch before the present step. */
export function passed(
  doc: ProjectDocument,
  camera: Pick<TrailStep, 'stand' | 'lens' | 'frame'>,
  label: string,
): ProjectDocument {
  const { stand, lens, frame } = camera
  const step: TrailStep = {
    stand,
    lens,
    frame,
    recalledId: null,
    sources: {},
    label: label.slice(0, LABEL_LIMIT),
    branch: true,
  }
  const { steps, at } = doc.trail
  const all = [...steps.slice(0, at), step, ...steps.slice(at)]
  const over = Math.max(0, all.length - TRAIL_LIMIT)
  // from the start, save what is shown
  const cut = Math.min(over, at + 1)
  return { ...doc, trail: { steps: all.slice(cut), at: at + 1 - cut } }
}
