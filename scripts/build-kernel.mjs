// Compiles the ray kernel and the denoiser's, and writes them as modules that every bundle can carry:
// core/trace/kernel-code.ts and core/render/denoise-code.ts.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..')

/**
 * Compiles files of kernel/.
 * @param {string[]} files their names
 * @param {boolean} relaxed whether with relaxed SIMD
 * @returns {string} the module in hexadecimal
 */
export function compileKernel(files, relaxed = false) {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-kernel-'))
  const out = join(folder, 'kernel.wasm')
  try {
    execFileSync(
      process.execPath,
      [
        join(root, 'node_modules/assemblyscript/bin/asc.js'),
        ...files.map(f => `kernel/${f}`),
        '-o',
        out,
        '-O3',
        '--runtime',
        'stub',
        '--noAssert',
        '--enable',
        'simd',
        ...(relaxed ? ['--enable', 'relaxed-simd'] : []),
        '--enable',
        'threads',
        '--importMemory',
        '--sharedMemory',
        '--initialMemory',
        '1',
        '--maximumMemory',
        '65536',
      ],
      { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] },
    )
    return readFileSync(out).toString('hex')
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** Files of the ray kernel, and of the denoiser's. */
export const RAYS = ['cast.ts', 'build.ts', 'fold.ts']
export const DENOISER = ['denoise.ts']

/** Why what is generated lies in the repository. */
const KEPT = 'Kept, because compiling takes 14 s; a test\n * compiles it again and compares.'

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  writeFileSync(
    join(root, 'core/trace/kernel-code.ts'),
    '/**\n * The compiled kernel in hexadecimal, by scripts/build-kernel.mjs: plain, and with relaxed SIMD, which\n' +
      ` * not every engine knows. ${KEPT}\n */\nexport const KERNEL = '${compileKernel(RAYS)}'\n` +
      `export const RELAXED = '${compileKernel(RAYS, true)}'\n`,
  )
  writeFileSync(
    join(root, 'core/render/denoise-code.ts'),
    `/**\n * The compiled loops of the denoiser in hexadecimal, by scripts/build-kernel.mjs. ${KEPT}\n */\n` +
      `export const DENOISE = '${compileKernel(DENOISER)}'\n`,
  )
}
