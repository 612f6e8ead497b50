import { sphere } from '../../core/mesh/sphere'
import { createMap } from '../../core/maps/create-map'
import { compileDisplacement } from '../../core/network/compile-displacement'
import { readMtlx } from '../../core/formats/mtlx/mtlx'
import { bytesOfGeometry, createGeometry } from '../../core/scene/geometry'
import { shapeModel } from '../../core/shape/shape-model'
import { buildHierarchy } from '../../core/trace/build'
import type { Benchmark } from '../command'
import { withThreads } from '../helpers'
import { median } from './median'

/** Side of the map that moves the sphere, pixels. */
const SIDE = 4096
const DOCUMENT = `<?xml version="1.0"?><materialx version="1.39">
  <open_pbr_surface name="s" type="surfaceshader"/>
  <image name="h" type="float"><input name="file" type="filename" value="height.png"/></image>
  <displacement name="d" type="displacementshader"><input name="displacement" type="float" nodename="h"/>
    <input name="scale" type="float" value="0.02"/></displacement>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
    <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial></materialx>`

/** Waves and steps, in sixteen bits of grey. */
function heights(): Float32Array {
  const data = new Float32Array(SIDE * SIDE * 4)
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const h = 0.5 + 0.3 * Math.sin(x / 37) * Math.sin(y / 29) + (((x >> 8) + (y >> 8)) % 2) * 0.1
      data.fill(h, (y * SIDE + x) * 4, (y * SIDE + x) * 4 + 3)
    }
  return data
}

/**
 * `benchmark tessellate`: seconds until a sphere, displaced by a map of 4096 × 4096, is ready to trace: cut, moved,
 * joined, its hierarchy built. And how much of that the hierarchy alone takes, of the same triangles.
 */
async function benchmarkTessellate(triangles: number, threads: number, rounds: number): Promise<unknown> {
  const program = compileDisplacement(readMtlx(DOCUMENT), 'm')!
  const maps = [createMap({ width: SIDE, height: SIDE, data: heights() }, 'raw')]
  // triangles of rows are about half a square of their edge
  const edge = Math.sqrt((4 * Math.PI * 0.25 * 2.6) / triangles)
  const whole: number[] = []
  const built: number[] = []
  let count = 0
  let bytes = 0
  await withThreads(threads - 1, async call => {
    for (let round = 0; round < rounds; round++) {
      // a part that was cut before would be kept
      const model = { parts: [sphere('Ball', 0.5, 64, 128)] }
      const start = performance.now()
      const shaped = shapeModel(model, new Map([[0, { program, maps, edge }]]))
      const geometry = createGeometry(shaped, new Set(), n => new SharedArrayBuffer(n), call)
      whole.push((performance.now() - start) / 1000)
      const { position, index } = shaped.parts[0]!
      const again = performance.now()
      buildHierarchy(position, index, n => new SharedArrayBuffer(n), call)
      built.push((performance.now() - again) / 1000)
      count = index.length / 3
      bytes = bytesOfGeometry(geometry)
    }
  })
  const seconds = median(whole)
  return {
    triangles: count,
    seconds: +seconds.toFixed(3),
    secondsPerMillion: +((seconds * 1e6) / count).toFixed(3),
    hierarchy: +median(built).toFixed(3),
    timesHierarchy: +(seconds / median(built)).toFixed(2),
    bytesPerTriangle: +(bytes / count).toFixed(1),
  }
}

export const benchmark: Benchmark = {
  options: '[--triangles N] [--threads N] [--rounds N]',
  run: o =>
    benchmarkTessellate(
      o.number('triangles', 1e6, 1e4, 2e7),
      o.number('threads', 2, 1, 16),
      o.number('rounds', 5, 1, 99),
    ),
}
