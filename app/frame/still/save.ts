// The finished picture: rendered at the frame's size by the same camera, downloaded as PNG.
import { pictureName } from './name.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useStage } from '../../stores/stage.ts'

export async function savePicture(): Promise<void> {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const { camera, working, document: doc } = project
  if (!camera || !working || !doc || stage.still !== null) return
  const started = performance.now()
  try {
    const blob = await stage.finish(camera, useOutdoors().appearance(working))
    if (!blob) {
      if (stage.ready) notices.say('The picture was cancelled; nothing was saved.')
      return
    }
    const url = URL.createObjectURL(blob)
    const link = Object.assign(window.document.createElement('a'), {
      href: url,
      download: pictureName(
        doc.name,
        project.recalled?.name ?? null,
        project.recalled && project.changed.length === 0 ? null : new Date(),
      ),
    })
    link.click()
    setTimeout(() => URL.revokeObjectURL(url), 60_000)
    const s = (performance.now() - started) / 1000
    notices.say(
      `${link.download} is saved: ${camera.frame.widthPx} × ${camera.frame.heightPx} px in ${s.toFixed(0)} s.`,
    )
  } catch (e) {
    notices.fail(e)
  }
}
