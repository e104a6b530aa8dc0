// Work that the server has not acknowledged yet, kept in this browser.
// Model: one entry for each project and tab, written over with every change and dropped when the server has the same document. Each
// tab holds a lock of its own for as long as it lives; an entry whose tab is gone (closed, crashed) is work to be brought back.
// Where the browser keeps nothing (storage switched off or full) everything else goes on as before.

import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { dropLastWord, lastWords, writeLastWord, type Draft } from './last-word.ts'

export type { Draft }
interface Kept extends DBSchema {
  drafts: { key: [string, string]; value: Draft; indexes: { project: string } }
}
const NAME = 'yoroi'
/** This tab's name among the drafts. */
export const TAB = crypto.randomUUID()
const lockName = (tab: string): string => `yoroi-tab-${tab}`
/** A browser that does not answer must not hold up saving. */
const PATIENCE_MS = 1000

let database: Promise<IDBPDatabase<Kept> | null> | null = null
function opened(): Promise<IDBPDatabase<Kept> | null> {
  return (database ??= (async () => {
    try {
      holdTab()
      return await openDB<Kept>(NAME, 1, {
        upgrade: (db) =>
          void db.createObjectStore('drafts', { keyPath: ['projectId', 'tab'] }).createIndex('project', 'projectId'),
      })
    } catch {
      return null
    }
  })())
}
function holdTab(): void {
  // held until the tab is gone, however it goes
  void navigator.locks?.request(lockName(TAB), () => new Promise<never>(() => undefined)).catch(() => undefined)
}

async function within<T>(work: Promise<T>, otherwise: T): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<T>((r) => (timer = setTimeout(() => r(otherwise), PATIENCE_MS)))
  return Promise.race([work.catch(() => otherwise), late]).finally(() => clearTimeout(timer))
}

/** Keeps this tab's work on a project; false when the browser did not take it. */
export const keepDraft = (draft: Omit<Draft, 'tab'>): Promise<boolean> =>
  within(
    (async () => {
      const db = await opened()
      if (!db) return false
      await db.put('drafts', { ...draft, tab: TAB })
      dropLastWord(draft.projectId, TAB, draft.at)
      return true
    })(),
    false,
  )

/** Keeps it before this returns: for a page that goes with a write to the database still under way. */
export const keepDraftAtOnce = (draft: Omit<Draft, 'tab'>): boolean => writeLastWord({ ...draft, tab: TAB })

/** Lets a kept draft go; by default this tab's own. */
export function dropDraft(projectId: string, tab: string = TAB): Promise<void> {
  dropLastWord(projectId, tab)
  return within(
    opened().then((db) => db?.delete('drafts', [projectId, tab])),
    undefined,
  )
}

/** What tabs that are gone, and this one, have left; newest first, one of each tab. Of one project, or of all. */
export const leftDrafts = (projectId?: string): Promise<readonly Draft[]> =>
  within(
    (async (): Promise<readonly Draft[]> => {
      const db = await opened()
      const written = projectId ? db?.getAllFromIndex('drafts', 'project', projectId) : db?.getAll('drafts')
      const held = (await navigator.locks?.query())?.held ?? []
      const alive = new Set(held.map((l) => l.name))
      const newest = new Map<string, Draft>()
      for (const d of [...((await written) ?? []), ...lastWords(projectId)]) {
        const key = `${d.projectId}/${d.tab}`
        if ((d.tab === TAB || !alive.has(lockName(d.tab))) && (newest.get(key)?.at ?? '') <= d.at) newest.set(key, d)
      }
      return [...newest.values()].sort((a, b) => (a.at < b.at ? 1 : -1))
    })(),
    [],
  )
