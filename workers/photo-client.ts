// The page's doors to the worker that holds a photograph and to the one that solves its camera.
import { wrap } from 'comlink'
import { AppError, opened } from '#core/base'
import type { MatchDoor, OpenedPhoto, PhotoDoor } from './photo-contract.ts'

export interface PhotoClient extends Omit<PhotoDoor, 'open'> {
  /** AppError `photo-unreadable`. */
  open(file: Blob): Promise<OpenedPhoto>
  dispose(): void
}
export function createPhoto(): PhotoClient {
  const worker = new Worker(new URL('./photo.worker.ts', import.meta.url), { type: 'module' })
  const door = wrap<PhotoDoor>(worker) as unknown as PhotoDoor
  const broken = new Promise<never>((_, fail) =>
    worker.addEventListener('error', () =>
      fail(new AppError('photo-unreadable', 'There is not enough memory for it.')),
    ),
  )
  broken.catch(() => undefined)
  const sure = <T>(p: Promise<T>): Promise<T> => Promise.race([p, broken])
  return {
    open: async (file) => opened(await sure(door.open(file))),
    preview: (n) => sure(door.preview(n)),
    part: (...at) => sure(door.part(...at)),
    edges: () => sure(door.edges()),
    refine: (a, b, reach) => sure(door.refine(a, b, reach)),
    straightened: (lens) => sure(door.straightened(lens)),
    dispose: () => worker.terminate(),
  }
}

export interface MatchClient extends MatchDoor {
  dispose(): void
}
export function createMatch(): MatchClient {
  const worker = new Worker(new URL('./match.worker.ts', import.meta.url), { type: 'module' })
  const door = wrap<MatchDoor>(worker) as unknown as MatchDoor
  return { solve: (a) => door.solve(a), weakest: (a, m) => door.weakest(a, m), dispose: () => worker.terminate() }
}
