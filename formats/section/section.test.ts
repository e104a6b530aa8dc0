import { describe, expect, it } from 'vitest'
import { planeAxes } from '#core/section'
import { sectionJson, sectionSvg, type SectionFace } from './index.ts'

const ring = (x: number, y: number, w: number, h: number): Float64Array => Float64Array.from([x, y, x + w, y, x + w, y + h, x, y + h]) // prettier-ignore
const face: SectionFace = {
  cutId: 'a',
  plane: 0,
  axes: planeAxes({ point: [0, 0, 1.2], normal: [0, 0, 1] }),
  nodeId: 'hall/Wall <1>',
  polygons: [{ outer: ring(0, 0, 18, 9), holes: [Float64Array.from([1, 1, 1, 8, 17, 8, 17, 1])] }],
  open: [Float64Array.from([2, 2, 3, 3])],
}

describe('sections in open formats', () => {
  it('JSON: polygons with holes by object, metres, with the plane’s axes', () => {
    const read = JSON.parse(sectionJson([face], () => 'Plan')) as { unit: string; sections: { cut: string; origin: number[]; objects: { object: string; polygons: { outer: number[][]; holes: number[][][] }[]; openLines: number[][][] }[] }[] } // prettier-ignore
    expect(read.unit).toBe('m')
    expect(read.sections[0]).toMatchObject({ cut: 'Plan', origin: [0, 0, 1.2], right: [1, 0, 0], up: [0, 1, 0] })
    const [object] = read.sections[0]!.objects
    expect(object!.object).toBe('hall/Wall <1>')
    expect(object!.polygons[0]!.outer).toHaveLength(4)
    expect(object!.polygons[0]!.holes).toHaveLength(1)
    expect(object!.openLines).toEqual([[[2, 2], [3, 3]]]) // prettier-ignore
  })
  it('SVG: millimetres on paper at the scale, one group an object, y down, holes left out', () => {
    const svg = sectionSvg([face], 50, 'Section A')!
    // 18 m at 1 : 50 are 360 mm, and a margin of 10 on both sides
    expect(svg).toContain('width="380mm" height="200mm" viewBox="0 0 380 200"')
    expect(svg).toContain('<g id="hall/Wall &#60;1&#62;">')
    expect(svg).toMatch(/d="M10 190L370 190L370 10L10 10ZM/)
    expect(svg).toContain('fill-rule:evenodd')
    expect(svg).toContain('class="open"')
    expect(sectionSvg([], 50, 'none')).toBeNull()
  })
})
