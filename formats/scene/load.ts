// How does a GLB become a scene?
// Model: three's glTF loader does the reading; this file turns Y up into Z up, marks the primitives of multi-material meshes
// (they belong to one node) and, for computation without pictures, leaves the textures out. Space: out in world metres, Z up.

import { keepClips } from '#mesh'
import { readClips, type FileParts } from './clips.ts'
import { readMaterials } from './materials.ts'
import { Group, type Object3D } from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'
import { AppError } from '#core/base'
import { inspectGlb } from '../gltf/inspect.ts'
import { isBottomless, stripped } from '../gltf/strip.ts'

export interface LoadOptions {
  /** Read textures too; needs a browser's or worker's image decoder. */
  readonly textures?: boolean
}

/** The scene's root, Z up. AppError `model-unreadable` with what is wrong when the file cannot be used. */
export async function loadGlb(bytes: Uint8Array, options: LoadOptions = {}): Promise<Object3D> {
  const facts = inspectGlb(bytes)
  if (!facts.ok) throw new AppError('model-unreadable', facts.message)
  const data = prepared(bytes, options.textures === false)
  // the loader wants a buffer of its own; most files are one already
  const whole = data.byteOffset === 0 && data.byteLength === data.buffer.byteLength
  const buffer = (
    whole ? data.buffer : data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength)
  ) as ArrayBuffer
  const gltf = await new GLTFLoader().parseAsync(buffer, '').catch((e: unknown) => {
    throw new AppError('model-unreadable', 'Something in it is not as glTF says. Export it again.', {
      cause: String(e),
    })
  })
  gltf.scene.traverse((o) => {
    const from = gltf.parser.associations.get(o) as { nodes?: number; primitives?: number } | undefined
    if (from?.primitives !== undefined && from.nodes === undefined) o.userData['isPrimitive'] = true
  })
  readMaterials(gltf.scene)
  const clips = await readClips(gltf.parser as unknown as FileParts)
  const root = new Group()
  root.rotation.x = Math.PI / 2
  // exact quarter turn: (x, y, z) -> (x, -z, y)
  root.matrixAutoUpdate = false
  root.matrix.set(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1)
  for (const child of [...gltf.scene.children]) root.add(child)
  root.updateMatrixWorld(true)
  keepClips(root, clips)
  return root
}

/**
 * The same GLB without bottomless extras, and without images, textures and every reference to them where `plain`. The very same
 * bytes where there is nothing to take out.
 */
function prepared(bytes: Uint8Array, plain: boolean): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const length = view.getUint32(12, true)
  const text = new TextDecoder().decode(bytes.subarray(20, 20 + length))
  const hasExtras = text.includes('"extras"')
  if (!hasExtras && !plain) return bytes
  const json = JSON.parse(text) as Record<string, unknown>
  const hasPictures = plain && (json['images'] !== undefined || json['textures'] !== undefined)
  if (hasPictures) for (const list of ['images', 'textures', 'samplers']) delete json[list]
  const changed = hasExtras && stripped(json, isBottomless)
  if (!hasPictures && !changed) return bytes
  if (hasPictures) stripped(json['materials'], (k) => k.endsWith('Texture'))
  const out = new TextEncoder().encode(JSON.stringify(json))
  const padded = Math.ceil(out.length / 4) * 4
  const rest = bytes.subarray(20 + length)
  const glb = new Uint8Array(20 + padded + rest.length)
  glb.set(bytes.subarray(0, 12))
  glb.fill(0x20, 20, 20 + padded)
  glb.set(out, 20)
  glb.set(rest, 20 + padded)
  const head = new DataView(glb.buffer)
  head.setUint32(8, glb.length, true)
  head.setUint32(12, padded, true)
  head.setUint32(16, 0x4e4f534a, true)
  return glb
}
