// Reading of model files in a worker: a thin door, no reading here.
import { expose, transfer } from 'comlink'
import dracoUrl from 'draco3d/draco_decoder.wasm?url'
import { AppError, failureData } from '#core/base'
import { readModel, type PickedFile } from '#formats/import'
import { elevation, watertight, type Soup } from '#mesh'
import type { ImportDoor } from './contract.ts'

const PREVIEW_PX = 220
let read: Soup | null = null

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
      read = soup
      void progress('Drawing the size', 0.95)
      const y = elevation(soup, facts.box, 'y', PREVIEW_PX)
      const z = elevation(soup, facts.box, 'z', PREVIEW_PX)
      const digest = await crypto.subtle.digest('SHA-256', glb as Uint8Array<ArrayBuffer>)
      const sha256 = [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('')
      return transfer({ ok: true as const, value: { glb, sha256, facts, front: { y, z } } }, [
        glb.buffer as ArrayBuffer,
        y.pixels.buffer as ArrayBuffer,
        z.pixels.buffer as ArrayBuffer,
      ])
    } catch (e) {
      return failureData(e)
    }
  },
  closedness: async () => (read ? watertight(read) : null),
} satisfies ImportDoor)
