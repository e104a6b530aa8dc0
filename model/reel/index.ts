// Door of model/reel: from a project's shots and reels to what they show. Apart from the model's own door: only what shows them loads it.
export {
  cutsOf,
  layersAt,
  openTakes,
  setupAt,
  viewOfSetup,
  type CutFault,
  type ReelCuts,
  type ReelLayer,
  type SetupReading,
} from './resolved.ts'
export { missingIn, missingText } from './missing.ts'
export { newTurntable, newWalk, reelOfViewpoints, type ReelStyle } from './making.ts'
export { lastingReel, lastingShot, stretched } from './scaling.ts'
export { cutInto, splitAt } from './cutting.ts'
