// Bringing in photographs: judged in a worker, stored, then in the project.
import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { AppError } from '#core/base'
import { focalSentence } from '#core/photo'
import { LIST_LIMITS, type Photo } from '#model'
import { newMatch } from '#model/photo'
import { createPhoto } from '#workers'
import { api } from '../api/client.ts'
import { useNotices } from '../stores/notices.ts'
import { newId, useProject } from '../stores/project.ts'
import { useOpenedPhoto } from './opened.ts'

function adding() {
  const project = useProject()
  const notices = useNotices()
  const router = useRouter()
  const { offer } = useOpenedPhoto()
  const progress = ref<{ what: string; done: number | null } | null>(null)
  let abort: AbortController | null = null

  async function add(file: File): Promise<void> {
    const client = createPhoto()
    let isTaken = false
    try {
      progress.value = { what: `Reading “${file.name}”`, done: null }
      const found = await client.open(file)
      abort?.signal.throwIfAborted()
      const tell = (done: number): void => void (progress.value = { what: `Storing “${file.name}”`, done })
      const kept = await api.upload(file, file.name, found.sha256, tell, abort!.signal, found.type)
      const { widthPx, heightPx } = found
      const photo: Photo = {
        ...{ id: newId(), name: file.name.slice(0, 200) || 'Photograph', sha256: kept.sha256, sizeBytes: kept.sizeBytes },
        ...{ widthPx, heightPx, told: found.focal ? focalSentence(found.focal, found, found.camera) : found.untold },
        match: newMatch({ widthPx, heightPx, bundleIds: [newId(), newId(), newId()], ...(found.focal && { focal: found.focal }) }),
      } // prettier-ignore
      if ((project.document?.photos?.length ?? 0) >= LIST_LIMITS.photos) {
        notices.say(`A project holds ${LIST_LIMITS.photos} photographs.`, 'warning')
        return
      }
      offer(photo.sha256, client)
      isTaken = project.run({ type: 'addPhoto', photo })
      if (isTaken) await router.push(`/project/${project.id}/photograph/${photo.id}`)
    } catch (e) {
      if (e instanceof DOMException && e.name === 'AbortError') return
      if (e instanceof AppError) notices.fail(new AppError(e.code, `“${file.name}”: ${e.detail ?? ''}`))
      else notices.fail(e)
    } finally {
      if (!isTaken) client.dispose()
    }
  }
  /** One after the other: a large one takes much memory. */
  async function begin(files: readonly File[]): Promise<void> {
    if (progress.value) return
    abort = new AbortController()
    for (const f of files) if (!abort.signal.aborted) await add(f)
    progress.value = null
  }
  const cancel = (): void => abort?.abort()
  return { progress, begin, cancel }
}
export const useAdding = createSharedComposable(adding)
