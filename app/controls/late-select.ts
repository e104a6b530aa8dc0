// The library's drop-down where it may come a moment after the view: its code is not needed for the first picture.
import { defineAsyncComponent } from 'vue'

export const LateSelect = defineAsyncComponent(() => import('primevue/select'))
