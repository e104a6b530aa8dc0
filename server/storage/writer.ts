// How is a write carried out so that what is acknowledged is on disk?
// Model: writes one after the other on one connection, each in a transaction that the Writer itself begins and commits. Whether a
// transaction is open is asked of the driver, never remembered: SQLite ends one by itself when the disk is full or fails. A
// connection that may be in doubt is closed and opened again before the next write.
// Source: sqlite-tx.
// Rejected: the ORM's own transactions. They count depth; after a rollback that SQLite made by itself every later write became a
// savepoint in a transaction that nobody committed.

import { setTimeout as sleep } from 'node:timers/promises'
import type Sqlite from 'better-sqlite3'
import type { DataSource, EntityManager } from 'typeorm'
import { faultCode, leavesDoubt, storageFault } from './faults.ts'
import { connectionOf } from './connection.ts'

/** How long a write waits for another process's lock, and how often it looks. */
const WAIT_MS = 4000
const LOOK_MS = 25

export class Writer {
  private last: Promise<unknown> = Promise.resolve()
  private source: DataSource
  private readonly reopen: () => Promise<DataSource>
  private inDoubt = false

  constructor(source: DataSource, reopen: () => Promise<DataSource>) {
    this.source = source
    this.reopen = reopen
  }

  /**
   * Runs work in a transaction of its own; what it returns is on disk when the promise resolves. When it rejects nothing of it
   * was acknowledged. AppError `storage-full`, `storage-busy` (after 4 s), `storage-damaged`, `storage-failed`, or what work threw.
   */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.inTurn(() => this.transaction(work))
  }

  /** Runs one statement outside a transaction (a vacuum), in turn with the writes. */
  outside<T>(work: (connection: Sqlite.Database) => T): Promise<T> {
    return this.inTurn(async () => work(connectionOf(await this.sound())))
  }

  /** Resolves when everything asked so far is written. */
  idle(): Promise<void> {
    return this.last.then(() => undefined)
  }

  async close(): Promise<void> {
    await this.idle()
    if (this.source.isInitialized) await this.source.destroy()
  }

  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = this.last.then(work).catch((e: unknown) => {
      throw storageFault(e)
    })
    this.last = next.catch(() => undefined)
    return next
  }

  private async transaction<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const source = await this.sound()
    const db = connectionOf(source)
    let begun = false
    let committing = false
    try {
      await begin(db)
      begun = true
      const result = await work(source.manager)
      if (!db.inTransaction) throw new Error('The transaction ended before it was committed.')
      committing = true
      db.exec('COMMIT')
      if (db.inTransaction) throw new Error('The transaction is still open after its commit.')
      return result
    } catch (e) {
      this.inDoubt = committing || leavesDoubt(e) || begun !== db.inTransaction
      this.rollBack(db)
      throw e
    }
  }

  private rollBack(db: Sqlite.Database): void {
    try {
      if (db.inTransaction) db.exec('ROLLBACK')
    } catch {
      this.inDoubt = true
    }
    if (db.inTransaction) this.inDoubt = true
  }

  /** The connection, opened anew when it was left in doubt; closing it rolls back whatever is still open. */
  private async sound(): Promise<DataSource> {
    if (this.inDoubt || !this.source.isInitialized) {
      if (this.source.isInitialized) await this.source.destroy()
      this.source = await this.reopen()
      this.inDoubt = false
    }
    return this.source
  }
}

async function begin(db: Sqlite.Database): Promise<void> {
  const until = performance.now() + WAIT_MS
  for (;;) {
    try {
      db.exec('BEGIN IMMEDIATE')
      if (!db.inTransaction) throw new Error('The transaction did not begin.')
      return
    } catch (e) {
      if (!/^SQLITE_(BUSY|LOCKED)/.test(faultCode(e) ?? '') || performance.now() > until) throw e
      await sleep(LOOK_MS)
    }
  }
}
