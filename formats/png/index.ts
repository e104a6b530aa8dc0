// Door of formats/png.
export { densityOf, encodePngRgb, withDensity } from './png.ts'
