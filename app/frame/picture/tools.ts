// What drags and clicks on the picture do, by mouse, pen, trackpad and touch: each press goes to its tool.
import type { Ref } from 'vue'
import { useProject } from '../../stores/project.ts'
import { useView, type Tool } from '../../stores/view.ts'
import type { Movable } from '../camera/movable.ts'
import { usePointer } from '../camera/pointer.ts'
import { usePicking } from '../straighten/picking.ts'
import { useBand } from './band-drag.ts'
import { useCameraDrag } from './camera-drag.ts'
import { useClicks } from './clicks.ts'
import { useKeySpot } from './key-spot.ts'
import { useFingers } from './fingers.ts'
import { useLooking, type Box, type Looking } from './looking.ts'
import { useStanding } from './standing.ts'

/** What a press does: by its button, the keys held and the tool in hand. */
function toolFor(e: PointerEvent, t: Movable, chosen: Tool): Tool | null {
  if (e.button === 1 || e.button === 2) return 'slide'
  if (e.button !== 0) return null
  if (e.ctrlKey || e.metaKey) return 'pick'
  const plain: Tool = t.isCamera || chosen !== 'stand' ? chosen : 'orbit'
  if (!e.shiftKey || plain === 'pick') return plain
  return plain === 'orbit' ? 'turn' : 'orbit'
}

export function usePictureTools(box: Ref<Box>) {
  const project = useProject()
  const view = useView()
  const pointer = usePointer()
  const picking = usePicking()
  const looking = useLooking(box)
  const { movable, framePx, under, options, pxPerPage } = looking
  const standing = useStanding()
  const { ghost, standAt, hover: seek, leave: unseek } = standing
  const { twoFingers, lifted } = useFingers(looking)
  const click = useClicks(looking)
  const { band, dragBand } = useBand(looking, click)
  const { spot, key: spotKey } = usePlaceByKeys(looking, standing, click)
  const dragCamera = useCameraDrag(looking, { click, over: lifted })

  function down(e: PointerEvent): void {
    const t = movable()
    const camera = t.camera()
    const from = t.framing()
    const tool = toolFor(e, t, view.tool)
    if (!camera || !from || !tool) return
    ;(e.currentTarget as HTMLElement).focus({ preventScroll: true })
    const at = framePx(e, camera)
    const grip = { t, camera, from, at }
    if (e.pointerType === 'touch' && twoFingers(e, grip)) return
    if (tool === 'stand') {
      void standAt(at[0], at[1], camera, e.altKey)
      return
    }
    e.preventDefault()
    if (tool === 'pick') dragBand(e, camera, at)
    else dragCamera(e, tool, grip)
  }

  function hover(e: PointerEvent): void {
    const camera = project.camera
    if (!movable().isCamera || !camera || e.buttons) {
      leave()
      return
    }
    const [x, y] = framePx(e, camera)
    void pointer.hover(camera, x, y)
    if (view.picking) void picking.hover(camera, [x, y], pxPerPage(camera))
    void seek(camera, x, y, e.altKey)
  }
  const leave = (): void => {
    unseek()
    pointer.leave()
    picking.leave()
  }

  return { down, hover, leave, ghost, band, spot, spotKey, framePx, under, options, movable }
}

/** A place asked for by keys: to stand on or to pick. */
function usePlaceByKeys(
  { movable, pxPerPage }: Looking,
  { hover, standAt }: ReturnType<typeof useStanding>,
  click: ReturnType<typeof useClicks>,
) {
  const view = useView()
  const picking = usePicking()
  const selects = (): boolean => view.tool === 'pick' && view.picking === null
  return useKeySpot(
    {
      look: (camera, x, y) =>
        void (view.picking ? picking.hover(camera, [x, y], pxPerPage(camera)) : hover(camera, x, y, false)),
      take: (camera, x, y) => {
        if (selects()) void click([x, y], camera, false)
        else if (view.picking) void picking.click(camera, [x, y], pxPerPage(camera))
        else void standAt(x, y, camera, false)
      },
    },
    () => movable().isCamera && (view.tool === 'stand' || view.tool === 'pick' || view.picking !== null),
  )
}
