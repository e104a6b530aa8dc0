// How do the photographs of a project change? All changes are edits.
import { refused, type Result } from '#core/base'
import { edited, type Applied, type CommandReason } from './applied.ts'
import type { Photo } from './photo-schemas.ts'
import type { ProjectDocument } from './schema.ts'

export type PhotoCommand =
  | { type: 'addPhoto'; photo: Photo }
  | { type: 'removePhoto'; photoId: string }
  | { type: 'changePhoto'; photoId: string; changes: Partial<Pick<Photo, 'name' | 'match'>> }

export function applyPhotoCommand(doc: ProjectDocument, command: PhotoCommand): Result<Applied, CommandReason> {
  const photos = doc.photos ?? []
  if (command.type === 'addPhoto') {
    if (photos.some((p) => p.id === command.photo.id))
      return refused('same-key', 'There is a photograph of this id already.')
    return edited({ ...doc, photos: [...photos, command.photo] })
  }
  const photo = photos.find((p) => p.id === command.photoId)
  if (!photo) return refused('unknown-photo', 'This photograph is no longer in the project.')
  if (command.type === 'removePhoto') return edited({ ...doc, photos: photos.filter((p) => p !== photo) })
  const next = { ...photo, ...command.changes }
  next.name = next.name.trim()
  if (!next.name) return refused('empty-name', 'Give the photograph a name.')
  return edited({ ...doc, photos: photos.map((p) => (p === photo ? next : p)) })
}
