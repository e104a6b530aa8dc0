// Door of sections: what cuts take away, and what is shown.
export { byMaterial, byStorey, SURROUNDINGS, type GroupedNode, type ObjectGroup } from './groups.ts'
export { isCutAway, isRemoved, type Cut } from './cuts.ts'
export {
  ALL_SHOWN,
  isBetweenCuts,
  NEAR_CUT,
  nearPlane,
  OUTLINE,
  seenThrough,
  sightAlong,
  sightThrough,
  type FaceStyle,
  type OutlineWeight,
  type Shown,
  type Sight,
  type Spacing,
} from './shown.ts'
export { sliceMesh, sliceChains, type Chain, type Plane } from './slice.ts'
export { sliceTree, type Mesh, type SliceTree } from './slice-tree.ts'
export { welded } from './weld.ts'
export { sectionArea } from './area.ts'
export { contourArea, contourLength, filledRegion, type Contour } from './region.ts'
export { flattened, inSpace, onAxes, planeAxes, type PlaneAxes } from './plane-axes.ts'
export { boxAxes, isLaidOpen, partingLines, planesOf } from './exposed.ts'
export { gapClosed, gapOf, gapsClosed } from './close-gaps.ts'
export { clearance, type Clearance } from './clear.ts'
export { isInside, nested, polygonArea, type Polygon } from './nest.ts'
export {
  CUT_KINDS,
  moveCut,
  movePlane,
  nearestDirection,
  newCut,
  nextLetter,
  THINNEST_M,
  type CutKind,
  type CutPlace,
} from './making.ts'
export {
  classOf,
  HATCHES,
  MATERIAL_CLASSES,
  proposedClass,
  type ClassesByHand,
  type HatchLines,
  type MaterialClass,
} from './material-class.ts'
export { cutMarks, type CutMark } from './marks.ts'
export { cutHandles, heldAlong, type CutHandle } from './handles.ts'
export { shiftedShown } from './elsewhere.ts'
