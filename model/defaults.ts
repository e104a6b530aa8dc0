// What does a new project begin with?

import type { Lens, Stand } from '#core/camera'
import type { Vec3 } from '#core/math'
import { AT_ORIGIN, modelKey } from '#core/placing'
import { SCHEMA_VERSION, type ModelRef, type ProjectDocument, type Setup } from './schema.ts'

export type Subject = 'room' | 'product'

export const DEFAULT_EYE_HEIGHT_M = 1.58
/** Where the near and far cut lie as long as nobody has set them. */
export const UNSET_CUT_M = { near: 0.1, far: 100 } as const
export const DEFAULT_PLAN_CUT_M = 1.2

/** The lens a new stand begins with: 24 mm for rooms, 70 mm for products (practice), on 36 x 24 mm. */
export const newLens = (subject: Subject): Lens => ({
  projection: { kind: 'perspective' },
  focalMm: subject === 'room' ? 24 : 70,
  sensorMm: { width: 36, height: 24 },
  sensorUse: 'acrossWidth',
  riseMm: 0,
  crossMm: 0,
  distortion: null,
})

export const aimAt = (station: Vec3, point: Vec3): Stand => ({
  station,
  aim: { kind: 'point', point, topBearingDeg: 0 },
  rollDeg: 0,
})

/** A whole Setup around a stand; the parts without a panel have plain defaults. */
export function newSetup(subject: Subject, stand: Stand): Setup {
  return {
    stand,
    lens: newLens(subject),
    frame: { widthPx: 2400, heightPx: 1600, densityPpi: 300, guides: 'thirds' },
    cut: {
      near: { on: false, distanceM: UNSET_CUT_M.near },
      far: { on: false, distanceM: UNSET_CUT_M.far },
      planes: [],
      box: null,
      face: 'solid',
    },
    focus: {
      on: false,
      fNumber: 8,
      mode: { kind: 'aim' },
      aperture: { blades: 0, rotationDeg: 0, roundness: 1 },
      criterion: { kind: 'circle', cocMm: 0.03 },
    },
    exposure: {
      mode: 'direct',
      ev100: 9,
      compensationEv: 0,
      iso: 100,
      shutterS: 0.01,
      whiteBalance: { kelvin: 6504, tint: 0 },
      vignetting: false,
      tone: 'neutral',
    },
    visible: { hidden: [] },
    look: {
      style: { kind: 'finished' },
      sun: { on: true, bearingDeg: 128, elevationDeg: 42, shadow: true },
      haze: { on: false, visibilityM: 200 },
      backdrop: { kind: 'sky', colour: [0.8, 0.8, 0.8] },
    },
  }
}

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
    viewpoints: [],
    trail: { steps: [{ stand, lens, frame, recalledId: null, label: 'Start' }], at: 0 },
    leftBehind: [],
  }
}
