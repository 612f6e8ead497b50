// @ts-check
import stylistic from '@stylistic/eslint-plugin'
import { createNodeResolver, importX } from 'eslint-plugin-import-x'
import withNuxt from './.nuxt/eslint.config.mjs'

/** Widest line; tables that are kept by hand say so with the formatter's ignore comment and this rule's. */
const WIDTH = 120
/** Most lines of a file. */
const LINES = 420

/** Rooms of core/, each with those that it may know. Arrows are one-way, those of types included. */
const MAY_KNOW = {
  point: [],
  expression: ['point'],
  colour: [],
  maps: ['expression', 'colour', 'point'],
  mesh: [],
  optics: ['colour'],
  trace: ['mesh'],
  surface: ['optics', 'colour', 'point'],
  nodes: ['maps', 'expression', 'optics', 'point'],
  network: ['nodes', 'maps', 'expression', 'surface', 'optics', 'colour', 'point'],
  scene: ['network', 'trace', 'mesh', 'point'],
  shape: ['scene', 'network', 'maps', 'expression', 'trace', 'mesh', 'point'],
  bake: ['scene', 'trace', 'mesh', 'point'],
  fields: ['scene', 'surface', 'trace', 'mesh', 'point'],
  light: ['scene', 'network', 'surface', 'trace', 'colour', 'point'],
  formats: ['light', 'point', 'scene', 'network', 'maps', 'nodes', 'surface', 'mesh', 'colour'],
  world: ['shape', 'formats', 'light', 'fields', 'scene', 'network', 'maps', 'trace', 'mesh', 'colour'],
  render: ['world', 'light', 'fields', 'scene', 'network', 'maps', 'nodes', 'surface', 'trace', 'colour', 'point'],
  judge: ['render', 'network', 'surface', 'colour', 'point'],
  checks: ['network', 'nodes', 'mesh'],
}

/** Folders beside core/, each with those that it may know besides core/. */
const BESIDE = {
  shared: [],
  workers: [],
  server: ['shared'],
  cli: ['workers', 'server', 'shared', 'scripts'],
  demo: ['cli', 'server', 'shared'],
  app: ['workers', 'shared'],
}

/** Zones of import-x/no-restricted-paths: what lies in `target` may not import `from`. */
const zones = [
  ...Object.entries(MAY_KNOW).map(([room, known]) => ({
    target: `./core/${room}`,
    from: './core',
    except: [room, ...known].map(r => `./${r}`),
    message: `core/${room} may know ${known.join(', ') || 'no other room'}: arrows are one-way.`,
  })),
  {
    target: './core',
    from: '.',
    except: ['./core', './node_modules'],
    message: 'core/ knows nothing of the interface, the server, Node or the page.',
  },
  ...Object.entries(BESIDE).map(([folder, known]) => ({
    target: `./${folder}`,
    from: '.',
    except: ['core', 'node_modules', '.nuxt', folder, ...known].map(r => `./${r}`),
    message: `${folder}/ may know core/${known.map(k => `, ${k}/`).join('')}.`,
  })),
]

const NOT_IN_CORE = [{ group: ['vue', '#*', '~/*', 'node:*', 'fs', 'path'], message: 'core/ runs anywhere.' }]

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
  // compiled kernels
  { files: ['core/trace/kernel-code.ts', 'core/render/denoise-code.ts'], rules: { '@stylistic/max-len': 'off' } },
  {
    files: ['**/*.ts', '**/*.vue'],
    ignores: ['**/*.test.ts', 'tests/**', 'core/testing/**'],
    plugins: { 'import-x': importX },
    settings: {
      'import-x/resolver-next': [createNodeResolver({ extensions: ['.ts', '.mjs', '.vue', '.json'] })],
      'import-x/extensions': ['.ts', '.vue'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'], 'vue-eslint-parser': ['.vue'] },
    },
    rules: {
      'import-x/no-restricted-paths': ['error', { zones }],
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: NOT_IN_CORE }],
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'process', 'self'],
    },
  },
)
