// Door of the workers.
export { createGeometry, type GeometryClient } from './client.ts'
export { createImport, type ImportClient } from './import-client.ts'
export { createMatch, createPhoto, type MatchClient, type PhotoClient } from './photo-client.ts'
export type { FoundEdges, OpenedPhoto } from './photo-contract.ts'
export { readTable } from './table-client.ts'
export type { CheckRequest, FoundWalls, GeometryContract, ReadFile } from './contract.ts'
