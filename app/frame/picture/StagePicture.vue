<script setup lang="ts">
// A picture of the model by a camera, drawn by the stage: cheap frames while something moves, a refined one a moment after.
import { useDevicePixelRatio, watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { sameView, type Camera } from '#core/camera'
import { getPart, PICTURE_PARTS, type Setup } from '#model'
import type { Appearance, PictureFrame } from '#stage'
import { holdImage, lastImage } from '../../controls/last-image.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useOutdoors } from '../../stores/outdoors.ts'
import { useFocusing } from '../../stores/focusing.ts'
import { heldSamples, SAMPLES } from '../../stores/samples.ts'
import { appearanceOf, useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'
import { sameList } from '../../controls/same-list.ts'

const props = defineProps<{
  camera: Camera | null
  /** Page pixels. */
  width: number
  height: number
  busy: boolean
  place: 'picture' | 'outside'
  /** So much of what the camera shows lies past the frame, on every side, as a part of it. */
  pastFrame?: number
}>()
const project = useProject()
const stage = useStage()
const outdoors = useOutdoors()
const focusing = useFocusing()
const view = useView()
const notices = useNotices()
const canvas = ref<HTMLCanvasElement | null>(null)
const { pixelRatio } = useDevicePixelRatio()
const pixels = computed(() => {
  const k = Math.min(2, pixelRatio.value)
  return { width: Math.round(props.width * k), height: Math.round(props.height * k) }
})
/** How far what shows is refined, and which light from all sides it was drawn with. */
const refined = ref<{ sample: number; samples: number; lights: number } | null>(null)
const hasPicture = ref(false)
/** Of another framing than the numbers tell: dimmed, in its own shape, until the first new one is there. */
const isOld = ref(false)
let shownCamera: Camera | null = null
let wanted = 0
let shown = 0
/** A drag holds still after this time. */
const HELD_MS = 350
/** A first frame that takes longer is waited for visibly. */
const SLOW_MS = 300
const lastOf = (): string => `${project.id}/${props.place}`

/** Of a request, what its frames are known by. */
interface Asked {
  readonly mine: number
  readonly camera: Camera
  readonly isMoving: boolean
  readonly lights: number
}
function lay(bitmap: ImageBitmap): void {
  const c = canvas.value
  if (!c) return bitmap.close()
  if (c.width !== bitmap.width || c.height !== bitmap.height) {
    c.width = bitmap.width
    c.height = bitmap.height
  }
  c.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap)
  hasPicture.value = true
}
function put(frame: PictureFrame, { mine, camera, isMoving, lights }: Asked): void {
  // a frame of an older request may still be under way
  if (!canvas.value || mine < shown) {
    frame.bitmap.close()
    return
  }
  shown = mine
  shownCamera = camera
  isOld.value = false
  lay(frame.bitmap)
  holdImage(lastOf(), canvas.value, camera)
  if (mine === wanted) refined.value = isMoving ? null : { sample: frame.sample, samples: frame.samples, lights }
}
// back from outside or from a large Plan: what was here last, until it is drawn anew
onMounted(async () => {
  const last = await lastImage<Camera>(lastOf())
  if (!last) return
  if (shown > 0) return last.bitmap.close()
  lay(last.bitmap)
  shownCamera = last.about
  isOld.value = !props.camera || !sameView(last.about, props.camera)
})

const shapeOf = (c: Camera | null): number | null => c && c.frame.widthPx / c.frame.heightPx
/** A framing that was jumped to, while its cheap frame is under way: the refined one is asked for after it. */
let quick: Camera | null = null
function requestQuick(camera: Camera): void {
  quick = camera
  refined.value = null
  const asked = request(camera, true)
  // what still shows is of the old framing: told at once where it has another shape, else only if it stays long
  if (shapeOf(shownCamera) === shapeOf(camera)) setTimeout(() => quick === camera && (isOld.value = true), SLOW_MS)
  else isOld.value = true
  void (asked ?? Promise.resolve()).finally(() => {
    if (quick !== camera) return
    quick = null
    if (props.camera && !props.busy) request(props.camera, false)
  })
}

function request(camera: Camera, isMoving: boolean): Promise<void> | null {
  const w = project.workingShown
  if (!w || !stage.ready || props.width < 10) return null
  const mine = ++wanted
  const asked = { mine, camera, isMoving, lights: stage.lightEpoch }
  const jumps = !isMoving && !(shownCamera && sameView(shownCamera, camera))
  if (!isMoving) refined.value = null
  if (jumps && hasPicture.value) isOld.value = true
  return stage
    .picture(
      {
        camera,
        widthPx: pixels.value.width,
        heightPx: pixels.value.height,
        appearance: {
          ...(props.place === 'outside' ? fromOutside(w) : outdoors.appearance(w)),
          clay: view.clay,
          clipping: view.clipping,
          ...(view.zone && props.place === 'picture' && sharpZone(w)),
        },
        moving: isMoving,
        quickFirst: jumps,
        samples: view.clay ? Math.min(SAMPLES.clay, heldSamples(view.samples)) : heldSamples(view.samples),
        place: props.place,
        ...(props.pastFrame && { pastFrame: props.pastFrame }),
      },
      (f) => put(f, asked),
    )
    .catch((e: unknown) => notices.fail(e))
}

/** All that changes the picture while something is dragged, and what changes it besides. */
const dragged = () =>
  [
    props.camera,
    props.busy,
    stage.placings,
    view.clay,
    view.clipping,
    view.zone,
    project.document?.materialClasses,
    project.document?.tables,
    outdoors.behindKey,
    project.workingShown && focusing.blur(project.workingShown)?.focusM,
    ...PICTURE_PARTS.map((p) => project.workingShown && getPart(project.workingShown, p)),
  ] as const
// before the panels are drawn anew: the picture is drawn elsewhere meanwhile
watch(sameList(dragged), ([camera, isMoving]) => camera && isMoving && request(camera, true), { flush: 'pre' })
// a framing that is typed or recalled is seen at once, cheaply
watch(
  () => props.camera,
  (camera, old) => {
    const isJump = camera && old && !props.busy && hasPicture.value && !(shownCamera && sameView(shownCamera, camera))
    if (isJump) requestQuick(camera)
    else if (quick !== camera) quick = null
  },
  { flush: 'pre' },
)
// a drag that holds still is seen as it will be
watchDebounced(sameList(dragged), ([camera, isMoving]) => camera && isMoving && request(camera, false), {
  debounce: HELD_MS,
  flush: 'post',
})
watchDebounced(
  sameList(
    () =>
      [
        ...dragged(),
        pixels.value,
        view.samples,
        stage.epoch,
        stage.lightEpoch,
        stage.ready,
        project.working && outdoors.isOutdoors(project.working),
      ] as const,
  ),
  ([camera, isMoving]) => {
    if (!camera || isMoving) return
    if (quick !== camera) request(camera, false)
  },
  { debounce: 40, immediate: true, flush: 'post' },
)
onBeforeUnmount(() => {
  wanted++
  shown = wanted
  stage.stopPicture(props.place)
})
defineExpose({ refined, hasPicture })
/** What is outlined as sharp, by the focus that the Setup has, on or off. */
function sharpZone(w: Setup): Pick<Appearance, 'zone'> {
  const zone = focusing.sharpZone(w)
  return zone ? { zone } : {}
}
/** Near and far cut go with the camera: from outside they cut nothing. A building is metered there by itself. */
function fromOutside(w: Setup): Appearance {
  const a = appearanceOf(w, project.document?.subject === 'room', {
    classes: project.document?.materialClasses,
    tables: project.document?.tables,
  })
  return { ...a, shown: { ...a.shown, cuts: { ...a.shown.cuts, nearM: null, farM: null } } }
}
</script>

<template>
  <canvas
    ref="canvas"
    :class="{ empty: !hasPicture, old: isOld }"
    :data-testid="`${place}-canvas`"
    :data-sample="refined?.sample ?? 0"
    :data-samples="refined?.samples ?? 0"
    :data-lights="refined?.lights ?? 0"
  />
</template>

<style scoped>
canvas {
  position: absolute;
  width: 100%;
  height: 100%;
  display: block;
}
canvas.empty {
  visibility: hidden;
}
canvas.old {
  object-fit: contain;
  opacity: 0.4;
}
</style>
