// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

const CORE_ONLY = [{ group: ['vue', '#*', '~/*', 'node:*', 'fs', 'path', '**/app/**', '**/server/**', '**/cli/**', '**/workers/**', '**/demo/**'], message: 'core/ knows nothing of the interface, the server, Node or the page.' }]

// kernel/ is AssemblyScript, which its own compiler checks
export default withNuxt(
  { ignores: ['.output/**', '.build/**', '.nuxt/**', '.pg/**', '.pg-test/**', 'kernel/**'] },
  { rules: { '@typescript-eslint/no-dynamic-delete': 'off', 'vue/multi-word-component-names': 'off', 'vue/no-multiple-template-root': 'off', 'vue/max-attributes-per-line': 'off', 'vue/html-self-closing': 'off' } },
  { files: ['core/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'no-restricted-imports': ['error', { patterns: CORE_ONLY }], 'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'process', 'self'] } },
)
