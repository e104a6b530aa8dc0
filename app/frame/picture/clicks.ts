// What a click on the picture does: selects, picks what was asked for, or brings a ghost back.
import type { Camera } from '#core/camera'
import { useFocus } from '../focus/focus.ts'
import { useHiding } from '../selection/hiding.ts'
import { useSelection } from '../selection/selection.ts'
import { useView } from '../../stores/view.ts'
import { usePicking } from '../straighten/picking.ts'
import type { Looking } from './looking.ts'

export function useClicks({ movable, under, pxPerPage }: Looking) {
  const view = useView()
  const { select, clear } = useSelection()
  const { isGone, show } = useHiding()
  const picking = usePicking()
  const { focusOn } = useFocus()

  /** A click selects what is under it, or is what was asked for; on nothing it clears. With Alt it is focused on. */
  async function click(at: readonly [number, number], camera: Camera, add: boolean, focuses = false): Promise<void> {
    if (view.picking && movable().isCamera) return picking.click(camera, at, pxPerPage(camera))
    if (view.ghosts && (await clickedBack(at, camera))) return
    const hit = await under(at[0], at[1], camera)
    if (focuses && movable().isCamera) {
      if (hit) focusOn(hit.point, hit.nodeId)
      return
    }
    if (hit) select([hit.nodeId], add)
    else if (!add) clear()
  }

  /** A click on a ghost shows what it is of, and selects it. */
  async function clickedBack(at: readonly [number, number], camera: Camera): Promise<boolean> {
    const ghost = await under(at[0], at[1], camera, true)
    if (!ghost || !isGone(ghost.nodeId)) return false
    show([ghost.nodeId])
    select([ghost.nodeId])
    return true
  }
  return click
}
