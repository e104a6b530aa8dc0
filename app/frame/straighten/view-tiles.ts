// Small pictures of measured views, of the project's own model: its outlines as the stage draws them, once a model, and kept.
// Model: only what is large beside the whole is drawn, so that a picture of few pixels stays readable. One after the other, when the
// stage has nothing better to do.
import { createSharedComposable } from '@vueuse/core'
import { computed, onScopeDispose, shallowReactive, watch } from 'vue'
import { fitPoints, measuredDirection, type MeasuredView } from '#core/framing'
import type { Camera } from '#core/camera'
import { boxCentre, boxCorners, boxSize, joinBoxes, type Box } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { useFraming } from '../camera/framing.ts'
import { useProject } from '../../stores/project.ts'
import { useStage } from '../../stores/stage.ts'
import { useView } from '../../stores/view.ts'

/** Side of a tile as drawn, pixels: eight times the size shown, so that thin things vanish. */
export const TILE_DRAWN_PX = 384
/** Objects less than this share of the whole are left out. */
const LARGE = 0.22
const INK = { day: [0.133, 0.145, 0.169], night: [0.925, 0.902, 0.855] } as const

export interface SizedNode {
  readonly id: string
  readonly kind: string | null
  readonly box: Box
  readonly materials: readonly string[]
}
const extent = (b: Box): number => Math.max(...boxSize(b))

/** The objects that make the outline of a model: the large ones, or all where none is large beside the whole. */
export function outlineNodes<N extends SizedNode>(nodes: readonly N[]): readonly N[] {
  const own = nodes.filter((n) => n.materials.length > 0 && n.kind !== 'surroundings')
  if (own.length === 0) return []
  const whole = extent(own.map((n) => n.box).reduce(joinBoxes))
  const large = own.filter((n) => extent(n.box) >= LARGE * whole)
  return large.length > 0 ? large : own
}

/** A square camera that holds a box in a measured view. */
export function tileCamera(view: MeasuredView, mainBearingDeg: number, box: Box, sizePx: number): Camera {
  const { pose, projection } = measuredDirection(view, mainBearingDeg)
  const camera: Camera = {
    pose: { ...pose, station: boxCentre(box) },
    lens: {
      projection: projection(extent(box)),
      focalMm: 50,
      sensorMm: { width: 36, height: 36 },
      sensorUse: 'acrossWidth',
      riseMm: 0,
      crossMm: 0,
      distortion: null,
    },
    frame: { widthPx: sizePx, heightPx: sizePx, densityPpi: 96, guides: [] },
  }
  const r = fitPoints(camera, boxCorners(box), { margin: 0.05 })
  return r.ok ? r.value : camera
}

function tiles() {
  const project = useProject()
  const stage = useStage()
  const view = useView()
  const { mainBearingDeg } = useFraming()
  const pictures = shallowReactive(new Map<string, ImageBitmap | null>())
  const nodes = computed(() => outlineNodes(stage.facts?.nodes ?? []))
  let last: Promise<unknown> = Promise.resolve()

  function forget(): void {
    for (const b of pictures.values()) b?.close()
    pictures.clear()
  }
  // nobody looks any more: what is still asked for is let go
  onScopeDispose(forget)
  watch([() => stage.epoch, () => project.id, () => project.document?.models], forget)

  const keyOf = (v: MeasuredView): string => `${view.theme}|${mainBearingDeg.value}|${JSON.stringify(v)}`
  /** The picture of a view; null until it is drawn. */
  function picture(v: MeasuredView): ImageBitmap | null {
    const key = keyOf(v)
    const known = pictures.get(key)
    if (known !== undefined) return known
    // the light is worked out first: it takes the same graphics
    if (!stage.ready || stage.light !== null || nodes.value.length === 0) return null
    queueMicrotask(() => {
      if (pictures.has(key)) return
      pictures.set(key, null)
      last = last.then(() => draw(key, v))
    })
    return null
  }
  async function draw(key: string, v: MeasuredView): Promise<void> {
    const at = nodes.value
    const box = at.map((n) => n.box).reduce<Box | null>((a, b) => (a ? joinBoxes(a, b) : b), null)
    if (!box || !pictures.has(key)) return
    const drawn = await stage
      .outline({
        camera: tileCamera(v, mainBearingDeg.value, box, TILE_DRAWN_PX),
        widthPx: TILE_DRAWN_PX,
        heightPx: TILE_DRAWN_PX,
        ids: at.map((n) => n.id),
        style: 'drawn',
        shown: ALL_SHOWN,
        colour: INK[view.theme],
      })
      .catch(() => null)
    if (pictures.has(key)) pictures.set(key, drawn)
    else drawn?.close()
  }
  return { picture }
}
export const useViewTiles = createSharedComposable(tiles)
