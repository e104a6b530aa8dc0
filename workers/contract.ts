// What the page asks of the geometry worker and of the import worker.
import type { Outcome } from '#core/base'
import type { CheckSetup, Finding } from '#core/checks'
import type { Vec3 } from '#core/math'
import type { KeptCube, SkyLight } from '#core/optics'
import type { Shown } from '#core/section'
import type { ModelFacts, ReadProgress } from '#formats/import'
import type {
  Answer,
  Asking,
  CentreLine,
  CheckOptions,
  Closedness,
  Elevation,
  LightVolume,
  QuestionName,
  SceneFacts,
  Soup,
  Storey,
  WallFacts,
} from '#mesh'

export interface FoundWalls extends WallFacts {
  readonly centreLines: readonly CentreLine[]
}
/** What the frame check has to know beside the Setup. */
export type CheckRequest = Pick<CheckOptions, 'kind' | 'eyeHeightM' | 'subjectId' | 'people'>

export interface GeometryContract {
  /** Builds the trees of a new scene, number `scene`, which lies about `origin` in the world; answers with its storeys. */
  setScene(soup: Soup, facts: SceneFacts, origin: Vec3, scene: number): Promise<readonly Storey[]>
  /** A port through which cut faces are asked for, in the scene's own coordinates. */
  connect(port: MessagePort): void
  /** Any question of `mesh/questions.ts`; null before a scene is set. */
  ask<K extends QuestionName>(name: K, args: Asking<K>): Promise<Answer<K> | null>
  /** The building's directions, walls and centre lines; null before a scene is set. */
  walls(): Promise<FoundWalls | null>
  /** The findings of the frame check; null before a scene is set. */
  check(setup: CheckSetup, about: CheckRequest): Promise<readonly Finding[] | null>
  /** Whether the surface of a model is closed; null before a scene is set. */
  closedness(modelKey: string): Promise<Closedness | null>
  /** The light volume under a sky, through what the cuts of `opened` take away (null: as it stands), with progress 0..1; null when a newer scene or bake took its place. */
  bake(sky: SkyLight, opened: Shown | null, onProgress: (done: number) => void): Promise<LightVolume | null>
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

/** What the page asks of the worker that reads colour tables. */
export interface TableDoor {
  read(file: File): Promise<KeptCube>
}
