import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import request from 'supertest'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { aimAt, newProject, type ProjectDocument } from '#model'
import { configSchema, readConfig, startServer } from '#server'
import { roomGlb } from '../support/models.ts'
import { testServer, type TestServer } from '../support/server.ts'

const doc = (name = 'Hall'): ProjectDocument =>
  newProject({ name, subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })

let server: TestServer
const api = () => request(server.url)
beforeAll(async () => void (server = await testServer({ uploadLimitBytes: 300_000 })))
afterAll(() => server.end())

describe('projects', () => {
  it('are created, listed, opened, saved and removed', async () => {
    const made = await api().post('/api/projects').send({ document: doc() }).expect(201)
    const { id } = made.body
    const saved = await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('Loft') })
      .expect(200)
    expect(saved.body.revision).toBe(2)
    const opened = await api().get(`/api/projects/${id}`).expect(200)
    expect(opened.body).toMatchObject({ revision: 2, document: { name: 'Loft' } })
    expect((await api().get('/api/projects')).body.map((p: { name: string }) => p.name)).toContain('Loft')
    expect((await api().delete(`/api/projects/${id}`).expect(200)).body).toMatchObject({ sweptBytes: 0 })
    await api().get(`/api/projects/${id}`).expect(404)
  })
  it('a save on an old base is a conflict and changes nothing', async () => {
    const { id } = (await api().post('/api/projects').send({ document: doc() })).body
    await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('first tab') })
      .expect(200)
    const late = await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('second tab') })
      .expect(409)
    expect(late.body.error).toMatchObject({ code: 'revision-conflict', data: { revision: 2 } })
    expect(late.body.error.todo).toMatch(/Choose/)
    expect((await api().get(`/api/projects/${id}`)).body.document.name).toBe('first tab')
  })
  it('of two saves at once exactly one wins', async () => {
    const { id } = (await api().post('/api/projects').send({ document: doc() })).body
    const answers = await Promise.all(
      ['a', 'b', 'c', 'd'].map((n) =>
        api()
          .put(`/api/projects/${id}`)
          .send({ baseRevision: 1, document: doc(n) }),
      ),
    )
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409, 409])
  })
  it('keep every revision to list and restore', async () => {
    const { id } = (
      await api()
        .post('/api/projects')
        .send({ document: doc('one') })
    ).body
    await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('two') })
    const back = await api().post(`/api/projects/${id}/revisions/1/restore`).send({ baseRevision: 2 }).expect(200)
    expect(back.body.revision).toBe(3)
    expect((await api().get(`/api/projects/${id}`)).body.document.name).toBe('one')
    const list = (await api().get(`/api/projects/${id}/revisions`)).body
    expect(list.map((r: { number: number }) => r.number)).toEqual([3, 2, 1])
    await api().get(`/api/projects/${id}/revisions/9`).expect(404)
  })
  it.each([
    [{ baseRevision: 1 }, 422, 'document-invalid'],
    [{ document: doc() }, 400, 'bad-request'],
    [{ baseRevision: 1, document: { ...doc(), schemaVersion: 7 } }, 422, 'document-newer'],
    [{ baseRevision: 1, document: { ...doc(), unit: 'parsec' } }, 422, 'document-invalid'],
    [{ baseRevision: 'x', document: doc() }, 400, 'bad-request'],
    ['{"broken', 400, 'bad-request'],
  ])('refuse %#', async (body, status, code) => {
    const { id } = (
      await api()
        .post('/api/projects')
        .send({ document: doc('safe') })
    ).body
    const r = await api()
      .put(`/api/projects/${id}`)
      .set('Content-Type', 'application/json')
      .send(body as object)
      .expect(status)
    expect(r.body.error).toMatchObject({ code, todo: expect.stringMatching(/\w/) })
    expect((await api().get(`/api/projects/${id}`)).body.document.name).toBe('safe')
  })
  it('take a cover that is a picture and nothing else', async () => {
    const { id } = (await api().post('/api/projects').send({ document: doc() })).body
    await api().get(`/api/projects/${id}/cover`).expect(404)
    const jpeg = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3])
    await api().put(`/api/projects/${id}/cover`).set('Content-Type', 'image/jpeg').send(jpeg).expect(204)
    expect((await api().get(`/api/projects/${id}/cover`).expect(200)).body).toEqual(jpeg)
    await api().put(`/api/projects/${id}/cover`).set('Content-Type', 'image/png').send(jpeg).expect(400)
    await api().put(`/api/projects/${id}/cover`).set('Content-Type', 'text/html').send('<b>').expect(400)
  })
})

describe('the stream of changes', () => {
  /** Messages of a stream as they come; `until` waits for one that fits. */
  async function listen(url: string) {
    const abort = new AbortController()
    const res = await fetch(`${url}/api/changes`, { signal: abort.signal })
    const heard: { kind: string; id?: string; revision?: number; saveId?: string | null; projects?: { id: string }[] }[] = [] // prettier-ignore
    let ended = false
    void (async () => {
      const decoder = new TextDecoder()
      let rest = ''
      for await (const part of res.body!) {
        const lines = (rest + decoder.decode(part, { stream: true })).split('\n')
        rest = lines.pop()!
        for (const line of lines) if (line.startsWith('data: ')) heard.push(JSON.parse(line.slice(6)))
      }
    })()
      .catch(() => undefined)
      .finally(() => (ended = true))
    return { res, heard, stop: () => abort.abort(), isEnded: () => ended }
  }
  it('tells all there is, then each save by its sender’s name, and what is deleted', async () => {
    const { id } = (await api().post('/api/projects').send({ document: doc() })).body
    const s = await listen(server.url)
    expect(s.res.headers.get('content-type')).toMatch('text/event-stream')
    expect(s.res.headers.get('cache-control')).toBe('no-store')
    await expect.poll(() => s.heard[0]?.projects?.map((p) => p.id)).toContain(id)
    const saveId = 'a save of mine'
    await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('Loft'), saveId })
      .expect(200)
    // sent again it is the same save, and told once
    await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('Loft'), saveId })
      .expect(200)
    await api()
      .put(`/api/projects/${id}`)
      .send({ baseRevision: 1, document: doc('Hut') })
      .expect(409)
    await api().delete(`/api/projects/${id}`).expect(200)
    await expect
      .poll(() => s.heard.slice(1))
      .toMatchObject([
        { kind: 'saved', id, revision: 2, saveId },
        { kind: 'deleted', id },
      ])
    s.stop()
  })
  it('ends at once when the server stops, and never holds more than it can', async () => {
    const own = await testServer()
    const many: Awaited<ReturnType<typeof listen>>[] = []
    for (let i = 0; i < 66; i++) many.push(await listen(own.url))
    await expect.poll(() => many.filter((s) => s.isEnded()).length).toBe(2)
    const before = performance.now()
    await own.end()
    expect(performance.now() - before).toBeLessThan(2900)
    await expect.poll(() => many.every((s) => s.isEnded())).toBe(true)
  })
})

describe('assets', () => {
  const glb = Buffer.from(roomGlb())
  const sha = createHash('sha256').update(glb).digest('hex')
  const upload = (body: Buffer, headers: Record<string, string> = {}) =>
    api()
      .post('/api/assets')
      .set({ 'Content-Type': 'model/gltf-binary', 'X-File-Name': 'room%20one.glb', ...headers })
      .send(body)
  const chunks = async () => Number((await server.store.reader.query('SELECT COUNT(*) AS n FROM asset_chunk'))[0].n)

  it('go up and come down the same, once per content', async () => {
    const r = await upload(glb, { 'X-Content-Sha256': sha }).expect(201)
    expect(r.body).toEqual({ sha256: sha, sizeBytes: glb.length, fileName: 'room one.glb' })
    const before = await chunks()
    await upload(glb).expect(201)
    expect(await chunks()).toBe(before)
    const down = await api().get(`/api/assets/${sha}`).buffer(true).parse(binary).expect(200)
    expect(
      createHash('sha256')
        .update(down.body as Buffer)
        .digest('hex'),
    ).toBe(sha)
    expect(down.headers['cache-control']).toMatch(/immutable/)
  })
  it.each([
    ['a text', Buffer.from('hello, this is not a model at all'), {}, 422, 'model-unreadable'],
    ['an empty file', Buffer.alloc(0), {}, 422, 'upload-broken'],
    ['a cut-off GLB', glb.subarray(0, 400), {}, 422, 'model-unreadable'],
    ['a wrong checksum', glb, { 'X-Content-Sha256': 'a'.repeat(64) }, 422, 'upload-broken'],
    ['a file over the limit', Buffer.concat([glb, Buffer.alloc(300_000)]), {}, 413, 'upload-too-large'],
    ['another type', glb, { 'Content-Type': 'image/gif' }, 400, 'bad-request'],
  ])('refuse %s and keep nothing of it', async (_what, body, headers, status, code) => {
    const before = await chunks()
    const r = await upload(body, headers as Record<string, string>).expect(status)
    expect(r.body.error.code).toBe(code)
    expect(await chunks()).toBe(before)
  })
  it('of an upload that breaks off nothing stays', async () => {
    const before = await chunks()
    await new Promise<void>((resolve) => {
      const req = httpRequest(`${server.url}/api/assets`, {
        method: 'POST',
        headers: { 'Content-Type': 'model/gltf-binary', 'Content-Length': glb.length },
      })
      req.on('error', () => resolve())
      req.write(glb.subarray(0, 500), () => req.destroy())
    })
    await expect.poll(chunks).toBe(before)
  })
  it('photographs go up and come back as what they are; under another name, or as no picture at all, they are refused', async () => {
    const jpeg = readFileSync('node_modules/exif-js/example/DSCN0614_small.jpg')
    const send = (type: string, body: Buffer) => api().post('/api/assets').set('Content-Type', type).send(body)
    const up = await send('image/jpeg', jpeg).expect(201)
    const down = await api().get(`/api/assets/${up.body.sha256}`).buffer(true).expect(200)
    expect(down.headers['content-type']).toBe('image/jpeg')
    expect(Buffer.compare(down.body as Buffer, jpeg)).toBe(0)
    for (const [type, body] of [['image/png', jpeg], ['image/jpeg', Buffer.from('<svg onload=alert(1)>, not a photograph')], ['image/webp', Buffer.from('RIFF')]] as const) {
      const r = await send(type, body).expect(422)
      expect(r.body.error.code).toBe('photo-unreadable')
    } // prettier-ignore
    await send('image/svg+xml', Buffer.from('<svg/>')).expect(400)
  })
  it('unknown ones are said to be missing', async () => {
    expect(
      (
        await api()
          .get(`/api/assets/${'0'.repeat(64)}`)
          .expect(404)
      ).body.error.code,
    ).toBe('asset-missing')
    await api().get('/api/assets/../../etc/passwd').expect(404)
    await api().get('/api/assets/zz').expect(400)
  })
})
const binary = (res: request.Response, done: (e: Error | null, b: Buffer) => void): void => {
  const parts: Buffer[] = []
  const stream = res as unknown as NodeJS.ReadableStream
  stream.on('data', (d: Buffer) => parts.push(d))
  stream.on('end', () => done(null, Buffer.concat(parts)))
}

describe('the door', () => {
  it('answers only to its own name and its own pages', async () => {
    await api().get('/api/health').expect(200)
    await api().get('/api/health').set('Host', 'evil.example').expect(403)
    await api().get('/api/health').set('Origin', 'http://evil.example').expect(403)
    await api().get('/api/health').set('Origin', server.url).expect(200)
    await api().post('/api/projects').set('Sec-Fetch-Site', 'cross-site').send({ document: doc() }).expect(403)
    await api().get('/api/nothing').expect(404)
  })
  it('sends the headers that keep the page on its own', async () => {
    const { headers } = await api().get('/api/health')
    expect(headers['content-security-policy']).toMatch(/script-src 'self' 'wasm-unsafe-eval'/)
    expect(headers['cross-origin-opener-policy']).toBe('same-origin')
    expect(headers['x-powered-by']).toBeUndefined()
  })
  it('writes with a log and full synchronisation', async () => {
    const q = async (p: string) => Object.values((await server.store.reader.query(`PRAGMA ${p}`))[0])[0]
    expect([await q('journal_mode'), await q('synchronous'), await q('foreign_keys')]).toEqual(['wal', 2, 1])
  })
})

describe('starting', () => {
  it('says so when the port is taken or the folder cannot be written', async () => {
    const busy = createServer()
    await new Promise<void>((r) => busy.listen(0, '127.0.0.1', r))
    const { port } = busy.address() as { port: number }
    const dataDir = mkdtempSync(join(tmpdir(), 'yoroi-test-'))
    await expect(startServer(configSchema.parse({ port, dataDir, logLevel: 'silent' }))).rejects.toThrow(
      /Port \d+ is already in use/,
    )
    busy.close()
    writeFileSync(join(dataDir, 'file'), '')
    await expect(startServer(configSchema.parse({ port: 0, dataDir: join(dataDir, 'file', 'x') }))).rejects.toThrow(
      /cannot be written/,
    )
    rmSync(dataDir, { recursive: true })
  })
  it('reads flags before the environment and refuses nonsense', () => {
    expect(readConfig(['--port', '5000', '--data=/tmp/x'], { YOROI_PORT: '6000' })).toMatchObject({
      port: 5000,
      dataDir: '/tmp/x',
    })
    expect(readConfig([], { YOROI_PORT: '6000' }).port).toBe(6000)
    expect(() => readConfig(['--port', 'abc'], {})).toThrow(/“port” is not usable/)
  })
})
