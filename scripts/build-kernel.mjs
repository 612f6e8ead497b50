// Compiles the ray kernel and writes it as a module that every bundle can carry: core/trace/kernel-code.ts.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')

/** Compiles kernel/cast.ts and kernel/build.ts. @param {boolean} relaxed whether with relaxed SIMD @returns {string} the module in hexadecimal */
export function compileKernel(relaxed) {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-kernel-')), out = join(folder, 'cast.wasm')
  try {
    execFileSync(process.execPath, [join(root, 'node_modules/assemblyscript/bin/asc.js'), 'kernel/cast.ts', 'kernel/build.ts', '-o', out, '-O3', '--runtime', 'stub', '--noAssert', '--enable', 'simd', ...relaxed ? ['--enable', 'relaxed-simd'] : [], '--enable', 'threads', '--importMemory', '--sharedMemory', '--initialMemory', '1', '--maximumMemory', '65536'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] })
    return readFileSync(out).toString('hex')
  }
  finally { rmSync(folder, { recursive: true }) }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(join(root, 'core/trace/kernel-code.ts'), `/** The compiled kernel in hexadecimal, by scripts/build-kernel.mjs: plain, and with relaxed SIMD, which not every engine knows. */\nexport const KERNEL = '${compileKernel(false)}'\nexport const RELAXED = '${compileKernel(true)}'\n`)
