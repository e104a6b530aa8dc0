import { defineConfig } from 'vitest/config'

// The real interface in Debian's Chromium, one file after the other: they share the machine's only graphics (npm test runs two at a time).
export default defineConfig({
  test: {
    include: ['tests/e2e/**/*.test.ts'],
    environment: 'node',
    testTimeout: 180_000,
    hookTimeout: 240_000,
    fileParallelism: false,
    pool: 'forks',
    bail: 1,
    expect: { poll: { timeout: 20_000 } },
  },
})
