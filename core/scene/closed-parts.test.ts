import { expect, it } from 'vitest'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { box } from '../testing/box'
import { closedParts } from './closed-parts'
import { createGeometry } from './geometry'

it('tells closed parts of a built geometry from open ones, whatever order the hierarchy keeps', () => {
  const ball = sphere('ball', 1, 12, 24)
  const torn = sphere('torn', 0.5, 12, 24, [3, 0, 0])
  const geometry = createGeometry({
    parts: [
      ball,
      box('box', [0, 3, 0], [1, 2, 3]),
      { ...torn, index: torn.index.slice(3) },
      quad('sheet', [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]),
    ],
  })
  expect([...closedParts(geometry)]).toEqual([
    ['ball', true],
    ['box', true],
    ['torn', false],
    ['sheet', false],
  ])
})
