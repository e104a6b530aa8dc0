// What goes into the reading of a model file, and what comes out?

import type { Box } from '#core/math'
import type { NamedNode, FileUnitGuess } from '#core/placing'

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
  readonly guess: FileUnitGuess
}

export interface ReadModel {
  /** One self-contained GLB with the file's own units and axes. */
  readonly glb: Uint8Array
  readonly facts: ModelFacts
}

/** A file's name without its ending. */
export const stemOf = (name: string): string => name.replace(/\.[^.]*$/, '') || 'Model'
/** The first bytes as letters, one each. */
export const headOf = (bytes: Uint8Array, length: number): string =>
  new TextDecoder('latin1').decode(bytes.subarray(0, length))
/** The bytes as a buffer of their own; no copy where they are one already. */
export const bufferOf = (bytes: Uint8Array): ArrayBuffer =>
  bytes.byteLength === bytes.buffer.byteLength
    ? (bytes.buffer as ArrayBuffer)
    : (bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer)
