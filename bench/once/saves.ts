// One measurement: 300 saves of a project with 40 viewpoints, one after the other over HTTP. Prints the median in ms. Uses only
// what earlier versions have too, so that bench/against.ts can run it in an older checkout.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { aimAt, newProject } from '#model'
import { configSchema, startServer } from '#server'

const dataDir = mkdtempSync(join(tmpdir(), 'yoroi-saves-'))
const server = await startServer(configSchema.parse({ port: 0, dataDir, logLevel: 'silent' }))
const plain = newProject({ name: 'Hall', subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })
const { working: parts } = plain
const viewpoints = Array.from({ length: 40 }, (_, i) => ({
  id: `v${i}`,
  name: `View ${i}`,
  locked: false,
  parts: { stand: parts.stand, lens: parts.lens, frame: parts.frame },
}))
const send = async (method: string, path: string, body: unknown): Promise<{ id: string; revision: number }> => {
  const headers = { 'Content-Type': 'application/json' }
  const r = await fetch(server.url + path, { method, headers, body: JSON.stringify(body) })
  return (await r.json()) as { id: string; revision: number }
}
const document = { ...plain, viewpoints }
const { id } = await send('POST', '/api/projects', { document })
const times: number[] = []
for (let n = 1; n <= 300; n++) {
  const begun = performance.now()
  const r = await send('PUT', `/api/projects/${id}`, { baseRevision: n, document: { ...document, name: `Hall ${n}` } })
  times.push(performance.now() - begun)
  if (r.revision !== n + 1) throw new Error('not saved')
}
await server.stop()
rmSync(dataDir, { recursive: true })
console.log(times.sort((a, b) => a - b)[150])
