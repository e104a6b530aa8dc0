// Door of the model: the project document, its schema, its commands and its two histories.
// schema and types
export {
  LABEL_LIMIT,
  LIST_LIMITS,
  NAME_LIMIT,
  projectSchema,
  SCHEMA_VERSION,
  type LeftBehind,
  type ObjectSet,
  type TableRef,
  type ModelRef,
  type ProjectDocument,
  type Sources,
  type TrailStep,
  type Viewpoint,
} from './schema.ts'
export { FRAME_LIMIT_PX, GUIDE_COLOURS, GUIDE_KINDS, frameSchema, lensSchema, standSchema } from './part-schemas.ts'
export { readProjectDocument, type DocumentReason } from './migrate.ts'
export { packed, unpacked, unpackedAfter, type PackedDocument } from './packing.ts'
export { applyPatch, patchBetween, type Patch, type PatchOp } from './patch.ts'
export { fingerprint } from './fingerprint.ts'
export { patchFault } from './validate.ts'
// photographs
export {
  MATCH_LIMITS,
  PHOTO_LIMIT_PX,
  type Bundle,
  type MatchScale,
  type Photo,
  type PhotoMatchPart,
} from './photo-schemas.ts'
// moving pictures
export { centresAmong, movedOf, placesOf, withState } from './object-states.ts'
export {
  REEL_LIMITS,
  type ObjectState,
  type PlayPart,
  type ReelPart,
  type ShotPart,
  type WalkStop,
} from './reel-schemas.ts'
// parts of a Setup
export {
  CAMERA_PARTS,
  cellLabel,
  cellOf,
  CELLS,
  compareSetups,
  EDIT_PARTS,
  getPart,
  isCameraPart,
  keptNames,
  mergeParts,
  newLens,
  newSetup,
  PART_TABLE,
  partLabel,
  PARTS,
  PICTURE_PARTS,
  partsOfCell,
  pickParts,
  sameJson,
  setupSchema,
  STAGE_PARTS,
  THUMBNAIL_PARTS,
  UNSET_CUT_M,
  withPart,
  type CameraPart,
  type CellName,
  type Difference,
  type EditPart,
  type KeptParts,
  type PartName,
  type PartValue,
  type Setup,
  type StagePart,
  type Subject,
} from './parts.ts'
export {
  allShown,
  isBelowHidden,
  isolated,
  setupAsShown,
  visibleAsShown,
  withHidden,
  withSet,
  withShadows,
  withShown,
  type TreeNode,
  type Visible,
} from './visible.ts'
export { lostAims, type LostAim } from './lost-aims.ts'
// what is shown, and limits of what gestures write
export { shownOf } from './shown.ts'
export { limitedCamera } from './limits.ts'
// beginnings
export { aimAt, DEFAULT_EYE_HEIGHT_M, DEFAULT_PLAN_CUT_M, newModel, newProject } from './defaults.ts'
// changes
export { applyCommand } from './commands.ts'
export type { CameraChanges, Command } from './command-types.ts'
export { trailNeighbour, trailPlace, type Stamp, type Stepping } from './trail.ts'
export type { Applied, CommandReason } from './applied.ts'
export { changedParts, findViewpoint, keepingPlan, referenceOf, sourceOf, wouldLose } from './recalled.ts'
export type { ModelCommand, ModelFile } from './models.ts'
export { packHistory, unpackHistory } from './history-packing.ts'
export { EMPTY_HISTORY, redo, remembered, undo, type Edit, type History, type Step } from './history.ts'
export { withoutEdit } from './take-out.ts'
export type { Change } from './changes.ts'
