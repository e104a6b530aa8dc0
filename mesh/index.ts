// Door of mesh: triangle soups, ray casting, floors and storeys, baked light.
export { soupOf } from './soup.ts'
export { findStoreys, MeshScene } from './scene.ts'
export { bakeLight, BAKE_DEFAULTS, type BakeOptions, type LightVolume } from './light.ts'
export type { Hit, NodeFacts, SceneFacts, Soup, Storey } from './types.ts'
