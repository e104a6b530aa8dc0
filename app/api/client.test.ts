import { afterEach, describe, expect, it, vi } from 'vitest'
import { AppError } from '#core/base'
import { aimAt, newProject } from '#model'
import { failureText } from '../stores/notices.ts'
import { api } from './client.ts'

const doc = newProject({ name: 'Hall', subject: 'room', stand: aimAt([0, 0, 1.6], [1, 0, 1.6]), models: [] })
const answer = (status: number, body: unknown, headers: Record<string, string> = {}) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(typeof body === 'string' ? body : JSON.stringify(body), { status, headers })),
  )
const code = async (work: Promise<unknown>): Promise<string> => {
  const e = await work.then(() => null, (x: unknown) => x) // prettier-ignore
  return e instanceof AppError ? e.code : String(e)
}
afterEach(() => vi.unstubAllGlobals())

describe('answers of the server', () => {
  it('a project comes in checked; a damaged or newer one is refused by name', async () => {
    answer(200, { id: 'a', revision: 3, savedAt: 'now', document: doc })
    expect((await api.open('a')).revision).toBe(3)
    answer(200, { id: 'a', revision: 3, savedAt: 'now', document: { ...doc, unit: 'ell' } })
    expect(await code(api.open('a'))).toBe('document-invalid')
    answer(200, { id: 'a', revision: 3, savedAt: 'now', document: { ...doc, schemaVersion: 12 } })
    expect(await code(api.open('a'))).toBe('document-newer')
  })
  it('errors keep their code, detail and data', async () => {
    answer(409, { error: { code: 'revision-conflict', detail: null, data: { revision: 5 } } })
    const e = await api.save('a', 2, doc, { saveId: 'save-1234', unsure: [] }).catch((x: unknown) => x)
    expect(e).toMatchObject({ code: 'revision-conflict', status: 409, data: { revision: 5 } })
    answer(422, { error: { code: 'model-unreadable', detail: 'It is cut off.', data: null } })
    const text = failureText(await api.projects().catch((x: unknown) => x))
    expect(text).toBe('The model file cannot be read. It is cut off. Export it again as binary glTF (.glb).')
  })
  it('what is not Yoroi’s answer, or none at all, is still told in words', async () => {
    answer(502, '<html>bad gateway</html>')
    expect(await code(api.projects())).toBe('internal')
    answer(404, { error: { code: 'something-new' } })
    expect(await code(api.projects())).toBe('not-found')
    vi.stubGlobal(
      'fetch',
      vi.fn(() => Promise.reject(new TypeError('failed'))),
    )
    expect(await code(api.projects())).toBe('offline')
    expect(failureText(new Error('stack'))).not.toContain('stack')
  })
  it('an asset comes whole with its progress, or not at all', async () => {
    const bytes = 'x'.repeat(2000)
    answer(200, bytes, { 'Content-Length': '2000' })
    const seen: number[] = []
    expect((await api.asset('f'.repeat(64), (p) => seen.push(p))).length).toBe(2000)
    expect(seen.at(-1)).toBe(1)
    answer(200, bytes, { 'Content-Length': '2500' })
    expect(await code(api.asset('f'.repeat(64), () => undefined))).toBe('asset-missing')
    answer(200, bytes, { 'Content-Length': '500' })
    expect(await code(api.asset('f'.repeat(64), () => undefined))).toBe('upload-broken')
  })
  it('ids are escaped, covers are asked for anew when the project changed', async () => {
    answer(204, '')
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => new Response('{}')),
    )
    await api.remove('a/../b')
    expect(vi.mocked(fetch).mock.calls[0]![0]).toBe('/api/projects/a%2F..%2Fb')
    expect(
      api.coverUrl({
        id: 'a',
        name: 'n',
        revision: 1,
        createdAt: '',
        updatedAt: '2026-01-02T03:04:05Z',
        hasCover: true,
      }),
    ).toBe('/api/projects/a/cover?at=2026-01-02T03%3A04%3A05Z')
  })
})
