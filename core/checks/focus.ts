// What is wrong with the focus: it is nowhere, the subject is soft, nothing blurs, the foreground is a blur, or it lies past the
// hyperfocal distance. Limits are common practice. Source: handbook-6 for the numbers.
import { articled } from '../base/index.ts'
import { isPerspective, principalPointPx } from '../camera/index.ts'
import { boxCorners } from '../math/index.ts'
import { blurDiscMm, depthOf, depthOfField } from '../optics/index.ts'
import type { Check, Finding, Look, SceneHit, Subject } from './types.ts'

/** Pixels of the finished picture: less is not seen; of the subject more is soft. */
const SEEN_PX = 2
const SOFT_PX = 2
/** A foreground blurred by so much of the picture's width, over so much of the picture. */
const FOREGROUND_BLUR = 0.015
const FOREGROUND_PERCENT = 15

/** Diameter in pixels of the finished picture that a depth is blurred to. */
function blurAt({ camera, setup }: Look): ((depthM: number) => number) | null {
  const focus = setup.lensFocus
  const { focalMm } = camera.lens
  if (!focus || !isPerspective(camera) || !(focus.distanceM > focalMm / 1000)) return null
  const { pxPerMm } = principalPointPx(camera)
  return (distanceM) =>
    pxPerMm * blurDiscMm({ focalMm, fNumber: focus.fNumber, focusM: focus.distanceM, distanceM: Math.max(distanceM, 1e-3) }) // prettier-ignore
}
const LOST = {
  gone: 'The object that was focused on is no longer there.',
  behind: 'What is focused on lies behind the camera.',
  'no-aim': 'Focused on the aim, but the camera looks in a direction without one.',
  nothing: 'Nothing lies in the field that is focused on.',
} as const

/** Focused on nothing that is there. */
export const focusLost: Check = ({ setup }) => {
  const focus = setup.lensFocus
  if (!focus?.trouble) return []
  return [
    {
      id: 'focus-lost',
      severity: 'problem',
      value: focus.distanceM,
      limit: 0,
      unit: 'm',
      message: LOST[focus.trouble],
      reason: `The lens is focused at ${focus.distanceM.toFixed(2)} m instead.`,
      show: {},
      mend: setup.stand.aim.kind === 'direction' ? { label: 'Switch focus off', focus: 'off' } : { label: 'Focus on the aim', focus: 'aim' }, // prettier-ignore
    },
  ]
}

/** The subject is blurred from its front to its back. */
export const subjectSoft: Check = (look) => {
  const { subject } = look.scene
  return softened(look, subject, {
    id: 'subject-soft',
    reason: 'What the picture is of should be sharp, or the eye looks for something else.',
  })
}
/** So is what the focus follows: it stands too far beside it. */
export const focusedSoft: Check = (look) => {
  const id = look.setup.lensFocus?.objectId
  if (id === undefined || id === look.scene.subject?.id) return []
  return softened(look, look.scene.objectOf(id), {
    id: 'focused-soft',
    reason: 'It is focused on, and the focus stands so far before or behind it that none of it is sharp.',
  })
}
function softened(look: Look, subject: Subject | null, said: Pick<Finding, 'id' | 'reason'>): Finding[] {
  const blur = blurAt(look)
  if (!subject || !blur || look.setup.lensFocus!.trouble) return []
  const depths = boxCorners(subject.box).map((p) => depthOf(look.camera.pose, p))
  const [near, far] = [Math.min(...depths), Math.max(...depths)]
  const at = look.setup.lensFocus!.distanceM
  if (near <= 0 || (at >= near && at <= far)) return []
  const px = blur(at < near ? near : far)
  if (px <= SOFT_PX) return []
  return [
    {
      ...said,
      severity: 'warning',
      value: px,
      limit: SOFT_PX,
      unit: 'px',
      message: `“${subject.name}” is blurred by ${px.toFixed(1)} px at its sharpest.`,
      show: { nodeIds: [subject.id] },
      mend: { label: `Focus on “${subject.name}”`, focus: { nodeId: subject.id } },
    },
  ]
}

/** Blur is asked for, and none of what is seen has any. */
export const noBlur: Check = (look) => {
  const blur = blurAt(look)
  const depths = look.grid.flatMap((h) => (h ? [depthOf(look.camera.pose, h.point)] : []))
  if (!blur || depths.length === 0) return []
  const most = Math.max(...depths.map(blur))
  if (most >= SEEN_PX) return []
  const { focalMm } = look.camera.lens
  return [
    {
      id: 'no-blur',
      severity: 'note',
      value: most,
      limit: SEEN_PX,
      unit: 'px',
      message: `${articled(focalMm.toFixed(0))} mm lens at f/${look.setup.lensFocus!.fNumber} blurs ${most.toFixed(1)} px here at most.`,
      reason: 'So little is not seen: open the aperture, go nearer, or take all as sharp.',
      show: {},
      mend: { label: 'Switch focus off', focus: 'off' },
    },
  ]
}

/** Much of the picture is a blurred foreground. */
export const softForeground: Check = (look) => {
  const blur = blurAt(look)
  if (!blur) return []
  const { distanceM } = look.setup.lensFocus!
  const limitPx = FOREGROUND_BLUR * look.camera.frame.widthPx
  const isSoft = (h: SceneHit | null): boolean => {
    const depth = h ? depthOf(look.camera.pose, h.point) : Infinity
    return depth < distanceM && blur(depth) > limitPx
  }
  // clear glass before it hides nothing
  const soft = look.grid.filter((h, i) => isSoft(h) && isSoft(look.behindGlass(i)))
  const percent = (100 * soft.length) / look.grid.length
  if (percent <= FOREGROUND_PERCENT) return []
  return [
    {
      id: 'soft-foreground',
      severity: 'note',
      value: percent,
      limit: FOREGROUND_PERCENT,
      unit: '%',
      message: `${percent.toFixed(0)} % of the picture is a foreground blurred by more than ${limitPx.toFixed(0)} px.`,
      reason: 'A large soft foreground hides more than it leads in.',
      show: { points: soft.flatMap((h) => (h ? [h.point] : [])).slice(0, 60) },
    },
  ]
}

/** Focused farther than the hyperfocal distance: nothing is gained behind, and much is lost before. */
export const pastHyperfocal: Check = ({ setup, camera }): Finding[] => {
  const { focus, lens } = { focus: setup.lensFocus, lens: camera.lens }
  if (!focus || focus.trouble || !isPerspective(lens)) return []
  const r = depthOfField({ focalMm: lens.focalMm, fNumber: focus.fNumber, focusM: focus.distanceM, cocMm: focus.cocMm })
  if (!r.ok || focus.distanceM <= r.value.hyperfocalM * 1.05) return []
  const { hyperfocalM, nearM } = r.value
  return [
    {
      id: 'past-hyperfocal',
      severity: 'note',
      value: focus.distanceM,
      limit: hyperfocalM,
      unit: 'm',
      message: `Focused at ${focus.distanceM.toFixed(2)} m, past the hyperfocal distance of ${hyperfocalM.toFixed(2)} m.`,
      reason: `There it would be sharp from ${(hyperfocalM / 2).toFixed(2)} m to infinity; now it begins at ${nearM.toFixed(2)} m.`,
      show: {},
      mend: { label: 'Focus at the hyperfocal distance', focus: { distanceM: hyperfocalM } },
    },
  ]
}
