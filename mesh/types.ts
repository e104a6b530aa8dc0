// What does the application know of a model's geometry?
// Space: world metres, Z up.

import type { Lamp } from './lamp.ts'
import type { Box, Vec3 } from '#core/math'
import type { ModelClip } from '#core/reel'
import type { Holes } from './holes.ts'

export interface NodeFacts {
  /** Path of names from the root, with #2, #3 ... where siblings share a name; stable over reload. */
  readonly id: string
  readonly name: string
  readonly parentId: string | null
  /** What the file's extras say: floor, wall, roof, glass, surroundings, ... */
  readonly kind: string | null
  readonly storey: string | null
  /** Of a light or an empty node: its place, without extent. */
  readonly box: Box
  readonly triangles: number
  /** Names of the materials its own triangles have (those of nodes below it are theirs); within one model. */
  readonly materials: readonly string[]
  /** Unit directions of its own x, y and z in the world (z up, whatever the file's axes are). */
  readonly axes: readonly [Vec3, Vec3, Vec3]
}

/** All triangles of a model in one indexed soup; vertices are never shared between nodes. */
export interface Soup {
  readonly positions: Float32Array
  readonly indices: Uint32Array
  /** Index into `nodes` for each vertex. */
  readonly nodeOfVertex: Uint32Array
  /** Linear base colour for each vertex, 0..255. */
  readonly albedo: Uint8Array
  /** Emitted light for each vertex, in the file's own scale; empty when nothing emits. */
  readonly emission: Float32Array
  /** The file's own lamps; left out where there are none. */
  readonly lamps?: readonly Lamp[]
  /** From this triangle on, triangles let light through (glass). */
  readonly opaqueTriangles: number
  /** Where opaque surfaces have holes; null or absent where none has. */
  readonly holes?: Holes | null
}

export interface SceneFacts {
  readonly nodes: readonly NodeFacts[]
  /** Bounds without what is marked as surroundings (all of it when nothing else is there). */
  readonly box: Box
  readonly triangles: number
  /** Animation that the models bring with them; left out where there is none. */
  readonly clips?: readonly ModelClip[]
}

export interface Storey {
  readonly name: string
  readonly heightM: number
  readonly areaM2: number
}

export interface Hit {
  readonly point: Vec3
  readonly normal: Vec3
  readonly distanceM: number
  readonly nodeId: string
  readonly nodeName: string
}
