import { describe, expect, it } from 'vitest'
import { createTexture } from '../maps/texture'
import { quad } from '../mesh/quad'
import type { Part } from '../mesh/model'
import { input, node } from '../testing/elements'
import { materialOf, mtlx, sceneOf, sumOfPasses, uniform } from '../testing/setup'

/** A checker that shines: fields of 1 and 0.2, so that its mean is 0.6. */
const checker = (() => {
  const n = 256
  const data = new Float32Array(n * n * 4).fill(1)
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) if (((x >> 5) + (y >> 5)) % 2) data.fill(0.2, (y * n + x) * 4, (y * n + x) * 4 + 3)
  return createTexture(n, n, data, 'raw')
})()
const MEAN = 0.6

const shining = (coordinates: string) =>
  materialOf(
    mtlx(
      '<texcoord name="uv" type="vector2"/>' +
        coordinates +
        '<image name="i" type="color3"><input name="file" type="filename" value="c.exr"/>' +
        '<input name="texcoord" type="vector2" nodename="t"/></image>' +
        node('surface_unlit', 's', 'surfaceshader', input('emission_color', 'color3', 'i')),
    ),
    's',
    [checker],
  )
/** Coordinates `t` that repeat the picture so many times over the part. */
const times = (n: number, name = 't') =>
  node('multiply', name, 'vector2', input('in1', 'vector2', 'uv'), input('in2', 'vector2', `${n}, ${n}`))
const WAYS: [string, string][] = [
  ['as they are', times(12)],
  [
    'behind place2d',
    node(
      'place2d',
      't',
      'vector2',
      input('texcoord', 'vector2', 'uv'),
      input('scale', 'vector2', '0.0833, 0.0833'),
      input('rotate', 'float', '30'),
    ),
  ],
  [
    'behind a warp',
    node('sin', 'w', 'vector2', input('in', 'vector2', 'uv')) +
      times(12, 'm') +
      node('add', 't', 'vector2', input('in1', 'vector2', 'm'), input('in2', 'vector2', 'w')),
  ],
]
/** A floor that goes far away, 200 m of it, as a picture of 48 × 24 sees it. */
const floor = quad('floor', [-100, 0, 0, 100, 0, 0, 100, 0, -200, -100, 0, -200])
const WIDTH = 48
const HEIGHT = 24
const sky = uniform(MEAN)

/** Mean of some rows of a picture, and how far its pixels lie from it (root mean square). */
function rowsOf(sum: Float64Array, passes: number, from: number, to: number): { mean: number; unrest: number } {
  const values: number[] = []
  for (let y = from; y < to; y++)
    for (let x = 8; x < WIDTH - 8; x++) values.push(sum[(y * WIDTH + x) * 3 + 1]! / passes)
  const mean = values.reduce((a, b) => a + b, 0) / values.length
  return { mean, unrest: Math.sqrt(values.reduce((a, x) => a + (x - mean) ** 2, 0) / values.length) }
}

describe('a checker that goes far away', () => {
  const camera = {
    name: 'c',
    position: [0, 2, 0.1] as [number, number, number],
    target: [0, 1.2, -30] as [number, number, number],
    fov: 20,
  }
  it.each(WAYS)('is its mean there in one pass, coordinates %s', (_, coordinates) => {
    const scene = sceneOf({ parts: [floor] }, [shining(coordinates)], sky, camera, WIDTH, HEIGHT)
    const { mean, unrest } = rowsOf(sumOfPasses(scene, WIDTH, HEIGHT, 0, 1), 1, 9, 13)
    expect(mean).toBeCloseTo(MEAN, 2)
    // fields of 1 and 0.2, one of them seen at each point, would be 0.4 away from it
    expect(unrest).toBeLessThan(0.06)
  })
  it.each(WAYS)('and so it is in a mirror, coordinates %s', (_, coordinates) => {
    const mirror: Part = quad('mirror', [4, -1, -4, -4, -1, -4, -4, 5, -4, 4, 5, -4])
    const metal = materialOf(
      mtlx(`<conductor_bsdf name="b" type="BSDF"><input name="roughness" type="vector2" value="0, 0"/></conductor_bsdf>
        <surface name="s" type="surfaceshader"><input name="bsdf" type="BSDF" nodename="b"/></surface>`),
      's',
    )
    const back = quad('floor', [100, 0, -3, -100, 0, -3, -100, 0, 200, 100, 0, 200])
    // seen in the mirror, the floor behind the camera goes far away
    const scene = sceneOf(
      { parts: [back, mirror] },
      [shining(coordinates), metal],
      sky,
      { ...camera, position: [0, 2, 0], target: [0, 1.9, -4] },
      WIDTH,
      HEIGHT,
    )
    const { mean, unrest } = rowsOf(sumOfPasses(scene, WIDTH, HEIGHT, 0, 1), 1, 11, 13)
    // the mirror dims the floor and the sky alike, and in the sky there is nothing to be averaged
    const dim = rowsOf(sumOfPasses(scene, WIDTH, HEIGHT, 0, 1), 1, 3, 6).mean / MEAN
    expect(mean / dim).toBeCloseTo(MEAN, 2)
    expect(unrest / dim).toBeLessThan(0.06)
  })
  it('and near by its fields stay apart', () => {
    const near = {
      ...camera,
      position: [0, 2, -20] as [number, number, number],
      target: [0, 0, -20.5] as [number, number, number],
      fov: 30,
    }
    const scene = sceneOf({ parts: [floor] }, [shining(times(0.3))], sky, near, WIDTH, HEIGHT)
    const { mean, unrest } = rowsOf(sumOfPasses(scene, WIDTH, HEIGHT, 0, 1), 1, 0, HEIGHT)
    expect([0.2, 1]).toContainEqual(expect.closeTo(mean, 2))
    expect(unrest).toBeLessThan(0.01)
  })
})
