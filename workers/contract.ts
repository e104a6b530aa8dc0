// What the page asks of the geometry worker and of the import worker.
import type { Outcome } from '#core/base'
import type { Camera, Ray } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { SkyLight } from '#core/optics'
import type { ModelFacts, ReadProgress } from '#formats/import'
import type { Band, Closedness, Elevation, Hit, LightVolume, SceneFacts, Soup, Storey, Walked } from '#mesh'

export interface GeometryContract {
  /** Builds the trees of a new scene; answers with its storeys. */
  setScene(soup: Soup, facts: SceneFacts): Promise<readonly Storey[]>
  pick(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  pickFloor(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  floorBelow(point: Vec3, hidden: readonly string[]): Promise<Hit | null>
  /** Objects taken in by a rectangle of the picture. */
  inBand(camera: Camera, band: Band, hidden: readonly string[]): Promise<readonly string[]>
  /** A level step on foot; null before a scene is set. */
  walk(
    from: Vec3,
    step: readonly [number, number],
    eyeHeightM: number,
    hidden: readonly string[],
  ): Promise<Walked | null>
  /** Metres that a way is free. */
  freeWay(from: Vec3, direction: Vec3, farM: number, hidden: readonly string[]): Promise<number>
  /** Whether the surface of a model is closed; null before a scene is set. */
  closedness(modelKey: string): Promise<Closedness | null>
  /** The light volume under a sky, with progress 0..1; null when a newer scene or bake took its place. */
  bake(sky: SkyLight, onProgress: (done: number) => void): Promise<LightVolume | null>
}

export interface ReadFile {
  /** One self-contained GLB, in the file's own units and axes. */
  readonly glb: Blob
  readonly facts: ModelFacts
}
/** What the page asks of the import worker; expected failures cross as data. */
export interface ImportDoor {
  read(main: File, others: readonly File[], progress: ReadProgress): Promise<Outcome<ReadFile>>
  /** SHA-256 of the GLB read last, lower-case hex; null before that. */
  checksum(): Promise<string | null>
  /** What was read last, seen from the front with y, or with z, up; null before that. */
  front(up: 'y' | 'z'): Promise<Elevation | null>
  /** Whether the surface read last is closed; null before one is read. */
  closedness(): Promise<Closedness | null>
}
