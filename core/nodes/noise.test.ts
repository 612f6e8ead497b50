import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { cell2, cell3, worley2, worley3 } from './cells'
import { fractal3 } from './fractal'
import { noise2, noise3 } from './noise'
import { memory } from './memory'

const { result } = memory

// Values of the standard's reference implementation (MaterialX 1.39.4), copied from the shared reference tables.
const reference = JSON.parse(readFileSync(new URL('./noise-samples.json', import.meta.url), 'utf8')) as {
  size: number
  scale: [number, number]
  z: number
  rows: number[][]
  columns: string[]
}

const compute: Record<string, (x: number, y: number, z: number) => number> = {
  noise2d: (x, y) => noise2(x, y),
  noise3d: (x, y, z) => noise3(x, y, z),
  fractal3d: (x, y, z) => fractal3(x, y, z, 5, 2.1, 0.45),
  cellnoise2d: (x, y) => cell2(x, y),
  cellnoise3d: (x, y, z) => cell3(x, y, z),
  worleynoise2d: (x, y) => {
    worley2(x, y, 1)
    return Math.sqrt(result[0]!)
  },
  worleynoise3d: (x, y, z) => {
    worley3(x, y, z, 0.7)
    return Math.sqrt(result[0]!)
  },
}

describe('noises of the standard', () => {
  reference.columns.forEach((column, c) =>
    it(`${column} agrees with the reference at every point`, () => {
      const f = compute[column.split(' ')[0]!]!
      expect(f, column).toBeDefined()
      let worst = 0
      for (let j = 0; j < reference.size; j++)
        for (let i = 0; i < reference.size; i++) {
          const u = ((i + 0.5) / reference.size) * reference.scale[0]
          const v = (1 - (j + 0.5) / reference.size) * reference.scale[1]
          worst = Math.max(worst, Math.abs(f(u, v, reference.z) - reference.rows[j * reference.size + i]![c]!))
        }
      expect(worst).toBeLessThan(1e-5)
    }),
  )
})
