// What lies over the picture, or beside it, and is not needed for the first one.
import { defineAsyncComponent } from 'vue'

export const CutHandles = defineAsyncComponent(() => import('./CutHandles.vue'))
export const FrameOverlay = defineAsyncComponent(() => import('../format/FrameOverlay.vue'))
export const GhostLayer = defineAsyncComponent(() => import('./GhostLayer.vue'))
export const LensStrip = defineAsyncComponent(() => import('../lens/LensStrip.vue'))
export const OutsideOverlay = defineAsyncComponent(() => import('./OutsideOverlay.vue'))
export const SelectionOutline = defineAsyncComponent(() => import('./SelectionOutline.vue'))
export const TiltOffer = defineAsyncComponent(() => import('./TiltOffer.vue'))
