// Marks on the strips that the first picture does not wait for.
import { defineAsyncComponent } from 'vue'

export const CutMarks = defineAsyncComponent(() => import('./CutMarks.vue'))
export const FocusMarks = defineAsyncComponent(() => import('./FocusMarks.vue'))
export const PlacingHandle = defineAsyncComponent(() => import('./PlacingHandle.vue'))
export const ViewpointCones = defineAsyncComponent(() => import('./ViewpointCones.vue'))
export const WindowMarks = defineAsyncComponent(() => import('./WindowMarks.vue'))
