// Door of core/optics: exposure, the sky, light from all sides.
export {
  apertureM,
  blurDiscMm,
  depthOfField,
  diffractionMm,
  F_STOPS,
  fNumberForBlur,
  keepSharp,
  nextStop,
  usualCocMm,
  type DepthOfField,
  type StopKind,
} from './focus.ts'
export { apertureEdge, aperturePoint, aperturePoints, type ApertureShape } from './aperture.ts'
export {
  balanced,
  balanceMatrix,
  balanceOfGrey,
  LEAST_KELVIN,
  MOST_KELVIN,
  MOST_TINT,
  NEUTRAL,
  whitePoint,
  type Matrix9,
  type WhiteBalance,
} from './white-balance.ts'
export { aperturePicture, encodedPicture, PICTURE_SIDE, type AperturePicture } from './aperture-picture.ts'
export {
  apertureArea,
  brightPoints,
  POINT_OVER_MEAN,
  type BrightPoint,
  type BrightPoints,
  type KnownPoints,
  LEAST_DISC_PX,
} from './bright-points.ts'
export { inRows } from './bright-rows.ts'
export { brightPointsIn, rectsAbout, type PixelRect, type ReadRect } from './bright-rects.ts'
export {
  keptCube,
  lookUp,
  packTable,
  readCube,
  TABLE_SIDE,
  unpackTable,
  type ColourTable,
  type CubeRead,
  type KeptCube,
} from './colour-table.ts'
export { depthOf } from './focus-at.ts'
export { clippedShares, TONE_BINS, tonesOf, type Clipped, type Tones } from './clipped.ts'
export { vignette } from './vignette.ts'
export { exposureFactor, exposureValue100, meteredEv100 } from './exposure.ts'
export { basis, irradiance, type Harmonics } from './harmonics.ts'
export {
  CLEAR_SKY,
  DAYLIGHT,
  MOST_LUX,
  aroundLux,
  bakedSky,
  groundLux,
  skyLightOf,
  GROUND_ALBEDO,
  relativeSkyLuminance,
  SKY_HORIZON_COLOUR,
  SKY_ZENITH_COLOUR,
  skyRadiance,
  skyScale,
  SUN_COLOUR,
  sunDirection,
  zenithLuminance,
  type SkyLight,
} from './sky.ts'
export { NearestGrid } from './nearest-grid.ts'
