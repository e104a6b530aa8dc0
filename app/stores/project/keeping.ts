// The newest document kept in this browser while the server does not have it, and what tabs that are gone have left.
import { fingerprint, readProjectDocument, sameJson } from '#model'
import type { OpenedProject } from '../../api/client.ts'
import { dropDraft, keepDraft, keepDraftAtOnce, leftDrafts, TAB, type Draft } from '../drafts.ts'

let lastMs = 0
/** What is kept later is later by its time too: twice within a millisecond, or with a clock that was set back. */
function timeOfKeeping(): string {
  lastMs = Math.max(Date.now(), lastMs + 1)
  return new Date(lastMs).toISOString()
}

/** Keeps the newest document in this browser; one write at a time, the newest last. */
export function createKeeping(newest: () => Omit<Draft, 'tab' | 'at'> | null) {
  let keeping: Promise<void> | null = null
  /** Resolves when what is newest then is kept. */
  function keep(): Promise<void> {
    keeping ??= (async () => {
      for (let now = newest(), before: string | null = null; now; now = newest()) {
        const key = `${fingerprint(now.document)} ${now.baseRevision} ${now.unsure.join()}`
        if (key === before) break
        before = key
        await keepDraft({ ...now, at: timeOfKeeping() })
      }
    })().finally(() => (keeping = null))
    return keeping
  }
  /** A page that goes does not wait for a write under way. */
  function keepAtOnce(): void {
    const now = keeping && newest()
    if (now) keepDraftAtOnce({ ...now, at: timeOfKeeping() })
  }
  return { keep, keepAtOnce, rest: () => keeping ?? Promise.resolve() }
}

/** Later work on a project that a tab that is gone has left, taken over by this one; what the server has already is let go. */
export async function leftWork(o: OpenedProject): Promise<Draft | null> {
  for (const d of await leftDrafts(o.id)) {
    const read = readProjectDocument(d.document)
    if (!read.ok) continue
    if (sameJson(read.value, o.document)) {
      await dropDraft(o.id, d.tab)
      continue
    }
    const taken = { ...d, document: read.value }
    await keepDraft(taken)
    if (d.tab !== TAB) await dropDraft(o.id, d.tab)
    return taken
  }
  return null
}
