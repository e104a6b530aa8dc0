// What can be taken hold of on the photograph, each with what moving it changes.
import type { PicturePlace } from '#core/match'
import type { PhotoMatchPart } from '#model'
import type { Handle } from './drawing.ts'

const replaced = <T>(list: readonly T[], at: number, value: T): T[] => list.map((x, i) => (i === at ? value : x))

export function handlesOf(m: PhotoMatchPart): Handle[] {
  const lines = m.lines.flatMap((l, i) =>
    l.points.map((at, k): Handle => ({
      at,
      label: `End of line ${i + 1}`,
      chosen: { kind: 'line', id: l.id },
      moved: (now, to) => ({ ...now, lines: replaced(now.lines, i, { ...l, points: replaced(l.points, k, to) }) }),
    })),
  )
  const pairs = m.pairs.map((p, i): Handle => ({
    at: p.image,
    label: `Point ${i + 1}`,
    chosen: { kind: 'pair', id: p.id },
    moved: (now, image) => ({ ...now, pairs: replaced(now.pairs, i, { ...p, image }) }),
  }))
  const measures = (m.measures ?? []).flatMap((s, i) =>
    (['from', 'to'] as const).map((end): Handle => ({
      at: s[end],
      label: `End of measure ${i + 1}`,
      chosen: { kind: 'measure', id: s.id },
      moved: (now, to) => ({ ...now, measures: replaced(now.measures ?? [], i, { ...s, [end]: to }) }),
    })),
  )
  const masks = (m.masks ?? []).flatMap((s, i) =>
    s.points.map((at, k): Handle => ({
      at,
      label: `Corner of mask ${i + 1}`,
      chosen: { kind: 'mask', id: s.id },
      moved: (now, to) => ({
        ...now,
        masks: replaced(now.masks ?? [], i, { ...s, points: replaced(s.points, k, to) }),
      }),
    })),
  )
  return [...lines, ...pairs, ...measures, ...masks, ...scaleHandles(m)]
}
function scaleHandles({ scale }: PhotoMatchPart): Handle[] {
  if (!scale) return []
  const of = (at: PicturePlace, label: string, key: string): Handle => ({
    at,
    label,
    chosen: null,
    moved: (now, to) => ({ ...now, scale: { ...scale, [key]: to } }),
  })
  return scale.kind === 'eye'
    ? [of(scale.foot, 'Ground under the eye height', 'foot')]
    : [of(scale.from, 'Known length, its beginning', 'from'), of(scale.to, 'Known length, its end', 'to')]
}
