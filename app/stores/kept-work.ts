// Work of closed projects that the server does not have yet: sent when it answers, offered where the project is gone.
import { shallowRef } from 'vue'
import { AppError } from '#core/base'
import { readProjectDocument } from '#model'
import { api, type ProjectCard } from '../api/client.ts'
import { dropDraft, leftDrafts, type Draft } from './drafts.ts'
import { useNotices } from './notices.ts'

export function useKeptWork() {
  const notices = useNotices()
  /** By project, what is still kept here. */
  const of = shallowRef<ReadonlyMap<string, Draft>>(new Map())

  /** Sends what can be sent without asking; what another version stands against waits until its project is opened. */
  async function send(): Promise<void> {
    const left = new Map<string, Draft>()
    for (const d of await leftDrafts()) {
      const read = readProjectDocument(d.document)
      if (!read.ok) continue
      try {
        const saveId = d.unsure.at(-1) ?? crypto.randomUUID()
        await api.save(d.projectId, d.baseRevision, read.value, {
          saveId: `${saveId.slice(0, 58)}-kept`,
          unsure: d.unsure,
        })
        await dropDraft(d.projectId, d.tab)
        notices.say(`“${read.value.name}”: what was kept in this browser is saved now.`)
      } catch (e) {
        if (e instanceof AppError && e.code === 'offline') throw e
        if (!left.has(d.projectId)) left.set(d.projectId, d)
      }
    }
    of.value = left
  }

  /** Offers work of projects that are not on the server any more. */
  function tell(cards: readonly ProjectCard[], changed: () => void): void {
    const there = new Set(cards.map((c) => c.id))
    for (const d of of.value.values()) {
      if (there.has(d.projectId)) continue
      notices.say(
        `“${d.document.name}” is no longer on the server, but work on it is still kept in this browser.`,
        'error',
        { label: 'Keep as a new project', run: () => void keepAsNew(d).then(changed) },
      )
    }
  }
  async function keepAsNew(d: Draft): Promise<void> {
    try {
      await api.create(d.document)
      await dropDraft(d.projectId, d.tab)
    } catch (e) {
      notices.fail(e)
    }
  }
  return { of, send, tell }
}
