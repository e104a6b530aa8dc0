// Dialogs and lists whose code comes after the picture's: fetched as soon as the page stands, so that they open at once.
import { defineAsyncComponent } from 'vue'

export const HelpDialog = defineAsyncComponent(() => import('../actions/HelpDialog.vue'))
export const CommandList = defineAsyncComponent(() => import('../actions/CommandList.vue'))
export const BringDialog = defineAsyncComponent(() => import('../bring/BringDialog.vue'))
export const ConflictDialog = defineAsyncComponent(() => import('../frame/ConflictDialog.vue'))
