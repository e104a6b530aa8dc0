// The dialog of what is brought in: its code comes after the picture's.
import { defineAsyncComponent } from 'vue'

export const BringDialog = defineAsyncComponent(() => import('./BringDialog.vue'))
