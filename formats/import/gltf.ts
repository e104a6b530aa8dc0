// How does a glTF file of any sort become one plain GLB?
// Model: a GLB that holds all it needs, without compression, stays as it is to the byte. Everything else (JSON with files beside
// it, Draco, meshopt) is read and written again by the glTF library. Pictures that are not there are left out and named.
// Source: gltf2, KHR_draco_mesh_compression, EXT_meshopt_compression.

import { WebIO, type GLTF, type JSONDocument } from '@gltf-transform/core'
import { ALL_EXTENSIONS } from '@gltf-transform/extensions'
import { AppError } from '#core/base'
import { checkGltf, glbHeader, glbParts, inspectGlb, isBottomless, stripped } from '../gltf/index.ts'
import { headOf, type Decoders, type PickedFile } from './types.ts'

const DRACO = 'KHR_draco_mesh_compression'
const INSTANCES = 'EXT_mesh_gpu_instancing'
const MESHOPT = ['EXT_meshopt_compression', 'KHR_meshopt_compression']
/** What a reader must know to show the file right. */
const KNOWN = new Set([
  DRACO,
  ...MESHOPT,
  'KHR_mesh_quantization',
  'KHR_texture_transform',
  'KHR_materials_unlit',
  'KHR_materials_emissive_strength',
  'EXT_texture_webp',
  INSTANCES,
])

export interface PlainGltf {
  readonly glb: Uint8Array
  readonly missingTextures: readonly string[]
}
const broken = (message: string): AppError => new AppError('model-unreadable', message)

/** The plain GLB. AppError `model-unreadable` naming what is wrong or missing. */
export async function plainGlb(
  main: PickedFile,
  others: readonly PickedFile[],
  decoders: Decoders,
): Promise<PlainGltf> {
  const binary = startsAsGlb(main.bytes)
  const { json, bin } = binary ? partsOf(main) : { json: jsonOf(main), bin: null }
  stripped(json, isBottomless)
  const wrong = checkGltf(json)
  if (!wrong.ok) throw broken(wrong.message)
  const used = [...(json.extensionsUsed ?? []), ...(json.extensionsRequired ?? [])]
  const odd = (json.extensionsRequired ?? []).filter((e) => !KNOWN.has(e) && !e.startsWith('KHR_materials_'))
  if (odd.length > 0)
    throw broken(`It needs ${odd.join(', ')}, which cannot be read here. Export it without, pictures as PNG or JPEG.`)
  // data written into addresses is taken into the file too: the page loads from nowhere else
  const outside = [...(json.buffers ?? []), ...(json.images ?? [])].some((r) => r.uri !== undefined)
  const packed = used.some((e) => e === DRACO || e === INSTANCES || MESHOPT.includes(e))
  if (binary && !outside && !packed) {
    const facts = inspectGlb(main.bytes)
    if (!facts.ok) throw broken(facts.message)
    return { glb: main.bytes, missingTextures: [] }
  }
  const { resources, missingTextures } = gather(json, others)
  if (bin) resources['@glb.bin'] = bin
  return { glb: await rewritten({ json, resources }, used, decoders), missingTextures }
}

/** Whether the file means to be a GLB, sound or not. */
const startsAsGlb = (bytes: Uint8Array): boolean => glbHeader(bytes).ok || headOf(bytes, 4) === 'glTF'

function partsOf(main: PickedFile): { json: GLTF.IGLTF; bin: Uint8Array<ArrayBuffer> | null } {
  const parts = glbParts(main.bytes)
  if (!parts.ok) throw broken(parts.message)
  return { json: parts.value.json as unknown as GLTF.IGLTF, bin: parts.value.bin as Uint8Array<ArrayBuffer> | null }
}
function jsonOf(main: PickedFile): GLTF.IGLTF {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(main.bytes)) as GLTF.IGLTF
  } catch {
    throw broken(`“${main.name}” is cut off or not a glTF description. Export it again.`)
  }
}

const isData = (uri: string): boolean => uri.startsWith('data:')
const baseName = (path: string): string => path.slice(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1)
function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri)
  } catch {
    return uri
  }
}

/** The file that a reference means: by its name, whatever folder it stood in. */
export function fileFor(reference: string, files: readonly PickedFile[]): PickedFile | undefined {
  const name = baseName(decoded(reference)).toLowerCase()
  return files.find((f) => f.name === reference) ?? files.find((f) => baseName(f.name).toLowerCase() === name)
}

type Resources = Record<string, Uint8Array<ArrayBuffer>>

/** Files beside the description, by the name it uses; buffers must be there, pictures may be missing. */
function gather(json: GLTF.IGLTF, others: readonly PickedFile[]): { resources: Resources; missingTextures: string[] } {
  const resources: Resources = {}
  const absent: string[] = []
  for (const buffer of json.buffers ?? []) {
    if (buffer.uri === undefined || isData(buffer.uri)) continue
    const file = fileFor(buffer.uri, others)
    if (!file) absent.push(baseName(decoded(buffer.uri)))
    else if (file.bytes.length < buffer.byteLength)
      throw broken(`“${file.name}” is cut off: ${file.bytes.length} of ${buffer.byteLength} bytes. Copy it again.`)
    else resources[buffer.uri] = file.bytes as Uint8Array<ArrayBuffer>
  }
  if (absent.length > 0)
    throw broken(`${absent.map((a) => `“${a}”`).join(', ')} is missing. Pick it together with the .gltf file.`)
  const missing = new Set<number>()
  const missingTextures: string[] = []
  for (const [i, image] of (json.images ?? []).entries()) {
    if (image.uri === undefined || isData(image.uri)) continue
    const file = fileFor(image.uri, others)
    if (file) resources[image.uri] = file.bytes as Uint8Array<ArrayBuffer>
    else {
      missing.add(i)
      missingTextures.push(baseName(decoded(image.uri)))
    }
  }
  if (missing.size > 0) withoutImages(json, missing)
  return { resources, missingTextures }
}

/** Takes references to missing pictures out of the description. */
function withoutImages(json: GLTF.IGLTF, missing: ReadonlySet<number>): void {
  const gone = new Set(
    (json.textures ?? []).flatMap((t, i) => (t.source !== undefined && missing.has(t.source) ? [i] : [])),
  )
  stripped(json.materials, (k, v) => {
    const index = (v as { index?: unknown } | null)?.index
    return k.endsWith('Texture') && typeof index === 'number' && gone.has(index)
  })
  // the places stay, so that no number changes its meaning; nothing points at them any more
  for (const i of missing) json.images![i] = { uri: NO_PICTURE, mimeType: 'image/png' }
}
/** A white PNG of one pixel. */
const NO_PICTURE =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8/5+hHgAHggJ/PchI7wAAAABJRU5ErkJggg=='

async function rewritten(source: JSONDocument, used: readonly string[], decoders: Decoders): Promise<Uint8Array> {
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS)
  if (used.includes(DRACO)) {
    const make = (await import('draco3d/draco_decoder_nodejs.js')).default
    const wasmBinary = await decoders.dracoWasm()
    io.registerDependencies({ 'draco3d.decoder': await make({ wasmBinary }) })
  }
  if (used.some((e) => MESHOPT.includes(e))) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder')
    await MeshoptDecoder.ready
    io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder })
  }
  try {
    const doc = await io.readJSON(source)
    // one node for each instance: picked, hidden and moved by itself
    if (used.includes(INSTANCES)) await doc.transform((await import('@gltf-transform/functions')).uninstance())
    const root = doc.getRoot()
    // what is read is plain now: it must not be packed again
    for (const e of root.listExtensionsUsed()) if ([DRACO, ...MESHOPT].includes(e.extensionName)) e.dispose()
    const [buffer = doc.createBuffer(), ...rest] = root.listBuffers()
    for (const a of root.listAccessors()) a.setBuffer(buffer)
    for (const b of rest) b.dispose()
    const glb = await io.writeBinary(doc)
    const facts = inspectGlb(glb)
    if (!facts.ok) throw broken(facts.message)
    return glb
  } catch (e) {
    if (e instanceof AppError) throw e
    throw new AppError('model-unreadable', 'Its data cannot be read as its description says. Export it again.', {
      cause: String(e),
    })
  }
}
