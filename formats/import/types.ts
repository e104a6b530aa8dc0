// What goes into the reading of a model file, and what comes out?

import type { Box } from '#core/math'
import type { NamedNode, UnitGuess } from '#core/placing'

/** One of the files picked or dropped together. */
export interface PickedFile {
  readonly name: string
  readonly bytes: Uint8Array
}
export type ModelFormat = 'GLB' | 'glTF' | 'OBJ' | 'STL' | 'PLY'

/** Decoders that come as WebAssembly; fetched only when a file needs them. */
export interface Decoders {
  readonly dracoWasm: () => Promise<ArrayBuffer>
}
export type ReadProgress = (what: string, done: number | null) => void

export interface ModelFacts {
  readonly format: ModelFormat
  /** Bounds in the file's own units and axes. */
  readonly box: Box
  readonly triangles: number
  readonly objects: number
  /** Paths and names below the file's root, for matching with an older file. */
  readonly nodes: readonly NamedNode[]
  readonly materials: number
  /** Names of pictures that materials ask for and that are not there. */
  readonly missingTextures: readonly string[]
  readonly guess: UnitGuess
}

export interface ReadModel {
  /** One self-contained GLB with the file's own units and axes. */
  readonly glb: Uint8Array
  readonly facts: ModelFacts
}
