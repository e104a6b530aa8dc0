// How long the store takes to open, and a hostile document to be refused.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { aimAt, newProject, readProjectDocument } from '#model'
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

/** A document of 15 MB of empty viewpoints against the parsing of its text alone. */
export async function refuseLong(): Promise<Row[]> {
  const text = JSON.stringify({ ...doc('Hall'), viewpoints: Array.from({ length: 5_000_000 }, () => ({})) })
  const parse: number[] = []
  const refuse: number[] = []
  for (let i = 0; i < 3; i++) {
    let begun = performance.now()
    const value: unknown = JSON.parse(text)
    parse.push(performance.now() - begun)
    begun = performance.now()
    if (readProjectDocument(value).ok) throw new Error('taken')
    refuse.push(performance.now() - begun)
  }
  const [a, b] = [median(refuse), median(parse)]
  return [
    { what: `refusing ${(text.length / 1e6).toFixed(0)} MB of empty viewpoints`, measured: `${a.toFixed(2)} ms`, reference: `${ms(b)}, parsing the text`, ratio: a / b, wanted: 'no seconds', ok: a < 1000 },
  ] // prettier-ignore
}
