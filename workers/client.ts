// The page's door to the geometry worker.
import { proxy, transfer, wrap } from 'comlink'
import type { GeometryContract } from './contract.ts'

export interface GeometryClient extends GeometryContract {
  dispose(): void
}

export function createGeometry(): GeometryClient {
  const worker = new Worker(new URL('./geometry.worker.ts', import.meta.url), { type: 'module' })
  const door = wrap<GeometryContract>(worker)
  return {
    setScene: (soup, facts) => {
      const arrays = [soup.positions, soup.indices, soup.nodeOfVertex, soup.albedo, soup.emission]
      return door.setScene(transfer(soup, [...new Set(arrays.map((a) => a.buffer as ArrayBuffer))]), facts)
    },
    pick: (ray, hidden) => door.pick(ray, [...hidden]),
    pickFloor: (ray, hidden) => door.pickFloor(ray, [...hidden]),
    floorBelow: (point, hidden) => door.floorBelow(point, [...hidden]),
    pickFeature: (camera, at, reach, ray, hidden) => door.pickFeature(camera, at, reach, ray, [...hidden]),
    pickLevel: (ray, hidden) => door.pickLevel(ray, [...hidden]),
    wallAlong: (ray, far, hidden) => door.wallAlong(ray, far, [...hidden]),
    walls: () => door.walls(),
    check: (setup, about) => door.check(setup, about),
    inBand: (camera, band, hidden) => door.inBand(camera, band, [...hidden]),
    walk: (from, step, eye, hidden) => door.walk(from, step, eye, [...hidden]),
    freeWay: (from, direction, far, hidden) => door.freeWay(from, direction, far, [...hidden]),
    closedness: (key) => door.closedness(key),
    bake: (sky, onProgress) => door.bake(sky, proxy(onProgress)),
    dispose: () => worker.terminate(),
  }
}
