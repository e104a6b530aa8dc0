// Geometry in a worker: rays, storeys and light. A thin door, no maths here.
import { expose, transfer } from 'comlink'
import { ask, bakeLight, centreLines, MeshScene, placedCheck, shiftedStoreys, shiftedWalls, type Placed } from '#mesh'
import type { Vec3 } from '#core/math'
import { shiftedShown, type ClassesByHand, type Shown } from '#core/section'
import type { GeometryContract } from './contract.ts'

let at: Placed | null = null
let current = 0
let sceneNumber = 0

class Superseded extends Error {}
const nextTurn = (): Promise<void> => new Promise((r) => setTimeout(r, 0))

expose({
  async setScene(soup, facts, origin, number) {
    current++
    const scene = new MeshScene(soup, facts)
    at = { scene, origin }
    sceneNumber = number
    return shiftedStoreys(scene.storeys(), origin)
  },
  connect: (port) =>
    expose(
      {
        faceMesh: async (shown: Shown, classes: ClassesByHand) => {
          if (!at) return null
          const mesh = at.scene.faceMesh(shown, classes)
          const arrays = Object.values(mesh) as Float32Array[]
          return transfer({ scene: sceneNumber, mesh }, arrays.map((a) => a.buffer as ArrayBuffer)) // prettier-ignore
        },
      },
      port,
    ),
  ask: async (name, args) => (at ? ask(at, name, args) : null),
  async walls() {
    if (!at) return null
    const found = at.scene.walls()
    at.scene.levels()
    return shiftedWalls({ ...found, centreLines: centreLines(found) }, at.origin)
  },
  check: async (setup, about) => (at ? placedCheck(at, setup, about) : null),
  closedness: async (modelKey) => at?.scene.closedness(modelKey) ?? null,
  async bake(sky, opened, onProgress) {
    const mine = ++current
    if (!at) return null
    try {
      // between slices rays from the page are answered; a newer job ends this one
      const pause = async (done: number): Promise<void> => {
        onProgress(done)
        await nextTurn()
        if (mine !== current) throw new Superseded()
      }
      const away = at.origin.map((v) => -v) as unknown as Vec3
      const volume = await bakeLight(at.scene, { sky, pause, ...(opened && { shown: shiftedShown(opened, away) }) })
      return transfer(volume, volume.channels.map((c) => c.buffer as ArrayBuffer)) // prettier-ignore
    } catch (e) {
      if (e instanceof Superseded) return null
      throw e
    }
  },
} satisfies GeometryContract)
