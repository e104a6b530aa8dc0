// One database file: write-ahead log, every commit on disk before it is acknowledged, foreign keys on.
// Model: two connections. One writes, and only through the Writer; one reads, so that nothing uncommitted is ever answered.

import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type Sqlite from 'better-sqlite3'
import { DataSource } from 'typeorm'
import { ENTITIES } from './entities.ts'
import { startFault } from './faults.ts'
import { Begin1764000000000 } from './migrations/1-begin.ts'
import { Recognised1764200000000 } from './migrations/2-recognised.ts'
import { Patches1764300000000 } from './migrations/3-patches.ts'
import { Writer } from './writer.ts'

const MIGRATIONS = [Begin1764000000000, Recognised1764200000000, Patches1764300000000]
export const databaseFile = (dataDir: string): string => join(dataDir, 'yoroi.sqlite')

/** Called with every connection that is opened for writing; tests make it fail. */
export type Prepare = (connection: Sqlite.Database) => void

export interface Store {
  readonly reader: DataSource
  readonly writer: Writer
  close(): Promise<void>
}

function dataSource(file: string, prepare: Prepare): DataSource {
  return new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    enableWAL: true,
    prepareDatabase: (db: Sqlite.Database) => {
      // for a new file only: what is deleted can be given back to the disk
      db.pragma('auto_vacuum = INCREMENTAL')
      db.pragma('synchronous = FULL')
      db.pragma('foreign_keys = ON')
      prepare(db)
    },
  })
}

export async function openForReading(dataDir: string): Promise<DataSource> {
  const source = dataSource(databaseFile(dataDir), (db) => {
    db.pragma('busy_timeout = 4000')
    db.pragma('query_only = ON')
  })
  return source.initialize()
}

async function openForWriting(dataDir: string, prepare: Prepare): Promise<DataSource> {
  return dataSource(databaseFile(dataDir), (db) => {
    // the Writer waits by itself, without holding up the process
    db.pragma('busy_timeout = 50')
    prepare(db)
  }).initialize()
}

/** Opens (and if need be creates) the database of a data folder that the caller holds. Error with a sentence that names the file. */
export async function openStore(dataDir: string, prepare: Prepare = () => undefined): Promise<Store> {
  const file = databaseFile(dataDir)
  const isNew = !existsSync(file)
  let source: DataSource | null = null
  try {
    source = await openForWriting(dataDir, prepare)
    if (!isNew) await knownTables(source, file)
    await source.runMigrations({ transaction: 'all' })
    const reader = await openForReading(dataDir)
    const writer = new Writer(source, () => openForWriting(dataDir, prepare))
    return {
      reader,
      writer,
      close: async () => {
        await writer.close()
        await reader.destroy()
      },
    }
  } catch (e) {
    if (source?.isInitialized) await source.destroy().catch(() => undefined)
    throw e instanceof StartError ? e : startFault(file, e)
  }
}
class StartError extends Error {}

/** Refuses a database of another program, and one that a newer Yoroi has made. */
async function knownTables(source: DataSource, file: string): Promise<void> {
  const names = async (sql: string): Promise<string[]> =>
    ((await source.query(sql)) as { name: string }[]).map((r) => r.name)
  const tables = await names(`SELECT "name" FROM "sqlite_master" WHERE "type" = 'table' AND "name" NOT LIKE 'sqlite_%'`)
  if (tables.length === 0) return
  if (!tables.includes('migrations') || !tables.includes('project'))
    throw new StartError(
      `“${file}” belongs to another program: it holds none of Yoroi’s tables. Move it away, or choose another folder with --data.`,
    )
  const mine = new Set<string>(MIGRATIONS.map((m) => new m().name))
  const unknown = (await names('SELECT "name" FROM "migrations"')).filter((n) => !mine.has(n))
  if (unknown.length > 0)
    throw new StartError(
      `“${file}” was made by a newer Yoroi (it knows ${unknown[0]}). Update Yoroi, or choose another folder with --data.`,
    )
}
