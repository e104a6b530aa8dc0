// Where objects' middles are as their models have them: whatever states hold.
import type { AimCentre } from '#core/camera'
import { centreWithOffset } from '#core/placing'
import { useStage } from './stage.ts'

/** Centre of an object's bounds with an offset along its axes; null while its model is not there. */
export const centreInFile: AimCentre = (nodeId, offset) => centreWithOffset(useStage().byId.get(nodeId), offset)
