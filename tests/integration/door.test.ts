import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, deflateSync, gzipSync } from 'node:zlib'
import fc from 'fast-check'
import request from 'supertest'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ERRORS } from '#core/base'
import { aimAt, newProject, projectSchema, type ProjectDocument } from '#model'
import { ownHostOnly } from '../../server/http/guards.ts'
import { testServer, type TestServer } from '../support/server.ts'

const doc = (name = 'Hall'): ProjectDocument =>
  newProject({ name, subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })
let server: TestServer
let pages: string
const api = () => request(server.url)
beforeAll(async () => {
  pages = join(mkdtempSync(join(tmpdir(), 'yoroi-pages-')), '.hidden', 'dist')
  mkdirSync(join(pages, 'assets'), { recursive: true })
  writeFileSync(join(pages, 'index.html'), '<html><style nonce="YOROI_NONCE"></style>the page</html>')
  writeFileSync(join(pages, 'assets', 'a.js'), 'export {}')
  server = await testServer({ staticDir: pages })
})
afterAll(async () => {
  await server.end()
  rmSync(join(pages, '..', '..'), { recursive: true })
})

/** An answer that bad input may get: told by the catalogue, never a failure of the server. */
function told(r: request.Response): void {
  expect(r.status, JSON.stringify(r.body)).toBeLessThan(500)
  if (r.status < 400) return
  expect(Object.keys(ERRORS)).toContain(r.body.error.code)
  expect(r.body.error.todo).toMatch(/\w/)
}
const send = (body: unknown) =>
  api()
    .post('/api/projects')
    .set('Content-Type', 'application/json')
    .send(typeof body === 'string' ? body : JSON.stringify({ document: body }))

describe('bad input is named, never a 500', () => {
  const first = { schemaVersion: 1, name: 'old', models: [] as unknown }
  it.each([
    ['nulls for models', { ...first, models: [null] }],
    ['a null for the list', { ...first, models: null }],
    ['an object for a name', { ...first, models: [{ name: { toString: null } }] }],
    ['numbers for hidden names', { ...first, working: { visible: { hidden: [null, {}, 3] } } }],
    ['no list at all', { schemaVersion: 2 }],
    ['lists that are objects', { ...doc(), viewpoints: { length: 3 }, leftBehind: null, trail: { steps: {}, at: 0 } }],
  ])('%s', async (_what, body) => {
    const r = await send(body)
    told(r)
    expect(r.status).toBe(422)
  })
  it.each([1, 2])('a document of version %i that is nested 100,000 levels deep', async (version) => {
    const deep = '['.repeat(100_000) + ']'.repeat(100_000)
    const r = await send(`{"document":{"schemaVersion":${version},"name":"deep","models":[],"x":${deep}}}`)
    told(r)
    expect(r.status).toBe(422)
    const objects = '{"a":'.repeat(100_000) + '1' + '}'.repeat(100_000)
    told(await send(`{"document":{"schemaVersion":${version},"working":${objects}}}`))
  })
  it.each(['gzip', 'br', 'deflate', 'zstd', 'gzip, gzip'])('a broken %s body', async (encoding) => {
    const whole = Buffer.from(JSON.stringify({ document: doc() }))
    const packers: Record<string, (b: Buffer) => Buffer> = {
      gzip: gzipSync,
      br: brotliCompressSync,
      deflate: deflateSync,
    }
    const packed = packers[encoding]?.(whole) ?? whole
    for (const body of [
      packed.subarray(0, packed.length / 2),
      Buffer.concat([Buffer.from('?'), packed]),
      Buffer.alloc(0),
    ]) {
      const r = await api()
        .post('/api/projects')
        .set({ 'Content-Type': 'application/json', 'Content-Encoding': encoding })
        .serialize((b) => b as unknown as string)
        .send(body)
      told(r)
      expect(r.status).toBeGreaterThanOrEqual(400)
    }
  })
  it.each([
    { Range: 'bytes=99999999-' },
    { Range: 'bytes=-0' },
    { Range: 'bytes=a-b,,,' },
    { Range: `bytes=${Array.from({ length: 400 }, (_, i) => `${i}-${i}`).join(',')}` },
    { 'If-Match': '"something else"' },
    { 'If-Match': '💥'.length + '*'.repeat(3000) },
    { 'If-Unmodified-Since': 'Thu, 01 Jan 1970 00:00:00 GMT' },
    { 'If-None-Match': '*'.repeat(3000) },
    { Accept: '\\,;q=x' },
  ])('headers %#', async (headers) => {
    for (const path of ['/assets/a.js', '/', '/project/x', '/api/projects', '/api/assets/zz'])
      await api()
        .get(path)
        .set(headers as Record<string, string>)
        .then(told, () => undefined)
  })
  it.each([
    '/%',
    '/%E0%A4%A',
    '/api/projects/%00',
    '/api/projects/' + 'a'.repeat(5000),
    '/assets/%2e%2e/%2e%2e/etc/passwd',
    '//evil',
    '/api/projects/x/revisions/1e99',
    '/api/projects/x/revisions/NaN',
  ])('the address %s', async (path) => told(await api().get(path)))
  it('a name of a file that is no address text', async () =>
    told(
      await api()
        .post('/api/assets')
        .set({ 'Content-Type': 'model/gltf-binary', 'X-File-Name': '%E0%A4%A' })
        .send(Buffer.from('glTF')),
    ))
  it('what is no HTTP at all', async () => {
    const text = await new Promise<string>((resolve) => {
      const socket = connect(server.port, '127.0.0.1', () => socket.write('HELO there\r\n\r\n'))
      let got = ''
      socket.on('data', (d: Buffer) => (got += String(d))).on('close', () => resolve(got))
    })
    expect(text).toMatch(/^HTTP\/1\.1 400[^]*Content-Security-Policy/)
  })
  it('long lists of nothing are refused by their length, before their items are looked at', async () => {
    const empties = Array.from({ length: 300_000 }, () => ({}))
    for (const name of ['viewpoints', 'leftBehind', 'models']) {
      const r = await send({ ...doc(), [name]: empties })
      told(r)
      expect(r.body.error.detail).toMatch(/at most \d+ are possible, these are 300000/)
    }
    // millions are refused before they are parsed
    const r = await send(`{"document":{"viewpoints":[${'{},'.repeat(5_000_000)}{}]}}`)
    told(r)
    expect(r.status).toBe(413)
  })
  it('2,000 documents with something wrong in them', { timeout: 120_000 }, async () => {
    const odd = fc.oneof(
      fc.constantFrom(null, '', 'x'.repeat(300), -1, 0.5, 1e300, true, [], {}, [null], { kind: 'none' }),
      fc.double(),
      fc.string(),
    )
    const whole = doc() as unknown as Record<string, unknown>
    const paths: string[][] = []
    const walk = (v: unknown, at: string[]): void => {
      if (typeof v !== 'object' || v === null) return
      for (const [k, w] of Object.entries(v)) {
        paths.push([...at, k])
        walk(w, [...at, k])
      }
    }
    walk(whole, [])
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.constantFrom(...paths), fc.option(odd, { nil: undefined })), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.constantFrom(1, 2, 2, 2),
        async (changes, version) => {
          const value = structuredClone(whole)
          value['schemaVersion'] = version
          for (const [path, v] of changes) {
            let o: unknown = value
            for (const k of path.slice(0, -1))
              o = typeof o === 'object' && o !== null ? (o as Record<string, unknown>)[k] : null
            if (typeof o === 'object' && o !== null) (o as Record<string, unknown>)[path.at(-1)!] = v
          }
          const r = await send(value)
          told(r)
          // what is taken is what the schema says, and comes back as it was taken
          if (r.status === 201) expect(projectSchema.safeParse(r.body.document).success).toBe(true)
        },
      ),
      { numRuns: 2000, seed: 4780 },
    )
  })
})

describe('every answer', () => {
  it('carries the security headers, refusals included', async () => {
    const answers = [
      await api().get('/api/health'),
      await api().get('/api/health').set('Host', 'evil.example').expect(403),
      await api().get('/api/nothing').expect(404),
      await api().get('/assets/a.js').set('Range', 'bytes=99-').expect(416),
      await api().get('/').expect(200),
    ]
    for (const { headers } of answers) {
      expect(headers['content-security-policy']).toMatch(/default-src 'self'.*font-src 'self'/)
      expect(headers['content-security-policy']).not.toMatch(/unsafe-inline|https:/)
      expect(headers['x-content-type-options']).toBe('nosniff')
    }
  })
  it('brings the page with a nonce of its own, also from a folder inside a hidden one', async () => {
    const nonces = new Set<string>()
    for (const path of ['/', '/project/some', '/index.html']) {
      const r = await api().get(path).set('Accept', 'text/html').expect(200)
      const nonce = /style nonce="([^"]{20,})"/.exec(r.text)?.[1] ?? ''
      expect(r.headers['content-security-policy']).toContain(`style-src 'self' 'nonce-${nonce}'`)
      expect(r.headers['cache-control']).toBe('no-store')
      nonces.add(nonce)
    }
    expect(nonces.size).toBe(3)
    await api().get('/assets/a.js').expect(200)
    await api().get('/assets/b.js').expect(404)
  })
  it('is given on port 80 under its plain name', () => {
    const passes = (port: number, host: string): boolean => {
      let passed = false
      try {
        ownHostOnly(() => port, [])({ headers: { host }, method: 'GET' } as never, {} as never, () => (passed = true))
      } catch {
        passed = false
      }
      return passed
    }
    expect([passes(80, 'localhost'), passes(80, '127.0.0.1:80'), passes(80, '[::1]')]).toEqual([true, true, true])
    expect([passes(4780, 'localhost'), passes(80, 'evil'), passes(4780, 'localhost:80')]).toEqual([false, false, false])
  })
})
