import { expect, it } from 'vitest'
import { compileNetwork } from '../../network/compile'
import { childNamed, inputOf } from '../../network/document'
import { instantiate } from '../../network/instantiate'
import { memory } from '../../nodes/memory'
import { mtlx, valueAt } from '../../testing/setup'
import { spellCoordinates } from './spelled-coordinates'

const value = (name: string, type: string, v: string) => `<input name="${name}" type="${type}" value="${v}"/>`
const PLACED = `<place2d name="place" type="vector2">${value('scale', 'vector2', '0.5, 0.25')}</place2d>`
const at = (document: ReturnType<typeof mtlx>, node: string, u: number, v: number) => {
  const p = compileNetwork(document, node)
  return valueAt(instantiate(p, []), Float64Array.from(p.constants), memory.result, u, v).slice(0, 2)
}

it('an unwired place2d takes the coordinates of the part: u / 0.5, v / 0.25 (its formula in the standard)', () => {
  expect(at(mtlx(PLACED), 'place', 0.3, 0.1)).toEqual([expect.closeTo(0.6, 12), expect.closeTo(0.4, 12)])
})

it('a constant that is stated stays one', () => {
  const stated = PLACED.replace('</place2d>', value('texcoord', 'vector2', '0.1, 0.2') + '</place2d>')
  expect(at(mtlx(stated), 'place', 0.3, 0.1)).toEqual([expect.closeTo(0.2, 12), expect.closeTo(0.8, 12)])
  expect(spellCoordinates(mtlx(stated))).toEqual(mtlx(stated))
})

it('what leaves spells the coordinates out, in groups too, once a scope, and gives the same values', () => {
  const d = mtlx(`${PLACED}${PLACED.replace('"place"', '"uv_of_the_part"')}
    <nodegraph name="g">${PLACED}<output name="out" type="vector2" nodename="place"/></nodegraph>
    <noise2d name="n" type="float"/>`)
  const spelled = spellCoordinates(d)
  const wired = (scope: typeof d, node: string) =>
    inputOf(childNamed(scope, node)!, 'texcoord')?.attributes.nodename
  expect(wired(spelled, 'place')).toBe('uv_of_the_part2')
  expect(wired(spelled, 'uv_of_the_part')).toBe('uv_of_the_part2')
  expect(spelled.children.filter(c => c.tag === 'texcoord')).toHaveLength(1)
  const inner = childNamed(spelled, 'g')!
  expect(childNamed(inner, wired(inner, 'place')!)?.tag).toBe('texcoord')
  // the standard itself gives noise2d the coordinates
  expect(inputOf(childNamed(spelled, 'n')!, 'texcoord')).toBeUndefined()
  for (const node of ['place', 'g/place']) expect(at(spelled, node, 0.3, 0.1)).toEqual(at(d, node, 0.3, 0.1))
})
