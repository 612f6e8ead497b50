import { expect, it } from 'vitest'
import { POINT, POINT_STRIDE } from '../point/slots'
import { castClosest, createRayBatch } from '../trace/cast'
import { fillPoint } from './fill-point'
import { createGeometry } from './geometry'
import { packGeometry, unpackGeometry } from './geometry-pack'

it('a hundred thousand parts are told apart where rays meet them, also after packing', () => {
  const COUNT = 100_000
  const SIDE = 320
  const up = Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0)
  const parts = Array.from({ length: COUNT }, (_, i) => {
    const x = i % SIDE
    const z = Math.floor(i / SIDE)
    return {
      name: `Tile ${i}`,
      position: Float32Array.of(x, 0, z, x, 0, z + 0.9, x + 0.9, 0, z),
      normal: up,
      uv: new Float32Array(0),
      index: Uint32Array.of(0, 1, 2),
    }
  })
  const built = createGeometry({ parts })
  const packed = unpackGeometry(packGeometry(built), n => new ArrayBuffer(n))!
  const ray = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  for (const geometry of [built, packed])
    for (const i of [0, 65_534, 65_535, 65_536, COUNT - 1]) {
      ray.origin.set([(i % SIDE) + 0.2, 1, Math.floor(i / SIDE) + 0.2])
      ray.direction.set([0, -1, 0])
      ray.distance[0] = Infinity
      castClosest(geometry.hierarchy, ray, 1)
      fillPoint(geometry, ray, 0, ray.direction, 0, S)
      expect(S[POINT.part]).toBe(i)
      expect(geometry.partNames[S[POINT.part]!]).toBe(`Tile ${i}`)
    }
})
