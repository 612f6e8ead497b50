import { expect, it } from 'vitest'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { createGeometry } from './geometry'
import { mappedParts } from './mapped-parts'

it('tells parts with coordinates from those without, and from those where all corners have the same', () => {
  const sheet = quad('sheet', [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0])
  const ball = sphere('ball', 1, 6, 8, [4, 0, 0])
  const corners = sheet.position.length / 3
  const geometry = createGeometry({
    parts: [
      { ...ball, uv: new Float32Array(0) },
      { ...sheet, uv: Float32Array.from({ length: corners * 2 }, (_, i) => i) },
      { ...sheet, name: 'one spot', uv: new Float32Array(corners * 2).fill(0.5) },
    ],
  })
  expect([...mappedParts(geometry)]).toEqual([
    ['ball', false],
    ['sheet', true],
    ['one spot', false],
  ])
})
