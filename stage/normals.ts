// Normals that are always directions, so that no pixel is lit by what is not a number.
// Source: gltf2 (3.7.2.1: where a file has no normals, flat ones are worked out).

import { BufferGeometry, type BufferAttribute } from 'three'

const flat = new WeakMap<BufferGeometry, BufferGeometry>()

/**
 * The geometry itself, with the directions of the faces put where a written normal has no length; where it has no normals at all,
 * one with a flat normal for each face (the same one at every call).
 */
export function withNormals(geometry: BufferGeometry): BufferGeometry {
  const normal = geometry.getAttribute('normal')
  if (!normal) {
    const known = flat.get(geometry)
    if (known) return known
    const made = geometry.index ? geometry.toNonIndexed() : geometry
    made.computeVertexNormals()
    directed(made.getAttribute('normal') as BufferAttribute)
    flat.set(geometry, made)
    flat.set(made, made)
    return made
  }
  let worked: BufferGeometry | null = null
  for (let i = nextWithoutLength(normal, 0); i < normal.count; i = nextWithoutLength(normal, i + 1)) {
    if (!worked) {
      worked = new BufferGeometry().setAttribute('position', geometry.getAttribute('position')).setIndex(geometry.index)
      worked.computeVertexNormals()
      directed(worked.getAttribute('normal') as BufferAttribute)
    }
    const n = worked.getAttribute('normal')
    normal.setXYZ(i, n.getX(i), n.getY(i), n.getZ(i))
  }
  return geometry
}

/** The next normal from `i` on that has no length, or their count. Runs over every vertex of a model before its first picture. */
function nextWithoutLength(normal: BufferGeometry['attributes'][string], i: number): number {
  const { count } = normal
  if (normal.array instanceof Float32Array && !('data' in normal)) {
    const a = normal.array
    while (i < count && a[i * 3]! ** 2 + a[i * 3 + 1]! ** 2 + a[i * 3 + 2]! ** 2 > 1e-12) i++
    return i
  }
  while (i < count && normal.getX(i) ** 2 + normal.getY(i) ** 2 + normal.getZ(i) ** 2 > 1e-12) i++
  return i
}

/** Faces without area have no direction: theirs is up. */
function directed(normal: BufferAttribute): void {
  for (let i = 0; i < normal.count; i++)
    if (!(normal.getX(i) ** 2 + normal.getY(i) ** 2 + normal.getZ(i) ** 2 > 0.25)) normal.setXYZ(i, 0, 0, 1)
}
