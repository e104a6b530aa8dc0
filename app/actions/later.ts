// The help and the list of commands: their code comes after the picture's, as soon as the page stands, so that they open at once.
import { defineAsyncComponent } from 'vue'

export const HelpDialog = defineAsyncComponent(() => import('./HelpDialog.vue'))
export const CommandList = defineAsyncComponent(() => import('./CommandList.vue'))
