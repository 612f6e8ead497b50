import { luminanceAt } from '../../core/colour/luminance'
import { TILE } from '../../core/render/film'
import type { RenderScene } from '../../core/world/render-scene'
import { createTracer } from '../../core/render/tracer'
import { renderTile } from '../../core/render/integrate'
import { memory } from '../../core/render/memory'
import { cameraFrame } from '../../core/scene/camera'
import { instantiateMaterials } from '../../core/world/world'
import { CHANNELS } from '../../core/surface/slots'
import { benchmarkWorld, VIEW } from './scene'
import type { Benchmark } from '../command'

const { radiance } = memory

const WIDTH = 64
const HEIGHT = 48
const RUNS = 12
/**
 * Colour differences of a linear pixel, R − Y and B − Y (ITU-R BT.709-6, without its scale factors: they cancel
 * in the ratio).
 */
const chroma = (p: ArrayLike<number>, o: number): [number, number] => {
  const y = luminanceAt(p, o)
  return [p[o]! - y, p[o + 2]! - y]
}

/**
 * `benchmark chroma`: standard deviation of colour differences over independent renderings, of the spectral
 * picture over that of the RGB companions of the same paths.
 */
function benchmarkChroma(): unknown {
  const world = benchmarkWorld()
  const scene: RenderScene = {
    ...world,
    materials: instantiateMaterials(world),
    camera: cameraFrame(VIEW, WIDTH, HEIGHT),
  }
  const tracer = createTracer()
  const tile = new Float64Array(TILE * TILE * 3)
  const n = WIDTH * HEIGHT
  const rows = [1, 4, 16, 64].map(passes => {
    const moments = [0, 1].map(() => ({ sum: new Float64Array(n * 2), square: new Float64Array(n * 2) }))
    for (let run = 0; run < RUNS; run++) {
      const pictures = [new Float64Array(n * 3), new Float64Array(n * 3)]
      for (let pass = 0; pass < passes; pass++)
        for (let y0 = 0; y0 < HEIGHT; y0 += TILE)
          for (let x0 = 0; x0 < WIDTH; x0 += TILE) {
            renderTile(tracer, scene, x0, y0, TILE, TILE, WIDTH, HEIGHT, pass, 100 + run, tile, null)
            for (let i = 0; i < TILE * TILE; i++)
              for (let k = 0; k < 3; k++) {
                const o = ((y0 + (i >> 4)) * WIDTH + x0 + (i & 15)) * 3 + k
                pictures[0]![o]! += tile[i * 3 + k]! / passes
                pictures[1]![o]! += radiance[i * CHANNELS + 4 + k]! / passes
              }
          }
      pictures.forEach((p, m) => {
        for (let i = 0; i < n; i++)
          chroma(p, i * 3).forEach((c, k) => {
            moments[m]!.sum[i * 2 + k]! += c
            moments[m]!.square[i * 2 + k]! += c * c
          })
      })
    }
    const noise = moments.map(({ sum, square }) => {
      let v = 0
      for (let i = 0; i < n * 2; i++) v += Math.max(0, square[i]! / RUNS - (sum[i]! / RUNS) ** 2)
      return Math.sqrt(v / (n * 2))
    })
    return {
      passes,
      spectral: +noise[0]!.toPrecision(3),
      rgb: +noise[1]!.toPrecision(3),
      ratio: +(noise[0]! / noise[1]!).toFixed(3),
    }
  })
  return { rows, accept: { ratio: 1.1 } }
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkChroma(),
}
