// One database file: write-ahead log, every commit on disk before it is acknowledged, foreign keys on.
import { accessSync, constants, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { DataSource, type EntityManager } from 'typeorm'
import { ENTITIES } from './entities/index.ts'
import { Begin1764000000000 } from './migrations/1-begin.ts'

/** Opens (and if need be creates) the database of a data folder. Error with a sentence when the folder cannot be written. */
export async function openDatabase(dataDir: string): Promise<DataSource> {
  try {
    mkdirSync(dataDir, { recursive: true })
    accessSync(dataDir, constants.W_OK)
  } catch (e) {
    throw new Error(
      `The data folder “${dataDir}” cannot be written (${(e as NodeJS.ErrnoException).code ?? 'unknown reason'}). Choose another with --data.`,
      { cause: e },
    )
  }
  const source = new DataSource({
    type: 'better-sqlite3',
    database: join(dataDir, 'yoroi.sqlite'),
    entities: ENTITIES,
    migrations: [Begin1764000000000],
    migrationsRun: true,
    enableWAL: true,
    prepareDatabase: (db: { pragma(text: string): unknown }) => {
      db.pragma('synchronous = FULL')
      db.pragma('foreign_keys = ON')
      db.pragma('busy_timeout = 4000')
    },
  })
  await source.initialize()
  // uploads that a stopped server left unfinished
  await source.query('DELETE FROM "asset_chunk" WHERE "uploadId" NOT IN (SELECT "uploadId" FROM "asset")')
  return source
}

/** Writes one after the other: all share one connection, and two open transactions on it would mix. */
export class Writer {
  private last: Promise<unknown> = Promise.resolve()
  private readonly source: DataSource
  constructor(source: DataSource) {
    this.source = source
  }
  /** Runs work in a transaction of its own; what it returns is on disk when the promise resolves. */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const next = this.last.then(() => this.source.transaction(work))
    this.last = next.catch(() => undefined)
    return next
  }
  /** Resolves when everything asked so far is written. */
  idle(): Promise<void> {
    return this.last.then(() => undefined)
  }
}
