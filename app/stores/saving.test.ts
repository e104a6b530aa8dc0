// @vitest-environment happy-dom
import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { AppError } from '#core/base'
import { aimAt, newProject, type ProjectDocument } from '#model'
import { api, type SaveMark, type Told } from '../api/client.ts'
import { dropDraft, keepDraft, leftDrafts, TAB } from './drafts.ts'
import { useKeptWork } from './kept-work.ts'
import { lastWords } from './last-word.ts'
import { useNotices } from './notices.ts'
import { useProject } from './project.ts'

const stand = (x: number) => aimAt([x, 2, 1.58], [x + 4, 2, 1.58])
const first = newProject({ name: 'Hall', subject: 'room', stand: stand(1), models: [] })
/** A server as the real one keeps it: revisions with their save ids, and a moment at which an answer is cut off. */
let revisions: { document: ProjectDocument; saveId: string }[]
let cut: 'before' | 'after' | null
const at = (d: ProjectDocument | null | undefined): number => d!.working.stand.station[0]

async function save_(_id: string, base: number, document: ProjectDocument, { saveId, unsure }: SaveMark) {
  if (cut === 'before') throw new AppError('offline')
  const same = revisions.findIndex((r) => r.saveId === saveId)
  const own = unsure.includes(revisions.at(-1)!.saveId)
  if (same < 0) {
    if (base !== revisions.length && !own) throw new AppError('revision-conflict')
    revisions.push({ document: structuredClone(document), saveId })
  }
  if (cut === 'after') throw new AppError('offline')
  return { revision: same < 0 ? revisions.length : same + 1, savedAt: 'now' }
}
beforeEach(async () => {
  setActivePinia(createPinia())
  revisions = [{ document: first, saveId: 'none' }]
  cut = null
  vi.spyOn(api, 'open').mockImplementation(async (id) => ({
    id,
    savedAt: 'then',
    revision: revisions.length,
    document: revisions.at(-1)!.document,
  }))
  vi.spyOn(api, 'save').mockImplementation(save_)
  for (const d of await leftDrafts()) await dropDraft(d.projectId, d.tab)
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const kept = async () => (await leftDrafts('p')).map((d) => at(d.document))

describe('work that the server does not have', () => {
  it('is kept until it is acknowledged, and no longer', async () => {
    const p = useProject()
    await p.open('p')
    cut = 'before'
    p.move({ stand: stand(2) }, 'Moved')
    p.move({ stand: stand(3) }, 'Moved')
    await expect.poll(kept).toEqual([3])
    await p.save()
    expect([p.saveState, p.unsaved, p.problem]).toEqual(['failed', true, 'offline'])
    expect(await kept()).toEqual([3])
    cut = null
    await p.save()
    expect([p.saveState, p.problem]).toEqual(['saved', null])
    expect(await kept()).toEqual([])
  })
  it('that was undone before it was sent does not come back', async () => {
    const p = useProject()
    await p.open('p')
    p.run({ type: 'setProject', changes: { name: 'Other' } })
    await expect.poll(async () => (await leftDrafts('p')).length).toBe(1)
    p.undoEdit()
    await expect.poll(async () => (await leftDrafts('p')).length).toBe(0)
    await p.save()
    expect([p.saveState, p.unsaved]).toEqual(['saved', false])
    await p.close()
    await p.open('p')
    expect(p.document!.name).toBe(first.name)
    expect(revisions).toHaveLength(1)
  })
  it('is back when the project is opened again, also when it was closed with the server away', async () => {
    const p = useProject()
    await p.open('p')
    cut = 'before'
    p.move({ stand: stand(5) }, 'Moved')
    await p.close()
    expect(useNotices().list.at(-1)!.text).toMatch(/not saved yet.*kept in this browser/)
    expect(p.document).toBeNull()
    cut = null
    await p.open('p')
    expect(at(p.document)).toBe(5)
    expect(useNotices().list.at(-1)!.text).toMatch(/had not reached the server is back/)
    await p.save()
    expect(at(revisions.at(-1)!.document)).toBe(5)
    expect(await kept()).toEqual([])
  })
  it('of a tab that crashed is back; what the server has already is let go', async () => {
    const draft = { projectId: 'p', baseRevision: 1, unsure: [], at: '2026-01-02T03:04:05Z' }
    const moved = { ...first, working: { ...first.working, stand: stand(7) } }
    await keepDraft({ ...draft, document: moved })
    const p = useProject()
    await p.open('p')
    expect(at(p.document)).toBe(7)
    await p.save()
    await p.close()
    await keepDraft({ ...draft, document: moved })
    await p.open('p')
    expect(p.saveState).toBe('saved')
    expect(await kept()).toEqual([])
    // damaged or newer: not taken, not thrown away
    await keepDraft({ ...draft, document: { ...moved, unit: 'ell' } as never })
    await p.open('p')
    expect(p.document!.unit).toBe('m')
    expect(await leftDrafts('p')).toHaveLength(1)
    expect((await leftDrafts('p'))[0]!.tab).toBe(TAB)
  })
  it('that the browser’s database had no time for is written when the page goes, and gives way to what is newer', async () => {
    const p = useProject()
    await p.open('p')
    cut = 'before'
    // both within one millisecond: what comes later is later all the same
    vi.useFakeTimers({ toFake: ['Date'] })
    const words = () => lastWords('p').map((d) => at(d.document))
    p.move({ stand: stand(4) }, 'Moved')
    expect(words()).toEqual([])
    p.move({ stand: stand(6) }, 'Moved')
    window.dispatchEvent(new Event('pagehide'))
    // the database has not answered yet
    expect(words()).toEqual([6])
    expect(await kept()).toEqual([6])
    await p.close()
    // a tab that is gone before its write: what it wrote last counts, damaged text does not
    const [draft] = await leftDrafts('p')
    localStorage.setItem('yoroi-draft/p/gone', JSON.stringify({ ...draft, tab: 'gone', at: '2990-01-01T00:00:00Z', document: { ...first, working: { ...first.working, stand: stand(8) } } })) // prettier-ignore
    localStorage.setItem('yoroi-draft/p/bad', '{"projectId":"p"')
    expect(await kept()).toEqual([8, 6])
    cut = null
    await p.open('p')
    expect(at(p.document)).toBe(8)
    await p.save()
    expect(at(revisions.at(-1)!.document)).toBe(8)
    expect(lastWords('p')).toEqual([])
    localStorage.clear()
    await dropDraft('p')
  })
  it('on an older base becomes a question, never an overwriting', async () => {
    const p = useProject()
    await p.open('p')
    cut = 'before'
    p.move({ stand: stand(5) }, 'Moved')
    await p.close()
    cut = null
    revisions.push({ document: { ...first, name: 'Theirs' }, saveId: 'theirs' })
    await p.open('p')
    await p.save()
    expect(p.saveState).toBe('conflict')
    expect(p.unsaved).toBe(true)
    expect([at(p.document), p.theirs!.name]).toEqual([5, 'Theirs'])
    expect(await kept()).toEqual([5])
    await p.takeTheirs()
    expect([p.document!.name, p.saveState]).toEqual(['Theirs', 'saved'])
    expect(await kept()).toEqual([])
  })
})

describe('an answer that was cut off', () => {
  it('is no conflict, whatever was done meanwhile', async () => {
    const p = useProject()
    await p.open('p')
    for (let x = 2; x < 18; x++) {
      cut = 'after'
      p.move({ stand: stand(x) }, 'Moved')
      await p.save()
      expect(p.saveState).toBe('failed')
      // the same again, or newer work on top
      if (x % 2) p.move({ stand: stand(x + 0.5) }, 'Moved')
      cut = null
      await p.save()
      expect(p.saveState).toBe('saved')
      expect(revisions.at(-1)!.document).toEqual(p.document)
    }
    expect(revisions).toHaveLength(1 + 16 + 8)
  })
  it('is known again by the next tab', async () => {
    const p = useProject()
    await p.open('p')
    cut = 'after'
    p.move({ stand: stand(4) }, 'Moved')
    await p.save()
    p.move({ stand: stand(6) }, 'Moved')
    await p.close()
    cut = null
    await p.open('p')
    await p.save()
    expect(p.saveState).toBe('saved')
    expect(at(revisions.at(-1)!.document)).toBe(6)
  })
})

describe('a save that is refused', () => {
  it('for the disk’s sake is said once and tried again; for the document’s sake waits for a change', async () => {
    vi.useFakeTimers()
    const p = useProject()
    await p.open('p')
    vi.mocked(api.save).mockImplementation(() => Promise.reject(new AppError('storage-full')))
    p.move({ stand: stand(2) }, 'Moved')
    await vi.advanceTimersByTimeAsync(10_000)
    expect(p.problem).toBe('storage-full')
    expect(useNotices().list.filter((n) => n.text.includes('disk is full'))).toHaveLength(1)
    expect(vi.mocked(api.save).mock.calls.length).toBeGreaterThan(2)
    vi.mocked(api.save).mockImplementation(() => Promise.reject(new AppError('document-invalid')))
    await vi.advanceTimersByTimeAsync(5000)
    const calls = vi.mocked(api.save).mock.calls.length
    await vi.advanceTimersByTimeAsync(20_000)
    expect(vi.mocked(api.save).mock.calls.length).toBe(calls)
    vi.mocked(api.save).mockImplementation(save_)
    p.move({ stand: stand(3) }, 'Moved')
    await vi.advanceTimersByTimeAsync(2000)
    expect(p.saveState).toBe('saved')
    vi.useRealTimers()
  })
  it('because the project was deleted keeps the work as a new one, the same at every try', async () => {
    const p = useProject()
    await p.open('p')
    vi.mocked(api.save).mockRejectedValue(new AppError('project-missing'))
    p.move({ stand: stand(2) }, 'Moved')
    await p.save()
    expect([p.saveState, p.theirs]).toEqual(['conflict', null])
    const create = vi.spyOn(api, 'create').mockRejectedValueOnce(new AppError('offline'))
    await expect(p.keepAsCopy()).rejects.toThrow()
    create.mockImplementation(async (document, id) => ({ id: id!, revision: 1, savedAt: '', document }))
    const id = await p.keepAsCopy()
    expect(create.mock.calls.map((c) => c[1])).toEqual([id, id])
    expect(create.mock.calls[0]![0].name).toBe('Hall')
    expect(await kept()).toEqual([])
  })
})

describe('the projects page', () => {
  it('sends what was kept, leaves conflicts to be asked about, offers work of deleted projects', async () => {
    const work = useKeptWork()
    const draft = { unsure: [], at: '2026-01-02T03:04:05Z', document: { ...first, name: 'Kept' } }
    await keepDraft({ ...draft, projectId: 'p', baseRevision: 1 })
    await work.send()
    expect(revisions.at(-1)!.document.name).toBe('Kept')
    expect(work.of.value.size).toBe(0)
    await keepDraft({ ...draft, projectId: 'p', baseRevision: 1, document: { ...first, name: 'Too late' } })
    await work.send()
    expect([...work.of.value.keys()]).toEqual(['p'])
    const create = vi
      .spyOn(api, 'create')
      .mockImplementation(async (document) => ({ id: 'n', revision: 1, savedAt: '', document }))
    const changed = vi.fn()
    work.tell([], changed)
    const { action, text } = useNotices().list.at(-1)!
    expect(text).toMatch(/“Too late” is no longer on the server/)
    action!.run()
    await expect.poll(() => changed.mock.calls.length).toBe(1)
    expect(create.mock.calls[0]![0].name).toBe('Too late')
    expect(await leftDrafts()).toEqual([])
    await keepDraft({ ...draft, projectId: 'p', baseRevision: 2 })
    cut = 'before'
    await expect(work.send()).rejects.toMatchObject({ code: 'offline' })
    expect(await leftDrafts()).toHaveLength(1)
  })
})

describe('another tab', () => {
  const save = (revision: number, saveId: string | null = 'another tab') =>
    ({ kind: 'saved', id: 'p', revision, saveId, savedAt: 'now' }) as const
  const theirs = (x: number): void =>
    void revisions.push({
      document: { ...first, working: { ...first.working, stand: stand(x) } },
      saveId: 'another tab',
    })
  let tell: (c: Told) => void = () => undefined
  beforeEach(async () => {
    vi.spyOn(api, 'changes').mockImplementation((told) => void (tell = told))
    setActivePinia(createPinia())
    await useProject().open('p')
  })

  it('that saved is told of at once; its version is shown when that is wanted', async () => {
    const p = useProject()
    theirs(7)
    tell(save(2))
    await expect.poll(() => p.saveState).toBe('behind')
    expect(p.unsaved).toBe(false)
    const notice = useNotices().list.at(-1)!
    expect(notice.text).toMatch(/saved in another tab/)
    expect(at(p.document)).toBe(1)
    notice.action!.run()
    await expect.poll(() => at(p.document)).toBe(7)
    expect(p.saveState).toBe('saved')
    // work goes on from there
    p.move({ stand: stand(8) }, 'Moved')
    await p.save()
    expect([p.saveState, at(revisions.at(-1)!.document)]).toEqual(['saved', 8])
  })
  it('that saved while there is unsaved work here is a conflict before the next save; nothing here is lost', async () => {
    const p = useProject()
    p.move({ stand: stand(3) }, 'Moved')
    theirs(7)
    tell(save(2))
    await expect.poll(() => p.saveState).toBe('conflict')
    expect([at(p.document), at(p.theirs)]).toEqual([3, 7])
  })
  it('is not this one: own saves, older ones and other projects are not told of, before the answer or after', async () => {
    const p = useProject()
    p.move({ stand: stand(4) }, 'Moved')
    const saved = vi.mocked(api.save)
    saved.mockImplementationOnce(async (id, base, document, mark) => {
      const answer = await save_(id, base, document, mark)
      // the stream may be faster than the answer
      tell(save(2, mark.saveId))
      tell({ kind: 'all', projects: [{ id: 'p', revision: 2, savedAt: 'now' }] })
      return answer
    })
    await p.save()
    tell(save(2, revisions[1]!.saveId))
    tell(save(1))
    tell({ ...save(9), id: 'another project' })
    await new Promise((r) => setTimeout(r, 20))
    expect(p.saveState).toBe('saved')
    expect(useNotices().list).toEqual([])
  })
  it('that deleted the project is told of; a list that was read too early is not', async () => {
    const p = useProject()
    tell({ kind: 'all', projects: [] })
    await new Promise((r) => setTimeout(r, 20))
    expect(p.saveState).toBe('saved')
    vi.mocked(api.open).mockRejectedValueOnce(new AppError('project-missing'))
    tell({ kind: 'deleted', id: 'p' })
    await expect.poll(() => [p.saveState, p.theirs]).toEqual(['conflict', null])
    expect(at(p.document)).toBe(1)
  })
  it('is told of after a time without a stream too', async () => {
    const p = useProject()
    theirs(5)
    tell({ kind: 'all', projects: [{ id: 'p', revision: 2, savedAt: 'now' }] })
    await expect.poll(() => p.saveState).toBe('behind')
  })
})
