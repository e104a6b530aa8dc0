// Door of model/photo: from a photograph's match to what is solved, and from what was found to a camera. Apart from the model's own
// door: only what shows photographs loads it.
export {
  askedOf,
  bundleDirection,
  cameraFound,
  estimateOf,
  estimateOfCamera,
  newMatch,
  setupFound,
  solvedOf,
  usualBundles,
  type SolvedCamera,
} from './camera.ts'
