// What the page asks of the geometry worker and of the import worker.
import type { Outcome } from '#core/base'
import type { Camera, Ray } from '#core/camera'
import type { CheckSetup, Finding } from '#core/checks'
import type { Vec3 } from '#core/math'
import type { SkyLight } from '#core/optics'
import type { ModelFacts, ReadProgress } from '#formats/import'
import type {
  Band,
  CentreLine,
  CheckOptions,
  Closedness,
  Elevation,
  FeatureHit,
  Hit,
  LightVolume,
  SceneFacts,
  Soup,
  Storey,
  Walked,
  WallFacts,
} from '#mesh'

export interface FoundWalls extends WallFacts {
  readonly centreLines: readonly CentreLine[]
}
/** What the frame check has to know beside the Setup. */
export type CheckRequest = Pick<CheckOptions, 'kind' | 'eyeHeightM' | 'subjectId'>

export interface GeometryContract {
  /** Builds the trees of a new scene; answers with its storeys. */
  setScene(soup: Soup, facts: SceneFacts): Promise<readonly Storey[]>
  pick(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  pickFloor(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  floorBelow(point: Vec3, hidden: readonly string[]): Promise<Hit | null>
  /** What is under a picture point, drawn to a corner or an edge within reach; `ray` says where the picture begins. */
  pickFeature(
    camera: Camera,
    at: readonly [number, number],
    reachPx: number,
    ray: Ray,
    hidden: readonly string[],
  ): Promise<FeatureHit | null>
  /** The first surface that can be stood on along a ray, furniture included. */
  pickLevel(ray: Ray, hidden: readonly string[]): Promise<Hit | null>
  /** The first face of a wall along a ray within `farM`; what else stands there is passed through. */
  wallAlong(ray: Ray, farM: number, hidden: readonly string[]): Promise<Hit | null>
  /** The building's directions, walls and centre lines; null before a scene is set. */
  walls(): Promise<FoundWalls | null>
  /** The findings of the frame check; null before a scene is set. */
  check(setup: CheckSetup, about: CheckRequest): Promise<readonly Finding[] | null>
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
