// The tables, as TypeORM schemas without decorators (they work the same under tsx, Vitest and bundles).
import { EntitySchema } from 'typeorm'

export interface Project {
  id: string
  name: string
  revision: number
  createdAt: string
  updatedAt: string
  /** A small picture for the home view, and its type. */
  cover: Buffer | null
  coverType: string | null
}
export interface Revision {
  projectId: string
  number: number
  /** The whole document, or the patch (RFC 6902) that makes it from the revision before. */
  document: string
  isPatch: boolean
  label: string | null
  savedAt: string
  /** What the sender called this save, so that the same one sent again is recognised. */
  saveId: string | null
}
export interface Asset {
  sha256: string
  uploadId: string
  sizeBytes: number
  mediaType: string
  fileName: string
  /** When it was last brought in. */
  createdAt: string
  /** When a sweep first found no project that refers to it; null while one does. */
  unreferencedSince: string | null
}
export interface AssetChunk {
  uploadId: string
  index: number
  data: Buffer
}

export const ProjectEntity = new EntitySchema<Project>({
  name: 'project',
  columns: {
    id: { type: 'varchar', primary: true },
    name: { type: 'varchar' },
    revision: { type: 'integer' },
    createdAt: { type: 'varchar' },
    updatedAt: { type: 'varchar' },
    cover: { type: 'blob', nullable: true, select: false },
    coverType: { type: 'varchar', nullable: true },
  },
})
export const RevisionEntity = new EntitySchema<Revision>({
  name: 'revision',
  columns: {
    projectId: { type: 'varchar', primary: true },
    number: { type: 'integer', primary: true },
    document: { type: 'text' },
    isPatch: { type: 'boolean', default: false },
    label: { type: 'varchar', nullable: true },
    savedAt: { type: 'varchar' },
    saveId: { type: 'varchar', nullable: true },
  },
  relations: {},
})
export const AssetEntity = new EntitySchema<Asset>({
  name: 'asset',
  columns: {
    sha256: { type: 'varchar', primary: true },
    uploadId: { type: 'varchar', unique: true },
    sizeBytes: { type: 'integer' },
    mediaType: { type: 'varchar' },
    fileName: { type: 'varchar' },
    createdAt: { type: 'varchar' },
    unreferencedSince: { type: 'varchar', nullable: true },
  },
})
export const AssetChunkEntity = new EntitySchema<AssetChunk>({
  name: 'asset_chunk',
  columns: {
    uploadId: { type: 'varchar', primary: true },
    index: { type: 'integer', primary: true },
    data: { type: 'blob' },
  },
})
export const ENTITIES = [ProjectEntity, RevisionEntity, AssetEntity, AssetChunkEntity]
