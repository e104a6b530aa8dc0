// The charts' library, loaded when the first chart is opened.
import './plotly.css'

const STYLES = 'plotly.js-style-global'
/** The page allows no styles that scripts write: the library takes an element of this name and class as a sign to write none. */
function withoutStyles(): void {
  if (document.getElementById(STYLES)) return
  document.body.append(Object.assign(document.createElement('i'), { id: STYLES, className: 'no-inline-styles', hidden: true })) // prettier-ignore
}
export type Plotly = typeof import('plotly.js-basic-dist-min')
/** Rejects where the server does not send it. */
export function loadPlotly(): Promise<Plotly> {
  withoutStyles()
  return import('plotly.js-basic-dist-min')
}
