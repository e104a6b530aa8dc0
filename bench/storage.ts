// How long the store takes to open, and a hostile document to be refused.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { aimAt, newProject } from '#model'
import { configSchema, startServer } from '#server'
import { Projects } from '../server/projects.ts'
import { openStore } from '../server/storage/open.ts'
import { median, ms, type Row } from './harness.ts'

const doc = (name: string) =>
  newProject({ name, subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })

/** Opening a store with 1,000 projects of ten versions each, its list included. */
export async function openThousand(): Promise<Row[]> {
  const dataDir = mkdtempSync(join(tmpdir(), 'yoroi-thousand-'))
  const made = await openStore(dataDir)
  const projects = new Projects(made.reader, made.writer)
  for (let i = 0; i < 1000; i++) {
    const { id } = await projects.create(doc(`Project ${i}`))
    for (let n = 1; n < 10; n++) await projects.save(id, n, doc(`Project ${i}, ${n}`))
  }
  await made.close()
  const once = async (): Promise<number> => {
    const begun = performance.now()
    const store = await openStore(dataDir)
    const list = await new Projects(store.reader, store.writer).list()
    const took = performance.now() - begun
    if (list.length !== 1000) throw new Error('not all there')
    await store.close()
    return took
  }
  const empty = mkdtempSync(join(tmpdir(), 'yoroi-empty-'))
  await (await openStore(empty)).close()
  const bare: number[] = []
  const full: number[] = []
  for (let i = 0; i < 9; i++) {
    const begun = performance.now()
    const s = await openStore(empty)
    bare.push(performance.now() - begun)
    await s.close()
    full.push(await once())
  }
  rmSync(dataDir, { recursive: true })
  rmSync(empty, { recursive: true })
  const [a, b] = [median(full), median(bare)]
  return [
    { what: 'opening a store of 1,000 projects, 10,000 versions, with its list', measured: ms(a), reference: `${ms(b)}, an empty store`, ratio: a / b, wanted: 'under 1 s', ok: a < 1000 },
  ] // prettier-ignore
}

/** 15 MB of empty viewpoints sent to a server, against an honest document of the same length. */
export async function refuseLong(): Promise<Row[]> {
  const server = await startServer(
    configSchema.parse({ port: 0, dataDir: mkdtempSync(join(tmpdir(), 'yoroi-long-')), logLevel: 'silent' }),
  )
  const send = async (body: string): Promise<number> => {
    const begun = performance.now()
    const r = await fetch(`${server.url}/api/projects`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body }) // prettier-ignore
    await r.text()
    return performance.now() - begun
  }
  const hidden = Array.from({ length: 90_000 }, (_, i) => `Hall/Some object/with a name of its own/${i}`)
  const plain = doc('Hall')
  const views = [0, 1, 2].map((i) => ({ id: `v${i}`, name: 'V', locked: false, parts: { visible: { hidden } } }))
  const honest = JSON.stringify({ document: { ...plain, viewpoints: views } })
  const hostile = `{"document":{"viewpoints":[${'{},'.repeat(5_000_000)}{}]}}`
  const [a, b]: [number[], number[]] = [[], []]
  for (let i = 0; i < 5; i++) {
    b.push(await send(honest))
    a.push(await send(hostile))
  }
  await server.stop()
  return [
    { what: 'refusing 15 MB of empty viewpoints', measured: ms(median(a)), reference: `${ms(median(b))}, taking an honest ${(honest.length / 1e6).toFixed(0)} MB`, ratio: median(a) / median(b), wanted: 'no seconds', ok: median(a) < 1000 },
  ] // prettier-ignore
}
