// Door of formats/import: model files of any known format become one GLB with facts.
export { formatOf, readModel } from './read.ts'
export { fileFor } from './gltf.ts'
export type { Decoders, ModelFacts, ModelFormat, PickedFile, ReadModel, ReadProgress } from './types.ts'
