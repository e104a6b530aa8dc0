// Walks of whole tables that let the server breathe: a few rows at a time, other work in between.
import { setImmediate as breathe } from 'node:timers/promises'
import type { DataSource } from 'typeorm'

export interface RevisionText {
  readonly rowid: number
  readonly projectId: string
  readonly number: number
  readonly document: string
}
const ROWS_AT_ONCE = 8

/** Every revision's text, in the order of the rows. Linear in the bytes stored. */
export async function* revisionTexts(source: DataSource): AsyncGenerator<RevisionText> {
  let after = 0
  for (;;) {
    const rows = (await source.query(
      'SELECT rowid, "projectId", "number", "document" FROM "revision" WHERE rowid > ? ORDER BY rowid LIMIT ?',
      [after, ROWS_AT_ONCE],
    )) as RevisionText[]
    if (rows.length === 0) return
    yield* rows
    after = rows.at(-1)!.rowid
    await breathe()
  }
}

/** The assets that a stored text refers to: every SHA-256 written in it, wherever it stands. */
export function referencesIn(text: string, into: Set<string>): void {
  for (const [sha256] of text.matchAll(/\b[0-9a-f]{64}\b/g)) into.add(sha256)
}
