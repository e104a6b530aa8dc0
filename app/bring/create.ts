// A model becomes a project: shown, framed for the first time, lit and metered.
import { poseOfStand } from '#core/camera'
import { firstStandBefore, isProduct } from '#core/framing'
import { boxCentre, distance, type Box, type Vec3 } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { DEFAULT_EYE_HEIGHT_M, newProject, type ModelRef } from '#model'
import { centreOf } from '../stores/centres.ts'
import { api } from '../api/client.ts'
import { appearanceOf, useStage } from '../stores/stage.ts'
import type { BringProgress } from './reading.ts'

/** Products smaller than this across have their lengths in millimetres. */
const SMALL_M = 1

/** The middle of a model at eye height over its lowest storey. */
function middleOf(box: Box): Vec3 {
  const c = boxCentre(box)
  return [c[0], c[1], Math.min((useStage().storeys[0]?.heightM ?? box.min[2]) + DEFAULT_EYE_HEIGHT_M, c[2])]
}

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
  const stand = firstStandBefore(scene.box, {
    floorM: stage.storeys[0]?.heightM ?? scene.box.min[2],
    eyeHeightM: DEFAULT_EYE_HEIGHT_M,
    inside: (await stage.rays.enclosed(middleOf(scene.box), ALL_SHOWN)) ?? false,
  })
  const isSmall = isProduct(scene.box) && distance(scene.box.min, scene.box.max) < SMALL_M
  const made = newProject({
    name: model.name.replace(/\.[^.]*$/, '').slice(0, 200) || 'Model',
    subject: isProduct(scene.box) ? 'product' : 'room',
    stand,
    models: [model],
  })
  const doc = isSmall ? { ...made, unit: 'mm' as const } : made
  const { working } = doc
  await stage.relight(working)
  const camera = { pose: poseOfStand(stand, centreOf), lens: working.lens, frame: working.frame }
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
