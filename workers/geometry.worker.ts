// Geometry in a worker: rays, storeys and light. A thin door, no maths here.
import { expose, transfer } from 'comlink'
import { bakeLight, freeWay, MeshScene, nodesInBand, walkStep } from '#mesh'
import type { GeometryContract } from './contract.ts'

let scene: MeshScene | null = null
let current = 0

class Superseded extends Error {}
const nextTurn = (): Promise<void> => new Promise((r) => setTimeout(r, 0))

expose({
  async setScene(soup, facts) {
    current++
    scene = new MeshScene(soup, facts)
    return scene.storeys()
  },
  pick: async (ray, hidden) => scene?.pick(ray, new Set(hidden)) ?? null,
  pickFloor: async (ray, hidden) => scene?.pickFloor(ray, new Set(hidden)) ?? null,
  floorBelow: async (point, hidden) => scene?.floorBelow(point, new Set(hidden)) ?? null,
  inBand: async (camera, band, hidden) => (scene ? nodesInBand(scene, camera, band, new Set(hidden)) : []),
  walk: async (from, step, eyeHeightM, hidden) =>
    scene ? walkStep(scene, from, step, { eyeHeightM, hidden: new Set(hidden) }) : null,
  freeWay: async (from, direction, farM, hidden) =>
    scene ? freeWay(scene, from, direction, farM, new Set(hidden)) : farM,
  closedness: async (modelKey) => scene?.closedness(modelKey) ?? null,
  async bake(sky, onProgress) {
    const mine = ++current
    if (!scene) return null
    try {
      // between slices rays from the page are answered; a newer job ends this one
      const pause = async (done: number): Promise<void> => {
        onProgress(done)
        await nextTurn()
        if (mine !== current) throw new Superseded()
      }
      const volume = await bakeLight(scene, { sky, pause })
      return transfer(volume, volume.channels.map((c) => c.buffer as ArrayBuffer)) // prettier-ignore
    } catch (e) {
      if (e instanceof Superseded) return null
      throw e
    }
  },
} satisfies GeometryContract)
