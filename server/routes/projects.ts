// HTTP of projects and revisions.
import express, { Router } from 'express'
import { z } from 'zod'
import { AppError } from '#core/base'
import { checked } from '../http/guards.ts'
import { jsonBody } from '../http/json.ts'
import type { Opened, Projects } from '../projects.ts'
import { checkedDocument, type Incoming } from '../revisions.ts'

const idSchema = z.object({ id: z.string().min(1).max(64) })
const revisionSchema = idSchema.extend({ number: z.coerce.number().int().positive() })
const saveIdSchema = z.string().min(8).max(64)
const pathSchema = z.string().max(4000)
const saveSchema = z.object({
  baseRevision: z.number().int().positive(),
  document: z.unknown().optional(),
  /** What changed since the base (RFC 6902), and the fingerprint of what should come of it. */
  patch: z
    .array(
      z.union([
        z.object({ op: z.enum(['add', 'replace']), path: pathSchema, value: z.unknown() }),
        z.object({ op: z.literal('remove'), path: pathSchema }),
      ]),
    )
    .max(20_000)
    .optional(),
  fingerprint: z.string().max(64).optional(),
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
    res.status(201).json(travelling(await projects.create(checkedDocument(document), id)))
  })
  r.get(
    '/projects/:id',
    async (req, res) => void res.json(travelling(await projects.open(checked(idSchema, req.params).id))),
  )
  r.put('/projects/:id', ...json, async (req, res) => {
    const { id } = checked(idSchema, req.params)
    const { baseRevision, document, patch, fingerprint = '', saveId, unsure } = checked(saveSchema, req.body)
    const incoming: Incoming = patch ? { patch, fingerprint } : { document: checkedDocument(document) }
    res.json(await projects.save(id, baseRevision, incoming, { saveId, unsure }))
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
    res.json(travelling(await projects.revision(id, number)))
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

/** Documents travel packed. */
const travelling = ({ packed, ...o }: Opened): Omit<Opened, 'packed' | 'document'> & { document: unknown } => ({
  ...o,
  document: packed,
})

function looksLike(type: string, data: Buffer): boolean {
  if (type === 'image/png') return data.subarray(0, 8).equals(Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]))
  if (type === 'image/jpeg') return data[0] === 0xff && data[1] === 0xd8
  return data.subarray(0, 4).toString('latin1') === 'RIFF' && data.subarray(8, 12).toString('latin1') === 'WEBP'
}
