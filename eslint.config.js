import js from '@eslint/js'
import ts from 'typescript-eslint'
import vue from 'eslint-plugin-vue'
import { layerRules } from './eslint.layers.js'

export default ts.config(
  { ignores: ['dist/**', 'data/**', 'coverage/**', 'node_modules/**', 'tests/fixtures/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'vue/multi-word-component-names': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    files: ['scripts/**', 'bench/**', 'tests/**', 'server/main.ts', 'server/maintain-main.ts'],
    rules: { 'no-console': 'off' },
  },
  // a function is read at a glance
  {
    files: ['**/*.ts', '**/*.vue'],
    ignores: ['**/*.test.ts', 'tests/**', 'bench/**', 'scripts/**'],
    rules: { 'max-lines-per-function': ['error', 60] },
  },
  // core stays without clock, randomness and page
  {
    files: ['core/**/*.ts', 'model/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Pass a seeded generator (#core/base).' },
        { object: 'Date', property: 'now', message: 'Pass the time in.' },
      ],
      'no-restricted-globals': ['error', 'document', 'window', 'fetch', 'performance', 'crypto'],
    },
  },
  ...layerRules,
)
