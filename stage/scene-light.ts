// Scene-linear light: what the picture's passes sum, and what its exposure makes of it.
import { exposureFactor } from '#core/optics'
import type { Appearance } from './types.ts'

/** Samples are scene-linear: luminances by this factor lie in the range of half floats, from moonlight to the sun's glint. */
const SCENE_EV = 12
export const SCENE_FACTOR = exposureFactor(SCENE_EV)
/** What a picture's exposure makes of a sample's light. */
export const seenFactor = ({ exposure }: Appearance): number => exposureFactor(exposure.ev100, exposure.compensationEv) / SCENE_FACTOR // prettier-ignore
