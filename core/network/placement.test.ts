import { describe, expect, it } from 'vitest'
import { compileNetwork } from './compile'
import { instantiate } from './instantiate'
import { memory } from '../nodes/memory'
import { mtlx, valueAt } from '../testing/setup'
import { findElement, inputOf } from './document'
import { addPlacement, placementOf, setPlacement, type Placement } from './placement'

const node = (order: 0 | 1) =>
  mtlx(`<place2d name="p" type="vector2"><input name="operationorder" type="integer" value="${order}"/>
    <input name="pivot" type="vector2" value="0.5, 0.25"/></place2d>`)
const PIVOT = [0.5, 0.25] as const
/** Where in the picture a point of the surface looks. */
function seenAt(document: ReturnType<typeof mtlx>, u: number, v: number): [number, number] {
  const p = compileNetwork(document, 'p')
  expect(p.faults).toEqual([])
  const out = valueAt(instantiate(p, []), Float64Array.from(p.constants), memory.result, u, v)
  return [out[0]!, out[1]!]
}

describe('placement of a picture', () => {
  it.each([0, 1] as const)(
    'moves it to the right and up, turns it counter-clockwise and makes its tile as large as said, order %i',
    order => {
      const placed: Placement = { tile: [0.5, 2], offset: [0.3, -0.1], turn: 30 }
      const d = setPlacement(node(order), 'p', placed)
      expect(placementOf(findElement(d, 'p')!)!.turn).toBe(30)
      placementOf(findElement(d, 'p')!)!.offset.forEach((x, k) => expect(x).toBeCloseTo(placed.offset[k]!, 6))
      // the point (q + 1, r) of the picture lies one tile along the turned u from (q, r); plane geometry by hand:
      // order 1 stretches along the picture's own axes and turns then, order 0 the other way round
      const [cos, sin] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)]
      for (const [q, r] of [
        [0.5, 0.25],
        [1.5, 0.25],
        [0.5, 1.25],
      ] as const) {
        const [x, y] = [q - PIVOT[0], r - PIVOT[1]]
        const [a, b] = order === 1 ? [x * 0.5, y * 2] : [x, y]
        const [c, e] = [a * cos - b * sin, a * sin + b * cos]
        const [f, g] = order === 1 ? [c, e] : [c * 0.5, e * 2]
        const [u, v] = seenAt(d, PIVOT[0] + f + 0.3, PIVOT[1] + g - 0.1)
        expect(u).toBeCloseTo(q, 6)
        expect(v).toBeCloseTo(r, 6)
      }
    },
  )
  it('a new one leaves the picture as it was, turns it about the middle, and is wired', () => {
    const d = mtlx(`<image name="i" type="color3"/>`)
    const { document, path } = addPlacement(d, 'i')
    expect(inputOf(findElement(document, 'i')!, 'texcoord')?.attributes.nodename).toBe(path)
    expect(placementOf(findElement(document, path)!)).toEqual({ tile: [1, 1], offset: [0, 0], turn: 0 })
    const half = setPlacement(document, path, { tile: [1, 1], offset: [0, 0], turn: 180 })
    const p = compileNetwork(half, path)
    const out = valueAt(instantiate(p, []), Float64Array.from(p.constants), memory.result, 0.2, 0.7)
    expect([out[0], out[1]].map(x => +x!.toFixed(6))).toEqual([0.8, 0.3])
  })
  it('is not read where one of its numbers is wired', () => {
    const d = mtlx(`<constant name="c" type="float"/><place2d name="p" type="vector2">
      <input name="rotate" type="float" nodename="c"/></place2d>`)
    expect(placementOf(findElement(d, 'p')!)).toBeUndefined()
  })
})
