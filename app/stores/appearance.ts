import { getPart, shownOf, STAGE_PARTS, type Setup } from '#model'
import type { Appearance } from '#stage'

/** What the stage is handed: what is shown, and the parts that the registry marks for it. */
export const appearanceOf = (setup: Setup): Appearance =>
  ({ shown: shownOf(setup), ...Object.fromEntries(STAGE_PARTS.map((p) => [p, getPart(setup, p)])) }) as Appearance
