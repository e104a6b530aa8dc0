// How does a GLB become a scene?
// Model: three's glTF loader does the reading; this file turns Y up into Z up, marks the primitives of multi-material meshes
// (they belong to one node) and, for computation without pictures, leaves the textures out. Space: out in world metres, Z up.

import { Group, type Object3D } from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'
import { AppError } from '#core/base'
import { inspectGlb } from '../gltf/inspect.ts'

export interface LoadOptions {
  /** Read textures too; needs a browser's or worker's image decoder. */
  readonly textures?: boolean
}

/** The scene's root, Z up. AppError `model-unreadable` with what is wrong when the file cannot be used. */
export async function loadGlb(bytes: Uint8Array, options: LoadOptions = {}): Promise<Object3D> {
  const facts = inspectGlb(bytes)
  if (!facts.ok) throw new AppError('model-unreadable', facts.message)
  const data = options.textures === false ? withoutTextures(bytes) : bytes
  // the loader wants a buffer of its own; most files are one already
  const whole = data.byteOffset === 0 && data.byteLength === data.buffer.byteLength
  const buffer = (
    whole ? data.buffer : data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength)
  ) as ArrayBuffer
  const gltf = await new GLTFLoader().parseAsync(buffer, '').catch((e: unknown) => {
    throw new AppError('model-unreadable', e instanceof Error ? e.message : String(e))
  })
  gltf.scene.traverse((o) => {
    const from = gltf.parser.associations.get(o) as { nodes?: number; primitives?: number } | undefined
    if (from?.primitives !== undefined && from.nodes === undefined) o.userData['isPrimitive'] = true
  })
  const root = new Group()
  root.rotation.x = Math.PI / 2
  // exact quarter turn: (x, y, z) -> (x, -z, y)
  root.matrixAutoUpdate = false
  root.matrix.set(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1)
  root.add(...gltf.scene.children)
  root.updateMatrixWorld(true)
  return root
}

/** The same GLB with images, textures and every reference to them taken out of its description. */
function withoutTextures(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const length = view.getUint32(12, true)
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as Record<string, unknown>
  // nothing to take out: nothing to copy
  if (!json['images'] && !json['textures']) return bytes
  delete json['images']
  delete json['textures']
  delete json['samplers']
  const strip = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return
    for (const [k, v] of Object.entries(value))
      if (k.endsWith('Texture')) delete (value as Record<string, unknown>)[k]
      else strip(v)
  }
  strip(json['materials'])
  const text = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(text.length / 4) * 4
  const rest = bytes.subarray(20 + length)
  const out = new Uint8Array(20 + padded + rest.length)
  out.set(bytes.subarray(0, 12))
  out.fill(0x20, 20, 20 + padded)
  out.set(text, 20)
  out.set(rest, 20 + padded)
  const head = new DataView(out.buffer)
  head.setUint32(8, out.length, true)
  head.setUint32(12, padded, true)
  head.setUint32(16, 0x4e4f534a, true)
  return out
}
