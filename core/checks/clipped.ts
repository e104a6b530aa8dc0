// Is much of the picture lost at its bright or dark end? Judged on the picture as it is shown. Limits are common practice.
import type { Clipped } from '../optics/index.ts'
import type { Finding } from './types.ts'

/** Windows may burn out a little, corners be black; more is a fault of exposure. */
const BRIGHT_PERCENT = 12
const DARK_PERCENT = 12
/** So much at a time is mended, EV. */
const STEP_EV = 2 / 3

export function clippedFindings({ bright, dark }: Clipped): Finding[] {
  const finding = (share: number, limit: number, isBright: boolean): Finding[] =>
    share * 100 <= limit
      ? []
      : [
          {
            id: 'clipped',
            severity: 'note',
            value: share * 100,
            limit,
            unit: '%',
            message: `${(share * 100).toFixed(0)} % of the picture is ${isBright ? 'clipped to white' : 'black'}.`,
            reason: isBright ? 'Nothing can be told apart there: expose less, or hold it by the tone.' : 'Nothing can be told apart there: expose more, or bring light in.', // prettier-ignore
            show: {},
            mend: { label: isBright ? 'Darker by 2/3 EV' : 'Brighter by 2/3 EV', brighterEv: isBright ? -STEP_EV : STEP_EV }, // prettier-ignore
          },
        ]
  return [...finding(bright, BRIGHT_PERCENT, true), ...finding(dark, DARK_PERCENT, false)]
}
