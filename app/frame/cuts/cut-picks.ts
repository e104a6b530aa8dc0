// Picked places that make cuts: along a face, between two things, a section through a place.
import { shallowRef } from 'vue'
import { addScaled, boxCentre, boxSize, cross, distance, dot, normalize, scale, sub, type Vec3 } from '#core/math'
import { newCut, type Cut } from '#core/section'
import { atan2Deg, bearingDifferenceDeg, wrapBearingDeg } from '#core/base'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { takesPicks, usePlacesSoFar } from '../straighten/picking.ts'
import { useCuts } from './cuts.ts'
import { useSections } from './section-here.ts'

/** Steeper than this a face is upright, and the cut along it. */
const UPRIGHT = 0.02
/** A room is looked for a little off the wall that was clicked; a box round it cuts its walls open, metres. */
const OFF_WALL_M = 0.3
const ROUND_ROOM_M = 0.1
/** Of the gap between two things the cut takes this share; typed. */
const share = shallowRef(0.5)

/** Registers what clicks do that cuts ask for; once a Frame view. */
export function useCutPicks() {
  const notices = useNotices()
  const { addCut, place, part, set } = useCuts()
  const { sectionHere } = useSections()
  const places = usePlacesSoFar()

  /** A plane through the point; what the normal points to goes. */
  function along(point: Vec3, normal: Vec3): Cut | null {
    const at = place()
    if (!at) return null
    if (Math.abs(normal[2]) > UPRIGHT)
      return addCut((id, name) => ({ id, name, on: true, reversed: false, kind: 'free', point, normal }))
    const bearingDeg = wrapBearingDeg(atan2Deg(-normal[0], -normal[1]))
    return addCut((id, name) => ({
      ...newCut('upright', id, name, { ...at, point }),
      kind: 'upright',
      point,
      bearingDeg,
    }))
  }
  takesPicks('cut-through', (point, hit) => {
    if (!hit) {
      notices.say('This needs a surface: click it in the picture.', 'warning')
      return false
    }
    return along(point, hit.normal) !== null
  })
  takesPicks('cut-between', (point) => {
    const [from] = places.value
    if (!from) {
      places.value = [point]
      notices.say('Now the second thing.')
      return false
    }
    places.value = []
    if (distance(from, point) < 1e-6) {
      notices.say('Both clicks are the same place. Click two different ones.', 'warning')
      return false
    }
    // what lies on the first one's side goes
    return along(addScaled(from, sub(point, from), share.value), normalize(sub(from, point))) !== null
  })
  useObjectPicks()
  useThreePlaces()
  for (const end of ['near', 'far'] as const)
    takesPicks(`${end}-place`, (point) => {
      const now = part.value
      // through the place itself: moved by its offset
      return now !== null && set({ [end]: { ...now[end], on: true, tied: { to: 'place', point, offsetM: 0 } } })
    })
  takesPicks('section', (point, hit) => sectionHere(point, hit?.normal ?? null, 'perspective'))
  takesPicks('section-parallel', (point, hit) => sectionHere(point, hit?.normal ?? null, 'parallel'))
}

/** A free plane through three places; what lies on the camera's side of it goes. */
function useThreePlaces(): void {
  const notices = useNotices()
  const project = useProject()
  const { addCut } = useCuts()
  const places = usePlacesSoFar()
  takesPicks('cut-three', (point) => {
    places.value = [...places.value, point]
    if (places.value.length < 3) {
      notices.say(places.value.length === 1 ? 'Now the second place.' : 'Now the third place.')
      return false
    }
    const [a, b, c] = places.value as [Vec3, Vec3, Vec3]
    places.value = []
    const across = cross(sub(b, a), sub(c, a))
    // as long as the triangle is large: three places on a line tell no plane
    if (Math.hypot(...across) < 1e-6 * distance(a, b) * distance(a, c) || distance(a, b) < 1e-9) {
      notices.say('The three places lie on one line: a plane needs a third beside it.', 'warning')
      return false
    }
    const n = normalize(across)
    const station = project.camera?.pose.station ?? a
    const normal = dot(n, sub(station, a)) < 0 ? scale(n, -1) : n
    return addCut((id, name) => ({ id, name, on: true, reversed: false, kind: 'free', point: a, normal })) !== null
  })
}

/** Along the middle of an object, and round a room. */
function useObjectPicks(): void {
  const notices = useNotices()
  const project = useProject()
  const stage = useStage()
  const { addCut, place } = useCuts()
  takesPicks('cut-middle', (_, hit) => {
    const box = hit && stage.byId.get(hit.nodeId)?.box
    if (!box) {
      notices.say('This needs an object: click it in the picture.', 'warning')
      return false
    }
    // along the longer way it lies: one looks square to it
    const [wide, deep] = boxSize(box)
    const point = boxCentre(box)
    const at = place()
    const bearings = wide >= deep ? [0, 180] : [90, 270]
    const bearingDeg =
      bearings.find((b) => Math.abs(bearingDifferenceDeg(at?.bearingDeg ?? 0, b)) <= 90) ?? bearings[0]!
    return at !== null && addCut((id, name) => ({ id, name, on: true, reversed: false, kind: 'upright', point, bearingDeg })) !== null // prettier-ignore
  })
  takesPicks('cut-room', (point, hit) => {
    void boxRound(hit ? addScaled(point, hit.normal, OFF_WALL_M) : point)
    return true
  })
  async function boxRound(point: Vec3): Promise<void> {
    const room = await stage.rays.roomAt(point, place()?.mainBearingDeg ?? 0, project.shown)
    if (!room) return notices.say('No walls stand on all four sides of that place. A box can be typed, or goes round the selection.', 'warning') // prettier-ignore
    const { centre, turnDeg } = room
    const sizeM = room.sizeM.map((v) => v + 2 * ROUND_ROOM_M) as unknown as Vec3
    addCut((id, name) => ({ id, name, on: true, reversed: false, kind: 'box', centre, sizeM, turnDeg }))
  }
}
export { share as betweenShare }
