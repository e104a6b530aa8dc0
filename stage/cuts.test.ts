import { describe, expect, it } from 'vitest'
import type { Cut } from '#core/section'
import { linearOf } from './flat-tone.ts'
import { drawnFaces } from './cut-faces.ts'
import { cutRow } from './shaders-cuts.ts'

const base = { id: 'a', name: 'A', on: true, reversed: false }

describe('cuts as the shaders read them', () => {
  it('a head and planes; one plane beyond is enough, of a reversed box all are needed', () => {
    const box: Cut = { ...base, kind: 'box', centre: [1, 2, 3], sizeM: [2, 2, 2], turnDeg: 0 }
    expect([...cutRow([{ ...base, kind: 'level', heightM: 1.5 }])]).toEqual([0, 1, 0, 0, 0, 0, 1, 1.5])
    expect([...cutRow([box])].slice(0, 8)).toEqual([0, 6, 0, 0, 1, -0, 0, 2].map((v) => (v === 0 ? expect.closeTo(0, 9) : v))) // prettier-ignore
    expect([...cutRow([{ ...box, reversed: true }])].slice(0, 2)).toEqual([1, 6])
    // a half-space reversed is the other half-space
    expect([...cutRow([{ ...base, kind: 'level', heightM: 1.5, reversed: true }])].slice(0, 2)).toEqual([0, 1])
  })
  it('a stepped line as its legs, told whether its right goes', () => {
    const line: Cut = { ...base, reversed: true, kind: 'stepped', points: [[0, 1], [2, 1], [2, 3]] } // prettier-ignore
    expect([...cutRow([line])]).toEqual([2, 2, 1, 0, 0, 1, 2, 1, 2, 1, 2, 3])
  })
})

describe('what is drawn flat', () => {
  it('is told in linear light: black, white, and mid-grey 0.214 (IEC 61966-2-1)', () => {
    expect(linearOf([0, 0.5, 1])[0]).toBe(0)
    expect(linearOf([0, 0.5, 1])[1]).toBeCloseTo(0.21404, 5)
    expect(linearOf([0, 0.5, 1])[2]).toBe(1)
  })
  it('outlines are strips of two triangles, both sides of the line', () => {
    const none = new Float32Array(0)
    const { lines } = drawnFaces({ positions: none, normals: none, colours: none, hatches: none, outlines: Float32Array.from([0, 0, 0, 1, 0, 0]), outlineNormals: Float32Array.from([0, 0, 1, 0, 0, 1]) }) // prettier-ignore
    expect(lines.getAttribute('position').count).toBe(4)
    expect([...lines.getAttribute('side').array]).toEqual([1, -1, 1, -1])
    expect([...lines.index!.array]).toEqual([0, 1, 2, 0, 2, 3])
  })
})
