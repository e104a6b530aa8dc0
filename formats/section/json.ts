// Sections as JSON: polygons with holes by object, flat in their plane, with the plane's axes in the world.
import type { Vec3 } from '#core/math'
import type { Contour, PlaneAxes, Polygon } from '#core/section'

/** A face of a cut, as the geometry answers it. */
export interface SectionFace {
  readonly cutId: string
  readonly plane: number
  readonly axes: PlaneAxes
  readonly nodeId: string
  readonly polygons: readonly Polygon[]
  readonly open: readonly Contour[]
}
const points = (c: Contour): [number, number][] =>
  Array.from({ length: c.length / 2 }, (_, i) => [c[i * 2]!, c[i * 2 + 1]!])
const plain = (v: Vec3): number[] => v.map((n) => (n === 0 ? 0 : n))

/** Metres; of each plane origin, right, up and normal, so that x and y are `right` and `up` from the origin. */
export function sectionJson(faces: readonly SectionFace[], nameOf: (cutId: string) => string): string {
  const planes = new Map<string, SectionFace[]>()
  for (const f of faces) planes.set(`${f.cutId}|${f.plane}`, [...(planes.get(`${f.cutId}|${f.plane}`) ?? []), f])
  const sections = [...planes.values()].map((mine) => {
    const { axes, cutId, plane } = mine[0]!
    return {
      cut: nameOf(cutId),
      plane,
      origin: plain(axes.origin),
      right: plain(axes.right),
      up: plain(axes.up),
      normal: plain(axes.normal),
      objects: mine.map((f) => ({
        object: f.nodeId,
        polygons: f.polygons.map((p) => ({ outer: points(p.outer), holes: p.holes.map(points) })),
        openLines: f.open.map(points),
      })),
    }
  })
  return `${JSON.stringify({ format: 'yoroi section', version: 1, unit: 'm', sections }, null, 1)}\n`
}
