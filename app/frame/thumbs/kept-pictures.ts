// Which small pictures are kept, by what they show: what is on the screen always, of the rest the newest; the one before of each framing.
import { LRUCache } from 'lru-cache'
import { shallowReactive } from 'vue'
import { CAMERA_PARTS } from '#model'

const KEPT = 200

/** Under way; each request has its own, so that an answer that comes too late is known. */
export interface Asked {
  readonly asked: true
}
type Entry = ImageBitmap | Asked | 'failed'

/** Stand, lens and frame come first in a key: pictures of one framing in another light, or with other things hidden. */
const framingOf = (key: string): string => key.split('|').slice(0, CAMERA_PARTS.length).join('|')

export function createKeptPictures() {
  const pictures = shallowReactive(new Map<string, Entry>())
  /** How many places on the screen show a picture; those are never dropped. */
  const held = new Map<string, number>()
  const recent = new LRUCache<string, true>({ max: KEPT, dispose: (_, key) => drop(key) })
  /** What was drawn last of a framing, before light or model changed; shown, marked, until it is drawn anew. */
  const old = new LRUCache<string, ImageBitmap>({ max: KEPT, dispose: (p) => p.close() })
  /** By framing, the key that was drawn last. */
  const latest = new Map<string, string>()

  function drop(key: string): void {
    if (held.has(key)) return
    const p = pictures.get(key)
    if (p instanceof ImageBitmap) p.close()
    pictures.delete(key)
  }
  /** The picture of `key` came; it is closed where the entry is no longer this request's. */
  function answer(key: string, mine: Asked, b: ImageBitmap | null): void {
    if (pictures.get(key) !== mine) return b?.close()
    if (!b) return void pictures.delete(key)
    pictures.set(key, b)
    recent.set(key, true)
    latest.set(framingOf(key), key)
    old.delete(framingOf(key))
  }
  /** All are to be drawn anew; with `forget` the old ones go too. */
  function outdate(forget: boolean): void {
    const all = [...pictures]
    pictures.clear()
    recent.clear()
    for (const [key, p] of all) if (p instanceof ImageBitmap) old.set(framingOf(key), p)
    latest.clear()
    if (forget) old.clear()
  }
  function release(key: string): void {
    const n = (held.get(key) ?? 1) - 1
    if (n > 0) return void held.set(key, n)
    held.delete(key)
    if (!recent.has(key)) drop(key)
  }
  return {
    peek: (key: string): Entry | undefined => pictures.get(key),
    /** What is there of `key`, which counts as used now. */
    get: (key: string): Entry | undefined => (recent.get(key), pictures.get(key)),
    ask: (key: string, mine: Asked): void => void pictures.set(key, mine),
    answer,
    fail: (key: string, mine: Asked): void => void (pictures.get(key) === mine && pictures.set(key, 'failed')),
    /** A picture of the same framing as it was, while the one of `key` is on its way. */
    older(key: string): ImageBitmap | null {
      const framing = framingOf(key)
      const before = pictures.get(latest.get(framing) ?? '')
      return before instanceof ImageBitmap ? before : (old.get(framing) ?? null)
    },
    outdate,
    hold: (key: string): void => void held.set(key, (held.get(key) ?? 0) + 1),
    release,
  }
}
