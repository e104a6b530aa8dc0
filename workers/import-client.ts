// The page's door to the import worker. A worker for each file: to cancel is to end it, and its memory goes with it.
import { proxy, wrap, type Remote } from 'comlink'
import { AppError, opened } from '#core/base'
import type { ReadProgress } from '#formats/import'
import type { Closedness, Elevation } from '#mesh'
import type { ImportDoor, ReadFile } from './contract.ts'

export interface ImportClient {
  /** AppError `model-unreadable` with what is wrong. */
  read(main: File, others: readonly File[], progress: ReadProgress): Promise<ReadFile>
  checksum(): Promise<string | null>
  front(up: 'y' | 'z'): Promise<Elevation | null>
  closedness(): Promise<Closedness | null>
  dispose(): void
}

export function createImport(): ImportClient {
  const worker = new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' })
  const door: Remote<ImportDoor> = wrap<ImportDoor>(worker)
  const broken = new Promise<never>((_, fail) =>
    worker.addEventListener('error', (e) =>
      fail(new AppError('model-unreadable', e.message || 'There is not enough memory to read it.')),
    ),
  )
  broken.catch(() => undefined)
  return {
    read: async (main, others, progress) =>
      opened(await Promise.race([door.read(main, [...others], proxy(progress)), broken])),
    checksum: () => Promise.race([door.checksum(), broken]),
    front: (up) => Promise.race([door.front(up), broken]),
    closedness: () => Promise.race([door.closedness(), broken]),
    dispose: () => worker.terminate(),
  }
}
