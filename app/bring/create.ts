// A model becomes a project: shown, framed for the first time, lit and metered.
import { directionOf, poseOfStand } from '#core/camera'
import { boxCentre, type Box, type Vec3 } from '#core/math'
import { DEFAULT_EYE_HEIGHT_M, newProject, type ModelRef } from '#model'
import { api } from '../api/client.ts'
import { firstStand, subjectOf } from '../picture/first.ts'
import { appearanceOf, useStage } from '../stores/stage.ts'
import type { BringProgress } from './bring.ts'

/** The new project's id. Nothing is created when the signal aborts (AbortError) or the model cannot be shown (AppError). */
export async function createProject(
  model: ModelRef,
  onProgress: (p: BringProgress) => void,
  signal: AbortSignal,
): Promise<string> {
  const stage = useStage()
  const stop = (): void => signal.throwIfAborted()
  onProgress({ what: 'Reading the model', done: null })
  const scene = await stage.show([model])
  stop()
  if (!scene) throw new DOMException('Another model came first.', 'AbortError')
  onProgress({ what: 'Finding the first view', done: null })
  const stand = firstStand(scene, stage.storeys, await isEnclosed(scene.box))
  const doc = newProject({
    name: model.name.replace(/\.[^.]*$/, '').slice(0, 200) || 'Model',
    subject: subjectOf(scene),
    stand,
    models: [model],
  })
  const { working } = doc
  await stage.relight(working)
  const camera = { pose: poseOfStand(stand), lens: working.lens, frame: working.frame }
  const ev100 = await stage.meter({
    camera,
    widthPx: 96,
    heightPx: 64,
    appearance: appearanceOf(working),
    moving: false,
    samples: 1,
  })
  stop()
  const metered =
    ev100 === null
      ? doc
      : { ...doc, working: { ...working, exposure: { ...working.exposure, ev100: Math.round(ev100 * 10) / 10 } } }
  return (await api.create(metered)).id
}

/** Whether someone in the middle, at eye height over the base, would have walls on three sides at least, or a roof above. */
async function isEnclosed(box: Box): Promise<boolean> {
  const stage = useStage()
  const c = boxCentre(box)
  const eye: Vec3 = [c[0], c[1], Math.min((stage.storeys[0]?.heightM ?? box.min[2]) + DEFAULT_EYE_HEIGHT_M, c[2])]
  const hits = await Promise.all(
    [0, 90, 180, 270].map((b) => stage.pick({ origin: eye, direction: directionOf(b, 0) }, [])),
  )
  const above = await stage.pick({ origin: eye, direction: [0, 0, 1] }, [])
  return above !== null || hits.filter(Boolean).length >= 3
}
