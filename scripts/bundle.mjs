// Bundles TypeScript entries for Node: the command line, its render worker, the table generators and the demo's
// builders. Vite's Rollup and not esbuild: esbuild turns top-level const into var when it bundles, which costs the
// render loop a tenth of its speed.
import { build } from 'vite'
import { inlineSlotsPlugin } from './inline-slots.mjs'
import { dirname, join, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')

/** Packages that find files beside themselves, or load parts of themselves by name: left where they are. */
const APART = ['pg', 'pg-boss', 'knex', '@playwright/test', 'watlas', 'draco3dgltf']

/**
 * @param {Record<string, string>} input name → TypeScript file
 * @param {string} outDir
 */
export async function bundleForNode(input, outDir) {
  await build({
    configFile: false,
    plugins: [inlineSlotsPlugin()],
    root,
    logLevel: 'error',
    // said here, and not found beside the sources: those of the server name a file that Nuxt makes, which a fresh
    // checkout does not have yet
    esbuild: {
      tsconfigRaw: JSON.stringify({ compilerOptions: { target: 'es2022', useDefineForClassFields: true } }),
    },
    build: {
      ssr: true,
      outDir,
      emptyOutDir: true,
      target: 'node20',
      minify: false,
      sourcemap: true,
      rollupOptions: {
        input,
        output: { format: 'es', entryFileNames: '[name].mjs', chunkFileNames: '[name]-[hash].mjs' },
        external: APART,
      },
    },
    ssr: { noExternal: true, external: APART },
  })
}

if (process.argv[1]?.endsWith('bundle.mjs')) {
  const [entry, ...rest] = process.argv.slice(2)
  const out = join(root, '.build', relative(root, resolve(entry)).replace(/[^A-Za-z0-9]+/g, '-'))
  await bundleForNode({ script: resolve(entry) }, out)
  process.argv = [process.argv[0], entry, ...rest]
  await import(join(out, 'script.mjs'))
}
