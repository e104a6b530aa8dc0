// What is open: the document, its histories, what a drag shows before it is done, and what follows from them.
import { computed, ref, shallowRef } from 'vue'
import { poseOfStand, type AimCentre, type Camera } from '#core/camera'
import { ALL_SHOWN, type Shown } from '#core/section'
import {
  centresAmong,
  changedParts,
  EMPTY_HISTORY,
  findViewpoint,
  movedOf,
  setupAsShown,
  shownOf,
  visibleAsShown,
  trailNeighbour,
  type CameraChanges,
  type Command,
  type History,
  type ModelRef,
  type PartName,
  type ProjectDocument,
  type Setup,
} from '#model'
import { centreInFile } from '../centres-in-file.ts'

/** An edit that a drag shows before it is done. */
export interface Preview {
  readonly command: Command
  readonly document: ProjectDocument
}

export function createState() {
  const id = ref<string | null>(null)
  const document = shallowRef<ProjectDocument | null>(null)
  const history = shallowRef<History>(EMPTY_HISTORY)
  const live = shallowRef<CameraChanges | null>(null)
  const preview = shallowRef<Preview | null>(null)
  /** Whether a drag shows what is not done yet. */
  const isShowing = computed(() => live.value !== null || preview.value !== null)

  /** The working Setup as it is shown now, a running drag included. */
  const working = computed<Setup | null>(() => {
    const doc = preview.value?.document ?? document.value
    if (!doc) return null
    const l = live.value
    return l
      ? { ...doc.working, ...Object.fromEntries(Object.entries(l).filter(([, v]) => v !== undefined)) }
      : doc.working
  })
  /** The models as they are placed now, a running drag included. */
  const models = computed<readonly ModelRef[] | null>(() => (preview.value?.document ?? document.value)?.models ?? null)
  const documentShown = (): ProjectDocument | null => preview.value?.document ?? document.value
  /** Where objects are as a Setup has them: by its states, or worked in. */
  const centresIn = (setup: Pick<Setup, 'visible'>): AimCentre =>
    centresAmong(centreInFile, movedOf(visibleAsShown(setup.visible, documentShown())))
  /** As the working Setup has them. */
  const centreOf: AimCentre = (nodeId, offset) =>
    (working.value ? centresIn(working.value) : centreInFile)(nodeId, offset)
  const camera = computed<Camera | null>(() => {
    const w = working.value
    return w ? { pose: poseOfStand(w.stand, centreOf), lens: w.lens, frame: w.frame } : null
  })
  /** The working Setup with its named sets worked in, as the stage and its checks take it. */
  const workingShown = computed<Setup | null>(() =>
    working.value ? setupAsShown(working.value, documentShown(), centreInFile) : null,
  )
  /** What the working Setup shows. */
  const shown = computed<Shown>(() => (workingShown.value ? shownOf(workingShown.value) : ALL_SHOWN))
  const recalled = computed(() =>
    document.value ? findViewpoint(document.value, document.value.recalledId) : undefined,
  )
  const changed = computed<PartName[]>(() =>
    document.value && working.value ? changedParts(document.value, working.value) : [],
  )
  const canUndo = computed(() => history.value.past.length > 0)
  const canRedo = computed(() => history.value.future.length > 0)
  /** The step of the trail beside the present one; null at its ends. */
  const beside = (by: -1 | 1): number | null => document.value && trailNeighbour(document.value.trail, by)
  const canBack = computed(() => beside(-1) !== null)
  const canForward = computed(() => beside(1) !== null)

  return { id, document, history, live, preview, isShowing, working, workingShown, centresIn, centreOf, models, camera, shown, recalled, changed, canUndo, canRedo, beside, canBack, canForward } // prettier-ignore
}
export type ProjectState = ReturnType<typeof createState>
