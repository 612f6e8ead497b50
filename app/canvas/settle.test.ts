import { expect, it } from 'vitest'
import { childNamed } from '../../core/network/document'
import { mtlx } from '../../core/testing/setup'
import { arrange } from './arrange'
import { settleAdded } from './settle'

const card = (name: string, x: number, y: number) =>
  `<constant name="${name}" type="float" xpos="${x}" ypos="${y}"/>`
const OLD = card('a', 0, 0) + card('b', 1, 0)

it('what was added on other cards moves down together, and lies on none', () => {
  const after = mtlx(OLD + card('c', 0.2, 0.1) + card('d', 1.2, 0.1))
  const settled = settleAdded(mtlx(OLD), after)
  const y = (name: string) => Number(childNamed(settled, name)!.attributes.ypos)
  expect(y('c')).toBe(y('d'))
  expect(y('c')).toBeGreaterThan(0.1)
  expect([y('a'), y('b')]).toEqual([0, 0])
  const placed = arrange(settled, new Set())
  for (const p of placed)
    for (const q of placed)
      if (p.id < q.id && !(p.id === 'c' && q.id === 'd'))
        expect(
          p.x + p.width <= q.x || q.x + q.width <= p.x || p.y + p.height <= q.y || q.y + q.height <= p.y,
          `${p.id} on ${q.id}`,
        ).toBe(true)
})
it('what lies free stays, and so does a document to which nothing was added', () => {
  const after = mtlx(OLD + card('c', 5, 5))
  expect(settleAdded(mtlx(OLD), after)).toBe(after)
  const moved = mtlx(card('a', 1, 0) + card('b', 1, 0))
  expect(settleAdded(mtlx(OLD), moved)).toBe(moved)
})
it('goes to the next place below that no card of a column covers, and stays in its own column', () => {
  const column = [2, 3, 4].map(y => card(`old${y}`, 2, y)).join('')
  const settled = settleAdded(mtlx(column), mtlx(column + card('c', 2, 2)))
  const at = new Map(arrange(settled, new Set()).map(p => [p.id, p]))
  const c = at.get('c')!
  expect(childNamed(settled, 'c')!.attributes.xpos).toBe('2')
  for (const y of [2, 3, 4]) {
    const old = at.get(`old${y}`)!
    expect(Math.abs(c.y - old.y)).toBeGreaterThanOrEqual(old.height)
  }
  const beside = mtlx(column + card('c', 5, 2))
  expect(settleAdded(mtlx(column), beside)).toBe(beside)
})
