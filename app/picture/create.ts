// A model file becomes a project: checked, read, sent up, and framed for the first time.
import { AppError } from '#core/base'
import { directionOf, poseOfStand } from '#core/camera'
import { boxCentre, type Box, type Vec3 } from '#core/math'
import { inspectGlb } from '#formats/gltf'
import { DEFAULT_EYE_HEIGHT_M, newModel, newProject } from '#model'
import { api, sha256Of } from '../api/client.ts'
import { newId } from '../stores/project.ts'
import { appearanceOf, useStage } from '../stores/stage.ts'
import { firstStand, subjectOf } from './first.ts'

export interface CreateProgress {
  readonly what: string
  readonly done: number | null
}
const LARGEST = 2 ** 31

/** The new project's id. Nothing is stored when the file is refused (AppError) or the signal aborts (AbortError). */
export async function createFromFile(
  file: File,
  onProgress: (p: CreateProgress) => void,
  signal: AbortSignal,
): Promise<string> {
  const stage = useStage()
  const stop = (): void => signal.throwIfAborted()
  if (!/\.glb$/i.test(file.name)) throw new AppError('model-unreadable', `“${file.name}” is not a .glb file.`)
  if (file.size > LARGEST) throw new AppError('upload-too-large')
  const bytes = new Uint8Array(await file.arrayBuffer())
  const facts = inspectGlb(bytes)
  if (!facts.ok) throw new AppError('model-unreadable', facts.message)
  stop()
  onProgress({ what: 'Reading the model', done: null })
  const sha256 = await sha256Of(file)
  stage.offer(sha256, bytes)
  const model = newModel({ id: newId(), name: file.name.slice(0, 200), sha256, sizeBytes: bytes.length })
  const scene = await stage.show([model])
  stop()
  if (!scene) throw new DOMException('Another model came first.', 'AbortError')
  const asset = await api.upload(file, sha256, (done) => onProgress({ what: 'Storing the model', done }), signal)
  stop()
  onProgress({ what: 'Finding the first view', done: null })
  const stand = firstStand(scene, stage.storeys, await isEnclosed(scene.box))
  const doc = newProject({
    name: file.name.replace(/\.glb$/i, '').slice(0, 200) || 'Model',
    subject: subjectOf(scene),
    stand,
    models: [{ ...model, sha256: asset.sha256, sizeBytes: asset.sizeBytes }],
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
