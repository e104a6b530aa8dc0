// Half a turn about the upright through a place: what lines in level directions and upright ones look the same from.
import { wrapBearingDeg } from '#core/base'
import type { Estimate } from '#core/match'
import type { PhotoMatchPart } from '#model'

export function otherWayRound({ lens, poses }: Estimate, m: PhotoMatchPart): Estimate {
  const about = m.scale?.at ?? m.pairs[0]?.world ?? [0, 0, 0]
  const [pose] = poses
  const [x, y, z] = pose!.station
  return {
    lens,
    poses: [
      {
        ...pose!,
        station: [2 * about[0] - x, 2 * about[1] - y, z],
        bearingDeg: wrapBearingDeg(pose!.bearingDeg + 180),
      },
    ],
  }
}
