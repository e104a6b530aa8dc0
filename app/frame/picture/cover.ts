// The project's picture on the home view: made again some time after the framing changed.
import { watchDebounced } from '@vueuse/core'
import { api } from '../../api/client.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { SAMPLES } from '../../stores/samples.ts'
import { useStage } from '../../stores/stage.ts'
import { sameList } from '../../controls/same-list.ts'

const WIDTH_PX = 480
const AFTER_MS = 6000

export function useCover(): void {
  const project = useProject()
  const stage = useStage()
  const outdoors = useOutdoors()
  let last: unknown = null
  watchDebounced(
    sameList(() => [project.document?.working, stage.light === null && stage.ready, project.saveState] as const),
    async ([working, lit, state]) => {
      const id = project.id
      const camera = project.camera
      // a project that was only looked at keeps its picture
      if (
        typeof OffscreenCanvas === 'undefined' ||
        !working ||
        !lit ||
        !id ||
        !camera ||
        state !== 'saved' ||
        project.isShowing ||
        last === working
      )
        return
      if (last === null) {
        last = working
        return
      }
      last = working
      const k = WIDTH_PX / camera.frame.widthPx
      const bitmap = await stage.thumbnail('cover', {
        camera,
        widthPx: WIDTH_PX,
        heightPx: Math.max(8, Math.round(camera.frame.heightPx * k)),
        appearance: outdoors.appearance(working),
        moving: false,
        samples: SAMPLES.cover,
      })
      if (!bitmap) return
      const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
      canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
      bitmap.close()
      const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.86 })
      // a missing cover is no loss: the next change tries again
      await api.setCover(id, blob).catch(() => undefined)
    },
    { debounce: AFTER_MS, immediate: true },
  )
}
