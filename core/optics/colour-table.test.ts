import { describe, expect, it } from 'vitest'
import { lookUp, packTable, readCube, unpackTable } from './colour-table.ts'

const SIZE = 5
const at = (i: number): number => i / (SIZE - 1)
/** Any colours, red fastest. */
const colour = (r: number, g: number, b: number): [number, number, number] => [at(r) ** 2, 1 - at(g) * at(b), 0.2 + 0.6 * at(b)] // prettier-ignore
const lines: string[] = []
for (let b = 0; b < SIZE; b++)
  for (let g = 0; g < SIZE; g++) for (let r = 0; r < SIZE; r++) lines.push(colour(r, g, b).map((v) => v.toFixed(7)).join(' ')) // prettier-ignore
const TEXT = `# made here\nTITLE "Own"\nLUT_3D_SIZE ${SIZE}\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n\n${lines.join('\r\n')}\n`

function table(text = TEXT) {
  const r = readCube(text)
  if (!r.ok) throw new Error(r.message)
  return r
}

describe('a colour table (.cube)', () => {
  it('is exact at its places, and trilinear between them', () => {
    const { table: t, title, note } = table()
    expect([title, note]).toEqual(['Own', ''])
    for (const [r, g, b] of [
      [0, 0, 0],
      [4, 4, 4],
      [1, 3, 2],
      [4, 0, 1],
    ] as const)
      // prettier-ignore
      lookUp(t, [at(r), at(g), at(b)]).forEach((v, k) => expect(v).toBeCloseTo(colour(r, g, b)[k]!, 6))
    // halfway between eight places it is their mean
    const mean = [0, 1, 2].map((k) => [0, 1].flatMap((i) => [0, 1].flatMap((j) => [0, 1].map((m) => colour(1 + i, 2 + j, 3 + m)[k]!))).reduce((s, v) => s + v, 0) / 8) // prettier-ignore
    lookUp(t, [(1.5) / 4, 2.5 / 4, 3.5 / 4]).forEach((v, k) => expect(v).toBeCloseTo(mean[k]!, 6)) // prettier-ignore
    // beyond the cube its border holds
    expect(lookUp(t, [-1, 2, 0.5])).toEqual(lookUp(t, [0, 1, 0.5]))
  })
  it('is kept within 1/131070', () => {
    const { table: t } = table()
    const back = unpackTable(t.size, packTable(t))!
    for (let i = 0; i < t.values.length; i++) expect(Math.abs(back.values[i]! - t.values[i]!)).toBeLessThan(1 / 131_000)
    expect(unpackTable(4, packTable(t))).toBeNull()
    expect(unpackTable(5, '%')).toBeNull()
  })
  it('a domain of its own is read at 0 to 1, a larger cube at fewer places; both are said', () => {
    const doubled = table(TEXT.replace('DOMAIN_MAX 1 1 1', 'DOMAIN_MAX 2 2 2'))
    expect(doubled.note).toMatch(/domain/)
    // one of the picture is halfway in the file
    lookUp(doubled.table, [1, 1, 1]).forEach((v, k) => expect(v).toBeCloseTo(colour(2, 2, 2)[k]!, 6))
    const n = 40
    const many = Array.from({ length: n ** 3 }, (_, i) => `${(i % n) / (n - 1)} ${(Math.floor(i / n) % n) / (n - 1)} ${Math.floor(i / n / n) / (n - 1)}`) // prettier-ignore
    const large = table(`LUT_3D_SIZE ${n}\n${many.join('\n')}`)
    expect(large.note).toBe('Its 40 places a side are read at 33.')
    // a straight table stays straight
    lookUp(large.table, [0.3, 0.61, 0.87]).forEach((v, k) => expect(v).toBeCloseTo([0.3, 0.61, 0.87][k]!, 5))
  })
  it.each([
    ['', /no LUT_3D_SIZE/],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1', /Line 1: it is a one-dimensional table/],
    ['LUT_3D_SIZE 999\n', /Line 1: a size of 2 to 129/],
    ['LUT_3D_SIZE 2\n0 0 0\n1 1', /Line 3: three numbers/],
    ['LUT_3D_SIZE 2\n0 0 x', /Line 2: “x” is not a number/],
    ['LUT_3D_SIZE 2\n0 0 nan', /Line 2: “nan” is not a number/],
    ['LUT_3D_SIZE 2\n0 0 0', /1 colours where LUT_3D_SIZE 2 wants 8/],
    [`LUT_3D_SIZE 2\n${'0 0 0\n'.repeat(9)}`, /Line 10: more colours/],
    ['LUT_3D_SIZE 2\nDOMAIN_MIN 1 1 1\n' + '0 0 0\n'.repeat(8), /domain ends before/],
    ['\u0000\u0001 PNG', /Line 1/],
  ])('refuses what is none, with the line: %j', (text, why) => {
    const r = readCube(text)
    expect(r.ok).toBe(false)
    expect(r.ok ? '' : r.message).toMatch(why)
  })
})
