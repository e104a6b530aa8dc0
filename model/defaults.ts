// What does a new project begin with?

import type { Stand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { AT_ORIGIN, modelKey } from '#core/placing'
import { newSetup, type Subject } from './parts.ts'
import { SCHEMA_VERSION, type ModelRef, type ProjectDocument } from './schema.ts'

export const DEFAULT_EYE_HEIGHT_M = 1.58
export const DEFAULT_PLAN_CUT_M = 1.2

export const aimAt = (station: Vec3, point: Vec3): Stand => ({
  station,
  aim: { kind: 'point', point, topBearingDeg: 0 },
  rollDeg: 0,
})

export interface NewModel extends Pick<ModelRef, 'id' | 'name' | 'sha256' | 'sizeBytes'> {
  readonly unitM?: number
  readonly up?: ModelRef['up']
  readonly place?: ModelRef['place']
  readonly fileBox?: ModelRef['fileBox']
}
/** A model as its file has it (metres, Y up: glTF's way), at the origin, under a key unlike all of `taken`. */
export const newModel = (m: NewModel, taken: readonly string[] = []): ModelRef => ({
  unitM: 1,
  up: 'y',
  place: AT_ORIGIN,
  fileBox: null,
  ...m,
  key: modelKey(m.name, taken),
  moved: [],
})

export interface NewProject {
  readonly name: string
  readonly subject: Subject
  readonly stand: Stand
  readonly models: readonly ModelRef[]
}

export function newProject(options: NewProject): ProjectDocument {
  const working = newSetup(options.subject, options.stand)
  const { stand, lens, frame } = working
  return {
    schemaVersion: SCHEMA_VERSION,
    name: options.name,
    unit: 'm',
    subject: options.subject,
    eyeHeightM: DEFAULT_EYE_HEIGHT_M,
    planCutM: DEFAULT_PLAN_CUT_M,
    models: [...options.models],
    working,
    locked: [],
    recalledId: null,
    sources: {},
    settled: null,
    viewpoints: [],
    trail: { steps: [{ stand, lens, frame, recalledId: null, sources: {}, label: 'Start' }], at: 0 },
    leftBehind: [],
  }
}
