// The photograph that is open: its file in a worker, a copy to look at, the edges found in it.
import { createSharedComposable } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import type { FoundEdges, PhotoClient } from '#workers'
import { createPhoto } from '#workers'
import { api } from '../api/client.ts'
import { failureText } from '../stores/notices.ts'
import { useMatch } from './match.ts'

/** The copy that is looked at has no longer side than this, pixels. */
const SHOWN_PX = 3200

function openedPhoto() {
  const { photo } = useMatch()
  const client = shallowRef<PhotoClient | null>(null)
  const bitmap = shallowRef<ImageBitmap | null>(null)
  const edges = shallowRef<FoundEdges | null>(null)
  /** Edges of a found bundle that is pointed at. */
  const pointedAt = shallowRef<readonly number[] | null>(null)
  const isFinding = ref(false)
  const problem = ref('')
  /** Files just brought in need not be fetched again. */
  const offered = new Map<string, { client: PhotoClient }>()
  const offer = (sha256: string, c: PhotoClient): void => void offered.set(sha256, { client: c })

  function close(): void {
    client.value?.dispose()
    client.value = null
    bitmap.value?.close()
    bitmap.value = null
    edges.value = pointedAt.value = null
    problem.value = ''
  }
  watch(
    () => photo.value?.sha256,
    async (sha256) => {
      close()
      if (!sha256) return
      const isStill = (): boolean => photo.value?.sha256 === sha256
      const mine = offered.get(sha256)?.client ?? createPhoto()
      try {
        if (!offered.delete(sha256)) await mine.open(new Blob([(await api.asset(sha256, () => undefined)) as BlobPart]))
        const shown = await mine.preview(SHOWN_PX)
        if (!isStill()) {
          mine.dispose()
          shown?.close()
          return
        }
        client.value = mine
        bitmap.value = shown
      } catch (e) {
        mine.dispose()
        if (isStill()) problem.value = failureText(e)
      }
    },
    { immediate: true },
  )
  /** Finds edges and bundles, once for each photograph. */
  async function find(): Promise<void> {
    const c = client.value
    if (!c || edges.value || isFinding.value) return
    isFinding.value = true
    try {
      const found = await c.edges()
      if (client.value === c) edges.value = found
    } finally {
      isFinding.value = false
    }
  }
  return { client, bitmap, edges, pointedAt, isFinding, problem, offer, find, close }
}
export const useOpenedPhoto = createSharedComposable(openedPhoto)
