// Doors of the HTTP side: whom the server answers, what a bad request gets, and how errors are written.
import type { ErrorRequestHandler, RequestHandler } from 'express'
import type { Logger } from 'pino'
import type { z } from 'zod'
import { AppError, ERRORS } from '#core/base'
import { storageFault } from '../storage/faults.ts'

/** Answers only requests made to its own address and by its own pages (against rebinding and foreign sites). */
export function ownHostOnly(port: () => number, extraOrigins: readonly string[]): RequestHandler {
  return (req, _res, next) => {
    const names = ['127.0.0.1', 'localhost', '[::1]']
    // a browser leaves out the port that HTTP has by itself
    const hosts = names.flatMap((h) => (port() === 80 ? [h, `${h}:80`] : [`${h}:${port()}`]))
    const host = req.headers.host ?? ''
    const origin = req.headers.origin
    const ownOrigin =
      origin === undefined || hosts.some((h) => origin === `http://${h}`) || extraOrigins.includes(origin)
    const site = req.headers['sec-fetch-site']
    const fromElsewhere = site === 'cross-site' && req.method !== 'GET'
    if (!hosts.includes(host) || !ownOrigin || fromElsewhere) throw new AppError('foreign-origin')
    next()
  }
}

/** The value as the schema reads it, or AppError `bad-request` naming the first field. */
export function checked<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const r = schema.safeParse(value)
  if (r.success) return r.data
  const issue = r.error.issues[0]
  throw new AppError('bad-request', `${issue?.path.join('.') || 'It'}: ${issue?.message ?? 'wrong'}.`)
}

/** Errors as JSON of the catalogue; bugs are logged and stay nameless outside. */
export function errorWriter(log: Logger): ErrorRequestHandler {
  return (e: unknown, _req, res, _next) => {
    const error = toAppError(e)
    if (error.status >= 500) log.error(e)
    if (res.headersSent) {
      res.destroy()
      return
    }
    const { what, todo } = ERRORS[error.code]
    // a file's headers must not stay on its refusal
    for (const name of ['ETag', 'Last-Modified', 'Content-Length', 'Accept-Ranges']) res.removeHeader(name)
    res
      .status(error.status)
      .set('Cache-Control', 'no-store')
      .type('json')
      .json({ error: { code: error.code, what, todo, detail: error.detail ?? null, data: error.data ?? null } })
  }
}

function toAppError(thrown: unknown): AppError {
  const e = storageFault(thrown)
  if (e instanceof AppError) return e
  if (e instanceof URIError) return new AppError('bad-request')
  const { type, status } = (typeof e === 'object' && e !== null ? e : {}) as { type?: unknown; status?: unknown }
  if (type === 'request.aborted') return new AppError('upload-broken')
  if (status === 413) return new AppError('body-too-large')
  if (status === 416) return new AppError('range-unsatisfiable')
  if (status === 412) return new AppError('precondition-failed')
  if (status === 404) return new AppError('not-found')
  // whatever else Express and its parsers blame on the request: broken JSON, gzip, br, deflate, charsets, lengths
  if (typeof status === 'number' && status >= 400 && status < 500)
    return new AppError(
      'bad-request',
      typeof type === 'string' && type.startsWith('entity') ? 'Its body is not JSON.' : undefined,
    )
  return new AppError('internal')
}
