import { describe, expect, it } from 'vitest'
import { classOf, HATCHES, MATERIAL_CLASSES, proposedClass } from './index.ts'

describe('what class a material is of', () => {
  it.each([
    ['Brick_red', 'masonry'],
    ['oak', 'timber'],
    ['OakFloor', 'timber'],
    ['Sichtbeton', 'concrete'],
    ['reinforced concrete', 'concrete'],
    ['Plasterboard', 'plaster'],
    ['Sandstone 03', 'stone'],
    ['brushed-steel', 'metal'],
    ['glass wool', 'insulation'],
    ['Glas klar', 'glass'],
    ['garden soil', 'earth'],
    ['firewall', 'other'],
    ['panel', 'other'],
    ['ferns', 'other'],
    ['', 'other'],
    ['Material.001', 'other'],
  ] as const)('%s: %s', (name, is) => expect(proposedClass(name)).toBe(is))
  it('what is set by hand goes before, by its own name alone', () => {
    expect(classOf('oak', { oak: 'metal' })).toBe('metal')
    expect(classOf('toString', {})).toBe('other')
  })
  it('every class has lines that differ from those of all others', () => {
    const seen = MATERIAL_CLASSES.map((c) => JSON.stringify(HATCHES[c]))
    expect(new Set(seen).size).toBe(MATERIAL_CLASSES.length)
    for (const c of MATERIAL_CLASSES) expect(HATCHES[c].length).toBeLessThanOrEqual(2)
  })
})
