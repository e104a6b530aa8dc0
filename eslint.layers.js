// Who may import whom, in one table. eslint.config.js turns it into `no-restricted-imports` rules,
// so that a wrong import fails `npm run lint` (tests/integration/layers.test.ts proves that it does).

/** Layer -> the layers it may import, and the packages it may use. */
export const LAYERS = {
  core: { layers: ['core'], packages: ['gl-matrix', 'ml-matrix'] },
  mesh: { layers: ['core'], packages: ['three', 'three-mesh-bvh'] },
  model: { layers: ['core'], packages: ['zod', 'rfc6902'] },
  formats: {
    layers: ['core', 'mesh', 'model'],
    packages: ['three', 'fflate', 'earcut', '@gltf-transform', 'draco3d', 'meshoptimizer'],
  },
  workers: { layers: ['core', 'mesh', 'formats'], packages: ['comlink', 'draco3d'] },
  stage: { layers: ['core', 'mesh', 'model', 'formats', 'workers'], packages: ['three', 'comlink'] },
  app: {
    layers: ['core', 'mesh', 'model', 'formats', 'workers', 'stage', 'app'],
    packages: [
      'vue',
      'pinia',
      'primevue',
      'vue-router',
      '@primeuix',
      '@tabler',
      '@vueuse',
      '@fontsource-variable',
      'vue-draggable-plus',
      'idb',
      'lru-cache',
      'zod',
    ],
  },
  server: {
    layers: ['core', 'model', 'formats'],
    packages: ['express', 'typeorm', 'better-sqlite3', 'helmet', 'pino', 'zod', 'lru-cache'],
  },
}

const ALL_PACKAGES = [...new Set(Object.values(LAYERS).flatMap((l) => l.packages))]
const ALL_LAYERS = Object.keys(LAYERS)

/** The ESLint flat-config blocks that enforce the table. */
export const layerRules = ALL_LAYERS.map((layer) => {
  const own = LAYERS[layer]
  const wrongLayers = ALL_LAYERS.filter((l) => l !== layer && !own.layers.includes(l))
  const wrongPackages = ALL_PACKAGES.filter((p) => !own.packages.includes(p))
  return {
    files: [`${layer}/**/*.{ts,vue}`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: `^(#(${wrongLayers.join('|')})(/|$)|(\\.\\./)+(${wrongLayers.join('|')})/)`,
              message: `${layer} may import ${own.layers.join(', ')} only (eslint.layers.js).`,
            },
            {
              regex: `^(${wrongPackages.map((p) => p.replaceAll('/', '\\/')).join('|')})(/|$)`,
              message: `${layer} may use the packages ${own.packages.join(', ')} only (eslint.layers.js).`,
            },
            ...(layer === 'server'
              ? []
              : [{ regex: '^node:', message: `${layer} runs in the browser: no Node modules.` }]),
          ],
        },
      ],
    },
  }
})
