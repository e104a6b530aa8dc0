// Assets: content-addressed files in chunk rows, streamed both ways, never held whole.
import { createHash, randomUUID } from 'node:crypto'
import type { Readable, Writable } from 'node:stream'
import type { DataSource } from 'typeorm'
import { AppError } from '#core/base'
import { glbHeader } from '#formats/gltf'
import type { Writer } from './data-source.ts'
import { AssetChunkEntity, AssetEntity, type Asset } from './entities/index.ts'

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
  private readonly source: DataSource
  private readonly writer: Writer
  private readonly limitBytes: number
  constructor(source: DataSource, writer: Writer, limitBytes: number) {
    this.source = source
    this.writer = writer
    this.limitBytes = limitBytes
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
      await this.writer.write((m) => m.delete(AssetChunkEntity, { uploadId }))
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
    try {
      for await (const piece of incoming.body) {
        const buffer = piece as Buffer
        sizeBytes += buffer.length
        if (sizeBytes > this.limitBytes) throw this.tooLarge()
        hash.update(buffer)
        pending.push(buffer)
        held += buffer.length
        // refused by its first bytes, before the rest is taken
        if (promised === null && incoming.mediaType === GLB_TYPE && sizeBytes >= 12) {
          const head = glbHeader(Buffer.concat(pending))
          if (!head.ok) throw new AppError('model-unreadable', head.message)
          promised = head.value.lengthBytes
        }
        if (held >= CHUNK_BYTES) await flush()
      }
    } catch (e) {
      if (e instanceof AppError) throw e
      throw new AppError('upload-broken', 'The connection ended early.')
    }
    if (held > 0) await flush()
    if (sizeBytes === 0) throw new AppError('upload-broken', 'The file is empty.')
    if (incoming.mediaType === GLB_TYPE && (promised === null || promised > sizeBytes))
      throw new AppError('model-unreadable', 'The file is cut off. Export or copy it again.')
    return { sha256: hash.digest('hex'), sizeBytes }
  }

  private seal(uploadId: string, sha256: string, sizeBytes: number, incoming: Incoming): Promise<Asset> {
    if (incoming.sha256 !== undefined && incoming.sha256 !== sha256)
      throw new AppError('upload-broken', 'Its checksum is not the one announced.')
    if (incoming.sizeBytes !== undefined && incoming.sizeBytes !== sizeBytes)
      throw new AppError('upload-broken', 'Its length is not the one announced.')
    return this.writer.write(async (m) => {
      const known = await m.findOneBy(AssetEntity, { sha256 })
      if (known) {
        await m.delete(AssetChunkEntity, { uploadId })
        return known
      }
      const asset: Asset = {
        sha256,
        uploadId,
        sizeBytes,
        mediaType: incoming.mediaType,
        fileName: incoming.fileName,
        createdAt: new Date().toISOString(),
      }
      await m.insert(AssetEntity, asset)
      return asset
    })
  }

  async find(sha256: string): Promise<Asset> {
    const asset = await this.source.getRepository(AssetEntity).findOneBy({ sha256 })
    if (!asset) throw new AppError('asset-missing')
    return asset
  }

  /** Writes the file to `out` chunk by chunk, waiting when the receiver is slow. */
  async send(asset: Asset, out: Writable): Promise<void> {
    const rows = this.source.getRepository(AssetChunkEntity)
    for (let index = 0; ; index++) {
      const row = await rows.findOneBy({ uploadId: asset.uploadId, index })
      if (!row || out.destroyed) break
      if (!out.write(row.data))
        await new Promise<void>((resolve) => {
          const on = (): void => {
            out.off('drain', on).off('close', on)
            resolve()
          }
          out.once('drain', on).once('close', on)
        })
    }
    out.end()
  }
}
