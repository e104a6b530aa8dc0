import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Vec3 } from '../math/index.ts'
import {
  AT_ORIGIN,
  boxInMetres,
  centreWithOffset,
  guessUnit,
  matchNodes,
  modelKey,
  placedPoint,
  replaced,
  standingOn,
  statedUnit,
  UNIT_M,
  firstPlace,
  originOf,
} from './index.ts'

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const place = fc.record({
  position: fc.tuple(real(-50, 50), real(-50, 50), real(-50, 50)),
  turnDeg: real(-360, 360),
  scale: real(0.01, 50),
})
const box = fc
  .tuple(real(-20, 20), real(-20, 20), real(-20, 20), real(0.1, 20), real(0.1, 20), real(0.1, 20))
  .map(([x, y, z, w, d, h]) => ({ min: [x, y, z] as Vec3, max: [x + w, y + d, z + h] as Vec3 }))
const baseOf = ({ min, max }: { min: Vec3; max: Vec3 }): Vec3 => [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, min[2]]
const near = (a: Vec3, b: Vec3, digits = 8) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, digits))

describe('placing', () => {
  it('turns clockwise seen from above, then moves', () => {
    near(placedPoint({ position: [10, 0, 0], turnDeg: 90, scale: 2 }, [0, 1, 3]), [12, 0, 6])
    near(placedPoint(AT_ORIGIN, [1, 2, 3]), [1, 2, 3])
  })
  it('stands the middle of the base on a point, whatever turn and size', () => {
    fc.assert(
      fc.property(place, box, fc.tuple(real(-9, 9), real(-9, 9), real(-9, 9)), (p, b, at) =>
        near(placedPoint(standingOn(p, b, at), baseOf(b)), at),
      ),
    )
  })
  it('another turn or size leaves the middle of the base where it is, and back again', () => {
    fc.assert(
      fc.property(place, box, real(-360, 360), real(0.01, 50), (p, b, turnDeg, scale) => {
        const before = placedPoint(p, baseOf(b))
        const turned = replaced(p, b, { turnDeg, scale })
        near(placedPoint(turned, baseOf(b)), before, 6)
        near(replaced(turned, b, { turnDeg: p.turnDeg, scale: p.scale }).position, p.position, 6)
      }),
    )
  })
  it('a file with Y up is turned so that its height is the world’s', () => {
    const b = boxInMetres({ min: [0, 0, 0], max: [1000, 2000, 300] }, 0.001, 'y')
    near(b.min, [0, -0.3, 0])
    near(b.max, [1, 0, 2])
    near(boxInMetres({ min: [0, 0, 0], max: [1, 2, 3] }, 1, 'z').max, [1, 2, 3])
  })
})

describe('a model’s key', () => {
  it.each([
    ['chair.glb', [], 'chair'],
    ['chair.glb', ['chair'], 'chair 2'],
    ['chair.v2.obj', ['chair.v2', 'chair.v2 2'], 'chair.v2 3'],
    ['a/b#c.stl', [], 'a b c'],
    ['.glb', [], 'Model'],
  ])('of %s beside %j is %s', (file, taken, key) => expect(modelKey(file, taken)).toBe(key))
})

describe('the unit of a file', () => {
  const flat = { y: 0, z: 0 }
  it.each([
    // glTF says metres (glTF 2.0, section 3.4): believed unless absurd
    ['glTF', [0.2, 0.1, 0.1], 'm', 'y'],
    ['glTF', [18, 6, 9], 'm', 'y'],
    ['glTF', [1800, 600, 900], 'mm', 'y'],
    ['STL', [120, 80, 40], 'mm', 'z'],
    ['STL', [1.2, 0.8, 0.4], 'm', 'z'],
    ['OBJ', [2.2, 1.1, 0.8], 'm', 'y'],
    ['OBJ', [220, 110, 80], 'cm', 'y'],
    ['OBJ', [8200, 2700, 6000], 'mm', 'y'],
    ['PLY', [0.15, 0.15, 0.12], 'm', 'z'],
  ] as const)('%s of %j is taken as %s with %s up', (kind, size, unit, up) => {
    expect(guessUnit({ kind, size, base: flat, stated: null })).toMatchObject({ unit, up })
  })
  it('a flat base along the other axis turns it; glTF is never turned', () => {
    const base = { y: 0.01, z: 0.7 }
    expect(guessUnit({ kind: 'OBJ', size: [2, 2, 1], base, stated: null })).toMatchObject({ up: 'z' })
    expect(guessUnit({ kind: 'glTF', size: [2, 2, 1], base, stated: null })).toMatchObject({ up: 'y' })
    expect(guessUnit({ kind: 'STL', size: [2, 2, 1], base: { y: 0.9, z: 0 }, stated: null })).toMatchObject({ up: 'y' })
  })
  it('absurd sizes come to something like a metre', () => {
    expect(guessUnit({ kind: 'STL', size: [1e-4, 1e-4, 1e-4], base: flat, stated: null }).unit).toBe('m')
    expect(guessUnit({ kind: 'OBJ', size: [1e7, 1, 1], base: flat, stated: null }).unit).toBe('mm')
  })
  it.each([
    ['# units: mm', 'mm'],
    ['# File units = millimeters', 'mm'],
    ['comment unit is centimetre', 'cm'],
    ['# Units in inches', 'in'],
    ['# unit: feet', 'ft'],
    ['# units m', 'm'],
    ['# made of many united parts', null],
  ])('reads “%s” as %s', (text, unit) => expect(statedUnit(text)).toBe(unit))
  it('an inch and a foot are exact (international yard, 1959)', () => {
    expect(UNIT_M.in * 12).toBeCloseTo(UNIT_M.ft, 15)
    expect(UNIT_M.ft * 3).toBeCloseTo(0.9144, 15)
  })
})

describe('objects of a newer file', () => {
  const n = (id: string) => ({ id, name: id.slice(id.lastIndexOf('/') + 1) })
  it('are the same by path, else by a name that is the only one left, else by name below a matched parent', () => {
    const before = [
      'Room',
      'Room/Floor',
      'Room/Table',
      'Room/Table/Leg',
      'Room/Chair',
      'Room/Chair/Leg',
      'Room/Door',
    ].map(n)
    const after = [
      'Room',
      'Room/Floor',
      'Room/Set',
      'Room/Set/Table',
      'Room/Set/Table/Leg',
      'Room/Set/Chair',
      'Room/Set/Chair/Leg',
      'Room/Lamp',
    ].map(n)
    const m = matchNodes(before, after)
    expect(m.kept).toBe(2)
    expect(Object.fromEntries(m.moved)).toEqual({
      'Room/Table': 'Room/Set/Table',
      'Room/Chair': 'Room/Set/Chair',
      'Room/Table/Leg': 'Room/Set/Table/Leg',
      'Room/Chair/Leg': 'Room/Set/Chair/Leg',
    })
    expect(m.gone).toEqual(['Room/Door'])
    expect(m.added).toEqual(['Room/Set', 'Room/Lamp'])
  })
  it('the same file matches itself wholly; nothing is counted twice', () => {
    const names = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd/e', 'd/f', 'd/g/h', 'x/a', 'x/b', 'x/y/z'), {
      minLength: 0,
      maxLength: 9,
    })
    fc.assert(
      fc.property(names, names, (a, b) => {
        const before = a.map(n)
        const after = b.map(n)
        expect(matchNodes(before, before)).toMatchObject({ kept: a.length, gone: [], added: [] })
        const m = matchNodes(before, after)
        expect(m.kept + m.moved.size + m.gone.length).toBe(a.length)
        expect(m.kept + m.moved.size + m.added.length).toBe(b.length)
        expect(new Set(m.moved.values()).size).toBe(m.moved.size)
      }),
    )
  })
})

describe('an aim at an object', () => {
  it('is its middle, with an offset along its own turned axes, which are not scaled', () => {
    const box = { min: [1, 2, 0], max: [3, 4, 2] } as const
    // turned a quarter clockwise: its x looks south, its y east
    const axes = [[0, -1, 0], [1, 0, 0], [0, 0, 1]] as const // prettier-ignore
    expect(centreWithOffset({ box, axes }, [0, 0, 0])).toEqual([2, 3, 1])
    expect(centreWithOffset({ box, axes }, [0.5, 0.25, 1])).toEqual([2.25, 2.5, 2])
    expect(centreWithOffset(undefined, [0, 0, 0])).toBeNull()
  })
})

describe('far from the origin', () => {
  const model = (
    position: [number, number, number],
    fileBox: { min: [number, number, number]; max: [number, number, number] } | null,
  ) => ({ unitM: 1, up: 'z', fileBox, place: { ...AT_ORIGIN, position } }) as const
  it('models near the world’s origin lie about it; surveyed ones about a round point near them', () => {
    expect(originOf([])).toEqual([0, 0, 0])
    expect(originOf([model([0, 0, 0], { min: [-5, -5, 0], max: [900, 40, 8] })])).toEqual([0, 0, 0])
    const site = model([0, 0, 0], { min: [2_600_123, 1_200_321, 400], max: [2_600_183, 1_200_361, 412] })
    expect(originOf([site])).toEqual([2_600_200, 1_200_300, 0])
    expect(originOf([model([2_600_000, 0, 0], null)])).toEqual([2_600_000, 0, 0])
  })
  it('a first model beyond the world’s reach is brought to its origin; one larger than the world is refused', () => {
    expect(firstPlace({ min: [0, 0, 0], max: [9, 9, 9] })).toMatchObject({ ok: true, value: AT_ORIGIN })
    const far = firstPlace({ min: [2.6e9, 0, 0], max: [2.6e9 + 10, 10, 4] })
    expect(far.ok && placedPoint(far.value, [2.6e9 + 5, 5, 0])).toEqual([0, 0, 0])
    const huge = firstPlace({ min: [0, 0, 0], max: [2e6, 1, 1] })
    expect(huge).toMatchObject({ ok: false, message: 'In this unit it is 2,000 km large. Choose a smaller unit.' })
  })
})
