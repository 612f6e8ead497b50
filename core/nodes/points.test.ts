import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { withOwnDefinitions } from '../formats/mtlx/own-definitions'
import type { Element } from '../network/document'
import { mtlx, valueAt } from '../testing/setup'
import { memory } from './memory'

const { result } = memory

/** A ramp or curve over u. */
const over = (tag: string, type: string, inputs: string, interpolation = 'linear') =>
  mtlx(`<texcoord name="uv" type="vector2"/><extract name="u" type="float">
    <input name="in" type="vector2" nodename="uv"/></extract>
  <${tag} name="n" type="${type}"><input name="in" type="float" nodename="u"/>
  <input name="interpolation" type="string" value="${interpolation}"/>${inputs}</${tag}>`)
const points = (name: string, type: string, list: [number, string][]) =>
  `<input name="count" type="integer" value="${list.length}"/>` +
  list
    .map(
      ([p, v], k) =>
        `<input name="position${k + 1}" type="float" value="${p}"/>
          <input name="${name}${k + 1}" type="${type}" value="${v}"/>`,
    )
    .join('')
function at(document: Element, us: number[], root = 'n'): number[][] {
  const p = compileNetwork(document, root)
  expect(p.faults).toEqual([])
  const run = instantiate(p, [])
  const C = Float64Array.from(p.constants)
  return us.map(u =>
    valueAt(run, C, result, u, 0.5)
      .slice(0, p.size)
      .map(x => +x.toFixed(9)),
  )
}
const STOPS = points('color', 'color3', [
  [0.2, '1, 0, 0'],
  [0.6, '0, 1, 0'],
  [0.7, '0, 0, 1'],
])
const BUMPS = points('value', 'float', [
  [0, '0'],
  [0.25, '0.9'],
  [0.5, '1'],
  [1, '0'],
])

describe('ramp', () => {
  it('is straight between its stops and level beyond them', () =>
    expect(at(over('wl_ramp', 'color3', STOPS), [0, 0.2, 0.3, 0.65, 0.9])).toEqual([
      [1, 0, 0],
      [1, 0, 0],
      [0.75, 0.25, 0],
      [0, 0.5, 0.5],
      [0, 0, 1],
    ]))
  it('in steps holds each stop up to the next', () =>
    expect(at(over('wl_ramp', 'color3', STOPS, 'constant'), [0.59, 0.61, 0.71])).toEqual([
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ]))
  it('smooth runs by 3t² − 2t³', () =>
    expect(at(over('wl_ramp', 'color3', STOPS, 'smooth'), [0.3])).toEqual([[0.84375, 0.15625, 0]]))
  it('a stop before its predecessor stands where that one stands', () =>
    expect(
      at(
        over(
          'wl_ramp',
          'color3',
          points('color', 'color3', [
            [0.5, '1, 0, 0'],
            [0.2, '0, 1, 0'],
            [1, '0, 0, 1'],
          ]),
        ),
        [0.3, 0.5],
      ),
    ).toEqual([
      [1, 0, 0],
      [0, 1, 0],
    ]))
  it('says what is wrong with a number of stops or a wire to it', () => {
    const count = (v: string) =>
      compileNetwork(over('wl_ramp', 'color3', `<input name="count" type="integer" value="${v}"/>`), 'n').faults[0]
        ?.message
    expect(count('9')).toContain('from 1 to 8')
    expect(count('0')).toContain('from 1 to 8')
  })
  it('dragging a stop changes constants alone', () => {
    const a = compileNetwork(over('wl_ramp', 'color3', STOPS), 'n')
    const b = compileNetwork(over('wl_ramp', 'color3', STOPS.replace('0.6', '0.5')), 'n')
    expect(a.source).toBe(b.source)
    expect(a.constants).not.toEqual(b.constants)
  })
})

describe('curve', () => {
  it('passes through its points, straight or smooth', () => {
    for (const mode of ['linear', 'smooth'])
      expect(at(over('wl_curve', 'float', BUMPS, mode), [0, 0.25, 0.5, 1])).toEqual([[0], [0.9], [1], [0]])
    expect(at(over('wl_curve', 'float', BUMPS), [0.125, 0.75])).toEqual([[0.45], [0.5]])
  })
  it('smooth with two points is the cubic with level ends', () =>
    expect(
      at(
        over(
          'wl_curve',
          'float',
          points('value', 'float', [
            [0, '0'],
            [1, '1'],
          ]),
          'smooth',
        ),
        [0.25, 0.5],
      ),
    ).toEqual([[0.15625], [0.5]]))
  it('smooth keeps a straight run straight away from its ends', () => {
    // equal secants: the harmonic mean is that slope, and the cubic between two such points is the line
    const line = points('value', 'float', [
      [0, '0'],
      [0.25, '0.25'],
      [0.5, '0.5'],
      [0.75, '0.75'],
      [1, '1'],
    ])
    expect(at(over('wl_curve', 'float', line, 'smooth'), [0.3, 0.44, 0.6]).flat()).toEqual([0.3, 0.44, 0.6])
  })
  it('smooth never leaves what its points span, and rises where they rise', () => {
    const values = at(
      over('wl_curve', 'float', BUMPS, 'smooth'),
      Array.from({ length: 201 }, (_, i) => i / 200),
    ).flat()
    expect(Math.max(...values)).toBeLessThanOrEqual(1)
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0)
    for (let i = 1; i <= 100; i++) expect(values[i]!).toBeGreaterThanOrEqual(values[i - 1]!)
    for (let i = 101; i <= 200; i++) expect(values[i]!).toBeLessThanOrEqual(values[i - 1]!)
  })
})

describe('for other readers', () => {
  // the same document with the node renamed is computed by the nodegraph that goes out with it, as another reader
  // would
  const foreign = (d: Element): Element => {
    const out = withOwnDefinitions(d)
    const rename = (e: Element): Element => ({
      ...e,
      tag: e.tag.replace(/^wl_/, 'other_'),
      attributes: {
        ...e.attributes,
        ...(e.tag === 'nodedef' ? { node: e.attributes.node!.replace('wl_', 'other_') } : {}),
      },
      children: e.children.map(rename),
    })
    return rename(out)
  }
  it.each([
    ['wl_ramp', 'color3', STOPS],
    ['wl_curve', 'float', BUMPS],
  ])('the standard nodes that go out with %s give the same', (tag, type, inputs) => {
    const d = over(tag, type, inputs)
    const us = [0, 0.13, 0.2, 0.41, 0.66, 0.7, 0.95]
    const own = at(d, us)
    const out = foreign(d)
    const shown: Element = {
      ...out,
      children: [
        ...out.children,
        {
          tag: 'add',
          attributes: { name: 'shown', type },
          children: [{ tag: 'input', attributes: { name: 'in1', type, nodename: 'n' }, children: [] }],
        },
      ],
    }
    at(shown, us, 'shown').forEach((x, i) => x.forEach((y, k) => expect(y).toBeCloseTo(own[i]![k]!, 6)))
  })
})
