// The demo's two projects: invented, with a few viewpoints each.

import { levelKeepingCentre } from '#core/framing'
import { directionOf, type Stand } from '#core/camera'
import { addScaled, type Vec3 } from '#core/math'
import type { Cut, FaceStyle } from '#core/section'
import {
  aimAt,
  applyCommand,
  newLens,
  newProject,
  type Command,
  type ModelRef,
  type ProjectDocument,
  type Setup,
  type Subject,
} from '#model'

interface View {
  readonly name: string
  readonly station: Vec3
  readonly bearingDeg: number
  readonly tiltDeg?: number
  readonly awayM: number
  readonly lens?: Partial<Setup['lens']>
  readonly frame?: Partial<Setup['frame']>
  /** Kept with the framing, where there is one. */
  readonly cuts?: readonly Cut[]
  /** A lens that blurs, kept with it. */
  readonly focus?: Partial<Setup['focus']>
  readonly face?: FaceStyle
}

const standOf = (v: View): Stand =>
  aimAt(v.station, addScaled(v.station, directionOf(v.bearingDeg, v.tiltDeg ?? 0), v.awayM))

interface Demo {
  readonly name: string
  readonly subject: Subject
  readonly model: ModelRef
  readonly views: readonly View[]
  readonly ev100: number
  readonly sun: { bearingDeg: number; elevationDeg: number }
  readonly finish?: NonNullable<Setup['exposure']['finish']>
}

function build(demo: Demo): ProjectDocument {
  const [first] = demo.views
  const start = newProject({ name: demo.name, subject: demo.subject, stand: standOf(first!), models: [demo.model] })
  let doc: ProjectDocument = {
    ...start,
    working: {
      ...start.working,
      exposure: { ...start.working.exposure, ev100: demo.ev100, ...(demo.finish && { finish: demo.finish }) },
      look: { ...start.working.look, sun: { ...start.working.look.sun, ...demo.sun } },
    },
  }
  const run = (c: Command): void => {
    const r = applyCommand(doc, c)
    if (r.ok) doc = r.value.document
    else if (r.reason !== 'nothing') throw new RangeError(`demo project: ${r.message}`)
  }
  demo.views.forEach((v, i) => {
    const { frame } = doc.working
    run({
      type: 'moveCamera',
      label: v.name,
      changes: { stand: standOf(v), lens: { ...newLens(demo.subject), ...v.lens }, frame: { ...frame, ...v.frame } },
    })
    const { cut } = doc.working
    run({ type: 'setPart', part: 'cut', value: { ...cut, cuts: [...(v.cuts ?? [])], face: v.face ?? cut.face } })
    run({ type: 'setPart', part: 'focus', value: { ...start.working.focus, ...v.focus } })
    const parts = ['stand', 'lens', 'frame', ...(v.cuts ? (['cut'] as const) : []), ...(v.focus ? (['focus'] as const) : [])] as const // prettier-ignore
    run({ type: 'keepAsNew', id: `view-${i + 1}`, name: v.name, parts: [...parts] })
  })
  run({ type: 'setPart', part: 'cut', value: start.working.cut })
  run({ type: 'setPart', part: 'focus', value: start.working.focus })
  run({ type: 'recall', viewpointId: 'view-1', stamp: { id: 'none', at: '2026-01-01T00:00:00.000Z' } })
  // a fresh project begins with a short trail
  const step = doc.trail.steps.at(-1)!
  // no viewpoint set the cut and the focus that it begins with
  const { cut: _, focus: __, ...sources } = doc.sources
  return { ...doc, sources, trail: { steps: [{ ...step, label: 'Start' }], at: 0 }, leftBehind: [] }
}

const EYE = 1.58
/** Across the hall, through the second truss’s bay. */
const CROSS: Cut = { id: 'cross', name: 'A', on: true, reversed: false, kind: 'upright', point: [7.6, 4.5, 0], bearingDeg: 90 } // prettier-ignore
const landscape = { widthPx: 2400, heightPx: 1600 }

// the look down into the hall is tilted first and then levelled, as a person would
const DOWN = levelKeepingCentre({
  pose: { station: [5.5, 7.05, 4.48], bearingDeg: 122, tiltDeg: -14, rollDeg: 0 },
  lens: {
    projection: { kind: 'perspective' },
    focalMm: 24,
    sensorMm: { width: 36, height: 24 },
    sensorUse: 'acrossWidth',
    riseMm: 0,
    crossMm: 0,
    distortion: null,
  },
  frame: { ...landscape, densityPpi: 300, guides: [] },
})

const HALL_VIEWS: readonly View[] = [
  {
    name: 'Hall, east',
    station: [1.0, 2.5, EYE],
    bearingDeg: 80,
    awayM: 7,
    lens: { focalMm: 24, riseMm: 2.1 },
    frame: landscape,
  },
  {
    name: 'Drawer wall, square',
    station: [10.3, 0.75, EYE],
    bearingDeg: 0,
    awayM: 7.6,
    lens: { focalMm: 24, riseMm: 3 },
    frame: landscape,
  },
  {
    name: 'Hall, west',
    station: [16.4, 1.3, EYE],
    bearingDeg: 294,
    awayM: 9,
    lens: { focalMm: 24, riseMm: 2.4 },
    frame: landscape,
  },
  {
    name: 'Lamp on the counter',
    station: [5.75, 3.05, 1.22],
    bearingDeg: 46,
    awayM: 1.42,
    lens: { focalMm: 50, riseMm: -3.2, sensorMm: { width: 24, height: 36 } },
    frame: { widthPx: 1600, heightPx: 2000 },
  },
  {
    name: 'From the gallery',
    station: [5.5, 7.05, 4.48],
    bearingDeg: 122,
    awayM: 6,
    lens: { focalMm: 24, riseMm: DOWN.ok ? Math.round(DOWN.value.lens.riseMm * 100) / 100 : 0 },
    frame: landscape,
  },
  {
    name: 'Potting bay',
    station: [13.0, 2.2, EYE],
    bearingDeg: 72,
    awayM: 4.5,
    lens: { focalMm: 28, riseMm: 1.2 },
    frame: landscape,
  },
  {
    // 1 : 100 on a sheet of 2400 pixels at 300 a inch
    name: 'Plan at 1.20',
    station: [9, 4.5, 12],
    bearingDeg: 0,
    tiltDeg: -90,
    awayM: 10.8,
    lens: { projection: { kind: 'parallel', widthM: 20.32 } },
    frame: landscape,
    cuts: [{ id: 'plan', name: 'Plan', on: true, reversed: false, kind: 'level', heightM: 1.2 }],
  },
  {
    name: 'Cross section',
    station: [2, 4.5, 3.9],
    bearingDeg: 90,
    awayM: 7.2,
    lens: { projection: { kind: 'parallel', widthM: 15.6 } },
    frame: landscape,
    cuts: [CROSS],
    face: 'hatched',
  },
  {
    name: 'Sectional perspective',
    station: [-4.6, 4.5, EYE],
    bearingDeg: 90,
    awayM: 13.8,
    lens: { focalMm: 28, riseMm: 5.1 },
    frame: landscape,
    cuts: [CROSS],
    face: 'filled',
  },
  {
    // out of doors the meter exposes by itself
    name: 'From the yard',
    station: [33, -9, EYE],
    bearingDeg: 305,
    awayM: 20,
    lens: { focalMm: 24, riseMm: 3.4 },
    frame: landscape,
  },
  {
    // one drawer of the wall: the walk ends here
    name: 'A seed drawer',
    focus: { on: true, fNumber: 2.8, mode: { kind: 'distance', distanceM: 1.69 } },
    station: [5.95, 7.05, 1.52],
    bearingDeg: 34,
    tiltDeg: -5,
    awayM: 1.69,
    lens: { focalMm: 50 },
    frame: landscape,
  },
]

export function hallProject(model: ModelRef): ProjectDocument {
  return build({
    name: 'Saltmarsh Seed Library',
    subject: 'room',
    model,
    ev100: 9.9,
    sun: { bearingDeg: 112, elevationDeg: 50 },
    // the glazing keeps its trees
    finish: { contrast: 1, saturation: 1, shoulder: 0.8 },
    views: HALL_VIEWS,
  })
}

const LAMP_VIEWS: readonly View[] = [
  {
    name: 'Three-quarter',
    focus: { on: false },
    station: [0.32, -1.12, 0.36],
    bearingDeg: 346,
    tiltDeg: -11,
    awayM: 1.13,
    lens: { focalMm: 70 },
    frame: landscape,
  },
  {
    name: 'Front',
    focus: { on: false },
    station: [0.045, -1.35, 0.14],
    bearingDeg: 0,
    awayM: 1.35,
    lens: { focalMm: 85 },
    frame: landscape,
  },
  {
    name: 'Dial',
    // the dial is sharp; seedlings and glass behind it are soft
    focus: {
      on: true,
      fNumber: 5.6,
      mode: { kind: 'distance', distanceM: 0.338 },
      aperture: { blades: 7, rotationDeg: 0, roundness: 0.4 },
    },
    station: [0.06, -0.42, 0.12],
    bearingDeg: 352,
    tiltDeg: -9,
    awayM: 0.36,
    lens: { focalMm: 105, sensorMm: { width: 24, height: 36 } },
    frame: { widthPx: 1600, heightPx: 2000 },
  },
  {
    name: 'Isometric',
    focus: { on: false },
    station: [-0.7, -0.76, 0.68],
    bearingDeg: 45,
    tiltDeg: -35.264,
    awayM: 1.0,
    lens: { projection: { kind: 'parallel', widthM: 0.62 } },
    frame: landscape,
  },
  {
    // the near rim of the ring is sharp where the stem meets it; its lights are discs before and behind
    name: 'Lights of the ring',
    focus: {
      on: true,
      fNumber: 2,
      mode: { kind: 'distance', distanceM: 0.36 },
      aperture: { blades: 7, rotationDeg: 10, roundness: 0.3, catsEye: 0.3 },
    },
    station: [0.03, -0.3, 0.12],
    bearingDeg: 352,
    tiltDeg: 15,
    awayM: 0.3,
    lens: { focalMm: 85 },
    frame: landscape,
  },
]

export function lampProject(model: ModelRef): ProjectDocument {
  return build({
    name: 'Germination lamp',
    subject: 'product',
    model,
    ev100: 13.4,
    sun: { bearingDeg: 150, elevationDeg: 38 },
    views: LAMP_VIEWS,
  })
}
