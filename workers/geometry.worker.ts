// Geometry in a worker: rays, storeys and light. A thin door, no maths here.
import { expose, transfer } from 'comlink'
import { poseOfStand } from '#core/camera'
import { frameCheck } from '#core/checks'
import { centreWithOffset } from '#core/placing'
import { bakeLight, centreLines, checkScene, freeWay, MeshScene, nodesInBand, pickFeature, walkStep } from '#mesh'
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
  pickFeature: async (camera, [x, y], reach, ray, hidden) =>
    scene ? pickFeature(scene, camera, x, y, reach, new Set(hidden), ray) : null,
  pickLevel: async (ray, hidden) => scene?.pickLevel(ray, new Set(hidden)) ?? null,
  wallAlong: async (ray, farM, hidden) => scene?.wallAlong(ray, farM, new Set(hidden)) ?? null,
  async walls() {
    if (!scene) return null
    const found = scene.walls()
    scene.levels()
    return { ...found, centreLines: centreLines(found) }
  },
  async check(setup, about) {
    const at = scene
    if (!at) return null
    const pose = poseOfStand(setup.stand, (id, offset) => centreWithOffset(at.node(id), offset))
    const hidden = new Set(setup.visible.hidden)
    return frameCheck(setup, checkScene(at, { ...about, station: pose.station, hidden }))
  },
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
