// Door of the model: the project document, its schema, its commands and its two histories.
// schema and types
export {
  FRAME_LIMIT_PX,
  frameSchema,
  lensSchema,
  projectSchema,
  SCHEMA_VERSION,
  setupSchema,
  standSchema,
  type KeptParts,
  type LeftBehind,
  type ModelRef,
  type ProjectDocument,
  type Setup,
  type TrailStep,
  type Viewpoint,
} from './schema.ts'
export { readProjectDocument, type DocumentReason } from './migrate.ts'
// parts of a Setup
export {
  CAMERA_PARTS,
  compareSetups,
  EDIT_PARTS,
  getPart,
  isCameraPart,
  keptNames,
  mergeParts,
  PARTS,
  pickParts,
  sameJson,
  withPart,
  type CameraPart,
  type Difference,
  type EditPart,
  type PartName,
  type PartValue,
} from './parts.ts'
// beginnings
export {
  aimAt,
  DEFAULT_EYE_HEIGHT_M,
  DEFAULT_PLAN_CUT_M,
  newLens,
  newModel,
  newProject,
  newSetup,
  UNSET_CUT_M,
  type Subject,
} from './defaults.ts'
// changes
export {
  applyCommand,
  changedParts,
  findViewpoint,
  hasUnkept,
  partLabel,
  type Applied,
  type CameraChanges,
  type Command,
  type CommandReason,
  type Stamp,
} from './commands.ts'
export type { ModelCommand } from './models.ts'
export { EMPTY_HISTORY, redo, remembered, undo, type Edit, type History, type Step } from './history.ts'
