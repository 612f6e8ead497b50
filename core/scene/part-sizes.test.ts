import { expect, it } from 'vitest'
import { quad } from '../mesh/quad'
import { createGeometry } from './geometry'
import { partSizes } from './part-sizes'

/** A tube of radius r and height h about y, its coordinates once around and once along, in n sides. */
function tube(r: number, h: number, n: number) {
  const position: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let i = 0; i <= n; i++)
    for (const v of [0, 1]) {
      const angle = (2 * Math.PI * i) / n
      position.push(r * Math.cos(angle), v * h, r * Math.sin(angle))
      uv.push(i / n, v)
    }
  for (let i = 0; i < n; i++) index.push(2 * i, 2 * i + 1, 2 * i + 2, 2 * i + 1, 2 * i + 3, 2 * i + 2)
  return {
    name: 'tube',
    position: Float32Array.from(position),
    normal: new Float32Array(position.length).fill(0.577),
    uv: Float32Array.from(uv),
    index: Uint32Array.from(index),
  }
}

it('measures a tile of a picture on a sheet, and around a tube: its circumference 2πr and its height', () => {
  const sheet = quad('sheet', [0, 0, 0, 3, 0, 0, 3, 2, 0, 0, 2, 0])
  // coordinates in metres, half a metre a tile along u and a quarter along v
  const metres = Float32Array.from({ length: (sheet.position.length / 3) * 2 }, (_, i) =>
    i % 2 === 0 ? sheet.position[(i / 2) * 3]! * 2 : sheet.position[((i - 1) / 2) * 3 + 1]! * 4,
  )
  const bare = quad('bare', [0, 0, 5, 1, 0, 5, 1, 1, 5, 0, 1, 5])
  const geometry = createGeometry({
    parts: [{ ...sheet, uv: metres }, tube(0.3, 0.8, 96), { ...bare, uv: new Float32Array(0) }],
  })
  const sizes = partSizes(geometry)
  expect(sizes.get('sheet')!.extent).toBeCloseTo(3, 5)
  expect(sizes.get('sheet')!.tile[0]).toBeCloseTo(0.5, 5)
  expect(sizes.get('sheet')!.tile[1]).toBeCloseTo(0.25, 5)
  // a polygon of 96 sides is shorter than its circle by the factor sin(π/96) / (π/96)
  expect(sizes.get('tube')!.tile[0]).toBeCloseTo(2 * Math.PI * 0.3 * (Math.sin(Math.PI / 96) / (Math.PI / 96)), 5)
  expect(sizes.get('tube')!.tile[1]).toBeCloseTo(0.8, 5)
  expect(sizes.get('bare')!.tile).toEqual([0, 0])
})
