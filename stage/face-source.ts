// Where the stage has its cut faces from: asked of the geometry beside it, kept by what is cut.

import { wrap } from 'comlink'
import type { Camera } from '#core/camera'
import { nearPlane, type ClassesByHand, type Shown } from '#core/section'
import type { FaceMesh } from '#mesh'
import { drawnFaces, type DrawnFaces } from './cut-faces.ts'

/** What the geometry answers through the port: the faces, and the count of the scene that they are of; null before there is one. */
export interface FaceDoor {
  faceMesh(shown: Shown, classes: ClassesByHand): Promise<{ readonly scene: number; readonly mesh: FaceMesh } | null>
}
/** As many cuts are remembered: a drag makes a new one at each step. */
const KEPT = 24

export class FaceSource {
  private readonly door: FaceDoor
  private readonly kept = new Map<string, DrawnFaces>()
  private scene = 0
  /** Number of the scene that faces are of. */
  get count(): number {
    return this.scene
  }

  constructor(port: MessagePort) {
    this.door = wrap<FaceDoor>(port) as unknown as FaceDoor
  }
  /** Another scene: what was known is of the one before. */
  begin(scene: number): void {
    this.scene = scene
    for (const key of [...this.kept.keys()]) this.drop(key)
  }
  /** The faces of what is shown, the near cut's too; null where no cut lays anything open. */
  async of(camera: Camera, of: Shown, classes: ClassesByHand = {}): Promise<DrawnFaces | null> {
    const near = nearPlane(camera, of)
    const shown = near ? { ...of, cuts: { ...of.cuts, list: [...of.cuts.list, near] } } : of
    const { cuts, hidden, moved } = shown
    if (cuts.list.length === 0 || (cuts.face ?? 'open') === 'open') return null
    const key = JSON.stringify([cuts.list, cuts.whole, cuts.closeM, hidden, moved, classes])
    const known = this.kept.get(key)
    if (known) {
      this.kept.delete(key)
      this.kept.set(key, known)
      return known
    }
    const answer = await this.door.faceMesh(shown, classes)
    if (!answer) return null
    const made = drawnFaces(answer.mesh)
    // of a scene that is on its way out they serve once
    if (answer.scene === this.scene) this.keep(key, made)
    return made
  }
  private keep(key: string, made: DrawnFaces): void {
    this.kept.set(key, made)
    const [oldest] = this.kept.keys()
    if (this.kept.size > KEPT && oldest !== undefined) this.drop(oldest)
  }
  private drop(key: string): void {
    this.kept.get(key)?.faces.dispose()
    this.kept.get(key)?.lines.dispose()
    this.kept.delete(key)
  }
}
