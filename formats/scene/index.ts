// Door of formats/scene: model files into scenes (three objects, Z up). Kept apart from formats/gltf so that the server, which only
// checks files, does not load the graphics library.
export { loadGlb, type LoadOptions } from './load.ts'
