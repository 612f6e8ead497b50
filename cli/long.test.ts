import { expect, it } from 'vitest'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { execFileSync } from 'node:child_process'
import { demoProjects, lanternProject } from '../demo/scenes'
import { writeGlb } from '../core/formats/models/glb-write'
import { readModelFiles } from '../core/formats/models'
import { readPly } from '../core/formats/models/ply'
import { writePly } from '../core/formats/models/ply-write'
import type { Model } from '../core/mesh/model'
import { withoutCopy } from '../core/mesh/transform'
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
        const a = first.get(c)!
        const b = second.get(c)!
        expect(both.get(c)!.length).toBe(3840 * 2160)
        // components of saturated spectra may be negative: what is lost counts against what was added
        const wrong = (x: number, i: number) =>
          Math.abs(x - (a[i]! + b[i]!) / 2) > 2 ** -22 * Math.max(Math.abs(a[i]!), Math.abs(b[i]!))
        expect(both.get(c)!.findIndex(wrong)).toBe(-1)
      }
    } finally {
      rmSync(folder, { recursive: true })
    }
  },
  600_000,
)

/** Area and signed volume of a model, m² and m³ (Gauss's theorem over its triangles), and how many there are. */
function sizeOf(model: Model): { area: number; volume: number; triangles: number } {
  let area = 0
  let volume = 0
  let triangles = 0
  for (const part of model.parts.map(p => (p.copy ? withoutCopy(model, p) : p)))
    for (let i = 0; i < part.index.length; i += 3, triangles++) {
      const [a, b, c] = [0, 1, 2].map(k =>
        part.position.subarray(part.index[i + k]! * 3, part.index[i + k]! * 3 + 3),
      )
      const u = b!.map((x, k) => x - a![k]!)
      const v = c!.map((x, k) => x - a![k]!)
      const n = [0, 1, 2].map(k => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!)
      area += Math.hypot(...n) / 2
      volume += (n[0]! * a![0]! + n[1]! * a![1]! + n[2]! * a![2]!) / 6
    }
  return { area, volume, triangles }
}

it.skipIf(!process.env.WAVELUME_LONG).each(demoProjects.map(make => [make().name, make] as const))(
  'the model of %s goes through GLB and PLY with its area, volume and triangles',
  async (_, make) => {
    const { model } = make()
    const wanted = sizeOf(model)
    const glb = (await readModelFiles([{ name: 'a.glb', bytes: await writeGlb(model) }])).model
    const ply = readPly(writePly(model))
    const joined: Model = { parts: [{ ...model.parts[0]!, ...ply, copy: undefined } as Model['parts'][number]] }
    for (const got of [sizeOf(glb), sizeOf(joined)]) {
      expect(got.triangles).toBe(wanted.triangles)
      expect(Math.abs(got.area / wanted.area - 1)).toBeLessThan(1e-5)
      expect(Math.abs(got.volume - wanted.volume)).toBeLessThan(1e-5 * wanted.area * Math.cbrt(wanted.area))
    }
  },
  600_000,
)
