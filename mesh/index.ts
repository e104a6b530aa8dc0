// Door of mesh: nodes and placing of models, triangle soups, ray casting, floors and storeys, baked light.
export { quickFacts } from './nodes.ts'
export { assemble, place, worldFromFile } from './place.ts'
export { soupOf } from './soup.ts'
export { findStoreys, MeshScene } from './scene.ts'
export { bakeLight, BAKE_DEFAULTS, type BakeOptions, type LightVolume } from './light.ts'
export type { Hit, NodeFacts, SceneFacts, Soup, Storey } from './types.ts'
export { watertight, welded, type Closedness } from './watertight.ts'
export { elevation, type Elevation } from './elevation.ts'
