// How are the parts of a Setup shown in the Frame view?
// Model: one entry for each cell of the strip: its panel and its short form. What the parts are stands in `model/parts.ts`; a further
// part is an entry there and one here.

import { defineAsyncComponent, h, type Component } from 'vue'
import type { LengthUnit } from '#core/base'
import type { Pose } from '#core/camera'
import { CELLS, cellLabel, type CellName, type Setup } from '#model'
import type { PanelName } from '../../stores/view.ts'
import {
  cutShort,
  exposureShort,
  focusShort,
  frameShort,
  lensShort,
  lookShort,
  standShort,
  visibleShort,
} from '../../text/short.ts'

// The panels' code comes after the picture's: fetched when the page first has time for it, so that it is there when the server is away.
const CODE = {
  stand: () => import('./StandPanel.vue'),
  lens: () => import('./LensPanel.vue'),
  frame: () => import('./FramePanel.vue'),
  cut: () => import('./CutPanel.vue'),
  focus: () => import('./FocusPanel.vue'),
  exposure: () => import('./ExposurePanel.vue'),
  visible: () => import('./VisiblePanel.vue'),
  look: () => import('./LookPanel.vue'),
  models: () => import('./ModelsPanel.vue'),
} satisfies Record<PanelName, () => Promise<{ default: Component }>>

/** Fetches the code of every panel that is not there yet; what fails is asked for again when its panel is opened. */
export async function fetchPanels(): Promise<void> {
  await Promise.allSettled(Object.values(CODE).map((load) => load()))
}
const NotFetched = () => h('p', { class: 'quiet', role: 'alert' }, 'The server did not send this panel. Open it again.')
const later = (name: PanelName): Component => defineAsyncComponent({ loader: CODE[name], errorComponent: NotFetched })

/** What short forms are made from. */
export interface ShortFrom {
  readonly setup: Setup
  readonly pose: Pose
  readonly eyeHeightM: number | null
  readonly unit: LengthUnit
  /** How far away what is focused on lies; null before that is known. */
  readonly focusM: number | null
  /** How many things are hidden, one by one and by sets. */
  readonly hiddenCount: number
  /** The EV that an exterior or a measured view is exposed by; null indoors. */
  readonly outdoorEv: number | null
}
interface CellView {
  readonly panel: Component
  /** Two lines that always fit. */
  readonly short: (from: ShortFrom) => readonly [string, string]
}

export const CELL_VIEWS: Readonly<Record<CellName, CellView>> = {
  stand: { panel: later('stand'), short: (f) => standShort(f.pose, f.eyeHeightM, f.unit) },
  lens: { panel: later('lens'), short: (f) => lensShort(f.setup.lens) },
  frame: { panel: later('frame'), short: (f) => frameShort(f.setup.frame) },
  cut: { panel: later('cut'), short: (f) => cutShort(f.setup.cut, f.unit) },
  focus: { panel: later('focus'), short: (f) => focusShort(f.setup.focus, f.focusM, f.unit) },
  exposure: { panel: later('exposure'), short: (f) => exposureShort(f.setup.exposure, f.outdoorEv) },
  visible: { panel: later('visible'), short: (f) => visibleShort(f.hiddenCount) },
  look: { panel: later('look'), short: (f) => lookShort(f.setup.look) },
}

/** The panels that can be opened at the right: one for each cell, and the models. */
export const PANELS: readonly { readonly name: PanelName; readonly panel: Component; readonly command: string }[] = [
  ...CELLS.map((name) => ({
    name,
    panel: CELL_VIEWS[name].panel,
    command: `Open the ${cellLabel(name)} panel`,
  })),
  { name: 'models', panel: later('models'), command: 'Models: bring in, place, take out' },
]
