// The stage in a worker of its own: a thin door, no drawing here.
import { expose, transfer } from 'comlink'
import { StageEngine } from './engine.ts'
import { failureData, type Outcome } from '#core/base'
import type { StageDoor } from './door.ts'
import type { PictureFrame } from './types.ts'

const engine = new StageEngine(new OffscreenCanvas(16, 16))
const outcome = async <T>(
  work: () => Promise<T> | T,
  hand: (v: T) => Transferable[] = () => [],
): Promise<Outcome<T>> => {
  try {
    const value = await work()
    return transfer({ ok: true as const, value }, hand(value))
  } catch (e) {
    return failureData(e)
  }
}

const door: StageDoor = {
  load: (models, exact) => outcome(() => engine.load(models, exact)),
  soup: () => outcome(() => engine.soup(), ({ soup }) => [soup.positions.buffer, soup.nodeOfVertex.buffer, soup.albedo.buffer, soup.emission.buffer, soup.indices.buffer]), // prettier-ignore
  connect: (port) => engine.connect(port),
  setLight: (volume, appearance) => outcome(() => engine.setLight(volume, appearance)),
  picture: (request, onFrame) =>
    outcome(() => engine.picture(request, (frame: PictureFrame) => void onFrame(transfer(frame, [frame.bitmap])))),
  stopPicture: (place) => engine.stopPicture(place),
  held: () => outcome(() => engine.held()),
  drawing: (request) =>
    outcome(
      () => engine.drawing(request),
      (b) => (b ? [b] : []),
    ),
  outline: (request) =>
    outcome(
      () => engine.outline(request),
      (b) => (b ? [b] : []),
    ),
  thumbnail: (key, request) =>
    outcome(
      () => engine.thumbnail(key, request),
      (b) => (b ? [b] : []),
    ),
  still: (request, onProgress) => outcome(() => engine.still(request, (done) => void onProgress(done))),
  cancelStill: () => engine.cancelStill(),
  meter: (request) => outcome(() => engine.meter(request)),
  spot: (request, place) => outcome(() => engine.spot(request, place)),
  dispose: () => engine.dispose(),
}
expose(door)
