// Which assets does nothing refer to any more, and since when?
// Model: every revision still kept counts as a reference, by any SHA-256 written in its text. An asset that none refers to is
// marked with the day; thirty days after the mark, if it was not brought in or referred to again, it goes.

import type { DataSource } from 'typeorm'
import { AssetChunkEntity, AssetEntity, type Asset } from './entities.ts'
import { referencesIn, revisionTexts } from './read.ts'
import type { Writer } from './writer.ts'

export const KEPT_DAYS = 30
const KEPT_MS = KEPT_DAYS * 24 * 3600_000
/** Revisions saved while a sweep was reading are read again before anything goes; clocks are trusted to a minute. */
const OVERLAP_MS = 60_000
const CHUNKS_AT_ONCE = 64
const PAGES_AT_ONCE = 2000

export interface Swept {
  /** Assets that went (or, in a dry run, would go). */
  readonly gone: readonly Pick<Asset, 'sha256' | 'fileName' | 'sizeBytes'>[]
  /** Assets that nothing refers to, still kept. */
  readonly waiting: readonly (Pick<Asset, 'sha256' | 'fileName' | 'sizeBytes'> & { readonly daysLeft: number })[]
}

/** What a sweep at this moment would do; nothing is written. Linear in the bytes of all revisions. */
export async function planSweep(reader: DataSource, now: Date): Promise<Swept & { readonly referred: Set<string> }> {
  const assets = await reader.getRepository(AssetEntity).find()
  const referred = new Set<string>()
  if (assets.length > 0) for await (const r of revisionTexts(reader)) referencesIn(r.document, referred)
  const loose = assets.filter((a) => !referred.has(a.sha256))
  const since = (a: Asset): number =>
    Math.max(Date.parse(a.createdAt), a.unreferencedSince === null ? now.getTime() : Date.parse(a.unreferencedSince))
  const left = (a: Asset): number => since(a) + KEPT_MS - now.getTime()
  return {
    referred,
    gone: loose.filter((a) => left(a) <= 0),
    waiting: loose.filter((a) => left(a) > 0).map((a) => ({ ...a, daysLeft: Math.ceil(left(a) / (24 * 3600_000)) })),
  }
}

/** Marks, unmarks and throws away; what is deleted is given back to the disk. */
export async function sweep(reader: DataSource, writer: Writer, now: Date = new Date()): Promise<Swept> {
  const plan = await planSweep(reader, now)
  const at = now.toISOString()
  const gone = await writer.write(async (m) => {
    const late = new Set<string>()
    const rows = (await m.query('SELECT "document" FROM "revision" WHERE "savedAt" >= ?', [
      new Date(now.getTime() - OVERLAP_MS).toISOString(),
    ])) as { document: string }[]
    for (const r of rows) referencesIn(r.document, late)
    for (const a of await m.find(AssetEntity)) {
      const isLoose = !plan.referred.has(a.sha256) && !late.has(a.sha256)
      if (isLoose && a.unreferencedSince === null)
        await m.update(AssetEntity, { sha256: a.sha256 }, { unreferencedSince: at })
      else if (!isLoose && a.unreferencedSince !== null)
        await m.update(AssetEntity, { sha256: a.sha256 }, { unreferencedSince: null })
    }
    const leaving: Asset[] = []
    for (const { sha256 } of plan.gone) {
      const a = await m.findOneBy(AssetEntity, { sha256 })
      // brought in again, or referred to, since the plan was made
      if (!a || late.has(sha256) || Date.parse(a.createdAt) > now.getTime() - KEPT_MS) continue
      await m.delete(AssetEntity, { sha256 })
      leaving.push(a)
    }
    return leaving
  })
  for (const a of gone) await dropChunks(writer, a.uploadId)
  if (gone.length > 0) await giveBack(writer)
  return { gone, waiting: plan.waiting }
}

async function dropChunks(writer: Writer, uploadId: string): Promise<void> {
  for (let n = CHUNKS_AT_ONCE; n === CHUNKS_AT_ONCE;)
    n = await writer.write(async (m) => {
      const rows = (await m.query('SELECT "index" FROM "asset_chunk" WHERE "uploadId" = ? LIMIT ?', [
        uploadId,
        CHUNKS_AT_ONCE,
      ])) as { index: number }[]
      for (const { index } of rows) await m.delete(AssetChunkEntity, { uploadId, index })
      return rows.length
    })
}

/** Free pages go back to the disk, a few at a time (files made before this was possible keep them for new rows). */
export async function giveBack(writer: Writer): Promise<void> {
  for (;;) {
    const done = await writer.outside((db) => {
      const free = (): number => Number(db.pragma('freelist_count', { simple: true }))
      const before = free()
      if (before === 0 || db.pragma('auto_vacuum', { simple: true }) !== 2) return true
      db.pragma(`incremental_vacuum(${PAGES_AT_ONCE})`)
      return free() >= before
    })
    if (done) return
  }
}

/** Rewrites the whole file without gaps, so that later sweeps can give space back. Needs as much free space again. */
export async function compact(writer: Writer): Promise<void> {
  await writer.outside((db) => {
    db.pragma('auto_vacuum = INCREMENTAL')
    db.exec('VACUUM')
  })
}

export const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`
