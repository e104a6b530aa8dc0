// Where do several models stand in one scene?
// Model: each model's root carries unit, up axis, size, turn and place in one matrix; single objects moved by themselves get a
// matrix that moves them in the world whatever lies above them. Parents are moved before what they hold. Space: world metres, Z up.

import { Box3, Group, Matrix4, Vector3, type Object3D } from 'three'
import { cosDeg, sinDeg } from '#core/base'
import type { ObjectMove, PlacedModel } from '#core/placing'
import { collect } from './nodes.ts'

/** (x, y, z) -> (x, -z, y): an exact quarter turn. */
const Y_UP = new Matrix4().set(1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1)

/** Clockwise seen from above; exact at quarter turns. */
function turn(deg: number): Matrix4 {
  const c = cosDeg(deg)
  const s = sinDeg(deg)
  return new Matrix4().set(c, s, 0, 0, -s, c, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1)
}

/** World from file: up axis, unit and size, then the turn, then the place. */
export function worldFromFile(model: Pick<PlacedModel, 'unitM' | 'up' | 'place'>): Matrix4 {
  const { position, turnDeg, scale } = model.place
  const size = model.unitM * scale
  const m = new Matrix4().makeTranslation(...position)
  if (turnDeg % 360 !== 0) m.multiply(turn(turnDeg))
  if (size !== 1) m.multiply(new Matrix4().makeScale(size, size, size))
  return model.up === 'y' ? m.multiply(Y_UP) : m
}

/** One scene of loaded roots (each becomes the node `key`), placed. The roots' own matrices are replaced. */
export function assemble(models: readonly { readonly placed: PlacedModel; readonly root: Object3D }[]): Group {
  const scene = new Group()
  for (const { placed, root } of models) {
    root.name = root.userData['name'] = placed.key
    scene.add(root)
  }
  collect(scene)
  place(
    scene,
    models.map((m) => m.placed),
  )
  return scene
}

/** Places the models of an assembled scene anew. Objects that the file does not have are passed over. */
export function place(scene: Object3D, models: readonly PlacedModel[]): void {
  for (const root of scene.children) {
    const model = models.find((m) => m.key === root.name)
    if (!model) continue
    root.userData['up'] = model.up
    root.matrixAutoUpdate = false
    root.matrix.copy(worldFromFile(model))
    const byId = new Map<string, Object3D>()
    root.traverse((o) => {
      // a stage that showed it before may have stopped its updates
      o.matrixWorldAutoUpdate = true
      const before = o.userData['ownMatrix'] as Matrix4 | undefined
      if (before) {
        o.matrix.copy(before)
        delete o.userData['ownMatrix']
      }
      if (o.userData['isPrimitive'] !== true) byId.set(String(o.userData['nodeId']), o)
    })
    root.updateMatrixWorld(true)
    const depth = (m: ObjectMove): number => m.path.split('/').length
    for (const move of [...model.moved].sort((a, b) => depth(a) - depth(b))) {
      const object = byId.get(move.path)
      if (object && object !== root) moveObject(object, move)
    }
  }
}

function moveObject(object: Object3D, { moveM, turnDeg }: ObjectMove): void {
  const centre = new Box3().setFromObject(object).getCenter(new Vector3())
  const m = new Matrix4().makeTranslation(centre.x + moveM[0], centre.y + moveM[1], centre.z + moveM[2])
  if (turnDeg % 360 !== 0) m.multiply(turn(turnDeg))
  m.multiply(new Matrix4().makeTranslation(-centre.x, -centre.y, -centre.z))
  // the loader leaves position, turn and size apart: from here on the matrix alone holds
  if (object.matrixAutoUpdate) object.updateMatrix()
  object.userData['ownMatrix'] = object.matrix.clone()
  object.matrixAutoUpdate = false
  const above = object.parent!.matrixWorld
  object.matrix.copy(above.clone().invert().multiply(m).multiply(object.matrixWorld))
  object.updateMatrixWorld(true)
}
