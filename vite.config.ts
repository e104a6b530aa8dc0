import { defineConfig, type Plugin } from 'vite'
import vue from '@vitejs/plugin-vue'

const apiPort = process.env.YOROI_PORT ?? '4780'

/** Remarks and indentation of the shaders stay at home: what is built has none. */
const shortShaders = (): Plugin => ({
  name: 'short-shaders',
  apply: 'build',
  transform(code, id) {
    if (!/\/stage\/shaders[\w-]*\.ts$/.test(id)) return null
    return { code: code.replace(/^\s*\/\/.*\n/gm, '').replace(/^[ \t]+/gm, ''), map: null }
  },
})

export default defineConfig({
  plugins: [vue(), shortShaders()],
  build: { target: 'es2022', outDir: 'dist', chunkSizeWarningLimit: 1500, reportCompressedSize: false, manifest: true },
  // the server puts a nonce of its own in this place of every answer (server/create-app.ts)
  html: { cspNonce: 'YOROI_NONCE' },
  worker: { format: 'es', plugins: () => [shortShaders()] },
  server: {
    host: '127.0.0.1',
    port: 4781,
    proxy: { '/api': { target: `http://127.0.0.1:${apiPort}`, changeOrigin: true } },
  },
})
