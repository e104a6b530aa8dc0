// Door of the stage.
export { createStage, type StageClient } from './client.ts'
export type {
  Appearance,
  DrawingRequest,
  Loaded,
  OutlineRequest,
  PictureFrame,
  PointsTold,
  OpenMoment,
  PictureRequest,
  StageContract,
  StageModel,
  StillLine,
  StillRequest,
} from './types.ts'
