// What the page asks of the geometry worker.
import type { Ray } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { SkyLight } from '#core/optics'
import type { Hit, LightVolume, SceneFacts, Soup, Storey } from '#mesh'

export interface GeometryContract {
  /** Builds the trees of a new scene; answers with its storeys. */
  setScene(soup: Soup, facts: SceneFacts): Promise<readonly Storey[]>
  pick(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  pickFloor(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  floorBelow(point: Vec3, hidden: readonly string[]): Promise<Hit | null>
  /** The light volume under a sky, with progress 0..1; null when a newer scene or bake took its place. */
  bake(sky: SkyLight, onProgress: (done: number) => void): Promise<LightVolume | null>
}
