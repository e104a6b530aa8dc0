// The page's door to the stage: in a worker where OffscreenCanvas exists, else on the page's own thread with the same code.
import { proxy, transfer, wrap, type Remote } from 'comlink'
import { opened } from '#core/base'
import type { StageDoor } from './door.ts'
import type { StageContract } from './types.ts'

export interface StageClient extends StageContract {
  readonly kind: 'worker' | 'page'
}

/** Rejects when neither way can make a GL context. */
export async function createStage(): Promise<StageClient> {
  if (typeof OffscreenCanvas !== 'undefined') return workerStage()
  const { StageEngine } = await import('./engine.ts')
  const engine = new StageEngine(document.createElement('canvas'))
  return Object.assign(engine, { kind: 'page' as const })
}

function workerStage(): StageClient {
  const worker = new Worker(new URL('./stage.worker.ts', import.meta.url), { type: 'module' })
  const door: Remote<StageDoor> = wrap<StageDoor>(worker)
  // a worker that cannot start fails every call instead of leaving it open for ever
  const broken = new Promise<never>((_, fail) => {
    worker.addEventListener('error', (e) => fail(new Error(e.message || 'The stage could not be started.')))
  })
  broken.catch(() => undefined)
  const call = async <T>(outcome: Promise<unknown>): Promise<T> =>
    opened((await Promise.race([outcome, broken])) as Parameters<typeof opened<T>>[0])
  return {
    kind: 'worker',
    load: (models, exact) =>
      call(
        door.load(
          transfer(
            [...models],
            [...new Set(models.flatMap((m) => (m.bytes instanceof Uint8Array ? [m.bytes.buffer as ArrayBuffer] : [])))],
          ),
          exact ?? null,
        ),
      ),
    soup: () => call(door.soup()),
    connect: (port) => void door.connect(transfer(port, [port])),
    setLight: (volume, appearance) => call(door.setLight(volume, appearance)),
    picture: (request, onFrame) => call(door.picture(request, proxy(onFrame))),
    stopPicture: (place) => void door.stopPicture(place),
    held: () => call(door.held()),
    drawing: (request) => call(door.drawing(request)),
    outline: (request) => call(door.outline(request)),
    thumbnail: (key, request) => call(door.thumbnail(key, request)),
    still: (request, onProgress) => call(door.still(request, proxy(onProgress))),
    cancelStill: () => void door.cancelStill(),
    meter: (request) => call(door.meter(request)),
    spot: (request, place) => call(door.spot(request, place)),
    dispose: () => worker.terminate(),
  }
}
