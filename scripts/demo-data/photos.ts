// The demo's photographs of the hall: made by `scripts/demo-photos.ts`, their lines and points drawn in the Photograph view by hand
// (photos/drawn.json). The truth stands in photos/truth.json, for tests.

import { existsSync, readFileSync } from 'node:fs'
import { Readable } from 'node:stream'
import { focalFromTags, focalSentence } from '#core/photo'
import { readTags } from '#formats/exif'
import { applyCommand, type Photo, type PhotoMatchPart, type ProjectDocument } from '#model'
import { newMatch } from '#model/photo'
import type { Running } from '#server'

const FOLDER = new URL('./photos/', import.meta.url)
interface Drawn {
  readonly file: string
  readonly name: string
  readonly widthPx: number
  readonly heightPx: number
  /** What was drawn; the rest is as it is when a photograph is brought in. */
  readonly match: Partial<PhotoMatchPart>
}
const read = <T>(file: string): T => JSON.parse(readFileSync(new URL(file, FOLDER), 'utf8')) as T

/** The project with the photographs in it, their files stored. */
export async function withPhotos(server: Running, doc: ProjectDocument): Promise<ProjectDocument> {
  if (!existsSync(new URL('drawn.json', FOLDER))) return doc
  let next = doc
  for (const { file, name, widthPx, heightPx, match } of read<Drawn[]>('drawn.json')) {
    const bytes = readFileSync(new URL(file, FOLDER))
    const { sha256, sizeBytes } = await server.assets.store({ body: Readable.from([bytes]), mediaType: 'image/jpeg', fileName: file }) // prettier-ignore
    const focal = focalFromTags(readTags(new Uint8Array(bytes).buffer), widthPx, heightPx)
    const id = file.replace(/\.jpg$/, '')
    const photo: Photo = {
      ...{ id, name, sha256, sizeBytes, widthPx, heightPx },
      told: focal.ok ? focalSentence(focal.value, { widthPx, heightPx }) : focal.message,
      match: {
        ...newMatch({
          widthPx,
          heightPx,
          bundleIds: ['into', 'across', 'up'],
          ...(focal.ok && { focal: focal.value }),
        }),
        ...match,
      },
    }
    const r = applyCommand(next, { type: 'addPhoto', photo })
    if (!r.ok) throw new RangeError(`demo photograph ${file}: ${r.message}`)
    next = r.value.document
  }
  return next
}
