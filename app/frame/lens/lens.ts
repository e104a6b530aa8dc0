// The lens as panel, scale, diagram and actions set it: by focal length, angle or width of view, with the subject's size held or not.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import {
  fieldOfView,
  focalHoldingSize,
  focalOfAngle,
  focalOfEquivalent,
  focalOfExtent,
  FOCAL_RANGE_MM,
  formOf,
  heightAtDepthM,
  poseOfStand,
  toCamera,
  usedSensor,
  widthAtDepthM,
  withWidthOfView,
  type AngleKind,
  type Lens,
} from '#core/camera'
import type { Result } from '#core/base'
import type { Vec3 } from '#core/math'
import type { CameraChanges } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { useFraming } from '../camera/framing.ts'
import { useWallBehind } from './wall-behind.ts'

/** Five lenses from wide to long, as on 36 x 24 mm. */
export const FIVE_MM = [18, 24, 35, 50, 85] as const

function createLens() {
  const project = useProject()
  const view = useView()
  const { aim } = useFraming()

  const lens = computed(() => project.working?.lens ?? null)
  const form = computed(() => lens.value && formOf(lens.value))
  /** What is held, and where widths are told: the picked point, else the aim. */
  const point = computed<Vec3 | null>(() => view.lensPoint ?? aim.value)
  const depthM = computed(() => {
    const c = project.camera
    const d = c && point.value ? -toCamera(c.pose, point.value)[2] : 0
    return d > 1e-3 ? d : null
  })
  const isHeld = computed(() => view.holdSubject && depthM.value !== null)
  const shown = useLensNumbers(depthM)
  return { lens, form, point, depthM, isHeld, ...shown, ...createFocal(isHeld, depthM, point), ...createLensEdits() }
}
export const useLens = createSharedComposable(createLens)

type Held<T> = Readonly<{ value: T }>

/** What the panel tells of the present lens. */
function useLensNumbers(depthM: Held<number | null>) {
  const project = useProject()
  const fov = computed(() => project.camera && fieldOfView(project.camera.lens, project.camera.frame))
  const used = computed(() => project.camera && usedSensor(project.camera.lens, project.camera.frame))
  const extent = computed(() => {
    const c = project.camera
    const d = depthM.value
    return c && d !== null ? { widthM: widthAtDepthM(c, d), heightM: heightAtDepthM(c, d) } : null
  })
  return { fov, used, extent }
}

/** Moves of the lens with the subject held or not, and what a wall behind the station does to them. */
function createHolding(isHeld: Held<boolean>, depthM: Held<number | null>, point: Held<Vec3 | null>) {
  const project = useProject()
  const wall = useWallBehind()

  function changed(focalMm: number, holds: boolean): CameraChanges {
    const { stand, lens } = project.working!
    if (!holds || depthM.value === null) return { lens: { ...lens, focalMm } }
    const f = focalHoldingSize({ stand, lens }, depthM.value, focalMm, centreOf)
    return { stand: f.stand, lens: f.lens }
  }
  /** Does what ends in a settled move; afterwards a wall that was passed takes the near cut with it. */
  function moving(holds: boolean, move: () => boolean): void {
    const w = project.document?.working
    const before = w && { pose: poseOfStand(w.stand, centreOf), lens: w.lens, frame: w.frame }
    const held = holds ? point.value : null
    if (move() && before && held) void wall.passed(before, held)
  }
  const labelOf = (holds: boolean): string => (holds ? 'Focal length, size held' : 'Focal length')
  const moveTo = (focalMm: number, holds: boolean): void =>
    moving(holds, () => project.move(changed(focalMm, holds), labelOf(holds)))
  return {
    focal: (focalMm: number): void => moveTo(focalMm, isHeld.value),
    /** The subject's size held, whatever the switch says. */
    holding: (focalMm: number): void => moveTo(focalMm, depthM.value !== null),
    showFocal: (focalMm: number): void => void project.show(changed(focalMm, isHeld.value)),
    focalEnds: {
      settle: () => moving(isHeld.value, () => (project.settle(labelOf(isHeld.value)), true)),
      cancel: () => project.letGo(),
    },
  }
}

/** Focal lengths, typed and dragged; with the subject held the station moves with them. */
function createFocal(isHeld: Held<boolean>, depthM: Held<number | null>, point: Held<Vec3 | null>) {
  const notices = useNotices()
  const held = createHolding(isHeld, depthM, point)
  const { min, max } = FOCAL_RANGE_MM

  /** The listeners of a field whose numbers come to focal lengths. */
  function focalBy(focalOf: (value: number) => Result<number>) {
    return {
      change: (value: number) => {
        const r = focalOf(value)
        if (!r.ok) notices.say(r.message, 'warning')
        else if (r.value < min * (1 - 1e-9) || r.value > max * (1 + 1e-9))
          notices.say(`That would be a lens of ${r.value.toFixed(1)} mm; they go from ${min} to ${max} mm.`, 'warning')
        else held.focal(r.value)
      },
      live: (value: number) => {
        const r = focalOf(value)
        if (r.ok) held.showFocal(Math.min(max, Math.max(min, r.value)))
      },
      ...held.focalEnds,
    }
  }
  return { ...held, focalBy, ...createTied(focalBy) }
}
/** Numbers that are the focal length in other words. */
function createTied(focalBy: (focalOf: (value: number) => Result<number>) => object) {
  const project = useProject()
  const now = () => ({ lens: project.working!.lens, frame: project.working!.frame })
  return {
    byAngle: (kind: AngleKind) => focalBy((deg) => focalOfAngle(now().lens, now().frame, kind, deg)),
    byWidth: (depthM: () => number) => focalBy((widthM) => focalOfExtent(now(), depthM(), { widthM })),
    byHeight: (depthM: () => number) => focalBy((heightM) => focalOfExtent(now(), depthM(), { heightM })),
    byEquivalent: (by: 'diagonal' | 'width') =>
      focalBy((mm) => ({ ok: true, value: focalOfEquivalent(now().lens.sensorMm, mm, by) })),
  }
}

/** Other changes of the lens. */
function createLensEdits() {
  const project = useProject()
  const with_ = (changes: Partial<Lens>): CameraChanges => ({ lens: { ...project.working!.lens, ...changes } })
  const done = (changes: Partial<Lens>, label: string): void => void project.move(with_(changes), label)
  /** The listeners of a field whose numbers come to changes of the lens. */
  const edits = (changes: (value: number) => Partial<Lens>, label: string) => ({
    change: (value: number) => done(changes(value), label),
    live: (value: number) => void project.show(with_(changes(value))),
    settle: () => project.settle(label),
    cancel: () => project.letGo(),
  })
  const byWidthOfView = edits((widthM) => withWidthOfView(project.working!.lens, widthM), 'Width of view')
  return { done, edits, byWidthOfView }
}
