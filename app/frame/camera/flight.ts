// A short eased flight to where one stands now. The document has the new stand from the start; only what is shown flies there.
import { usePreferredReducedMotion } from '@vueuse/core'
import { poseOfStand, type Pose, type Stand } from '#core/camera'
import { add, scale, sub } from '#core/math'
import { centreOf } from '../../stores/centres.ts'
import { useProject } from '../../stores/project.ts'

const FLIGHT_MS = 420
const eased = (t: number): number => t * t * (3 - 2 * t)
const nearest = (deg: number): number => ((((deg + 180) % 360) + 360) % 360) - 180

/** The pose between two, `t` from 0 to 1; the bearing takes the shorter way. */
export function poseBetween(a: Pose, b: Pose, t: number): Pose {
  return {
    station: add(a.station, scale(sub(b.station, a.station), t)),
    bearingDeg: a.bearingDeg + nearest(b.bearingDeg - a.bearingDeg) * t,
    tiltDeg: a.tiltDeg + (b.tiltDeg - a.tiltDeg) * t,
    rollDeg: a.rollDeg + nearest(b.rollDeg - a.rollDeg) * t,
  }
}
const standOf = ({ station, bearingDeg, tiltDeg, rollDeg }: Pose): Stand => ({
  station,
  aim: { kind: 'direction', bearingDeg, tiltDeg },
  rollDeg,
})

export function useFlight() {
  const project = useProject()
  const motion = usePreferredReducedMotion()
  /** Moves at once and shows the way there; whatever is done meanwhile ends the flight. */
  function flyTo(stand: Stand, label: string): boolean {
    const from = project.camera?.pose
    if (!project.move({ stand }, label)) return false
    if (!from || motion.value === 'reduce') return true
    const document = project.document
    const to = poseOfStand(stand, centreOf)
    const begun = performance.now()
    let shown: unknown = null
    const step = (): void => {
      // another move, a drag or an edit has taken over
      if (project.document !== document || project.live !== shown) return
      const t = (performance.now() - begun) / FLIGHT_MS
      if (t >= 1) return project.letGo()
      project.show({ stand: standOf(poseBetween(from, to, eased(t))) })
      shown = project.live
      requestAnimationFrame(step)
    }
    step()
    return true
  }
  return flyTo
}
