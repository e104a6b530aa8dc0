// What does a Setup show?
import { ALL_SHOWN, type Shown } from '#core/section'
import { movedOf } from './object-states.ts'
import type { Setup } from './parts.ts'

const known = new WeakMap<Setup['cut'], WeakMap<Setup['visible'], Shown>>()

/** Hidden things and cuts of a Setup as one value, its sets worked in (`setupAsShown`); the same value for the same parts. */
export function shownOf({ cut, visible }: Pick<Setup, 'cut' | 'visible'>): Shown {
  const byVisible = known.get(cut) ?? new WeakMap<Setup['visible'], Shown>()
  known.set(cut, byVisible)
  const before = byVisible.get(visible)
  if (before) return before
  const list = cut.allOff ? [] : cut.cuts.filter((c) => c.on)
  const moved = movedOf(visible)
  const shown: Shown = {
    hidden: visible.hidden,
    ...(moved.length > 0 && { moved }),
    ...(visible.shadows && { shadows: visible.shadows }),
    cuts: {
      nearM: cut.near.on && !cut.allOff ? cut.near.distanceM : null,
      farM: cut.far.on && !cut.allOff ? cut.far.distanceM : null,
      list: list.length > 0 ? list : ALL_SHOWN.cuts.list,
      face: cut.face,
      ...(cut.whole && cut.whole.length > 0 && { whole: cut.whole }),
      ...(cut.closeM !== undefined && { closeM: cut.closeM }),
      ...(cut.lightIn && { lightIn: true }),
      ...(cut.hatch && { hatch: cut.hatch }),
      ...(cut.outline && { outline: cut.outline }),
      ...(cut.ghost && { ghost: true }),
    },
  }
  byVisible.set(visible, shown)
  return shown
}
