// Upkeep of a data folder from the command line: backup, check, sweep.
//   npm run backup -- --data FOLDER [--to FILE]     a consistent copy, also while Yoroi runs
//   npm run check  -- --data FOLDER                 reads everything; exit code 1 when something is damaged
//   npm run sweep  -- --data FOLDER [--dry]         throws away files that nothing refers to; --dry only looks
import { existsSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { readConfig } from './config.ts'
import { examine } from './storage/examine.ts'
import { startFault } from './storage/faults.ts'
import { holdFolder } from './storage/lock.ts'
import { databaseFile, openForReading, openStore } from './storage/open.ts'
import { compact, KEPT_DAYS, megabytes, planSweep, sweep, type Swept } from './storage/sweep.ts'

type Say = (line: string) => void
const flag = (argv: readonly string[], name: string): string | undefined => {
  const at = argv.findIndex((a) => a === `--${name}` || a.startsWith(`--${name}=`))
  if (at < 0) return undefined
  return argv[at]!.includes('=') ? argv[at]!.slice(argv[at]!.indexOf('=') + 1) : argv[at + 1]
}

/** Runs one upkeep command; resolves with the exit code. Error with a sentence when the folder cannot be used. */
export async function maintain(argv: readonly string[], say: Say): Promise<number> {
  const [command, ...rest] = argv
  const dataDir = readConfig(rest, process.env).dataDir
  const file = databaseFile(dataDir)
  if (!existsSync(file)) throw new Error(`There is no data file “${file}”. Name the folder with --data.`)
  switch (command) {
    case 'backup':
      return backup(file, flag(rest, 'to') ?? join(dataDir, `yoroi-${stamp(new Date())}.sqlite`), say)
    case 'check':
      return check(dataDir, file, say)
    case 'sweep':
      return rest.includes('--dry') ? look(dataDir, file, say) : clear(dataDir, say)
    default:
      throw new Error('Say what to do: backup, check or sweep.')
  }
}
const stamp = (d: Date): string => d.toISOString().slice(0, 19).replace(/[:T]/g, '-')

async function backup(file: string, to: string, say: Say): Promise<number> {
  if (existsSync(to)) throw new Error(`“${to}” exists already. Choose another name with --to.`)
  const db = new Sqlite(file, { readonly: true, fileMustExist: true, timeout: 4000 })
  try {
    await db.backup(to)
  } catch (e) {
    // nothing half-made stays
    for (const f of [to, `${to}-journal`]) rmSync(f, { force: true })
    throw startFault(to, e)
  } finally {
    db.close()
  }
  const copy = new Sqlite(to)
  try {
    // one file that stands by itself, and that was read back
    copy.pragma('journal_mode = DELETE')
    const verdict = copy.pragma('quick_check(1)', { simple: true })
    if (verdict !== 'ok')
      throw new Error(`The copy is damaged (${String(verdict)}): the data file may be. Run “npm run check”.`)
  } finally {
    copy.close()
  }
  say(`Copied to ${to} (${megabytes(statSync(to).size)}). To go back to it, put it in a data folder as yoroi.sqlite.`)
  return 0
}

async function check(dataDir: string, file: string, say: Say): Promise<number> {
  const reader = await openForReading(dataDir).catch((e: unknown) => {
    throw startFault(file, e)
  })
  try {
    const r = await examine(reader)
    for (const f of r.faults) say(f)
    say(
      `${r.projects} projects, ${r.revisions} versions, ${r.assets} files read: ${r.faults.length === 0 ? 'all is well' : `${r.faults.length} damaged`}.`,
    )
    return r.faults.length === 0 ? 0 : 1
  } finally {
    await reader.destroy()
  }
}

function tell({ gone, waiting }: Swept, went: string, say: Say): void {
  for (const a of gone) say(`${went}: ${a.fileName}, ${megabytes(a.sizeBytes)}`)
  for (const a of waiting) say(`kept ${a.daysLeft} more days: ${a.fileName}, ${megabytes(a.sizeBytes)}`)
  const bytes = gone.reduce((n, a) => n + a.sizeBytes, 0)
  say(
    `${gone.length} files (${megabytes(bytes)}) that nothing has referred to for ${KEPT_DAYS} days; ${waiting.length} wait.`,
  )
}

async function look(dataDir: string, file: string, say: Say): Promise<number> {
  const reader = await openForReading(dataDir).catch((e: unknown) => {
    throw startFault(file, e)
  })
  try {
    tell(await planSweep(reader, new Date()), 'would go', say)
    return 0
  } finally {
    await reader.destroy()
  }
}

async function clear(dataDir: string, say: Say): Promise<number> {
  const lock = holdFolder(dataDir)
  try {
    const store = await openStore(dataDir)
    try {
      tell(await sweep(store.reader, store.writer), 'gone', say)
      await compact(store.writer)
    } finally {
      await store.close()
    }
    return 0
  } finally {
    lock.release()
  }
}
