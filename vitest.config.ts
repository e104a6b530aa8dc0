import { defineConfig } from 'vitest/config'
import vue from '@vitejs/plugin-vue'

export default defineConfig({
  plugins: [vue()],
  test: {
    include: [
      '{core,mesh,model,formats,stage,app,server,scripts}/**/*.test.ts',
      'tests/{reference,integration}/**/*.test.ts',
    ],
    environment: 'node',
    testTimeout: 60_000,
    hookTimeout: 120_000,
    // how long a busy machine may take; what holds at once is seen at once
    expect: { poll: { timeout: 20_000 } },
    pool: 'forks',
    // one of two processors would be left idle otherwise
    maxWorkers: '100%',
  },
})
