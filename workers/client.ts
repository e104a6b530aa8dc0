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
    setScene: (soup, facts, origin, scene) => {
      const arrays = [soup.positions, soup.indices, soup.nodeOfVertex, soup.albedo, soup.emission]
      return door.setScene(
        transfer(soup, [...new Set(arrays.map((a) => a.buffer as ArrayBuffer))]),
        facts,
        origin,
        scene,
      )
    },
    connect: (port) => void door.connect(transfer(port, [port])),
    // what cannot be told apart through the worker's door: a function of any of the questions
    ask: (name, args) => (door.ask as unknown as GeometryContract['ask'])(name, args),
    walls: () => door.walls(),
    check: (setup, about) => door.check(setup, about),
    closedness: (key) => door.closedness(key),
    bake: (sky, opened, onProgress) => door.bake(sky, opened, proxy(onProgress)),
    dispose: () => worker.terminate(),
  }
}
