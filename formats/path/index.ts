// Door of formats/path: a camera's path as a table, and as a glTF animation.
export { CSV_COLUMNS, pathCsv } from './csv.ts'
export { pathGltf, type PathGltf } from './gltf.ts'
export { quaternionOf } from './quaternion.ts'
