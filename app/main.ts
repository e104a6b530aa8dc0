import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { createApp } from 'vue'
import App from './shell/App.vue'
import { router } from './shell/router.ts'
import './shell/theme/base.css'
import { preset } from './shell/theme/preset.ts'
import { useNotices } from './stores/notices.ts'

const app = createApp(App)
app.use(createPinia())
app.use(router)
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? ''
app.use(PrimeVue, {
  csp: { nonce },
  theme: { preset, options: { darkModeSelector: '[data-theme="night"]', cssLayer: false } },
})
app.config.errorHandler = (e) => useNotices().fail(e)
app.mount('#app')
