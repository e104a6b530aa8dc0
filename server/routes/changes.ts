// Changes of projects as a stream of server-sent events (WHATWG HTML, 9.2): first all projects as they are, then each change.
import { Router, type Response } from 'express'
import type { Changes } from '../changes.ts'
import type { Projects } from '../projects.ts'

/** A line now and then, so that nobody takes a quiet stream for a dead one. */
const PULSE_MS = 20_000
/** More streams than this at once end the oldest, which comes back later. */
const MOST = 64
const BACK_AFTER_MS = 3000

export function changeRoutes(projects: Projects, changes: Changes): Router {
  const open: Response[] = []
  const r = Router()
  r.get('/changes', async (req, res) => {
    // what changes while the list is read is told after it
    const waiting: string[] = []
    let write = (text: string): unknown => waiting.push(text)
    const stop = changes.listen(
      (change) => void write(`data: ${JSON.stringify(change)}\n\n`),
      () => res.end(),
    )
    const pulse = setInterval(() => void write(':\n\n'), PULSE_MS).unref()
    req.on('close', () => {
      stop()
      clearInterval(pulse)
      const at = open.indexOf(res)
      if (at >= 0) open.splice(at, 1)
    })
    const all = (await projects.list()).map(({ id, revision, updatedAt }) => ({ id, revision, savedAt: updatedAt }))
    if (req.destroyed) return
    open.push(res)
    if (open.length > MOST) open[0]!.end()
    res.status(200).type('text/event-stream').flushHeaders()
    res.write(`retry: ${BACK_AFTER_MS}\ndata: ${JSON.stringify({ kind: 'all', projects: all })}\n\n`)
    for (const text of waiting) res.write(text)
    write = (text) => res.write(text)
  })
  return r
}
