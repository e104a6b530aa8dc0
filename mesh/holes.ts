// Where has a surface holes? Cut-out leaves and perforated sheets are few triangles with a map that says what of them is there.
// Model: of the triangles with such a map the places in it are kept, and the map's opacity; a ray that meets a hole goes on. A place
// counts as there from the material's own limit on (glTF's alphaCutoff). Space: texture places 0..1, v down. Source: gltf2.

import {
  ClampToEdgeWrapping,
  Mesh,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  Vector2,
  type BufferAttribute,
  type Texture,
  type Vector3,
} from 'three'

type Wrap = 'repeat' | 'mirror' | 'clamp'
/** Opacity 0..255 by rows from v = 0; a place is there from `least` on. */
export interface OpacityMap {
  readonly width: number
  readonly height: number
  readonly opacity: Uint8Array
  readonly least: number
  readonly wrap: readonly [Wrap, Wrap]
}
export interface Holes {
  /** Vertices from here up to `end` belong to surfaces with holes. */
  readonly from: number
  readonly end: number
  /** Two numbers for each of them: the place in its map. */
  readonly places: Float32Array
  /** For each of them, which map. */
  readonly mapOf: Uint16Array
  readonly maps: readonly OpacityMap[]
}
/** What a texture's picture holds, as RGBA by rows from the top; null where that cannot be read. */
export type PictureReader = (image: unknown) => { width: number; height: number; data: ArrayLike<number> } | null

/** Pictures that are plain memory; others need the page's means. */
export const plainPicture: PictureReader = (image) => {
  const p = image as { width?: number; height?: number; data?: ArrayLike<number> } | null
  return p?.data && p.width && p.height && p.data.length === p.width * p.height * 4
    ? { width: p.width, height: p.height, data: p.data }
    : null
}

/** The material's colour map where it cuts holes; null for any other. */
export function cutOutMap(material: unknown, mesh: Mesh): Texture | null {
  const m = material instanceof MeshStandardMaterial && material.alphaTest > 0 ? material : null
  return m?.map && mesh.geometry.hasAttribute(uvName(m.map)) ? m.map : null
}
export const uvName = (texture: Texture): string => (texture.channel === 0 ? 'uv' : `uv${texture.channel}`)

const WRAPS: Record<number, Wrap> = { [ClampToEdgeWrapping]: 'clamp', [MirroredRepeatWrapping]: 'mirror' }

/** Gathers holes mesh by mesh, in the order of the soup's vertices. */
export class HoleGatherer {
  private readonly read: PictureReader
  private readonly maps: OpacityMap[] = []
  private readonly known = new Map<string, number | null>()
  private readonly parts: { places: Float32Array; map: number }[] = []
  private from = -1
  private end = -1

  constructor(read: PictureReader) {
    this.read = read
  }

  /** Takes a mesh whose vertices begin at `first`; nothing where its map cannot be read: it then counts as whole. */
  add(mesh: Mesh, material: unknown, first: number): void {
    const texture = cutOutMap(material, mesh)
    const map = texture && this.mapOf(texture, material as MeshStandardMaterial)
    // one run of vertices: a mesh that is whole in between ends it
    if (!texture || map === null || (this.end >= 0 && this.end !== first)) return
    const uv = mesh.geometry.getAttribute(uvName(texture)) as BufferAttribute
    const places = new Float32Array(uv.count * 2)
    const at = new Vector2()
    for (let i = 0; i < uv.count; i++) {
      at.set(uv.getX(i), uv.getY(i)).applyMatrix3(texture.matrix)
      places[i * 2] = at.x
      places[i * 2 + 1] = at.y
    }
    if (this.from < 0) this.from = first
    this.end = first + uv.count
    this.parts.push({ places, map })
  }

  private mapOf(texture: Texture, { uuid, alphaTest, opacity }: MeshStandardMaterial): number | null {
    const key = `${texture.uuid}|${uuid}`
    const known = this.known.get(key)
    if (known !== undefined) return known
    const picture = this.read(texture.image)
    const at = picture && this.maps.length < 0xffff ? this.maps.length : null
    if (picture && at !== null) {
      const { width, height, data } = picture
      const own = new Uint8Array(width * height)
      for (let i = 0; i < own.length; i++) own[i] = data[i * 4 + 3]! * opacity
      const wrap = [WRAPS[texture.wrapS] ?? 'repeat', WRAPS[texture.wrapT] ?? 'repeat'] as const
      this.maps.push({ width, height, opacity: own, least: alphaTest * 255, wrap })
    }
    this.known.set(key, at)
    return at
  }

  /** What was gathered; null where nothing has holes. */
  holes(): Holes | null {
    if (this.parts.length === 0) return null
    const { from, end } = this
    const places = new Float32Array((end - from) * 2)
    const mapOf = new Uint16Array(end - from)
    let n = 0
    for (const p of this.parts) {
      places.set(p.places, n * 2)
      mapOf.fill(p.map, n, n + p.places.length / 2)
      n += p.places.length / 2
    }
    return { from, end, places, mapOf, maps: this.maps }
  }
}

function wrapped(v: number, wrap: Wrap): number {
  if (wrap === 'clamp') return Math.min(1, Math.max(0, v))
  if (wrap === 'repeat') return v - Math.floor(v)
  const w = v - 2 * Math.floor(v / 2)
  return w > 1 ? 2 - w : w
}

/** Whether the surface is not there at a point of one of its triangles (corners as vertices of the soup). */
export function isHole(
  holes: Holes,
  positions: Float32Array,
  [a, b, c]: readonly [number, number, number],
  point: Vector3,
): boolean {
  if (a < holes.from || a >= holes.end) return false
  const [wb, wc] = weights(positions, a, b, c, point)
  const wa = 1 - wb - wc
  const at = (k: 0 | 1): number => {
    const of = (v: number): number => holes.places[(v - holes.from) * 2 + k]!
    return wa * of(a) + wb * of(b) + wc * of(c)
  }
  const { width, height, opacity, least, wrap } = holes.maps[holes.mapOf[a - holes.from]!]!
  const x = Math.min(width - 1, Math.floor(wrapped(at(0), wrap[0]) * width))
  const y = Math.min(height - 1, Math.floor(wrapped(at(1), wrap[1]) * height))
  return opacity[y * width + x]! < least
}

/** Weights of the second and third corner at a point of the triangle. Source: plane geometry (areas). */
function weights(at: Float32Array, a: number, b: number, c: number, p: Vector3): [number, number] {
  const from = (v: number, k: 0 | 1 | 2): number => at[v * 3 + k]! - at[a * 3 + k]!
  const [ux, uy, uz] = [from(b, 0), from(b, 1), from(b, 2)]
  const [vx, vy, vz] = [from(c, 0), from(c, 1), from(c, 2)]
  const [px, py, pz] = [p.x - at[a * 3]!, p.y - at[a * 3 + 1]!, p.z - at[a * 3 + 2]!]
  const uu = ux * ux + uy * uy + uz * uz
  const vv = vx * vx + vy * vy + vz * vz
  const uv = ux * vx + uy * vy + uz * vz
  const pu = px * ux + py * uy + pz * uz
  const pv = px * vx + py * vy + pz * vz
  const area = uu * vv - uv * uv
  if (!(area > 0)) return [0, 0]
  return [(vv * pu - uv * pv) / area, (uu * pv - uv * pu) / area]
}
