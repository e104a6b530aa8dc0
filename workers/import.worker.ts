// Reading of model files in a worker: a thin door, no reading here.
import { expose, transfer } from 'comlink'
import dracoUrl from 'draco3d/draco_decoder.wasm?url'
import { AppError, failureData } from '#core/base'
import { readModel, type PickedFile } from '#formats/import'
import type { Box } from '#core/math'
import { elevation, watertight, type Soup } from '#mesh'
import type { ImportDoor } from './contract.ts'

const PREVIEW_PX = 220
let read: { readonly soup: () => Soup; readonly box: Box; readonly glb: Blob } | null = null

const hex = (digest: ArrayBuffer): string =>
  [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('')
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
      const { glb, facts, soup } = await readModel(
        first,
        rest,
        { dracoWasm },
        (what, done) => void progress(what, done),
      )
      // handed over as a blob: nothing is copied. A GLB that stays as it is, is the picked file itself
      const blob =
        glb === first.bytes ? main : new Blob([glb as Uint8Array<ArrayBuffer>], { type: 'model/gltf-binary' })
      read = { soup, box: facts.box, glb: blob }
      return { ok: true as const, value: { glb: blob, facts } }
    } catch (e) {
      return failureData(e)
    }
  },
  async checksum() {
    return read ? hex(await crypto.subtle.digest('SHA-256', await read.glb.arrayBuffer())) : null
  },
  async front(up) {
    if (!read) return null
    const drawn = elevation(read.soup(), read.box, up, PREVIEW_PX)
    return transfer(drawn, [drawn.pixels.buffer as ArrayBuffer])
  },
  closedness: async () => (read ? watertight(read.soup()) : null),
} satisfies ImportDoor)
