// The measured views as they are offered: a word each, angles and ratios in words.
import type { MeasuredView, Quarter } from '#core/framing'
import { compass, compassShort } from '../../text/short.ts'

export interface ViewTileFacts {
  /** In full, for the tooltip and for who cannot see the picture. */
  readonly label: string
  /** Under the picture. */
  readonly word: string
  readonly view: MeasuredView
}
export interface ViewRow {
  readonly label: string
  /** What the trade calls it, where one word does not mean the same to all. */
  readonly title?: string
  readonly views: readonly ViewTileFacts[]
}
const QUARTERS = [0, 1, 2, 3] as const satisfies readonly Quarter[]

/** Rows for a building whose main direction has this bearing; views of one side face the quarter `q`. */
export const viewRows = (mainBearingDeg: number, q: Quarter): readonly ViewRow[] => [
  {
    label: 'From above, from below',
    views: [
      { label: 'Plan: straight down', word: 'plan', view: { kind: 'plan' } },
      { label: 'Underside: straight up', word: 'underside', view: { kind: 'underside' } },
    ],
  },
  {
    label: 'Elevations',
    views: QUARTERS.map((k) => ({
      label: `Elevation looking ${compass(mainBearingDeg + 90 * k)}`,
      word: compassShort(mainBearingDeg + 90 * k),
      view: { kind: 'elevation', quarter: k },
    })),
  },
  {
    label: '30° and 30°',
    title: 'Isometric: all three axes shortened alike',
    views: QUARTERS.map((k) => ({
      label: `Isometric looking ${compass(mainBearingDeg + 90 * k + 45)}: both axes at 30°, all shortened alike`,
      word: compassShort(mainBearingDeg + 90 * k + 45),
      view: { kind: 'isometric', corner: k },
    })),
  },
  dimetricRow(q),
  obliqueRow(q),
]

const dimetricRow = (quarter: Quarter): ViewRow => ({
  label: '7° and 42°, or 2 : 1',
  title: 'Dimetric: two axes shortened alike; some draughtsmen use the word for what shortens only the height',
  views: [
    {
      label: 'Dimetric, turned left: axes at 7° and 42°, the depth at half the scale of width and height',
      word: '7° 42°',
      view: { kind: 'dimetric', quarter, hand: 'left' },
    },
    {
      label: 'Dimetric, turned right: axes at 42° and 7°, the depth at half the scale of width and height',
      word: '42° 7°',
      view: { kind: 'dimetric', quarter, hand: 'right' },
    },
    {
      label: 'Dimetric two to one: both axes rise one on two',
      word: '2 : 1',
      view: { kind: 'dimetric-2-1', corner: quarter },
    },
  ],
})

const obliqueRow = (quarter: Quarter): ViewRow => ({
  label: 'A side in full',
  title: 'Oblique: one side keeps its true shape',
  views: [
    { label: 'Cabinet: the depth at 45°, halved', word: '45° half', view: { kind: 'cabinet', quarter } },
    { label: 'Cavalier: the depth at 45°, in full', word: '45° full', view: { kind: 'cavalier', quarter } },
    {
      label: 'Planometric: the plan turned by 45°, heights at two thirds',
      word: 'plan 45°',
      view: { kind: 'planometric', turnDeg: 45, receding: 2 / 3 },
    },
    {
      label: 'Planometric: the plan turned by 30°, heights in full',
      word: 'plan 30°',
      view: { kind: 'planometric', turnDeg: 30, receding: 1 },
    },
  ],
})
