import { createHash } from 'node:crypto'
import {
  chmodSync,
  closeSync,
  cpSync,
  mkdtempSync,
  openSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import Sqlite from 'better-sqlite3'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { AppError } from '#core/base'
import {
  aimAt,
  applyCommand,
  fingerprint,
  newModel,
  newProject,
  packed,
  patchBetween,
  type Patch,
  type ProjectDocument,
} from '#model'
import type { Incoming } from '../../server/revisions.ts'
import { configSchema, maintain, startServer } from '#server'
import { Assets } from '../../server/assets.ts'
import { Projects } from '../../server/projects.ts'
import { holdFolder } from '../../server/storage/lock.ts'
import { databaseFile, openStore, type Store } from '../../server/storage/open.ts'
import { sweep } from '../../server/storage/sweep.ts'
import { runKills } from '../support/kills.ts'
import { roomGlb } from '../support/models.ts'
import { ProgramEnded, startProgram } from '../support/program.ts'

const doc = (name = 'Hall', sha256?: string): ProjectDocument =>
  newProject({
    name,
    subject: 'room',
    stand: aimAt([1, 2, 1.58], [5, 2, 1.58]),
    models: sha256 ? [newModel({ id: 'm', name: 'a.glb', sha256, sizeBytes: 1 })] : [],
  })
const glb = Buffer.from(roomGlb())
const sha = createHash('sha256').update(glb).digest('hex')
const incoming = (body: Buffer = glb) => ({
  body: Readable.from([body.subarray(0, 1_100_000), body.subarray(1_100_000)].filter((b) => b.length > 0)),
  mediaType: 'model/gltf-binary',
  fileName: 'room.glb',
})
const code = async (work: Promise<unknown>): Promise<string> => {
  const e = await work.then(() => null, (x: unknown) => x) // prettier-ignore
  return e === null ? 'no failure' : e instanceof AppError ? e.code : String(e)
}
const config = (dataDir: string) => configSchema.parse({ port: 0, dataDir, logLevel: 'silent' })

let dataDir: string
let opened: Store[] = []
const open = async (...args: Parameters<typeof openStore> extends [string, ...infer R] ? R : never): Promise<Store> => {
  const s = await openStore(dataDir, ...args)
  opened.push(s)
  return s
}
const close = async (): Promise<void> => {
  for (const s of opened) await s.close()
  opened = []
}
beforeEach(() => void (dataDir = mkdtempSync(join(tmpdir(), 'yoroi-storage-'))))
afterEach(async () => {
  await close()
  rmSync(dataDir, { recursive: true, force: true })
})
/** What a program that opens the file now would find. */
function onDisk<T>(sql: string, ...values: unknown[]): T[] {
  const db = new Sqlite(databaseFile(dataDir), { readonly: true })
  try {
    return db.prepare(sql).all(...values) as T[]
  } finally {
    db.close()
  }
}
const revisionsOnDisk = (): string[] =>
  onDisk<{ document: string }>('SELECT document FROM revision ORDER BY number').map(
    (r) => (JSON.parse(r.document) as ProjectDocument).name,
  )

/** Makes the n-th statement fail: not run at all, run and then failed, or failed with the transaction rolled back by SQLite itself. */
type Way = 'before' | 'after' | 'rolled back'
function failing() {
  let left = Infinity
  let way: Way = 'before'
  const fault = (): Error => Object.assign(new Error('injected'), { code: way === 'rolled back' ? 'SQLITE_FULL' : 'SQLITE_IOERR_WRITE' }) // prettier-ignore
  const prepare = (db: Sqlite.Database): void => {
    const native = { exec: db.exec.bind(db), prepare: db.prepare.bind(db) }
    const run = <T>(work: () => T): T => {
      if (--left !== 0) return work()
      if (way === 'after') work()
      if (way === 'rolled back' && db.inTransaction) native.exec('ROLLBACK')
      throw fault()
    }
    db.exec = (sql) => run(() => native.exec(sql))
    db.prepare = ((sql: string) => {
      const s = native.prepare(sql)
      return {
        reader: s.reader,
        all: (...v: unknown[]) => run(() => s.all(...v)),
        run: (...v: unknown[]) => run(() => s.run(...v)),
      }
    }) as typeof db.prepare
  }
  return { prepare, at: (n: number, how: Way) => void ((left = n), (way = how)) }
}

describe('what is acknowledged is on disk', () => {
  it('whichever statement of whichever save fails, in every way', async () => {
    const faults = failing()
    const store = await open(faults.prepare)
    const projects = new Projects(store.reader, store.writer)
    const { id } = await projects.create(doc('0'))
    let count = 0
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 14 }),
        fc.constantFrom<Way>('before', 'after', 'rolled back'),
        async (statement, way) => {
          const name = String(++count)
          faults.at(statement, way)
          const base = (await projects.open(id)).revision
          const saveId = `save-number-${count}`
          // as the page does: the same save is sent until it is acknowledged
          for (let tries = 0; ; tries++) {
            const saved = await projects.save(id, base, doc(name), { saveId }).catch((e: unknown) => {
              expect(e).toMatchObject({ code: expect.stringMatching(/^storage-/) })
              return null
            })
            if (saved) break
            expect(tries).toBeLessThan(3)
          }
          faults.at(Infinity, way)
          const names = revisionsOnDisk()
          expect(names.at(-1)).toBe(name)
          expect(names.filter((n) => n === name)).toHaveLength(1)
        },
      ),
      { numRuns: 120, seed: 8 },
    )
    const names = revisionsOnDisk()
    expect(new Set(names).size).toBe(names.length)
  })
  it('after a disk that was full: none of the saves that failed, all that came after', async () => {
    let limit = 0
    const store = await open((db) => void (limit > 0 && db.pragma(`max_page_count = ${limit}`)))
    const projects = new Projects(store.reader, store.writer)
    const { id } = await projects.create(doc('0'))
    limit = Number(onDisk<{ page_count: number }>('PRAGMA page_count')[0]!.page_count) + 6
    await store.writer.outside((db) => db.pragma(`max_page_count = ${limit}`))
    const acknowledged = ['0']
    let revision = 1
    const failures = new Set<string>()
    const save = async (name: string): Promise<void> => {
      const r = await projects.save(id, revision, doc(name)).catch((e: unknown) => {
        failures.add((e as AppError).code)
        return null
      })
      if (!r) return
      revision = r.revision
      acknowledged.push(name)
    }
    for (let i = 1; i <= 12; i++) await save(`full ${i}`)
    expect([...failures]).toEqual(['storage-full'])
    limit = 0
    await store.writer.outside((db) => db.pragma('max_page_count = 1073741823'))
    for (let i = 1; i <= 5; i++) await save(`room again ${i}`)
    expect(revisionsOnDisk()).toEqual(acknowledged)
    expect(acknowledged.slice(-5)).toEqual([1, 2, 3, 4, 5].map((i) => `room again ${i}`))
    await close()
    expect(revisionsOnDisk()).toEqual(acknowledged)
  })
  it('a save waits for another program’s lock and says so when it waits in vain', { timeout: 60_000 }, async () => {
    const store = await open()
    const projects = new Projects(store.reader, store.writer)
    const { id } = await projects.create(doc('0'))
    const other = new Sqlite(databaseFile(dataDir))
    other.exec('BEGIN IMMEDIATE')
    setTimeout(() => other.exec('ROLLBACK'), 1200)
    expect((await projects.save(id, 1, doc('waited'))).revision).toBe(2)
    other.exec('BEGIN IMMEDIATE')
    const begun = performance.now()
    expect(await code(projects.save(id, 2, doc('in vain')))).toBe('storage-busy')
    expect(performance.now() - begun).toBeGreaterThan(3500)
    other.exec('ROLLBACK')
    other.close()
    expect((await projects.save(id, 2, doc('free again'))).revision).toBe(3)
  })
  it('nothing uncommitted is ever answered', async () => {
    const store = await open()
    const projects = new Projects(store.reader, store.writer)
    const { id } = await projects.create(doc('committed'))
    let seen = ''
    await store.writer
      .write(async (m) => {
        await m.query('UPDATE project SET name = ?', ['uncommitted'])
        seen = (await projects.list()).find((p) => p.id === id)!.name
        throw new Error('not this time')
      })
      .catch(() => undefined)
    expect(seen).toBe('committed')
  })
})

describe('a save that is sent again', () => {
  it('is the same save, also when newer work follows it; another’s is a conflict', async () => {
    const store = await open()
    const projects = new Projects(store.reader, store.writer)
    const { id } = await projects.create(doc('0'))
    const first = await projects.save(id, 1, doc('a'), { saveId: 'save-aaaa' })
    expect(await projects.save(id, 1, doc('a'), { saveId: 'save-aaaa' })).toEqual(first)
    // the answer never came, the person went on: the next save follows its own forerunner
    expect(await projects.save(id, 1, doc('b'), { saveId: 'save-bbbb', unsure: ['save-aaaa'] })).toMatchObject({
      revision: 3,
    })
    expect(await code(projects.save(id, 1, doc('c'), { saveId: 'save-cccc' }))).toBe('revision-conflict')
    // someone else came in between: no longer the sender's own
    await projects.save(id, 3, doc('theirs'), { saveId: 'save-dddd' })
    expect(await code(projects.save(id, 2, doc('e'), { saveId: 'save-eeee', unsure: ['save-bbbb'] }))).toBe(
      'revision-conflict',
    )
    expect(revisionsOnDisk()).toEqual(['0', 'a', 'b', 'theirs'])
  })
})

describe('patches', () => {
  const send = (before: ProjectDocument, after: ProjectDocument): Incoming => ({
    patch: JSON.parse(JSON.stringify(patchBetween(packed(before), packed(after)))) as Patch,
    fingerprint: fingerprint(packed(after)),
  })
  const moved = (d: ProjectDocument, x: number): ProjectDocument => {
    const r = applyCommand(d, {
      type: 'moveCamera',
      label: 'Moved',
      changes: { stand: aimAt([x, 2, 1.58], [9, 2, 1.58]) },
    })
    if (!r.ok) throw new Error(r.message)
    return r.value.document
  }
  it('are stored, 50 after a whole document at most, and every revision comes back as it was, after a restart too', async () => {
    let store = await open()
    let projects = new Projects(store.reader, store.writer)
    const all = [doc('0')]
    const { id } = await projects.create(all[0]!)
    for (let n = 1; n <= 130; n++) {
      const next = moved(all[n - 1]!, n)
      await projects.save(id, n, send(all[n - 1]!, next), n === 5 ? { label: 'Sent' } : {})
      all.push(next)
    }
    const rows = onDisk<{ number: number; isPatch: number; bytes: number }>(
      'SELECT number, "isPatch", LENGTH(document) AS bytes FROM revision ORDER BY number',
    )
    // whole ones: at the beginning, after 50 patches each, and where the thinned ones before were
    expect(rows.filter((r) => !r.isPatch).map((r) => r.number)).toEqual(expect.arrayContaining([1, 6, 103]))
    expect(Math.max(...rows.filter((r) => r.isPatch).map((r) => r.bytes))).toBeLessThan(1500)
    await close()
    store = await open()
    projects = new Projects(store.reader, store.writer)
    for (const { number } of await projects.revisions(id))
      expect(fingerprint((await projects.revision(id, number)).document)).toBe(fingerprint(all[number - 1]))
    expect((await projects.open(id)).document).toEqual(all[130])
    expect(await maintainSaid('check')).toMatch(/all is well/)
  })
  it('that do not fit, or lie about what they make, change nothing', async () => {
    const store = await open()
    const projects = new Projects(store.reader, store.writer)
    const first = doc('0')
    const { id } = await projects.create(first)
    const next = moved(first, 3)
    const good = send(first, next)
    if (!('patch' in good)) throw new Error('no patch')
    expect(await code(projects.save(id, 1, { ...good, fingerprint: 'nonsense' }))).toBe('patch-mismatch')
    expect(await code(projects.save(id, 1, { ...good, patch: [{ op: 'remove', path: '/viewpoints/9' }] }))).toBe(
      'patch-mismatch',
    )
    const evil = { ...first, working: { ...first.working, lens: { ...first.working.lens, focalMm: -1 } } }
    expect(await code(projects.save(id, 1, send(first, evil)))).toBe('document-invalid')
    expect(revisionsOnDisk()).toEqual(['0'])
    expect((await projects.save(id, 1, good)).revision).toBe(2)
    // a patch on a base that someone else has followed is a conflict, as ever
    expect(await code(projects.save(id, 1, send(first, moved(first, 4))))).toBe('revision-conflict')
  })
  it('one whose transaction failed is not built upon', async () => {
    const faults = failing()
    const store = await open(faults.prepare)
    const projects = new Projects(store.reader, store.writer)
    let now = doc('0')
    const { id } = await projects.create(now)
    for (let n = 1; n <= 40; n++) {
      const next = moved(now, n)
      faults.at(1 + (n % 9), n % 2 ? 'rolled back' : 'before')
      const base = (await projects.open(id)).revision
      for (let tries = 0; ; tries++) {
        const r = await projects.save(id, base, send(now, next), { saveId: `save-${n}-long` }).catch(() => null)
        if (r) break
        expect(tries).toBeLessThan(4)
      }
      now = next
    }
    faults.at(Infinity, 'before')
    const again = new Projects(store.reader, store.writer)
    expect((await again.open(id)).document).toEqual(now)
    expect((await again.open(id)).revision).toBe(41)
  })
})

describe('one folder, one owner', () => {
  it('a second start says who holds it, ends, and leaves an upload under way alone', { timeout: 60_000 }, async () => {
    const first = await startServer(config(dataDir))
    const body = new Readable({ read: () => undefined })
    const send = (b: Buffer | null): void => void body.push(b)
    const big = Buffer.concat([glb, Buffer.alloc(2_500_000, 7)])
    const storing = first.assets.store({ ...incoming(), body })
    send(big.subarray(0, 2_200_000))
    await expect.poll(() => onDisk<{ n: number }>('SELECT COUNT(*) AS n FROM asset_chunk')[0]!.n).toBeGreaterThan(0)
    await expect(startServer(config(dataDir))).rejects.toThrow(new RegExp(`in use: Yoroi runs on it already \\(process ${process.pid}.*at ${first.url}`)) // prettier-ignore
    const other = await startProgram(dataDir).catch((e: unknown) => e)
    expect(other).toBeInstanceOf(ProgramEnded)
    expect(other).toMatchObject({ code: 1, message: expect.stringContaining('in use') })
    send(big.subarray(2_200_000))
    send(null)
    const asset = await storing
    const down = Buffer.from(await (await fetch(`${first.url}/api/assets/${asset.sha256}`)).arrayBuffer())
    expect(down.equals(big)).toBe(true)
    await first.stop()
    const third = await startServer(config(dataDir))
    await third.stop()
  })
  it('a killed owner holds nothing', { timeout: 60_000 }, async () => {
    const p = await startProgram(dataDir)
    expect(() => holdFolder(dataDir)).toThrow(/in use/)
    await p.kill()
    holdFolder(dataDir).release()
  })
})

describe('assets', () => {
  it('that were damaged are told, never cut short, and written again by the next upload', async () => {
    const store = await open()
    const assets = new Assets(store.reader, store.writer, 1e9)
    const big = Buffer.concat([glb, Buffer.alloc(2_500_000, 9)])
    const { sha256, uploadId } = await assets.store(incoming(big))
    await store.writer.write((m) => m.query('DELETE FROM asset_chunk WHERE "uploadId" = ? AND "index" = 1', [uploadId]))
    expect(await code(assets.find(sha256))).toBe('asset-damaged')
    await assets.store(incoming(big))
    expect((await assets.find(sha256)).uploadId).not.toBe(uploadId)
    // the right length with other bytes in it
    await store.writer.write((m) => m.query('UPDATE asset_chunk SET data = zeroblob(LENGTH(data)) WHERE "index" = 0'))
    await assets.store(incoming(big))
    expect(await maintainSaid('check')).toMatch(/1 files read: all is well/)
    expect(onDisk('SELECT DISTINCT "uploadId" FROM asset_chunk')).toHaveLength(1)
  })
  it('are swept thirty days after nothing refers to them, never while a kept revision does', async () => {
    const store = await open()
    const assets = new Assets(store.reader, store.writer, 1e9)
    const projects = new Projects(store.reader, store.writer)
    const used = await assets.store(incoming())
    const loose = await assets.store(incoming(Buffer.concat([glb, Buffer.alloc(3_000_000, 1)])))
    const { id } = await projects.create(doc('0', used.sha256))
    await projects.save(id, 1, doc('without it'))
    const day = (n: number): Date => new Date(Date.now() + n * 24 * 3600_000)
    expect(await sweep(store.reader, store.writer, day(0))).toMatchObject({ gone: [], waiting: [{ daysLeft: 30 }] })
    expect((await sweep(store.reader, store.writer, day(29))).gone).toEqual([])
    expect((await sweep(store.reader, store.writer, day(31))).gone.map((a) => a.sha256)).toEqual([loose.sha256])
    expect(await code(assets.find(loose.sha256))).toBe('asset-missing')
    expect((await assets.find(used.sha256)).sha256).toBe(sha)
    // what was freed has gone back to the disk
    expect(onDisk<{ freelist_count: number }>('PRAGMA freelist_count')[0]!.freelist_count).toBe(0)
    expect(await projects.remove(id)).toMatchObject({ sweptBytes: glb.length, nowBytes: expect.any(Number) })
    await sweep(store.reader, store.writer, day(31))
    // brought in again: the days begin anew
    await store.writer.write((m) => m.query('UPDATE asset SET "unreferencedSince" = ?', [day(-40).toISOString()]))
    await assets.store(incoming())
    expect((await sweep(store.reader, store.writer, day(2))).gone).toEqual([])
  })
})

async function maintainSaid(command: string, ...args: string[]): Promise<string> {
  const lines: string[] = []
  const exit = await maintain([command, '--data', dataDir, ...args], (l) => lines.push(l))
  return [...lines, `exit ${exit}`].join('\n')
}

describe('upkeep', () => {
  it('a backup of a running folder opens elsewhere; what is damaged in one is found and named', async () => {
    const server = await startServer(config(dataDir))
    await server.assets.store(incoming())
    const { id } = await server.projects.create(doc('0', sha))
    await server.projects.save(id, 1, doc('1', sha))
    const to = join(dataDir, 'copy.sqlite')
    expect(await maintainSaid('backup', '--to', to)).toMatch(/Copied to .*copy.sqlite \(.* MB\)[^]*exit 0/)
    await expect(maintain(['backup', '--data', dataDir, '--to', to], () => undefined)).rejects.toThrow(/exists already/)
    expect(await maintainSaid('check')).toMatch(/1 projects, 2 versions, 1 files read: all is well\.\nexit 0/)
    expect(await maintainSaid('sweep', '--dry')).toMatch(/^0 files/)
    await expect(maintain(['sweep', '--data', dataDir], () => undefined)).rejects.toThrow(/in use/)
    await server.stop()
    expect(await maintainSaid('sweep')).toMatch(/exit 0/)
    const elsewhere = mkdtempSync(join(tmpdir(), 'yoroi-copy-'))
    cpSync(to, databaseFile(elsewhere))
    const second = await startServer(config(elsewhere))
    expect((await second.projects.open(id)).document.name).toBe('1')
    await second.stop()
    rmSync(elsewhere, { recursive: true })
    const db = new Sqlite(databaseFile(dataDir))
    db.exec(`UPDATE revision SET document = substr(document, 1, 300) WHERE number = 1`)
    db.exec(`UPDATE asset_chunk SET data = x'00'`)
    db.close()
    expect(await maintainSaid('check')).toMatch(
      /version 1 cannot be read[^]*“room.glb”[^]*damaged[^]*2 damaged\.\nexit 1/,
    )
    // pages that the disk no longer gives back as they were
    const file = openSync(databaseFile(dataDir), 'r+')
    for (let page = 2; page <= 12; page++) writeSync(file, Buffer.alloc(3000, 'x'), 0, 3000, (page - 1) * 4096)
    closeSync(file)
    const said = await maintainSaid('check')
    expect(said).toMatch(/The data file[^]*cannot be read[^]*damaged\.\nexit 1/)
    await expect(maintain(['mend', '--data', dataDir], () => undefined)).rejects.toThrow(/backup, check or sweep/)
  })
  it('a damaged newest revision opens as the last readable one and says so; saving goes on after it', async () => {
    let server = await startServer(config(dataDir))
    /** As a disk that fails: what is stored changes while nobody looks. */
    const damaged = async (number: number, text: string): Promise<void> => {
      await server.store.writer.write((m) =>
        m.query('UPDATE revision SET document = ?, "isPatch" = 0 WHERE number = ?', [text, number]),
      )
      await server.stop()
      server = await startServer(config(dataDir))
    }
    const { id } = await server.projects.create(doc('good'))
    await server.projects.save(id, 1, doc('bad'))
    await damaged(2, '{"schemaVersion":2,')
    const got = (await (await fetch(`${server.url}/api/projects/${id}`)).json()) as Record<string, unknown>
    expect(got).toMatchObject({ revision: 2, document: { name: 'good' }, damaged: { newest: 2, shown: 1 } })
    await server.projects.save(id, 2, doc('better'))
    expect(await server.projects.open(id)).toMatchObject({ revision: 3, document: { name: 'better' } })
    // what a newer version wrote is not damaged: it is refused
    await damaged(3, '{"schemaVersion":99}')
    expect(await code(server.projects.open(id))).toBe('document-newer')
    await server.stop()
  })
  it('the first revision and labelled ones are never thinned', async () => {
    const store = await open()
    const projects = new Projects(store.reader, store.writer, () => new Date('2026-03-01T10:00:00Z'))
    const { id } = await projects.create(doc('0'))
    for (let n = 1; n < 140; n++)
      await projects.save(id, n, doc(String(n)), n === 4 ? { label: 'Sent to the client' } : {})
    const numbers = (await projects.revisions(id)).map((r) => r.number)
    expect(numbers).toContain(1)
    expect(numbers).toContain(5)
    expect(numbers.length).toBeLessThan(85)
  })
})

describe('a start that cannot be', () => {
  const why = async (): Promise<string> => startServer(config(dataDir)).then(async (s) => (await s.stop(), 'started'), (e: Error) => e.message) // prettier-ignore
  const file = (): string => databaseFile(dataDir)
  const made = async (): Promise<void> => {
    const s = await openStore(dataDir)
    const p = new Projects(s.reader, s.writer)
    const { id } = await p.create(doc())
    for (let n = 1; n < 30; n++) await p.save(id, n, doc(String(n)))
    await s.close()
  }
  it('names the file and what to do', { timeout: 60_000 }, async () => {
    writeFileSync(file(), 'This is a letter, not a database. '.repeat(40))
    expect(await why()).toMatch(/yoroi\.sqlite” is not a database of Yoroi\. Move it away/)
    rmSync(file())
    const other = new Sqlite(file())
    other.exec('CREATE TABLE song (id)')
    other.close()
    expect(await why()).toMatch(/belongs to another program/)
    rmSync(file())
    await made()
    expect(await why()).toBe('started')
    const newer = new Sqlite(file())
    newer.exec(`INSERT INTO migrations (timestamp, name) VALUES (1999999999999, 'Someday1999999999999')`)
    newer.close()
    expect(await why()).toMatch(/made by a newer Yoroi.*Someday.*Update/)
    const back = new Sqlite(file())
    back.exec(`DELETE FROM migrations WHERE name LIKE 'Someday%'`)
    back.exec('BEGIN IMMEDIATE')
    expect(await why()).toMatch(/yoroi\.sqlite” is locked by another program\. Close it/)
    back.exec('ROLLBACK')
    back.close()
  })
  it('a damaged file is told at the start, or where it is met', async () => {
    await made()
    const bytes = readFileSync(file())
    // the schema's page garbled behind the header
    const fd = openSync(file(), 'r+')
    writeSync(fd, Buffer.alloc(3000, 0xff), 0, 3000, 100)
    closeSync(fd)
    expect(await why()).toMatch(/is damaged\. Run “npm run check/)
    writeFileSync(file(), bytes)
    truncateSync(file(), 4096 * 3)
    expect(await why()).toMatch(/damaged|started/)
  })
  it.skipIf(process.getuid?.() === 0)('a file that may not be written is told', async () => {
    await made()
    chmodSync(file(), 0o444)
    expect(await why()).toMatch(/cannot be written/)
  })
  it('no space, as the driver tells it', async () => {
    const full = Object.assign(new Error('full'), { code: 'SQLITE_FULL' })
    await expect(
      openStore(dataDir, () => {
        throw full
      }),
    ).rejects.toThrow(/no space left for “.*yoroi\.sqlite”.*Free some space/)
  })
  it('ends as a program with exit code 1 and the sentence', { timeout: 60_000 }, async () => {
    writeFileSync(file(), 'no database '.repeat(100))
    const e = await startProgram(dataDir).catch((x: unknown) => x)
    expect(e).toMatchObject({ code: 1, message: expect.stringMatching(/is not a database of Yoroi/) })
  })
})

describe('a killed server', () => {
  it(
    'comes back with every acknowledged save and upload (10 kills; bench/kills.ts makes 300)',
    { timeout: 180_000 },
    async () => {
      const r = await runKills(dataDir, 10, 20)
      expect(r.lost).toEqual([])
      expect(r.saves).toBeGreaterThanOrEqual(10)
      expect(r.uploads).toBeGreaterThan(2)
    },
  )
})
