// Door of core/optics: exposure, the sky, light from all sides.
export { depthOfField, type DepthOfField } from './focus.ts'
export { exposureFactor, exposureValue100, meteredEv100 } from './exposure.ts'
export { basis, irradiance, type Harmonics } from './harmonics.ts'
export {
  CLEAR_SKY,
  DAYLIGHT,
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
