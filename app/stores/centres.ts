// Where the objects stand that a camera can be aimed at: every pose of a stand in the page is worked out with this.
import type { AimCentre } from '#core/camera'
import type { Setup } from '#model'
import { useProject } from './project.ts'

export { centreInFile } from './centres-in-file.ts'
/** Centre of an object's bounds with an offset along its axes, where the working frame has it; null while its model is not there. */
export const centreOf: AimCentre = (nodeId, offset) => useProject().centreOf(nodeId, offset)
/** The same where a Setup has it. */
export const centresIn = (setup: Pick<Setup, 'visible'>): AimCentre => useProject().centresIn(setup)
