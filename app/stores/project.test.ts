// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { AppError } from '#core/base'
import { aimAt, newProject, type ProjectDocument } from '#model'
import { api } from '../api/client.ts'
import { useNotices } from './notices.ts'
import { newStamp, useProject } from './project.ts'

const stand = (x: number) => aimAt([x, 2, 1.58], [x + 4, 2, 1.58])
let stored: { revision: number; document: ProjectDocument }

beforeEach(async () => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  sessionStorage.clear()
  stored = { revision: 1, document: newProject({ name: 'Hall', subject: 'room', stand: stand(1), models: [] }) }
  vi.spyOn(api, 'open').mockImplementation(async (id) => ({ id, savedAt: 'then', ...stored }))
  vi.spyOn(api, 'save').mockImplementation(async (_id, base, document) => {
    if (base !== stored.revision) throw new AppError('revision-conflict')
    stored = { revision: base + 1, document }
    return { revision: stored.revision, savedAt: 'now' }
  })
  await useProject().open('p')
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = () => vi.advanceTimersByTimeAsync(1000)

describe('a drag', () => {
  it('shows without changing, becomes one step at its end', () => {
    const p = useProject()
    const before = p.document
    for (const x of [2, 3, 4]) p.show({ stand: stand(x) })
    expect(p.document).toBe(before)
    expect(p.working!.stand.station[0]).toBe(4)
    p.settle('Moved')
    expect(p.live).toBeNull()
    expect(p.document!.trail.steps).toHaveLength(2)
    expect(p.canBack).toBe(true)
  })
  it('let go restores the very same value and leaves no step', () => {
    const p = useProject()
    const { working, document } = p
    p.show({ stand: stand(9) })
    p.letGo()
    expect(p.working).toBe(working)
    expect(p.document).toBe(document)
  })
  it('of any other edit shows it, models too, and is one edit at its end', () => {
    const p = useProject()
    const { document, working } = p
    const withEv = (ev100: number) =>
      ({ type: 'setPart', part: 'exposure', value: { ...working!.exposure, ev100 } }) as const
    for (const ev of [5, 6, 7]) p.showEdit(withEv(ev))
    expect(p.document).toBe(document)
    expect(p.working!.exposure.ev100).toBe(7)
    expect(p.changed).toEqual([])
    expect(p.isShowing).toBe(true)
    p.letGo()
    expect(p.working).toBe(working)
    p.showEdit(withEv(8))
    p.settleEdit()
    expect(p.isShowing).toBe(false)
    expect(p.document!.working.exposure.ev100).toBe(8)
    p.undoEdit()
    expect(p.document!.working.exposure).toEqual(working!.exposure)
    expect(p.canUndo).toBe(false)
  })
  it('of an edit that is refused shows nothing, and is told once at its end', () => {
    const p = useProject()
    p.run({ type: 'lockPart', part: 'exposure', locked: true })
    const { working } = p
    const command = { type: 'setPart', part: 'exposure', value: { ...working!.exposure, ev100: 3 } } as const
    p.showEdit(command)
    p.showEdit(command)
    expect(p.working).toBe(working)
    expect(useNotices().list).toHaveLength(0)
    p.settleEdit()
    expect(useNotices().list).toHaveLength(1)
    expect(p.document!.working).toBe(working)
  })
  it('is refused by a lock, said once', () => {
    const p = useProject()
    p.run({ type: 'lockPart', part: 'stand', locked: true })
    expect(p.show({ stand: stand(5) })).toBe(false)
    expect(p.show({ stand: stand(6) })).toBe(false)
    expect(useNotices().list.filter((n) => n.text.startsWith('Stand locked'))).toHaveLength(1)
    // another part moves on
    expect(p.show({ lens: { ...p.working!.lens, focalMm: 35 } })).toBe(true)
  })
})

describe('saving', () => {
  it('waits for a pause, then sends the newest once', async () => {
    const p = useProject()
    for (const x of [2, 3, 4]) p.move({ stand: stand(x) }, 'Moved')
    expect(p.saveState).toBe('waiting')
    expect(p.unsaved).toBe(true)
    await rest()
    expect(api.save).toHaveBeenCalledTimes(1)
    expect(stored.document).toBe(p.document)
    expect(p.saveState).toBe('saved')
  })
  it('tries again until the server answers; nothing is lost meanwhile', async () => {
    const p = useProject()
    vi.mocked(api.save).mockRejectedValueOnce(new AppError('offline')).mockRejectedValueOnce(new AppError('offline'))
    p.move({ stand: stand(2) }, 'Moved')
    await rest()
    expect(p.saveState).toBe('failed')
    p.move({ stand: stand(3) }, 'Moved')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(p.saveState).toBe('saved')
    expect(stored.document.working.stand.station[0]).toBe(3)
  })
  it('a change during a save is sent after it, on the new base', async () => {
    const p = useProject()
    let go: () => void = () => undefined
    vi.mocked(api.save).mockImplementationOnce(async (_id, base, document) => {
      await new Promise<void>((r) => (go = r))
      stored = { revision: base + 1, document }
      return { revision: base + 1, savedAt: 'now' }
    })
    p.move({ stand: stand(2) }, 'Moved')
    await rest()
    p.move({ stand: stand(3) }, 'Moved')
    go()
    await rest()
    expect(stored).toMatchObject({ revision: 3 })
    expect(stored.document.working.stand.station[0]).toBe(3)
  })
  it('a conflict stops saving, shows the other version, and leads on either way', async () => {
    const p = useProject()
    stored = { revision: 7, document: { ...stored.document, name: 'Theirs' } }
    p.move({ stand: stand(2) }, 'Moved')
    await rest()
    expect(p.saveState).toBe('conflict')
    expect(p.theirs!.name).toBe('Theirs')
    p.move({ stand: stand(3) }, 'Moved')
    await rest()
    expect(api.save).toHaveBeenCalledTimes(1)
    const create = vi
      .spyOn(api, 'create')
      .mockImplementation(async (document) => ({ id: 'copy', revision: 1, savedAt: 'now', document }))
    const mine = p.document!
    expect(await p.keepAsCopy()).toBe('copy')
    expect(create.mock.calls[0]![0]).toMatchObject({ name: 'Hall (copy)', working: mine.working })
    await p.takeTheirs()
    expect(p.document!.name).toBe('Theirs')
    expect(p.saveState).toBe('saved')
  })
  it('closing saves what is open first', async () => {
    const p = useProject()
    p.move({ stand: stand(6) }, 'Moved')
    await p.close()
    expect(stored.document.working.stand.station[0]).toBe(6)
    expect(p.document).toBeNull()
  })
})

describe('small moves', () => {
  it('are one step while they follow each other within two seconds, and another thing between them parts them', async () => {
    const p = useProject()
    const labels = () => p.document!.trail.steps.map((s) => s.label)
    for (const x of [2, 3, 4]) p.move({ stand: stand(x) }, 'Nudged')
    expect(labels().slice(1)).toEqual(['Nudged'])
    p.trail(-1)
    expect(p.working!.stand.station[0]).toBe(1)
    p.trail(1)
    await vi.advanceTimersByTimeAsync(2100)
    p.move({ stand: stand(5) }, 'Nudged')
    p.move({ stand: stand(6) }, 'Walked')
    p.move({ stand: stand(7) }, 'Nudged')
    p.move({ stand: stand(8) }, 'Levelled')
    p.move({ stand: stand(9) }, 'Levelled')
    expect(labels().slice(1)).toEqual(['Nudged', 'Nudged', 'Walked', 'Nudged', 'Levelled', 'Levelled'])
  })
})

describe('the Undo of a message', () => {
  it('takes back what it tells of, whatever came since; once', () => {
    const p = useProject()
    const notices = useNotices()
    p.run({ type: 'keepAsNew', id: 'a', name: 'A', parts: ['stand'] })
    p.run({ type: 'deleteViewpoint', viewpointId: 'a' })
    const undo = p.undoOfThis()
    p.run({ type: 'keepAsNew', id: 'b', name: 'B', parts: ['stand'] })
    undo()
    expect(p.document!.viewpoints.map((v) => v.name)).toEqual(['A', 'B'])
    p.undoEdit()
    expect(p.document!.viewpoints.map((v) => v.name)).toEqual(['B'])
    p.run({ type: 'renameViewpoint', viewpointId: 'b', name: 'C' })
    const rename = p.undoOfThis()
    p.run({ type: 'renameViewpoint', viewpointId: 'b', name: 'D' })
    rename()
    expect([p.document!.viewpoints[0]!.name, notices.list.at(-1)!.kind]).toEqual(['D', 'warning'])
  })
})

describe('the two histories in the store', () => {
  it('undo and redo edits, the trail moves the camera, each on its own', () => {
    const p = useProject()
    p.run({ type: 'keepAsNew', id: 'a', name: 'A', parts: ['stand', 'lens'] })
    p.move({ stand: stand(5) }, 'Moved')
    expect(p.changed).toEqual(['stand'])
    p.undoEdit()
    expect(p.document!.viewpoints).toHaveLength(0)
    expect(p.working!.stand.station[0]).toBe(5)
    p.redoEdit()
    expect(p.recalled!.name).toBe('A')
    p.trail(-1)
    expect(p.working!.stand.station[0]).toBe(1)
    expect(p.canForward).toBe(true)
    p.run({ type: 'recall', viewpointId: 'gone', stamp: newStamp() })
    expect(useNotices().list.at(-1)!.text).toBe('This viewpoint no longer exists.')
  })
})

describe('what was done', () => {
  it('can be undone and done again after a reload, in the document it was done to', async () => {
    const p = useProject()
    for (const name of ['One', 'Two', 'Three']) p.run({ type: 'setProject', changes: { name } })
    p.undoEdit()
    p.move({ stand: stand(7) }, 'Moved')
    await rest()
    window.dispatchEvent(new Event('pagehide'))
    // as the server gives it back: equal, and nothing shared
    stored = JSON.parse(JSON.stringify(stored))
    setActivePinia(createPinia())
    const again = useProject()
    await again.open('p')
    expect(again.document!.name).toBe('Two')
    again.redoEdit()
    expect(again.document!.name).toBe('Three')
    for (const name of ['Two', 'One', 'Hall']) {
      again.undoEdit()
      expect(again.document!.name).toBe(name)
      expect(again.document!.working.stand.station[0]).toBe(7)
    }
    expect(again.canUndo).toBe(false)
  })
  it('is not undone in another version of the document, nor from a text that lies', async () => {
    const p = useProject()
    p.run({ type: 'setProject', changes: { name: 'One' } })
    await rest()
    await p.close()
    stored = { revision: 9, document: { ...stored.document, name: 'Elsewhere' } }
    await p.open('p')
    expect(p.canUndo).toBe(false)
    for (const text of [
      '',
      '{',
      '{"of":1}',
      JSON.stringify({ of: 'x', past: [[[{ op: 'move', path: '/' }], []]], future: [] }),
    ]) {
      await p.close()
      sessionStorage.setItem('yoroi-undo/p', text)
      await p.open('p')
      expect(p.canUndo).toBe(false)
    }
  })
  it('of many small moves is one step; going back and on again loses nothing that was looked at', async () => {
    const p = useProject()
    p.move({ stand: stand(2) }, 'Nudged')
    p.move({ stand: stand(3) }, 'Nudged')
    expect(p.document!.trail.steps).toHaveLength(2)
    await vi.advanceTimersByTimeAsync(4000)
    p.move({ stand: stand(4) }, 'Nudged')
    expect(p.document!.trail.steps).toHaveLength(3)
    p.trail(-1)
    p.trail(-1)
    expect(p.canBack).toBe(false)
    p.move({ stand: stand(9) }, 'Turned')
    expect(p.document!.leftBehind.map((l) => l.setup.stand.station[0])).toEqual([3])
    expect(p.document!.trail.steps.map((s) => [s.stand.station[0], s.branch ?? false])).toEqual([[1, false], [4, true], [9, false]]) // prettier-ignore
    p.trail(-1)
    expect(p.document!.working.stand.station[0]).toBe(1)
    expect(p.canForward).toBe(true)
  })
})

describe('an object aim', () => {
  it('that becomes a point says so, and offers to stay', () => {
    const p = useProject()
    const aim = { kind: 'object', nodeId: 'room/Set/Table', offset: [0, 0, 0], topBearingDeg: 0 } as const
    p.move({ stand: { ...stand(1), aim } }, 'Aimed')
    const told = () => useNotices().list.map((n) => n.text).join(' ') // prettier-ignore
    expect(told()).toBe('')
    p.move({ stand: stand(2) }, 'Turned')
    expect(told()).toMatch(/no longer follows “Table”/)
    useNotices().list.at(-1)!.action!.run()
    expect(p.document!.working.stand.aim).toEqual(aim)
    useNotices().list.splice(0)
    p.move({ stand: stand(3) }, 'Aim by point')
    expect(told()).toBe('')
  })
})
