import { expect, it } from 'vitest'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { execFileSync } from 'node:child_process'
import { lanternProject } from '../demo/scenes'
import { readExr } from '../core/formats/pictures/exr'
import { readBytes } from './files'
import { writeScene } from './write-scene'

it.skipIf(!process.env.WAVELUME_LONG)(
  'a frame of 3840 × 2160 is the mean of its passes, to the last digits of a float',
  async () => {
    const folder = mkdtempSync(join(tmpdir(), 'wavelume-long-'))
    try {
      const scene = await writeScene(lanternProject(), folder)
      const render = (passes: string) => {
        const out = join(folder, `${passes}.exr`)
        const command = ['scripts/cli.mjs', 'render', scene, '-o', out, '--size', '3840x2160', '--passes', passes]
        execFileSync(process.execPath, command, { stdio: 'ignore' })
        return readExr(readBytes(out)).channels
      }
      const first = render('1-1')
      const second = render('2-2')
      const both = render('2')
      for (const c of ['R', 'G', 'B']) {
        const mean = first.get(c)!.map((x, i) => (x + second.get(c)![i]!) / 2)
        expect(both.get(c)!.length).toBe(3840 * 2160)
        expect(both.get(c)!.findIndex((x, i) => Math.abs(x - mean[i]!) > 2 ** -22 * Math.abs(x))).toBe(-1)
      }
    } finally {
      rmSync(folder, { recursive: true })
    }
  },
  600_000,
)
