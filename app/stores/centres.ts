// Where the objects stand that a camera can be aimed at: every pose of a stand in the page is worked out with this.
import type { AimCentre } from '#core/camera'
import { centreOfNode } from '#mesh'
import { useStage } from './stage.ts'

/** Centre of an object's bounds with an offset along its axes; null while its model is not there. */
export const centreOf: AimCentre = (nodeId, offset) => centreOfNode(useStage().byId.get(nodeId), offset)
