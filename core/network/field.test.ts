import { expect, it } from 'vitest'
import { memory } from '../nodes/memory'
import { mtlx, valueAt } from '../testing/setup'
import { compileNetwork } from './compile'
import { findElement, inputOf } from './document'
import { addField } from './field'
import { instantiate } from './instantiate'

it('a pattern takes the position by the field’s size: twice as large it is twice as far to the same of it', () => {
  const noise = mtlx(`<noise3d name="n" type="float"/>`)
  const { document, name } = addField(noise, 'n', 0.02)
  expect(inputOf(findElement(document, 'n')!, 'position')?.attributes).toMatchObject({
    nodegraph: name,
    output: 'out',
  })
  const of = (size: number | null) => {
    const p = compileNetwork(size === null ? noise : addField(noise, 'n', size).document, 'n')
    expect(p.faults).toEqual([])
    const shader = instantiate(p, [])
    return (u: number, v: number) => valueAt(shader, Float64Array.from(p.constants), memory.result, u, v)[0]!
  }
  const [plain, small, large] = [of(null), of(0.02), of(0.04)]
  const places = [
    [0.0131, 0.0417],
    [0.2703, 0.0089],
    [0.3144, 0.4432],
  ] as const
  for (const [u, v] of places) {
    expect(small(u, v)).toBeCloseTo(plain(u * 50, v * 50), 9)
    expect(large(2 * u, 2 * v)).toBeCloseTo(small(u, v), 9)
  }
  expect(new Set(places.map(([u, v]) => small(u, v).toFixed(4))).size).toBe(3)
})
