// Who may import whom, in one table. eslint.config.js turns it into `no-restricted-imports` rules,
// so that a wrong import fails `npm run lint` (tests/integration/layers.test.ts proves that it does).

/** Layer -> the layers it may import, and the packages it may use. */
export const LAYERS = {
  core: { layers: ['core'], packages: ['gl-matrix', 'ml-matrix'] },
  mesh: { layers: ['core'], packages: ['three', 'three-mesh-bvh'] },
  model: { layers: ['core'], packages: ['zod', 'rfc6902'] },
  formats: {
    layers: ['core', 'mesh', 'model'],
    packages: ['three', 'fflate', 'earcut', '@gltf-transform', 'draco3d', 'meshoptimizer', 'exifreader'],
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

/** Rooms of `app/` -> what below them they may import; arrows go down only. */
export const ROOMS = {
  shell: [
    'projects',
    'bring',
    'frame',
    'photograph',
    'walk',
    'drawings',
    'actions',
    'controls',
    'stores',
    'api',
    'text',
  ],
  projects: ['bring', 'controls', 'stores', 'api', 'text'],
  frame: ['bring', 'drawings', 'actions', 'controls', 'stores', 'api', 'text'],
  photograph: ['bring', 'actions', 'controls', 'stores', 'api', 'text'],
  walk: ['drawings', 'actions', 'controls', 'stores', 'api', 'text'],
  bring: ['controls', 'stores', 'api', 'text'],
  drawings: ['controls', 'stores', 'api', 'text'],
  actions: ['controls', 'stores', 'text'],
  controls: ['text'],
  stores: ['api', 'text'],
  api: [],
  text: [],
}
/** Folders of the Frame view, from below: each may import those before it, and the rooms that the view may. */
export const FRAME = [
  'thumbs',
  'outside',
  'camera',
  'measure',
  'selection',
  'straighten',
  'focus',
  'exposure',
  'lens',
  'format',
  'still',
  'cuts',
  'check',
  'parts',
  'sheet',
  'strips',
  'picture',
]

const ALL_PACKAGES = [...new Set(Object.values(LAYERS).flatMap((l) => l.packages))]
const ALL_LAYERS = Object.keys(LAYERS)

function layerPatterns(layer) {
  const own = LAYERS[layer]
  const wrongLayers = ALL_LAYERS.filter((l) => l !== layer && !own.layers.includes(l))
  const wrongPackages = ALL_PACKAGES.filter((p) => !own.packages.includes(p))
  return [
    {
      regex: `^(#(${wrongLayers.join('|')})(/|$)|(\\.\\./)+(${wrongLayers.join('|')})/)`,
      message: `${layer} may import ${own.layers.join(', ')} only (eslint.layers.js).`,
    },
    {
      regex: `^(${wrongPackages.map((p) => p.replaceAll('/', '\\/')).join('|')})(/|$)`,
      message: `${layer} may use the packages ${own.packages.join(', ')} only (eslint.layers.js).`,
    },
    ...(layer === 'server' ? [] : [{ regex: '^node:', message: `${layer} runs in the browser: no Node modules.` }]),
  ]
}
const rule = (files, patterns) => ({
  files: [`${files}/**/*.{ts,vue}`],
  ignores: ['**/*.test.ts'],
  rules: { 'no-restricted-imports': ['error', { patterns }] },
})

function roomPatterns(room) {
  const wrong = Object.keys(ROOMS).filter((r) => r !== room && !ROOMS[room].includes(r))
  if (wrong.length === 0) return layerPatterns('app')
  const message = `app/${room} may import ${ROOMS[room].join(', ') || 'no other room'} only (eslint.layers.js).`
  return [...layerPatterns('app'), { regex: `^((\\.\\./)+|#app/)(${wrong.join('|')})/`, message }]
}
function folderPatterns(folder) {
  const above = FRAME.slice(FRAME.indexOf(folder) + 1)
  const message = `app/frame/${folder} may import folders before it in the list only (eslint.layers.js).`
  return [
    ...roomPatterns('frame'),
    // files of the view itself lie above all its folders
    { regex: `^\\.\\./(${[...above, '[^/]+\\.(ts|vue)$'].join('|')})`, message },
  ]
}

/** The ESLint flat-config blocks that enforce the tables; the nearest block of a file counts. */
export const layerRules = [
  ...ALL_LAYERS.map((layer) => rule(layer, layerPatterns(layer))),
  ...Object.keys(ROOMS).map((room) => rule(`app/${room}`, roomPatterns(room))),
  ...FRAME.map((folder) => rule(`app/frame/${folder}`, folderPatterns(folder))),
]
