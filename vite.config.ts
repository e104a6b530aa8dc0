import { defineConfig } from 'vite'
import vue from '@vitejs/plugin-vue'

const apiPort = process.env.YOROI_PORT ?? '4780'

export default defineConfig({
  plugins: [vue()],
  build: { target: 'es2022', outDir: 'dist', chunkSizeWarningLimit: 1500, reportCompressedSize: false, manifest: true },
  // the server puts a nonce of its own in this place of every answer (server/create-app.ts)
  html: { cspNonce: 'YOROI_NONCE' },
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    port: 4781,
    proxy: { '/api': { target: `http://127.0.0.1:${apiPort}`, changeOrigin: true } },
  },
})
