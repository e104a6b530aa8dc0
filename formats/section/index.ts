// Door of sections in open formats: JSON, and SVG in millimetres on paper.
export { sectionJson, type SectionFace } from './json.ts'
export { sectionSvg } from './svg.ts'
