// Bundles a TypeScript entry for Node with esbuild. Used for the command line, its render worker and the table generators.
import { build } from 'esbuild'
import { resolve } from 'node:path'

/**
 * @param {Record<string, string>} entryPoints name → TypeScript file
 * @param {string} outdir
 */
export async function bundleForNode(entryPoints, outdir) {
  await build({
    entryPoints,
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: 'linked',
    external: ['pg-native', 'knex', 'pg', '@playwright/test', 'three', 'three-mesh-bvh'],
    alias: { '~core': resolve('core') },
    // CommonJS dependencies call require() at run time
    banner: { js: "import { createRequire as __cr } from 'node:module'; const require = __cr(import.meta.url);" },
    logLevel: 'error',
  })
}

if (process.argv[1]?.endsWith('bundle.mjs')) {
  const [entry, ...rest] = process.argv.slice(2)
  await bundleForNode({ script: entry }, '.build/script')
  process.argv = [process.argv[0], entry, ...rest]
  await import(resolve('.build/script/script.mjs'))
}
