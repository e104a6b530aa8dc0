// Exposed once by what the meter reads of the whole picture: the number stays when the camera moves.
import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import { useNotices } from '../../stores/notices.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useExposure } from './exposure.ts'

const METERED_PX = 96

function metering() {
  const project = useProject()
  const stage = useStage()
  const outdoors = useOutdoors()
  const notices = useNotices()
  const { rounded, withEv } = useExposure()
  const busy = ref(false)
  async function exposeOnce(): Promise<void> {
    const w = project.working
    const { camera, id } = project
    if (!w || !camera || busy.value) return
    busy.value = true
    const k = METERED_PX / Math.max(w.frame.widthPx, w.frame.heightPx)
    const [widthPx, heightPx] = [w.frame.widthPx, w.frame.heightPx].map((v) => Math.max(8, Math.round(v * k))) as [number, number] // prettier-ignore
    const ev100 = await stage
      .meter({ camera, widthPx, heightPx, appearance: outdoors.appearance(w), moving: false, samples: 1 })
      .catch(() => null)
    busy.value = false
    if (project.id !== id) return
    if (ev100 === null) return notices.say('There is nothing to read yet: the picture is not there.')
    project.run(withEv(rounded(ev100)))
    notices.say(`Exposed once by the meter: EV ${rounded(ev100).toFixed(1)}. It stays so when the camera moves.`)
  }
  return { exposeOnce, busy }
}
export const useMetering = createSharedComposable(metering)
