// @ts-check
import stylistic from '@stylistic/eslint-plugin'
import withNuxt from './.nuxt/eslint.config.mjs'

const CORE_ONLY = [
  {
    group: [
      'vue',
      '#*',
      '~/*',
      'node:*',
      'fs',
      'path',
      '**/app/**',
      '**/server/**',
      '**/cli/**',
      '**/workers/**',
      '**/demo/**',
    ],
    message: 'core/ knows nothing of the interface, the server, Node or the page.',
  },
]

/** Widest line; tables that are kept by hand say so with the formatter's ignore comment and this rule's. */
const WIDTH = 120
/** Most lines of a file. */
const LINES = 420

// kernel/ is AssemblyScript, which its own compiler checks; Prettier (.prettierrc.json) sees to all else of form
export default withNuxt(
  { ignores: ['.output/**', '.build/**', '.nuxt/**', '.pg/**', '.pg-test/**', 'kernel/**'] },
  {
    plugins: { '@stylistic': stylistic },
    rules: {
      '@typescript-eslint/no-dynamic-delete': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/no-multiple-template-root': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/html-self-closing': 'off',
      'one-var': ['error', 'never'],
      'max-lines': ['error', LINES],
      '@stylistic/max-len': ['error', { code: WIDTH }],
      '@stylistic/max-statements-per-line': ['error', { max: 1 }],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: CORE_ONLY }],
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'process', 'self'],
    },
  },
)
