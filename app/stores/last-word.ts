// Work written at the moment at which the page goes, when the browser's database would come too late.
// Model: at most one entry for each project and tab, beside the database; it goes when the database has the same work or later, or
// with the draft itself. A browser without such a store, or with a full one, goes on without.
import type { ProjectDocument } from '#model'

export interface Draft {
  readonly projectId: string
  readonly tab: string
  readonly baseRevision: number
  /** Saves on this base whose answers never came. */
  readonly unsure: readonly string[]
  readonly document: ProjectDocument
  readonly at: string
}

const PREFIX = 'yoroi-draft/'
const keyOf = (projectId: string, tab: string): string => `${PREFIX}${projectId}/${tab}`

/** Writes at once; false when the browser did not take it. */
export function writeLastWord(draft: Draft): boolean {
  try {
    localStorage.setItem(keyOf(draft.projectId, draft.tab), JSON.stringify(draft))
    return true
  } catch {
    return false
  }
}

/** Lets the entry go; where `at` is given, only one that is no later. */
export function dropLastWord(projectId: string, tab: string, at?: string): void {
  try {
    const key = keyOf(projectId, tab)
    const there = at === undefined ? null : parsed(localStorage.getItem(key))
    if (!there || there.at <= at!) localStorage.removeItem(key)
  } catch {
    // nothing is kept there
  }
}

/** Every entry that can be read; of one project, or of all. */
export function lastWords(projectId?: string): Draft[] {
  try {
    const keys = Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i) ?? '')
    const mine = keys.filter((k) => k.startsWith(projectId === undefined ? PREFIX : `${PREFIX}${projectId}/`))
    return mine.flatMap((k) => parsed(localStorage.getItem(k)) ?? [])
  } catch {
    return []
  }
}

function parsed(text: string | null): Draft | null {
  try {
    const d = JSON.parse(text ?? 'null') as Draft | null
    const isDraft = d && typeof d.projectId === 'string' && typeof d.tab === 'string' && typeof d.at === 'string'
    return isDraft && typeof d.baseRevision === 'number' && Array.isArray(d.unsure) && d.document ? d : null
  } catch {
    return null
  }
}
