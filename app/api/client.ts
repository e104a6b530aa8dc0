// The page's side of the server's API. Every failure is an AppError of the shared catalogue.
import { AppError, isErrorCode } from '#core/base'
import { watchChanges } from './changes.ts'
import {
  fingerprint,
  packed,
  patchBetween,
  readProjectDocument,
  type PackedDocument,
  type Patch,
  type ProjectDocument,
} from '#model'

export interface ProjectCard {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly createdAt: string
  readonly updatedAt: string
  readonly hasCover: boolean
}
export interface OpenedProject {
  readonly id: string
  readonly revision: number
  readonly savedAt: string
  readonly document: ProjectDocument
  /** Where the newest version could not be read and an older one is shown. */
  readonly damaged?: { readonly newest: number; readonly shown: number; readonly because: string }
}
/** How a save is known again when it is sent twice. */
export interface SaveMark {
  readonly saveId: string
  readonly unsure: readonly string[]
}
/** What a project takes up: what goes with it at once, and files that are swept later. */
export interface Weight {
  readonly nowBytes: number
  readonly sweptBytes: number
}
export interface Saved {
  readonly revision: number
  readonly savedAt: string
}
export interface AssetInfo {
  readonly sha256: string
  readonly sizeBytes: number
  readonly fileName: string
}
type Progress = (done: number) => void

async function failure(res: Response): Promise<AppError> {
  try {
    const { error } = (await res.json()) as { error: { code: unknown; detail: string | null; data: unknown } }
    if (isErrorCode(error.code)) return new AppError(error.code, error.detail ?? undefined, error.data)
  } catch {
    // not Yoroi's answer: fall through
  }
  return new AppError(res.status >= 500 ? 'internal' : 'not-found')
}

async function call(path: string, init: RequestInit = {}): Promise<Response> {
  let res: Response
  try {
    res = await fetch(`/api${path}`, init)
  } catch {
    throw new AppError('offline')
  }
  if (!res.ok) throw await failure(res)
  return res
}
const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})

function checked(opened: OpenedProject): OpenedProject {
  const r = readProjectDocument(opened.document)
  if (!r.ok) throw new AppError(r.reason === 'newer-version' ? 'document-newer' : 'document-invalid', r.message)
  return { ...opened, document: r.value }
}

/** Longer patches are weighed against the whole document. */
const SHORT_PATCH = 32_000
function isShort(patch: Patch, whole: PackedDocument): boolean {
  const length = JSON.stringify(patch).length
  return length < SHORT_PATCH || length < JSON.stringify(whole).length / 2
}

export const api = {
  changes: watchChanges,
  projects: async (): Promise<ProjectCard[]> => (await call('/projects')).json() as Promise<ProjectCard[]>,
  open: async (id: string): Promise<OpenedProject> =>
    checked((await (await call(`/projects/${encodeURIComponent(id)}`)).json()) as OpenedProject),
  /** Sent again under the same id (an answer that never came) it is the same project. */
  create: async (document: ProjectDocument, id: string = crypto.randomUUID()): Promise<OpenedProject> =>
    checked(
      (await (await call('/projects', json('POST', { document: packed(document), id }))).json()) as OpenedProject,
    ),
  /**
   * Saves a document on a base. Where the base's document is given, what changed is sent, or all of it where that is shorter or does
   * not fit what is stored.
   */
  save: async (
    id: string,
    baseRevision: number,
    document: ProjectDocument,
    mark: SaveMark,
    base: ProjectDocument | null = null,
  ): Promise<Saved> => {
    const path = `/projects/${encodeURIComponent(id)}`
    const put = async (body: object): Promise<Saved> =>
      (await call(path, json('PUT', { baseRevision, ...body, ...mark }))).json() as Promise<Saved>
    const now = packed(document)
    const patch = base && patchBetween(packed(base), now)
    if (!patch || !isShort(patch, now)) return put({ document: now })
    try {
      return await put({ patch, fingerprint: fingerprint(now) })
    } catch (e) {
      if (!(e instanceof AppError) || e.code !== 'patch-mismatch') throw e
      return put({ document: now })
    }
  },
  weight: async (id: string): Promise<Weight> =>
    (await call(`/projects/${encodeURIComponent(id)}/weight`)).json() as Promise<Weight>,
  remove: async (id: string): Promise<Weight> =>
    (await call(`/projects/${encodeURIComponent(id)}`, { method: 'DELETE' })).json() as Promise<Weight>,
  setCover: async (id: string, picture: Blob): Promise<void> =>
    void (await call(`/projects/${encodeURIComponent(id)}/cover`, {
      method: 'PUT',
      headers: { 'Content-Type': picture.type },
      body: picture,
    })),
  coverUrl: (card: ProjectCard): string =>
    `/api/projects/${encodeURIComponent(card.id)}/cover?at=${encodeURIComponent(card.updatedAt)}`,

  /** The asset's bytes, with progress 0..1. */
  async asset(sha256: string, onProgress: Progress): Promise<Uint8Array> {
    const res = await call(`/assets/${sha256}`)
    const total = Number(res.headers.get('Content-Length') ?? 0)
    if (!res.body || !total) return new Uint8Array(await res.arrayBuffer())
    const out = new Uint8Array(total)
    let at = 0
    const reader = res.body.getReader()
    for (;;) {
      const { done, value } = await reader.read().catch(() => {
        throw new AppError('offline')
      })
      if (done) break
      if (at + value.length > total) throw new AppError('upload-broken')
      out.set(value, at)
      at += value.length
      onProgress(at / total)
    }
    if (at !== total) throw new AppError('asset-missing', 'It arrived incomplete. Reload the page.')
    return out
  },

  assetUrl: (sha256: string): string => `/api/assets/${sha256}`,

  /** Sends a GLB or a photograph up, with progress 0..1; an aborted signal rejects with an AbortError. */
  upload(
    file: Blob,
    name: string,
    sha256: string | null,
    onProgress: Progress,
    signal: AbortSignal,
    type = 'model/gltf-binary',
  ): Promise<AssetInfo> {
    return new Promise((resolve, reject) => {
      // fetch has no upload progress
      const xhr = new XMLHttpRequest()
      xhr.open('POST', '/api/assets')
      xhr.setRequestHeader('Content-Type', type)
      xhr.setRequestHeader('X-File-Name', encodeURIComponent(name))
      if (sha256) xhr.setRequestHeader('X-Content-Sha256', sha256)
      xhr.upload.onprogress = (e) => onProgress(e.total ? e.loaded / e.total : 0)
      xhr.onload = () => {
        if (xhr.status === 201) resolve(JSON.parse(xhr.responseText) as AssetInfo)
        else void failure(new Response(xhr.responseText, { status: xhr.status })).then(reject)
      }
      xhr.onerror = () => reject(new AppError('offline'))
      xhr.onabort = () => reject(new DOMException('Cancelled', 'AbortError'))
      signal.addEventListener('abort', () => xhr.abort())
      xhr.send(file)
    })
  },
}
export type { Told } from './changes.ts'
