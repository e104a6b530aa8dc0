// Assets: content-addressed files in chunk rows, streamed both ways, never held whole.
// Model: an asset counts as stored when its row stands, and that is written only after its length and SHA-256 were checked. One
// that has been damaged since is an error when asked for, and is written again by the next upload of the same file.

import { createHash, randomUUID } from 'node:crypto'
import { once } from 'node:events'
import type { Readable, Writable } from 'node:stream'
import { setImmediate as breathe } from 'node:timers/promises'
import type { DataSource, EntityManager } from 'typeorm'
import { AppError } from '#core/base'
import { glbHeader } from '#formats/gltf'
import { photoTypeOf } from '#formats/photo'
import { AssetChunkEntity, AssetEntity, type Asset } from './storage/entities.ts'
import type { Writer } from './storage/writer.ts'

const CHUNK_BYTES = 1024 * 1024
export const GLB_TYPE = 'model/gltf-binary'

export interface Incoming {
  readonly body: Readable
  readonly mediaType: string
  readonly fileName: string
  /** What the sender says; both are checked when given. */
  readonly sha256?: string | undefined
  readonly sizeBytes?: number | undefined
}

export class Assets {
  private readonly reader: DataSource
  private readonly writer: Writer
  private readonly limitBytes: number
  constructor(reader: DataSource, writer: Writer, limitBytes: number) {
    this.reader = reader
    this.writer = writer
    this.limitBytes = limitBytes
  }

  /** Throws away what uploads of a stopped server have left unfinished. Before the first request is answered. */
  async clearUnfinished(): Promise<void> {
    await this.writer.write((m) =>
      m.query('DELETE FROM "asset_chunk" WHERE "uploadId" NOT IN (SELECT "uploadId" FROM "asset")'),
    )
  }

  /**
   * Stores a file as it streams in. AppError `upload-too-large`, `upload-broken` (size or SHA-256 differs from what was said, or
   * the connection ended) or `model-unreadable` (a GLB that is none); nothing of a refused file stays.
   */
  async store(incoming: Incoming): Promise<Asset> {
    if (incoming.sizeBytes !== undefined && incoming.sizeBytes > this.limitBytes) throw this.tooLarge()
    const uploadId = randomUUID()
    try {
      const { sha256, sizeBytes } = await this.receive(uploadId, incoming)
      return await this.seal(uploadId, sha256, sizeBytes, incoming)
    } catch (e) {
      // a disk that is full keeps the pieces; they are thrown away at the next start
      await this.writer.write((m) => m.delete(AssetChunkEntity, { uploadId })).catch(() => undefined)
      throw e
    }
  }

  private tooLarge(): AppError {
    return new AppError('upload-too-large', `The limit is ${Math.round(this.limitBytes / 1024 / 1024)} MB.`)
  }

  private async receive(uploadId: string, incoming: Incoming): Promise<{ sha256: string; sizeBytes: number }> {
    const hash = createHash('sha256')
    let pending: Buffer[] = []
    let held = 0
    let sizeBytes = 0
    let index = 0
    const flush = async (): Promise<void> => {
      const data = Buffer.concat(pending)
      pending = []
      held = 0
      const row = { uploadId, index: index++, data }
      await this.writer.write((m) =>
        m.createQueryBuilder().insert().into(AssetChunkEntity).values(row).updateEntity(false).execute(),
      )
    }
    let promised: number | null = null
    let isKnown = incoming.mediaType === GLB_TYPE
    for await (const piece of received(incoming.body)) {
      sizeBytes += piece.length
      if (sizeBytes > this.limitBytes) throw this.tooLarge()
      hash.update(piece)
      pending.push(piece)
      held += piece.length
      // refused by its first bytes, before the rest is taken
      if (promised === null && incoming.mediaType === GLB_TYPE && sizeBytes >= 12) {
        const head = glbHeader(Buffer.concat(pending))
        if (!head.ok) throw new AppError('model-unreadable', head.message)
        promised = head.value.lengthBytes
      }
      if (!isKnown && sizeBytes >= 16) {
        if (photoTypeOf(Buffer.concat(pending)) !== incoming.mediaType) throw notThatPhoto()
        isKnown = true
      }
      if (held >= CHUNK_BYTES) await flush()
    }
    if (held > 0) await flush()
    if (sizeBytes === 0) throw new AppError('upload-broken', 'The file is empty.')
    if (!isKnown) throw notThatPhoto()
    if (incoming.mediaType === GLB_TYPE && (promised === null || promised > sizeBytes))
      throw new AppError('model-unreadable', 'The file is cut off. Export or copy it again.')
    return { sha256: hash.digest('hex'), sizeBytes }
  }

  private async seal(uploadId: string, sha256: string, sizeBytes: number, incoming: Incoming): Promise<Asset> {
    if (incoming.sha256 !== undefined && incoming.sha256 !== sha256)
      throw new AppError('upload-broken', 'Its checksum is not the one announced.')
    if (incoming.sizeBytes !== undefined && incoming.sizeBytes !== sizeBytes)
      throw new AppError('upload-broken', 'Its length is not the one announced.')
    const before = await this.reader.getRepository(AssetEntity).findOneBy({ sha256 })
    const sound = before !== null && (await isSound(this.reader, before))
    const createdAt = new Date().toISOString()
    return this.writer.write(async (m) => {
      if ((await stored(m, uploadId)) !== sizeBytes)
        throw new AppError('upload-broken', 'Not all of it is in storage any more.')
      const known = await m.findOneBy(AssetEntity, { sha256 })
      if (known && (sound || known.uploadId !== before?.uploadId)) {
        await m.delete(AssetChunkEntity, { uploadId })
        await m.update(AssetEntity, { sha256 }, { createdAt, unreferencedSince: null })
        return { ...known, createdAt, unreferencedSince: null }
      }
      if (known) {
        await m.delete(AssetEntity, { sha256 })
        await m.delete(AssetChunkEntity, { uploadId: known.uploadId })
      }
      const { mediaType, fileName } = incoming
      const asset: Asset = { sha256, uploadId, sizeBytes, mediaType, fileName, createdAt, unreferencedSince: null }
      await m.insert(AssetEntity, asset)
      return asset
    })
  }

  /** AppError `asset-missing`, or `asset-damaged` where less (or more) is in storage than was taken in. */
  async find(sha256: string): Promise<Asset> {
    const asset = await this.reader.getRepository(AssetEntity).findOneBy({ sha256 })
    if (!asset) throw new AppError('asset-missing')
    if ((await stored(this.reader.manager, asset.uploadId)) !== asset.sizeBytes) throw new AppError('asset-damaged')
    return asset
  }

  /**
   * Writes the file to `out` chunk by chunk, waiting when the receiver is slow. Whoever gets less than was promised sees a broken
   * connection, never a short answer.
   */
  async send(asset: Asset, out: Writable): Promise<void> {
    let sent = 0
    for await (const data of chunksOf(this.reader, asset)) {
      if (out.destroyed) return
      sent += data.length
      if (!out.write(data)) await Promise.race([once(out, 'drain'), once(out, 'close')]).catch(() => undefined)
    }
    if (sent === asset.sizeBytes) out.end()
    else out.destroy(new AppError('asset-damaged'))
  }
}

const notThatPhoto = (): AppError =>
  new AppError('photo-unreadable', 'Its first bytes are not those of the picture that it is called.')

async function* received(body: Readable): AsyncGenerator<Buffer> {
  try {
    for await (const piece of body) yield piece as Buffer
  } catch (e) {
    throw new AppError('upload-broken', 'The connection ended early.', { cause: String(e) })
  }
}

async function* chunksOf(source: DataSource, asset: Asset): AsyncGenerator<Buffer> {
  const rows = source.getRepository(AssetChunkEntity)
  for (let index = 0; ; index++) {
    const row = await rows.findOneBy({ uploadId: asset.uploadId, index })
    if (!row) return
    yield row.data
  }
}

/** Bytes that are in storage for an upload, as long as its pieces are all there, in a row. */
async function stored(m: EntityManager, uploadId: string): Promise<number> {
  const [r] = (await m.query(
    'SELECT COUNT(*) AS n, MAX("index") AS last, SUM(LENGTH("data")) AS bytes FROM "asset_chunk" WHERE "uploadId" = ?',
    [uploadId],
  )) as { n: number; last: number | null; bytes: number | null }[]
  return r && r.last !== null && r.n === r.last + 1 ? (r.bytes ?? 0) : 0
}

/** Whether what is in storage still is the file it is named after. Reads it whole. */
export async function isSound(source: DataSource, asset: Asset): Promise<boolean> {
  const hash = createHash('sha256')
  let bytes = 0
  for await (const data of chunksOf(source, asset)) {
    hash.update(data)
    bytes += data.length
    await breathe()
  }
  return bytes === asset.sizeBytes && hash.digest('hex') === asset.sha256
}
