// The demo's two models as GLB bytes: the Saltmarsh Seed Library hall and the germination lamp. Made by code, the same every time.

import { writeGlb, type GltfNode, type GltfScene } from '#formats/gltf'
import {
  bench,
  bookshelf,
  armchair,
  cabinet,
  drawerWall,
  ladder,
  longCounter,
  pendants,
  roundCounter,
  rug,
  stool,
} from './hall/furniture.ts'
import { door, eastEnd, floors, northWall, roof, skylights, southWall, westWall, yard } from './hall/shell.ts'
import { dryingRacks, jarsOn, pottingBay, scales, traysOn } from './hall/smallthings.ts'
import { gallery, piers, purlins, railing, stair, trusses } from './hall/timber.ts'
import { lampOn, lampScene } from './lamp.ts'
import { images, MATERIALS } from './surfaces.ts'
import { trianglesOf } from './kit.ts'

const COUNTER_TOP = 0.93

function hallNodes(): GltfNode[] {
  const group = (name: string, children: GltfNode[]): GltfNode => ({ name, children })
  return [
    group('Shell', [...floors(), westWall(), door(), northWall(), southWall(), ...eastEnd()]),
    group('Roof', [...roof(), purlins(), ...trusses(), ...skylights()]),
    group('Structure', [...piers(), ...gallery(), railing(), stair()]),
    group('Furniture', [
      ...drawerWall(),
      ladder(),
      longCounter('Sorting counter, west', 7.9, 4.1),
      longCounter('Sorting counter, east', 12.5, 4.1),
      roundCounter(3.7, 4.1),
      ...[6.9, 7.9, 8.9].map((x, i) => stool(`Stool ${i + 1}`, x, 3.12)),
      ...[11.6, 13.3].map((x, i) => stool(`Stool ${i + 4}`, x, 5.05)),
      stool('Stool 6', 3.0, 3.2),
      stool('Stool 7', 4.6, 4.75),
      ...bookshelf(),
      ...bench(),
      ...cabinet(),
      rug(),
      armchair('Armchair 1', 1.5, 6.2, -125),
      armchair('Armchair 2', 1.35, 2.4, -60),
      ...pendants([
        [3.7, 4.1],
        [7.2, 4.1],
        [8.6, 4.1],
        [11.8, 4.1],
        [13.2, 4.1],
      ]),
    ]),
    group('On the counters', [
      lampOn('Germination lamp', 6.75, 3.98, COUNTER_TOP, 20),
      jarsOn('Jars, west counter', [8.3, 3.85, 9.45, 4.45], COUNTER_TOP, 15),
      traysOn('Sorting trays, west counter', [[7.5, 3.95, 8], [7.95, 4.35, -12]], COUNTER_TOP), // prettier-ignore
      jarsOn('Jars, east counter', [10.95, 3.8, 12.1, 4.4], COUNTER_TOP, 14),
      traysOn('Sorting trays, east counter', [[12.7, 4.05, 4], [13.35, 4.1, -7], [13.9, 4.25, 80]], COUNTER_TOP), // prettier-ignore
      scales(3.62, 4.3, COUNTER_TOP),
      jarsOn('Jars, round counter', [3.25, 3.65, 4.2, 4.05], COUNTER_TOP, 7),
      jarsOn('Jars, cabinet', [10.75, 0.1, 13.4, 0.45], 0.88, 22),
    ]),
    group('Potting bay', pottingBay()),
    group('Drying racks', dryingRacks()),
    group('Outside', yard()),
  ]
}

export interface DemoModel {
  readonly fileName: string
  readonly bytes: Uint8Array
  readonly triangles: number
}

function pack(fileName: string, nodes: GltfNode[]): DemoModel {
  const used = new Set<string>()
  const collect = (n: GltfNode): void => {
    n.primitives?.forEach((p) => used.add(p.material))
    n.children?.forEach(collect)
  }
  nodes.forEach(collect)
  const materials = MATERIALS.filter((m) => used.has(m.name))
  const pictures = new Set(materials.map((m) => m.image))
  const scene: GltfScene = {
    nodes,
    materials,
    images: images().filter((im) => pictures.has(im.name)),
    generator: 'Yoroi demo data',
  }
  return { fileName, bytes: writeGlb(scene), triangles: trianglesOf(nodes) }
}

export const hallModel = (): DemoModel =>
  pack('saltmarsh-seed-library.glb', [{ name: 'Saltmarsh Seed Library', children: hallNodes() }])
export const lampModel = (): DemoModel =>
  pack('germination-lamp.glb', [{ name: 'Germination lamp', children: lampScene() }])
