// Who owns a data folder?
// Model: an exclusive transaction on a small database beside the data. The system frees it when the process ends, however it
// ends; a file with a number in it would outlive a kill. A second file only tells who holds it, for the sentence a second start
// prints.

import { accessSync, constants, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { faultCode, startFault } from './faults.ts'

export interface FolderLock {
  /** Says under which address the owner is reached. */
  tell(url: string): void
  /** Lets the folder go; a second call does nothing. */
  release(): void
}
interface Owner {
  readonly process: number
  readonly since: string
  readonly url: string | null
}

/** Makes the folder if need be and takes it. Error with a sentence when it cannot be written, or naming who holds it. */
export function holdFolder(dataDir: string): FolderLock {
  try {
    mkdirSync(dataDir, { recursive: true })
    accessSync(dataDir, constants.W_OK)
  } catch (e) {
    throw new Error(
      `The data folder “${dataDir}” cannot be written (${faultCode(e) ?? 'unknown reason'}). Choose another with --data.`,
      { cause: e },
    )
  }
  const file = join(dataDir, 'lock.sqlite')
  const ownerFile = join(dataDir, 'owner.json')
  let db: Sqlite.Database | null = null
  try {
    db = new Sqlite(file, { timeout: 0 })
    db.exec('BEGIN EXCLUSIVE')
  } catch (e) {
    db?.close()
    if (/^SQLITE_(BUSY|LOCKED)/.test(faultCode(e) ?? '')) throw new Error(inUse(dataDir, ownerFile), { cause: e })
    throw startFault(file, e)
  }
  const since = new Date().toISOString()
  const tell = (url: string | null): void => {
    const owner: Owner = { process: process.pid, since, url }
    try {
      writeFileSync(ownerFile, JSON.stringify(owner))
    } catch {
      // only for the sentence: the lock itself stands
    }
  }
  tell(null)
  return {
    tell,
    release: () => {
      db?.close()
      db = null
    },
  }
}

function inUse(dataDir: string, ownerFile: string): string {
  let who = 'another process'
  try {
    const o = JSON.parse(readFileSync(ownerFile, 'utf8')) as Owner
    const at = new Date(o.since).toLocaleString()
    who = `process ${o.process}, since ${at}${o.url ? `, at ${o.url}` : ''}`
  } catch {
    // not told: the lock is what counts
  }
  return `The data folder “${dataDir}” is in use: Yoroi runs on it already (${who}). Go on there, stop it first, or choose another folder with --data.`
}
