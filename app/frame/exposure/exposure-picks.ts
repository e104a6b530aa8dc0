// Picked places that the exposure asks for: what is to be mid-grey, and what is to be without a colour.
import { projectPoint } from '#core/camera'
import { balanceOfGrey, meteredEv100, MOST_KELVIN, LEAST_KELVIN } from '#core/optics'
import type { Vec3 } from '#core/math'
import { useNotices } from '../../stores/notices.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { takesPicks } from '../straighten/picking.ts'
import { useExposure } from './exposure.ts'

type Light = readonly [number, number, number]
const luminance = (c: Light): number => 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2]

/** Registers what clicks do that the exposure asks for; once a Frame view. */
export function useExposurePicks(): void {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const outdoors = useOutdoors()
  const { withEv, withExposure, rounded } = useExposure()

  /** The light that comes from a place in the picture, as it is: before exposure and white balance. */
  async function lightAt(point: Vec3): Promise<Light | null> {
    const { camera, workingShown: w } = project
    const at = camera && projectPoint(camera, point)
    if (!camera || !w || !at) return null
    const { widthPx, heightPx } = camera.frame
    const { blur: _, ...appearance } = outdoors.appearance(w)
    const request = { camera, widthPx, heightPx, appearance, moving: false, samples: 1 }
    return stage.spot(request, [at.xPx / widthPx, at.yPx / heightPx])
  }
  const failed = (): void => notices.say('No light could be read there. Click a surface in the picture.', 'warning')
  takesPicks('meter', (point) => {
    void lightAt(point).then((light) => {
      if (!light || !(luminance(light) > 0)) return failed()
      const ev = rounded(meteredEv100(luminance(light)))
      if (!project.run(withEv(ev))) return
      notices.say(`EV ${ev.toFixed(1)}: what was clicked comes out as mid-grey.`)
    })
    return true
  })
  takesPicks('grey', (point) => {
    void lightAt(point).then((light) => {
      const found = light && balanceOfGrey(light)
      if (!found) return failed()
      const kelvin = Math.round(Math.min(MOST_KELVIN, Math.max(LEAST_KELVIN, found.kelvin)) * 10) / 10
      const tint = Math.round(found.tint * 100) / 100
      project.run(withExposure({ whiteBalance: { kelvin, tint } }))
    })
    return true
  })
}
