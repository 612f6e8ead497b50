// Bundles the command line when its sources are newer than the bundle, then runs it.
import { existsSync, readdirSync, statSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { setFlagsFromString } from 'node:v8'
import { bundleForNode } from './bundle.mjs'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')
const out = join(root, '.build/cli')
const newest = folder =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true }).map(e =>
      e.isDirectory() ? newest(join(folder, e.name)) : statSync(join(folder, e.name)).mtimeMs,
    ),
  )
const sources = Math.max(...['core', 'cli', 'workers', 'demo', 'server', 'shared'].map(f => newest(join(root, f))))
const bundle = join(out, 'main.mjs')
if (!existsSync(bundle) || statSync(bundle).mtimeMs < sources) {
  await bundleForNode(
    {
      'main': join(root, 'cli/main.ts'),
      'render-worker': join(root, 'workers/node.ts'),
      'denoise-worker': join(root, 'workers/denoise-node.ts'),
    },
    out,
  )
}
// The shading of one point is many small functions: let V8 put more of them into one. Measured: 10 to 20 % more
// paths a second.
setFlagsFromString('--max-inlined-bytecode-size-cumulative=6000')
setFlagsFromString('--max-inlined-bytecode-size=2000')
// Node knows the fused multiply-add of WebAssembly, but asks to be told: 2 to 3 % more rays a second.
setFlagsFromString('--experimental-wasm-relaxed-simd')
const { main } = await import(pathToFileURL(bundle).href)
process.exitCode = await main(process.argv.slice(2))
