// HTTP of projects and revisions.
import express, { Router } from 'express'
import { z } from 'zod'
import { AppError } from '#core/base'
import { checked } from '../http/guards.ts'
import { jsonBody } from '../http/json.ts'
import { checkedDocument, type Projects } from '../projects.ts'

const idSchema = z.object({ id: z.string().min(1).max(64) })
const revisionSchema = idSchema.extend({ number: z.coerce.number().int().positive() })
const saveIdSchema = z.string().min(8).max(64)
const saveSchema = z.object({
  baseRevision: z.number().int().positive(),
  document: z.unknown().optional(),
  saveId: saveIdSchema.optional(),
  unsure: z.array(saveIdSchema).max(64).optional(),
})
const createSchema = z.object({ document: z.unknown().optional(), id: z.uuid().optional() })
const restoreSchema = z.object({ baseRevision: z.number().int().positive() })
const COVER_TYPES = ['image/jpeg', 'image/png', 'image/webp']
const COVER_LIMIT = '600kb'

export function projectRoutes(projects: Projects, documentLimitBytes: number): Router {
  const r = Router()
  const json = jsonBody(documentLimitBytes)
  r.get('/projects', async (_req, res) => void res.json(await projects.list()))
  r.post('/projects', ...json, async (req, res) => {
    const { document, id } = checked(createSchema, req.body)
    res.status(201).json(await projects.create(checkedDocument(document), id))
  })
  r.get('/projects/:id', async (req, res) => void res.json(await projects.open(checked(idSchema, req.params).id)))
  r.put('/projects/:id', ...json, async (req, res) => {
    const { id } = checked(idSchema, req.params)
    const { baseRevision, document, saveId, unsure } = checked(saveSchema, req.body)
    res.json(await projects.save(id, baseRevision, checkedDocument(document), { saveId, unsure }))
  })
  r.delete('/projects/:id', async (req, res) => {
    res.json(await projects.remove(checked(idSchema, req.params).id))
  })
  r.get('/projects/:id/weight', async (req, res) => {
    res.json(await projects.weight(checked(idSchema, req.params).id))
  })
  r.get(
    '/projects/:id/revisions',
    async (req, res) => void res.json(await projects.revisions(checked(idSchema, req.params).id)),
  )
  r.get('/projects/:id/revisions/:number', async (req, res) => {
    const { id, number } = checked(revisionSchema, req.params)
    res.json(await projects.revision(id, number))
  })
  r.post('/projects/:id/revisions/:number/restore', ...json, async (req, res) => {
    const { id, number } = checked(revisionSchema, req.params)
    res.json(await projects.restore(id, number, checked(restoreSchema, req.body).baseRevision))
  })
  r.put('/projects/:id/cover', express.raw({ type: COVER_TYPES, limit: COVER_LIMIT }), async (req, res) => {
    const { id } = checked(idSchema, req.params)
    const type = req.headers['content-type'] ?? ''
    if (!COVER_TYPES.includes(type) || !Buffer.isBuffer(req.body) || !looksLike(type, req.body))
      throw new AppError('bad-request', 'The cover is not a picture.')
    await projects.setCover(id, req.body, type)
    res.status(204).end()
  })
  r.get('/projects/:id/cover', async (req, res) => {
    const { data, type } = await projects.cover(checked(idSchema, req.params).id)
    res.type(type).set('Cache-Control', 'no-cache').send(data)
  })
  return r
}

function looksLike(type: string, data: Buffer): boolean {
  if (type === 'image/png') return data.subarray(0, 8).equals(Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]))
  if (type === 'image/jpeg') return data[0] === 0xff && data[1] === 0xd8
  return data.subarray(0, 4).toString('latin1') === 'RIFF' && data.subarray(8, 12).toString('latin1') === 'WEBP'
}
