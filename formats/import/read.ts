// How does a picked model file of any known format become a GLB with facts about it?
// Model: the format is told by the content, the name only helps; the reading is checked for what later steps rely on (positions
// are numbers, indices within range, an extent). Nothing is stored here.

import { Mesh, type BufferAttribute, type BufferGeometry, type InterleavedBufferAttribute, type Object3D } from 'three'
import { AppError } from '#core/base'
import { OWN_UNITS_LIMIT, guessUnit, type FileUnit } from '#core/placing'
import { assemble, exactFacts, soupOf, type SceneFacts, type Soup } from '#mesh'
import { loadGlb } from '../scene/index.ts'
import { endingOf } from '../kinds/index.ts'
import { glbOfDraft, type DraftObject } from './draft.ts'
import { flatBase } from './base.ts'
import { plainGlb } from './gltf.ts'
import { textOf } from './numbers.ts'
import { readObj } from './obj.ts'
import { readPly } from './ply.ts'
import { isBinaryStl, readStl } from './stl.ts'
import type { Decoders, ModelFormat, PickedFile, ReadModel, ReadProgress } from './types.ts'

/** The format of a file by its content; null when it is none that can be read. */
export function formatOf(file: PickedFile): ModelFormat | null {
  const { bytes, name } = file
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4096))
  if (start.startsWith('glTF')) return 'GLB'
  if (/^ply\s/i.test(start)) return 'PLY'
  if (/^\s*\{/.test(start) && (endingOf(name) === 'gltf' || start.includes('"asset"'))) return 'glTF'
  if (/^\s*solid\b/i.test(start) || (endingOf(name) === 'stl' && isBinaryStl(bytes))) return 'STL'
  if (endingOf(name) === 'obj' && isObjText(textOf(bytes.subarray(0, 65_536)))) return 'OBJ'
  return null
}

const OBJ_WORDS = new Set(['#', 'v', 'vn', 'vt', 'vp', 'f', 'o', 'g', 's', 'l', 'p', 'mtllib', 'usemtl'])
const isObjText = (text: string): boolean =>
  text
    .split(/[\r\n]+/)
    .some((line) => /^[ \t]*#/.test(line) || OBJ_WORDS.has(line.trim().split(/[ \t]/, 1)[0]!.toLowerCase()))

const FILE_KEY = 'file'
/** glTF says which way is up: its base is not asked for. */
const NO_BASE = { y: 0, z: 0 } as const

interface Plain {
  readonly glb: Uint8Array
  readonly missingTextures: readonly string[]
  readonly stated: FileUnit | null
}

/**
 * Reads `main` with the files beside it. AppError `model-unreadable` with what is wrong and what to do. `soup` gathers the
 * file's triangles, in its own units and axes, when it is first asked for.
 */
export async function readModel(
  main: PickedFile,
  others: readonly PickedFile[],
  decoders: Decoders,
  progress: ReadProgress = () => undefined,
): Promise<ReadModel & { readonly soup: () => Soup }> {
  try {
    return await reading(main, others, decoders, progress)
  } catch (e) {
    if (e instanceof AppError) throw e
    // whatever a library stumbled over: told in words, the rest goes with the error
    const tooLong = e instanceof RangeError && /string|array|buffer/i.test(e.message)
    const what = tooLong ? 'It is too large to be read at once.' : 'Something in it is not as its format says.'
    throw new AppError('model-unreadable', `${what} Open it in the program it came from and export it again.`, {
      cause: String(e),
    })
  }
}

async function reading(
  main: PickedFile,
  others: readonly PickedFile[],
  decoders: Decoders,
  progress: ReadProgress,
): Promise<ReadModel & { readonly soup: () => Soup }> {
  const format = formatOf(main)
  if (main.bytes.length === 0) throw new AppError('model-unreadable', `“${main.name}” is empty.`)
  if (!format)
    throw new AppError('model-unreadable', `“${main.name}” is none of the kinds read here: GLB, glTF, OBJ, STL, PLY.`)
  progress(`Reading ${format}`, null)
  const plain = await plainOf(format, main, others, decoders)
  progress('Checking triangles', 0.6)
  const root = await loadGlb(plain.glb, { textures: false })
  const asFile = {
    key: FILE_KEY,
    unitM: 1,
    up: 'z',
    place: { position: [0, 0, 0], turnDeg: 0, scale: 1 },
    moved: [],
  } as const
  const scene = assemble([{ placed: asFile, root }])
  checkData(root)
  const facts = factsChecked(scene)
  let gathered: Soup | null = null
  const soup = (): Soup => (gathered ??= soupOf(scene).soup)
  progress('Measuring', 0.9)
  const size = [0, 1, 2].map((i) => facts.box.max[i]! - facts.box.min[i]!) as [number, number, number]
  if (!(Math.max(...size) > 0))
    throw new AppError('model-unreadable', 'All its corners lie in one point: it has no size.')
  if (Math.max(...[...facts.box.min, ...facts.box.max].map(Math.abs)) > OWN_UNITS_LIMIT)
    throw new AppError(
      'model-unreadable',
      'Some corners lie beyond 10^15 units from its origin. Move the model nearer and export it again.',
    )
  const kind = format === 'GLB' ? 'glTF' : format
  const guess = guessUnit({
    kind,
    size,
    base: kind === 'glTF' ? NO_BASE : flatBase(soup(), facts.box),
    stated: plain.stated,
  })
  const materials = new Set(facts.nodes.flatMap((n) => n.materials)).size
  return {
    glb: plain.glb,
    soup,
    facts: {
      format,
      box: facts.box,
      triangles: facts.triangles,
      objects: facts.nodes.filter((n) => n.materials.length > 0).length,
      nodes: facts.nodes
        .filter((n) => n.parentId !== null)
        .map(({ id, name }) => ({ id: id.slice(FILE_KEY.length + 1), name })),
      materials,
      missingTextures: plain.missingTextures,
      guess,
    },
  }
}

async function plainOf(
  format: ModelFormat,
  main: PickedFile,
  others: readonly PickedFile[],
  decoders: Decoders,
): Promise<Plain> {
  if (format === 'GLB' || format === 'glTF') return { ...(await plainGlb(main, others, decoders)), stated: null }
  if (format === 'OBJ') {
    const { objects, missingTextures, stated } = readObj(main, others)
    return { glb: await glbOf(objects), missingTextures, stated }
  }
  const { objects, stated } = format === 'STL' ? readStl(main) : readPly(main)
  return { glb: await glbOf(objects), missingTextures: [], stated }
}

async function glbOf(objects: readonly DraftObject[]): Promise<Uint8Array> {
  const triangles = objects.flatMap((o) => o.parts).reduce((n, p) => n + (p.indices ?? p.positions).length, 0)
  if (triangles === 0)
    throw new AppError('model-unreadable', 'It holds no triangles. Export the model with its surfaces.')
  return glbOfDraft(objects)
}

const DATA: Readonly<Record<string, string>> = {
  position: 'corners',
  normal: 'normals',
  tangent: 'tangents',
  uv: 'texture points',
  color: 'colours',
}

/** Indices within range, and every number that later steps rely on a number. */
function checkData(root: Object3D): void {
  const seen = new Set<unknown>()
  root.traverse((o) => {
    if (!(o instanceof Mesh) || seen.has(o.geometry)) return
    seen.add(o.geometry)
    const name = `“${o.name || 'A mesh'}”`
    const n = o.geometry.getAttribute('position').count
    const indices = o.geometry.index?.array
    let most = 0
    for (let i = 0; i < (indices?.length ?? 0); i++) if (indices![i]! > most) most = indices![i]!
    if (indices && most >= n)
      throw new AppError('model-unreadable', `${name} names corner ${most}, but there are ${n}. Export it again.`)
    for (const [key, attribute] of Object.entries((o.geometry as BufferGeometry).attributes)) {
      const what = DATA[key.replace(/\d+$/, '')]
      if (!what) continue
      if (attribute.count !== n)
        throw new AppError(
          'model-unreadable',
          `${name} has ${attribute.count} ${what} for ${n} corners. Export it again.`,
        )
      if (!allFinite(attribute))
        throw new AppError(
          'model-unreadable',
          `${name} has ${what} that are not numbers (NaN or infinite). Export it again.`,
        )
    }
  })
}

function allFinite(a: BufferAttribute | InterleavedBufferAttribute): boolean {
  const { array } = a
  if (!(array instanceof Float32Array || array instanceof Float64Array)) return true
  for (let i = 0; i < a.count; i++)
    for (let k = 0; k < a.itemSize; k++) if (!Number.isFinite(a.getComponent(i, k))) return false
  return true
}

function factsChecked(scene: Object3D): SceneFacts {
  try {
    return exactFacts(scene)
  } catch {
    throw new AppError('model-unreadable', 'Some corners are not numbers (NaN or infinite). Export the model again.')
  }
}
