// Where the objects stand that a camera can be aimed at: every pose of a stand in the page is worked out with this.
import type { AimCentre } from '#core/camera'
import { centreWithOffset } from '#core/placing'
import { useStage } from './stage.ts'

/** Centre of an object's bounds with an offset along its axes; null while its model is not there. */
export const centreOf: AimCentre = (nodeId, offset) => centreWithOffset(useStage().byId.get(nodeId), offset)
