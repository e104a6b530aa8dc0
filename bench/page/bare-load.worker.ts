// The reference for bringing in: three's glTF loader and a tree of each mesh, nothing else.
import { expose } from 'comlink'
import type { Mesh } from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'
import { MeshBVH } from 'three-mesh-bvh'

expose({
  async load(bytes: Uint8Array): Promise<number> {
    const gltf = await new GLTFLoader().parseAsync(bytes.buffer as ArrayBuffer, '')
    const trees: MeshBVH[] = []
    gltf.scene.traverse((o) => {
      if ((o as Mesh).isMesh) trees.push(new MeshBVH((o as Mesh).geometry))
    })
    return trees.length
  },
})
