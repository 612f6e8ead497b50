import { describe, expect, it } from 'vitest'
import { POINT, POINT_STRIDE } from '../point/slots'
import {
  absolute,
  add,
  angle,
  arcCosine,
  arcSine,
  cosine,
  divide,
  exponential,
  floor,
  least,
  logarithm,
  most,
  multiply,
  negate,
  power,
  select,
  sine,
  squareRoot,
  subtract,
  tangent,
  above,
} from './arithmetic'
import { blockIf, createBlock, createVariables } from './block'
import { createChanges } from './change'
import { call, constant, number, point, several, type Expression } from './expression'
import { memory } from './memory'
import { createPrinter } from './print'
import { createSharing } from './share'

const { result, knots } = memory
const bend = (x: number, y: number): number => Math.sin(3 * x) * y
const step = (x: number): number => Math.floor(x * 5)
function pair(x: number): void {
  result[0] = x * x
  result[1] = knots[0]! + x
}

/** Runs what is stored into `result` by printed code. */
function valuesOf(values: readonly Expression[], sharing = createSharing()) {
  const body = createBlock()
  body.items.push({ kind: 'store', into: 'result', at: 0, values: [...values] })
  const printer = createPrinter(sharing)
  printer.write('value', [], body)
  const source = printer.source()
  const code = new Function('result', 'knots', 'bend', 'step', 'pair', `${source}\nreturn value`)(
    result,
    knots,
    bend,
    step,
    pair,
  ) as (S: Float64Array, C: Float64Array, I: unknown[]) => void
  return {
    source,
    run: (S: Float64Array, C = new Float64Array(4)) => {
      code(S, C, [])
      return [...result]
    },
  }
}

const u = point(POINT.uv)
const v = point(POINT.uv + 1)

describe('expressions', () => {
  it('fold what is known, and leave what may be infinite or has no number alone', () => {
    expect(add(2, multiply(3, 4))).toMatchObject({ operation: 'number', at: 14 })
    for (const e of [add(u, 0), add(0, u), multiply(u, 1), multiply(1, u), divide(u, 1), subtract(u, 0)])
      expect(e).toBe(u)
    expect(select(above(2, 1), u, v)).toBe(u)
    expect(multiply(u, 0).operation).toBe('multiply')
    expect(
      valuesOf([divide(number(-1), number(0)), squareRoot(-1), number(-0)])
        .run(new Float64Array(POINT_STRIDE))
        .slice(0, 3),
    ).toEqual([-Infinity, NaN, -0])
  })

  it('that are equal are computed once; what nobody asks for is not', () => {
    const twice = () => call('bend', [add(u, v), number(2)])
    const unused = call('step', [u])
    const { source, run } = valuesOf([add(twice(), twice()), twice()])
    expect(unused.operation).toBe('call')
    expect(source.match(/bend\(/g)).toHaveLength(1)
    expect(source).not.toContain('step')
    const S = new Float64Array(POINT_STRIDE)
    S[POINT.uv] = 0.3
    S[POINT.uv + 1] = 0.4
    expect(run(S)[0]).toBe(2 * bend(0.7, 2))
  })

  it('take what a function leaves before another one is called, and hand lists', () => {
    const [a, b] = several('pair', [number(3)], 2, [number(10)]) as [Expression, Expression]
    const [c, d] = several('pair', [a], 2, [number(20)]) as [Expression, Expression]
    expect(valuesOf([a, b, c, d]).run(new Float64Array(POINT_STRIDE))).toEqual([9, 13, 81, 29])
  })

  it('stand where all their uses can see them, after the statements that they depend on', () => {
    const sharing = createSharing()
    const variables = createVariables()
    const body = createBlock()
    const w = variables()
    body.items.push({ kind: 'let', variable: w, value: number(0) })
    const first = blockIf(body, above(u, 0.5))
    first.items.push({ kind: 'increase', variable: w, value: call('bend', [v, number(1)]) })
    const second = blockIf(body, above(w, 0))
    second.items.push({ kind: 'store', into: 'result', at: 0, values: [multiply(w, w)] })
    second.items.push({ kind: 'store', into: 'result', at: 1, values: [multiply(w, w)] })
    const printer = createPrinter(sharing)
    printer.write('shade', [], body)
    const lines = printer
      .source()
      .split('\n')
      .map(l => l.trim())
    const at = (text: string) => lines.findIndex(l => l.includes(text))
    expect(at('bend')).toBeGreaterThan(at('if ((S['))
    expect(at('(w0 * w0)')).toBeGreaterThan(at('if ((w0'))
    expect(lines.filter(l => l.includes('(w0 * w0)'))).toHaveLength(1)
  })

  it('in thousands are several functions that give what one would', () => {
    let e: Expression = u
    const all: Expression[] = [u]
    let wanted = 0.3
    const values = [0.3]
    for (let i = 1; i < 3000; i++) {
      const far = Math.max(0, i - 700)
      e = add(multiply(e, 0.9), multiply(all[far]!, constant(0)))
      all.push(e)
      wanted = wanted * 0.9 + values[far]! * 0.25
      values.push(wanted)
    }
    const sharing = createSharing()
    for (const x of all) sharing.share(x)
    const { source, run } = valuesOf([e], sharing)
    expect(source.match(/^function k/gm)!.length).toBeGreaterThan(10)
    const S = new Float64Array(POINT_STRIDE)
    S[POINT.uv] = 0.3
    expect(run(S, Float64Array.of(0.25))[0]).toBeCloseTo(wanted, 12)
  })
})

describe('changes of values over half a pixel', () => {
  // witness: the value itself at the two ends of a small step, by printed code that knows nothing of changes
  const smooth: [string, Expression][] = [
    ['sums and products', subtract(multiply(add(u, 2), v), divide(u, add(v, 1)))],
    ['powers', add(power(add(u, 1), v), power(add(v, 1), 3))],
    ['roots', squareRoot(add(multiply(u, u), v))],
    ['angles', add(angle(v, u), add(sine(u), add(cosine(v), tangent(u))))],
    ['arcs', add(arcSine(multiply(u, 0.5)), arcCosine(multiply(v, 0.5)))],
    ['logarithms', add(logarithm(add(u, 1)), exponential(v))],
    ['the lesser and the greater', add(least(u, v), most(multiply(u, 3), v))],
    ['magnitudes', add(absolute(subtract(u, v)), negate(absolute(v)))],
    ['choices', select(above(u, v), multiply(u, 3), multiply(v, 5))],
    ['tiles', subtract(multiply(u, 7), floor(multiply(u, 7)))],
    ['functions that are called', call('bend', [multiply(u, 2), add(u, v)])],
    ['parts of several', several('pair', [multiply(u, v)], 2, [v])[0]!],
    ['what is handed in a list', several('pair', [multiply(u, v)], 2, [multiply(v, v)])[1]!],
  ]
  it.each(smooth)('%s', (_, e) => {
    const sharing = createSharing()
    const changes = createChanges(sharing, name => (name === 'step' ? 0 : Infinity))
    const shared = sharing.share(e)
    const d = valuesOf([changes.of(shared, 0), changes.of(shared, 1)], sharing)
    const plain = valuesOf([e])
    for (const [x, y] of [
      [0.31, 0.62],
      [0.77, 0.23],
    ] as const) {
      const S = new Float64Array(POINT_STRIDE)
      S[POINT.uv] = x
      S[POINT.uv + 1] = y
      const h = 1e-6
      // along x u grows and v falls; along y both grow
      S.set([h, -2 * h], POINT.duvdx)
      S.set([3 * h, h], POINT.duvdy)
      const [dx, dy] = d.run(S) as [number, number]
      const at = (du: number, dv: number) => {
        const T = S.slice()
        T[POINT.uv]! += du
        T[POINT.uv + 1]! += dv
        return plain.run(T)[0]!
      }
      expect(dx / h).toBeCloseTo((at(h, -2 * h) - at(-h, 2 * h)) / 2 / h, 3)
      expect(dy / h).toBeCloseTo((at(3 * h, h) - at(-3 * h, -h)) / 2 / h, 3)
    }
  })

  it('what jumps stands still, and so does what has no change', () => {
    const sharing = createSharing()
    const changes = createChanges(sharing, name => (name === 'step' ? 0 : Infinity))
    for (const e of [call('step', [u]), floor(multiply(u, 9)), constant(0), point(POINT.part), above(u, v)])
      expect(changes.of(sharing.share(e), 0)).toMatchObject({ operation: 'number', at: 0 })
  })

  it('of a chain of ten thousand are found without recursion', () => {
    const sharing = createSharing()
    let e = sharing.share(u)
    for (let i = 0; i < 10_000; i++) e = sharing.share(add(multiply(e, 1.0001), 0.1))
    const changes = createChanges(sharing, () => Infinity)
    expect(changes.of(e, 0).operation).not.toBe('number')
  })
})
