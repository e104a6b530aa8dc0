// HTTP of assets: streamed up and down.
import { Router } from 'express'
import { z } from 'zod'
import { checked } from '../http/guards.ts'
import { PHOTO_TYPES } from '#formats/photo'
import { GLB_TYPE, type Assets } from '../assets.ts'

const uploadSchema = z.object({
  'content-type': z.enum([GLB_TYPE, ...PHOTO_TYPES]),
  'content-length': z.coerce.number().int().nonnegative().optional(),
  'x-content-sha256': z.string().regex(/^[0-9a-f]{64}$/).optional(), // prettier-ignore
  'x-file-name': z.string().max(2000).optional(),
})
const shaSchema = z.object({ sha256: z.string().regex(/^[0-9a-f]{64}$/) })

export function assetRoutes(assets: Assets): Router {
  const r = Router()
  r.post('/assets', async (req, res) => {
    const head = checked(uploadSchema, req.headers)
    const asset = await assets.store({
      body: req,
      mediaType: head['content-type'],
      fileName: decodeURIComponent(head['x-file-name'] ?? 'model.glb').slice(0, 200),
      sha256: head['x-content-sha256'],
      sizeBytes: head['content-length'],
    })
    const { sha256, sizeBytes, fileName } = asset
    res.status(201).json({ sha256, sizeBytes, fileName })
  })
  r.get('/assets/:sha256', async (req, res) => {
    const asset = await assets.find(checked(shaSchema, req.params).sha256)
    res.set({
      'Content-Type': asset.mediaType,
      'Content-Length': String(asset.sizeBytes),
      // the name is the content: it can be kept for ever
      'Cache-Control': 'private, max-age=31536000, immutable',
      ETag: `"${asset.sha256}"`,
    })
    await assets.send(asset, res)
  })
  return r
}
