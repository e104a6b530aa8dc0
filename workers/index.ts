// Door of the workers.
export { createGeometry, type GeometryClient } from './client.ts'
export type { GeometryContract } from './contract.ts'
