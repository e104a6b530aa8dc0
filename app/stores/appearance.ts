import type { ClassesByHand } from '#core/section'
import { getPart, shownOf, STAGE_PARTS, type Setup } from '#model'
import type { Appearance } from '#stage'

/** What the stage is handed: what is shown, and the parts that the registry marks for it. Out of doors by an exposure of its own. */
export function appearanceOf(
  setup: Setup,
  isOutdoors = false,
  {
    classes,
    blur,
  }: { readonly classes?: ClassesByHand | undefined; readonly blur?: Appearance['blur'] | undefined } = {},
): Appearance {
  const parts = Object.fromEntries(STAGE_PARTS.map((p) => [p, getPart(setup, p)]))
  const plain = { shown: shownOf(setup), ...parts, ...(classes && { classes }), ...(blur && { blur }) } as Appearance
  if (!isOutdoors) return plain
  const own = setup.exposure.outsideEv100
  return own === undefined ? { ...plain, metered: true } : { ...plain, exposure: { ...plain.exposure, ev100: own } }
}
