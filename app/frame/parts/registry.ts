// How are the parts of a Setup shown in the Frame view?
// Model: one entry for each cell of the strip: its panel and its short form. What the parts are stands in `model/parts.ts`; a further
// part is an entry there and one here.

import type { Component } from 'vue'
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
import CutPanel from './CutPanel.vue'
import ExposurePanel from './ExposurePanel.vue'
import FocusPanel from './FocusPanel.vue'
import FramePanel from './FramePanel.vue'
import LensPanel from './LensPanel.vue'
import LookPanel from './LookPanel.vue'
import ModelsPanel from './ModelsPanel.vue'
import StandPanel from './StandPanel.vue'
import VisiblePanel from './VisiblePanel.vue'

/** What short forms are made from. */
export interface ShortFrom {
  readonly setup: Setup
  readonly pose: Pose
  readonly eyeHeightM: number | null
  readonly unit: LengthUnit
  readonly aimM: number | null
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
  stand: { panel: StandPanel, short: (f) => standShort(f.pose, f.eyeHeightM, f.unit) },
  lens: { panel: LensPanel, short: (f) => lensShort(f.setup.lens) },
  frame: { panel: FramePanel, short: (f) => frameShort(f.setup.frame) },
  cut: { panel: CutPanel, short: (f) => cutShort(f.setup.cut, f.unit) },
  focus: { panel: FocusPanel, short: (f) => focusShort(f.setup.focus, f.aimM, f.unit) },
  exposure: { panel: ExposurePanel, short: (f) => exposureShort(f.setup.exposure, f.outdoorEv) },
  visible: { panel: VisiblePanel, short: (f) => visibleShort(f.hiddenCount) },
  look: { panel: LookPanel, short: (f) => lookShort(f.setup.look) },
}

/** The panels that can be opened at the right: one for each cell, and the models. */
export const PANELS: readonly { readonly name: PanelName; readonly panel: Component; readonly command: string }[] = [
  ...CELLS.map((name) => ({
    name,
    panel: CELL_VIEWS[name].panel,
    command: `Open the ${cellLabel(name)} panel`,
  })),
  { name: 'models', panel: ModelsPanel, command: 'Models: bring in, place, take out' },
]
