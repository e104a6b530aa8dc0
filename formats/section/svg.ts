// One plane of a section as SVG at a drawing scale: millimetres on paper, y down, one group an object.
// Source: svg2 (units, fill-rule); iso128-2 for the width of outlines.
import { contourArea, type Contour } from '#core/section'
import type { SectionFace } from './json.ts'

/** Margin around the drawing and width of outlines, millimetres. */
const MARGIN_MM = 10
const OUTLINE_MM = 0.5
const OPEN_MM = 0.25
const escaped = (s: string): string => s.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** The faces of one plane at 1 : `scale`; null where they hold nothing. */
export function sectionSvg(faces: readonly SectionFace[], scale: number, title: string): string | null {
  const mm = 1000 / scale
  const all = faces.flatMap((f) => [...f.polygons.flatMap((p) => [p.outer, ...p.holes]), ...f.open])
  if (all.length === 0) return null
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const c of all)
    for (let i = 0; i < c.length; i += 2) {
      x0 = Math.min(x0, c[i]!)
      x1 = Math.max(x1, c[i]!)
      y0 = Math.min(y0, c[i + 1]!)
      y1 = Math.max(y1, c[i + 1]!)
    }
  const number = (v: number): string => String(Number(v.toFixed(4)))
  const at = (x: number, y: number): string =>
    `${number((x - x0) * mm + MARGIN_MM)} ${number((y1 - y) * mm + MARGIN_MM)}`
  const path = (c: Contour, close: boolean): string =>
    `${Array.from({ length: c.length / 2 }, (_, i) => `${i === 0 ? 'M' : 'L'}${at(c[i * 2]!, c[i * 2 + 1]!)}`).join('')}${close ? 'Z' : ''}`
  const [w, h] = [(x1 - x0) * mm + 2 * MARGIN_MM, (y1 - y0) * mm + 2 * MARGIN_MM]
  const groups = faces.map((f) => {
    const d = f.polygons
      .filter((p) => contourArea(p.outer) > 0)
      .map((p) => [p.outer, ...p.holes].map((c) => path(c, true)).join(''))
      .join('')
    const open = f.open.map((c) => path(c, false)).join('')
    return [
      `<g id="${escaped(f.nodeId)}">`,
      ...(d ? [`<path class="face" d="${d}"/>`] : []),
      ...(open ? [`<path class="open" d="${open}"/>`] : []),
      '</g>',
    ].join('')
  })
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${number(w)}mm" height="${number(h)}mm" viewBox="0 0 ${number(w)} ${number(h)}">`,
    `<title>${escaped(title)}, 1 : ${scale}</title>`,
    `<style>.face{fill:#24262b;fill-rule:evenodd;stroke:#24262b;stroke-width:${OUTLINE_MM};stroke-linejoin:round}.open{fill:none;stroke:#24262b;stroke-width:${OPEN_MM}}</style>`,
    ...groups,
    '</svg>',
    '',
  ].join('\n')
}
