// Everything that can be done to a project, as plain data.
import type { ModelCommand } from './models.ts'
import type { EditPart, PartName, PartValue, Setup } from './parts.ts'
import type { ProjectDocument, TrailStep } from './schema.ts'
import type { PhotoCommand } from './photos.ts'
import type { ReelCommand } from './reels.ts'
import type { SetCommand } from './set-commands.ts'
import type { Stamp, Stepping } from './trail.ts'

export interface CameraChanges {
  readonly stand?: Setup['stand'] | undefined
  readonly lens?: Setup['lens'] | undefined
  readonly frame?: Setup['frame'] | undefined
}

export type Command =
  // camera moves: the trail
  | ({ type: 'moveCamera'; changes: CameraChanges; label: string } & Stepping)
  | { type: 'trailTo'; at: number; looked?: boolean }
  /** A framing that was looked from without being the camera's. */
  | { type: 'passed'; camera: Pick<TrailStep, 'stand' | 'lens' | 'frame'>; label: string }
  // recall and put back: the trail, and edits where other parts change
  | { type: 'recall'; viewpointId: string; only?: readonly PartName[]; stamp: Stamp; looked?: boolean }
  | { type: 'takeBack'; leftBehindId: string; stamp: Stamp; looked?: boolean }
  | { type: 'putBack'; parts: readonly PartName[]; stamp?: Stamp; looked?: boolean }
  // edits
  | { type: 'setPart'; part: EditPart; value: PartValue<EditPart> }
  | { type: 'keep'; viewpointId: string; parts: readonly PartName[] }
  /** Each part into the viewpoint that set it, else into the one last recalled. */
  | { type: 'keepChanged'; parts: readonly PartName[] }
  | { type: 'keepAsNew'; id: string; name: string; parts: readonly PartName[] }
  | { type: 'renameViewpoint'; viewpointId: string; name: string }
  | { type: 'deleteViewpoint'; viewpointId: string }
  | { type: 'duplicateViewpoint'; viewpointId: string; id: string }
  | { type: 'orderViewpoints'; ids: readonly string[] }
  | { type: 'lockViewpoint'; viewpointId: string; locked: boolean }
  | { type: 'lockPart'; part: PartName; locked: boolean }
  | { type: 'dropLeftBehind'; leftBehindId: string }
  | {
      type: 'setProject'
      changes: Partial<
        Pick<
          ProjectDocument,
          | 'name'
          | 'unit'
          | 'subject'
          | 'eyeHeightM'
          | 'planCutM'
          | 'checkLimits'
          | 'comfortLimits'
          | 'people'
          | 'materialClasses'
          | 'tables'
        >
      >
    }
  | ModelCommand
  | SetCommand
  | PhotoCommand
  | ReelCommand
