// Reading of model files in a worker: a thin door, no reading here.
import { expose, transfer } from 'comlink'
import dracoUrl from 'draco3d/draco_decoder.wasm?url'
import { AppError, failureData } from '#core/base'
import { readModel, type PickedFile } from '#formats/import'
import type { Box } from '#core/math'
import { elevation, watertight, type Soup } from '#mesh'
import type { ImportDoor } from './contract.ts'

const PREVIEW_PX = 220
let read: { readonly soup: Soup; readonly box: Box } | null = null

const hex = (digest: ArrayBuffer): string =>
  [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('')
const sha256 = (bytes: Uint8Array): Promise<ArrayBuffer> =>
  crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>)

const picked = async (f: File): Promise<PickedFile> => {
  try {
    return { name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) }
  } catch {
    throw new AppError('model-unreadable', `“${f.name}” cannot be read from the disk. Pick it again.`)
  }
}

expose({
  async read(main, others, progress) {
    try {
      const dracoWasm = async (): Promise<ArrayBuffer> => (await fetch(dracoUrl)).arrayBuffer()
      const [first, rest] = await Promise.all([picked(main), Promise.all(others.map(picked))])
      // a GLB is mostly stored as it is: its checksum is worked out beside the reading
      const early = sha256(first.bytes)
      const { glb, facts, soup } = await readModel(
        first,
        rest,
        { dracoWasm },
        (what, done) => void progress(what, done),
      )
      read = { soup, box: facts.box }
      const digest = await (glb === first.bytes ? early : sha256(glb))
      return transfer({ ok: true as const, value: { glb, sha256: hex(digest), facts } }, [glb.buffer as ArrayBuffer])
    } catch (e) {
      return failureData(e)
    }
  },
  async front(up) {
    if (!read) return null
    const drawn = elevation(read.soup, read.box, up, PREVIEW_PX)
    return transfer(drawn, [drawn.pixels.buffer as ArrayBuffer])
  },
  closedness: async () => (read ? watertight(read.soup) : null),
} satisfies ImportDoor)
