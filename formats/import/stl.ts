// How is an STL file read?
// Model: binary ones by three's loader after their count was checked, text ones word by word in one pass. Source: STL as commonly
// documented (common practice).

import { STLLoader } from 'three/addons/loaders/STLLoader.js'
import { AppError } from '#core/base'
import { statedUnit, type FileUnit } from '#core/placing'
import { PLAIN_MATERIAL, type DraftObject } from './draft.ts'
import { areSound, cornerNormals } from './normals.ts'
import { Doubles, wordReader } from './numbers.ts'
import { triangulate } from './polygons.ts'
import { bufferOf, headOf, stemOf, type PickedFile } from './types.ts'

export interface ReadScan {
  readonly objects: readonly DraftObject[]
  readonly stated: FileUnit | null
}
const broken = (message: string): AppError => new AppError('model-unreadable', message)

/** Whether the bytes look like a binary STL: their length follows from the count of triangles (or the count is what misleads). */
export function isBinaryStl(bytes: Uint8Array): boolean {
  if (bytes.length < 84) return false
  const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)
  if (84 + 50 * n === bytes.length) return true
  return !/^\s*solid/i.test(headOf(bytes, 80)) || !/\b(facet|endsolid)\b/i.test(headOf(bytes, 2000))
}

export function readStl(main: PickedFile): ReadScan {
  const { positions, normals } = isBinaryStl(main.bytes) ? binaryStl(main.bytes) : textStl(main.bytes)
  const part = {
    material: PLAIN_MATERIAL,
    positions,
    // a facet's written normal is often nought
    normals: normals && areSound(normals) ? normals : cornerNormals(Float32Array.from(positions), null),
    uvs: null,
    colours: null,
    indices: null,
  }
  const objects = positions.length > 0 ? [{ name: stemOf(main.name), parts: [part] }] : []
  return { objects, stated: statedUnit(headOf(main.bytes, 80)) }
}

interface Facets {
  readonly positions: Float32Array | Float64Array
  readonly normals: Float32Array | null
}

function binaryStl(bytes: Uint8Array): Facets {
  const n = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)
  if (84 + 50 * n > bytes.length)
    throw broken(`It is cut off: ${Math.floor((bytes.length - 84) / 50)} of ${n} triangles are there. Copy it again.`)
  // a header that begins with “solid” would be taken for text
  const copy = new Uint8Array(bufferOf(bytes).slice(0))
  copy.fill(32, 0, 5)
  const g = new STLLoader().parse(copy.buffer)
  const array = (key: string): Float32Array => g.getAttribute(key).array as Float32Array
  return { positions: array('position'), normals: array('normal') }
}

/** The words of a text STL in their order: `facet normal x y z outer loop vertex x y z ... endloop endfacet`. Linear. */
function textStl(bytes: Uint8Array): Facets {
  const next = wordReader(headOf(bytes, bytes.length))
  const [positions, normals] = [new Doubles(), new Doubles()]
  let normal: number[] = []
  let corners: number[] = []
  let [facets, ends, solidEnds] = [0, 0, 0]
  const three = (): number[] => {
    const texts = [next(), next(), next()]
    const values = texts.map((t) => (t === null ? NaN : Number(t)))
    // three numbers that are not all there: the file ends within them, which the counts will tell
    if (texts[2] !== null && !values.every(Number.isFinite))
      throw broken(`Triangle ${facets}: “${texts.join(' ').slice(0, 60)}” is not three numbers.`)
    return values
  }
  for (let w = next(); w !== null; w = next())
    switch (w.toLowerCase()) {
      case 'facet':
        facets++
        next()
        normal = three()
        corners = []
        break
      case 'vertex':
        corners.push(...three())
        break
      case 'endfacet':
        if (corners.length < 9 || !corners.every(Number.isFinite)) break
        ends++
        for (const c of triangulate(corners.length / 3, (n, k) => corners[n * 3 + k]!))
          for (let k = 0; k < 3; k++) {
            positions.push(corners[c * 3 + k]!)
            normals.push(normal[k]!)
          }
        break
      case 'endsolid':
        solidEnds++
    }
  if (facets !== ends || (facets > 0 && solidEnds === 0))
    throw broken(`It is cut off: ${ends} of ${facets} triangles are whole. Copy or export it again.`)
  return { positions: positions.values(), normals: Float32Array.from(normals.values()) }
}
