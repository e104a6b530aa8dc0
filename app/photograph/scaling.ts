// How large it is and where it lies: by a known length, an edge of the model, or the eye height over the ground.
import { anglesOf } from '#core/camera'
import type { PicturePlace } from '#core/match'
import { cross, distance, dot, length, normalize, sub, type Vec3 } from '#core/math'
import { MATCH_LIMITS, type Bundle, type MatchScale } from '#model'
import { bundleDirection } from '#model/photo'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useMatch } from './match.ts'
import { usePhotoTools, type PendingEdge } from './tools.ts'

/** Directions this near are one, degrees. */
const ALIKE_DEG = 0.05
/** The bundle that runs along an edge; a new one where none does, none where there is no room. */
function bundleAlong(
  bundles: readonly Bundle[],
  [a, b]: readonly [Vec3, Vec3],
): { bundles: readonly Bundle[]; bundle: Bundle | null } {
  const way = normalize(sub(b, a))
  const isAlong = (x: Bundle): boolean => length(cross(bundleDirection(x), way)) < (ALIKE_DEG * Math.PI) / 180
  const known = bundles.find(isAlong)
  if (known) return { bundles, bundle: known }
  if (bundles.length >= MATCH_LIMITS.bundles) return { bundles, bundle: null }
  const { bearingDeg, tiltDeg } = anglesOf(way, 0)!
  const bundle = { id: newId(), name: 'Edge', bearingDeg, tiltDeg }
  return { bundles: [...bundles, bundle], bundle }
}
/** How large the photograph's world is and where it lies; each is one edit. */
export function createScaling() {
  const { match, change } = useMatch()
  const { bundleId } = usePhotoTools()
  const project = useProject()
  const notices = useNotices()
  function setLength(from: PicturePlace, to: PicturePlace): void {
    const m = match.value
    if (!m || !bundleId.value) return
    const before = m.scale
    const lengthM = before?.kind === 'length' ? before.lengthM : 1
    change({ scale: { kind: 'length', from, to, bundleId: bundleId.value, lengthM, at: before?.at ?? [0, 0, 0] } })
  }
  function setFoot(foot: PicturePlace): void {
    const m = match.value
    if (!m) return
    const heightM = m.scale?.kind === 'eye' ? m.scale.heightM : (project.document?.eyeHeightM ?? 1.58)
    change({ scale: { kind: 'eye', foot, heightM, at: m.scale?.at ?? [0, 0, 0] } })
  }
  const setScale = (scale: MatchScale): boolean => change({ scale })
  /** An edge of the model drawn along in the photograph: its length and its place, along a bundle that runs as it does. */
  function setEdge(from: PicturePlace, to: PicturePlace, { ends, way }: PendingEdge): void {
    const m = match.value
    if (!m) return
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]]
    const [p, q] = dx * way[0] + dy * way[1] < 0 ? [to, from] : [from, to]
    const { bundles, bundle } = bundleAlong(m.bundles, ends)
    if (!bundle) return notices.say(`There is room for ${MATCH_LIMITS.bundles} directions: none runs as this edge does.`, 'warning') // prettier-ignore
    // the length is counted along the bundle's own direction
    const isAlong = dot(bundleDirection(bundle), sub(ends[1], ends[0])) > 0
    const [a, b] = isAlong ? [p, q] : [q, p]
    change({ bundles, scale: { kind: 'length', from: a, to: b, bundleId: bundle.id, lengthM: distance(...ends), at: isAlong ? ends[0] : ends[1] } }) // prettier-ignore
  }
  return { setLength, setFoot, setScale, setEdge }
}
