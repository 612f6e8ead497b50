// Compiles the ray kernel and writes it as a module that every bundle can carry: core/trace/kernel-code.ts.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')

/** Compiles kernel/cast.ts. @returns {string} the module in hexadecimal */
export function compileKernel() {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-kernel-')), out = join(folder, 'cast.wasm')
  try {
    execFileSync(process.execPath, [join(root, 'node_modules/assemblyscript/bin/asc.js'), 'kernel/cast.ts', '-o', out, '-O3', '--runtime', 'stub', '--noAssert', '--enable', 'simd', '--enable', 'threads', '--importMemory', '--sharedMemory', '--initialMemory', '1', '--maximumMemory', '65536'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] })
    return readFileSync(out).toString('hex')
  }
  finally { rmSync(folder, { recursive: true }) }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(join(root, 'core/trace/kernel-code.ts'), `/** The compiled kernel/cast.ts in hexadecimal, by scripts/build-kernel.mjs. */\nexport const KERNEL = '${compileKernel()}'\n`)
