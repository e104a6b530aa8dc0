// Door of formats/gltf: binary glTF 2.0 in and out.
export { checkGltf, glbHeader, glbParts, inspectGlb, type GlbFacts, type GlbReason, type GltfJson } from './inspect.ts'
export {
  writeGlb,
  type GltfImage,
  type GltfMaterial,
  type GltfNode,
  type GltfPrimitive,
  type GltfScene,
} from './write.ts'
export { isBottomless, stripped } from './strip.ts'
