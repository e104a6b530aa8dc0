// What cuts a document takes, and what it refuses by name; near and far cut that are tied.
import { describe, expect, it } from 'vitest'
import { aimAt, applyCommand, newProject, setupAsShown, shownOf, type ProjectDocument, type Setup } from './index.ts'

const doc = newProject({ name: 'Room', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 6, 1.6]), models: [] })
const base = { id: 'a', name: 'A', on: true, reversed: false }
const put = (cut: object) => applyCommand(doc, { type: 'setPart', part: 'cut', value: { ...doc.working.cut, ...cut } as Setup['cut'] }) // prettier-ignore
const refused = (...cuts: object[]): void => expect(put({ cuts }).ok).toBe(false)

describe('cuts that a document refuses, with all that was there left as it was', () => {
  it('a plane without a direction, no thickness, a box inside out, a line of no length', () => {
    refused({ ...base, kind: 'free', point: [0, 0, 0], normal: [0, 0, 0] })
    refused({ ...base, kind: 'slice', point: [0, 0, 0], normal: [0, 0, 1], thicknessM: 0 })
    refused({ ...base, kind: 'slice', point: [0, 0, 0], normal: [0, 0, 1], thicknessM: -1 })
    refused({ ...base, kind: 'box', centre: [0, 0, 0], sizeM: [1, -1, 1], turnDeg: 0 })
    refused({ ...base, kind: 'stepped', points: [[1, 2], [1, 2]] }) // prettier-ignore
    refused({ ...base, kind: 'stepped', points: [[1, 2]] }) // prettier-ignore
    refused({ ...base, kind: 'level', heightM: NaN })
    refused({ ...base, kind: 'level', heightM: Infinity })
    refused({ ...base, kind: 'wavy', heightM: 1 })
  })
  it('a thousand cuts; a tolerance below nought', () => {
    refused(...Array.from({ length: 1000 }, (_, i) => ({ ...base, id: `c${i}`, kind: 'level', heightM: i })))
    expect(put({ closeM: -1 }).ok).toBe(false)
  })
  it('takes ids of objects that are not there: they stand in the list, and nothing else happens', () => {
    const r = put({ whole: ['gone/long ago'], cuts: [{ ...base, kind: 'level', heightM: 1.2 }] })
    expect(r.ok && shownOf(r.value.document.working).cuts.whole).toEqual(['gone/long ago'])
  })
})

describe('near and far cut', () => {
  const shown = (d: ProjectDocument) => shownOf(setupAsShown(d.working, d)).cuts
  it('tied to the aim or to a place they stay where they are when the camera moves', () => {
    const near = { on: true, distanceM: 1, tied: { to: 'aim', offsetM: -2 } }
    const far = { on: true, distanceM: 50, tied: { to: 'place', point: [3, 9, 0], offsetM: 1 } }
    const r = put({ near, far })
    if (!r.ok) throw new Error(r.message)
    expect(shown(r.value.document)).toMatchObject({ nearM: 4, farM: 10 })
    const moved = applyCommand(r.value.document, { type: 'moveCamera', label: 'On', changes: { stand: aimAt([0, 1, 1.6], [0, 6, 1.6]) } }) // prettier-ignore
    expect(moved.ok && shown(moved.value.document)).toMatchObject({ nearM: 3, farM: 9 })
    // the same value as long as nothing changes
    expect(setupAsShown(r.value.document.working, null)).toBe(setupAsShown(r.value.document.working, null))
  })
  it('a tied near cut never lies behind a perspective eye', () => {
    const r = put({ near: { on: true, distanceM: 1, tied: { to: 'aim', offsetM: -20 } } })
    expect(r.ok && shown(r.value.document).nearM).toBe(0.001)
  })
})

describe('how cut faces look', () => {
  it('distance of hatching, outline and ghost go with what is shown; classes set by hand with the project', () => {
    const r = put({ hatch: { paperMm: 3 }, outline: { screenPx: 2, printMm: 0.7 }, ghost: true })
    expect(r.ok && shownOf(r.value.document.working).cuts).toMatchObject({ hatch: { paperMm: 3 }, outline: { screenPx: 2, printMm: 0.7 }, ghost: true }) // prettier-ignore
    const set = (materialClasses: object) =>
      applyCommand(doc, { type: 'setProject', changes: { materialClasses } as never })
    expect(set({ oak: 'metal' }).ok).toBe(true)
    expect(set({ oak: 'cheese' }).ok).toBe(false)
    for (const cut of [{ hatch: { paperMm: 0 } }, { hatch: { modelM: -1 } }, { outline: { screenPx: -1, printMm: 0 } }])
      expect(put(cut).ok).toBe(false)
  })
})
