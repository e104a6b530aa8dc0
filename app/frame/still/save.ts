// The finished picture: rendered at the frame's size by the same camera, downloaded as PNG.
import { fingerprint, type Setup } from '#model'
import { guideLines } from '../format/guide-lines.ts'
import { useFraming } from '../camera/framing.ts'
import { pictureName, type Given } from './name.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { heldSamples } from '../../stores/samples.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** Begins at once; how far it is stands in the header. Tells why where it cannot begin. */
export async function savePicture(): Promise<void> {
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const { camera, workingShown: working, id } = project
  if (!camera || !working || !id) return
  if (stage.still !== null) return notices.say('A picture is being finished already: it stands in the header.')
  if (!stage.ready) return notices.say('The model is not there yet: the picture can be finished as soon as it is.')
  // what it is called is settled by what it shows now, whatever is done meanwhile
  const file = nameFor(id, project.recalled?.name ?? project.document!.name, working)
  const started = performance.now()
  try {
    const blob = await stage.finish(
      camera,
      useOutdoors().appearance(working),
      heldSamples(useView().stillSamples),
      guideLines(camera, useFraming().mainBearingDeg.value),
    )
    if (!blob) {
      if (stage.ready) notices.say('The picture was cancelled; nothing was saved.')
      return
    }
    const url = URL.createObjectURL(blob)
    Object.assign(window.document.createElement('a'), { href: url, download: file }).click()
    setTimeout(() => URL.revokeObjectURL(url), 60_000)
    const s = (performance.now() - started) / 1000
    notices.say(`${file} is saved: ${camera.frame.widthPx} × ${camera.frame.heightPx} px in ${s.toFixed(0)} s.`)
  } catch (e) {
    notices.fail(e)
  }
}

/** The file's name for what a Setup shows; remembered in this browser, by project. */
function nameFor(projectId: string, name: string, setup: Setup): string {
  const key = `yoroi.pictures.${projectId}`
  const r = pictureName(name, fingerprint(setup), givenUnder(key))
  localStorage.setItem(key, JSON.stringify(r.given))
  return r.file
}

function givenUnder(key: string): Given {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? '{}') ?? {}) as Given
  } catch {
    return {}
  }
}
