// Everything that can be done to a project, as plain data.
import type { ModelCommand } from './models.ts'
import type { EditPart, PartName, PartValue, Setup } from './parts.ts'
import type { ProjectDocument } from './schema.ts'

export interface CameraChanges {
  readonly stand?: Setup['stand'] | undefined
  readonly lens?: Setup['lens'] | undefined
  readonly frame?: Setup['frame'] | undefined
}
/** What a left-behind entry is stamped with, should this command leave a framing. */
export interface Stamp {
  readonly id: string
  readonly at: string
}

export type Command =
  // camera moves: the trail
  /** One that joins is one step with the trail's last, where that has its label. */
  | { type: 'moveCamera'; changes: CameraChanges; label: string; joins?: boolean }
  | { type: 'trailTo'; at: number }
  // recall and put back: the trail, and edits where other parts change
  | { type: 'recall'; viewpointId: string; only?: readonly PartName[]; stamp: Stamp }
  | { type: 'takeBack'; leftBehindId: string; stamp: Stamp }
  | { type: 'putBack'; parts: readonly PartName[] }
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
      changes: Partial<Pick<ProjectDocument, 'name' | 'unit' | 'subject' | 'eyeHeightM' | 'planCutM'>>
    }
  | ModelCommand
