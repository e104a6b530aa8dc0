// A band drawn on the picture takes in what lies wholly in it.
import { ref } from 'vue'
import type { Camera } from '#core/camera'
import { startDrag } from '../../controls/drag.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useSelection } from '../selection/selection.ts'
import type { Looking } from './looking.ts'

/** Page pixels within the picture. */
export interface BandPx {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

export function useBand(
  { pxPerPage }: Looking,
  click: (at: readonly [number, number], camera: Camera, add: boolean) => unknown,
) {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const { select } = useSelection()
  const band = ref<BandPx | null>(null)

  function dragBand(e: PointerEvent, camera: Camera, at: readonly [number, number]): void {
    const k = pxPerPage(camera)
    const add = e.shiftKey
    const end = (): void => void (band.value = null)
    startDrag(e, {
      move: (dx, dy) => {
        const [x, y] = [at[0] / k, at[1] / k]
        band.value = { x: Math.min(x, x + dx), y: Math.min(y, y + dy), width: Math.abs(dx), height: Math.abs(dy) }
      },
      end: (moved) => {
        const b = band.value
        end()
        if (!moved || !b) {
          void click(at, camera, add)
          return
        }
        const corner = (x: number, y: number): [number, number] => [x * k, y * k]
        void stage.rays
          .inBand(camera, { a: corner(b.x, b.y), b: corner(b.x + b.width, b.y + b.height) }, project.shown)
          .then((found) => {
            const ids = found ?? []
            select(ids, add)
            if (ids.length === 0) notices.say('Nothing lies wholly within the band.')
          })
      },
      cancel: end,
    })
  }

  return { band, dragBand }
}
