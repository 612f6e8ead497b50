import { inputOf, type Element } from '../network/document'
import { definitionOf } from '../network/edit'
import { followDriver } from '../network/groups'
import { pointsOf } from '../network/points'
import { parseValue } from '../nodes/types'

/**
 * Lowest and highest value that an input can take, over its components; infinite where nothing is known. Interval
 * arithmetic (Moore 1966).
 */
export type Interval = readonly [low: number, high: number]
const ANY: Interval = [-Infinity, Infinity]

/**
 * @param container of the node: the document, or the group it is in
 * @param depth of the search up the wires, so that a loop ends
 */
export function intervalOf(
  document: Element,
  node: Element,
  input: string,
  container: Element = document,
  depth = 24,
): Interval {
  const type = definitionOf(node)?.inputs.find(i => i.name === input)
  const given = inputOf(node, input)?.attributes ?? {}
  const end = followDriver(document, container, given)
  const { attributes: a } = end
  if (end.node) return depth > 0 ? outputInterval(document, end.node, end.container, depth - 1) : ANY
  if (a.nodename !== undefined || a.nodegraph !== undefined || a.interfacename !== undefined) return ANY
  const v = parseValue(a.type ?? type?.type ?? 'float', a.value ?? type?.default ?? '')
  return v ? [Math.min(...v), Math.max(...v)] : ANY
}

const product = (a: Interval, b: Interval): Interval => {
  const p = a.flatMap(x => b.map(y => (x === 0 || y === 0 ? 0 : x * y)))
  return [Math.min(...p), Math.max(...p)]
}
const sum = (a: Interval, b: Interval): Interval => [a[0] + b[0], a[1] + b[1]]
const hull = (a: Interval, b: Interval): Interval => [Math.min(a[0], b[0]), Math.max(a[1], b[1])]
const within = (a: Interval, low: number, high: number) => a[0] >= low && a[1] <= high

function outputInterval(document: Element, node: Element, container: Element, depth: number): Interval {
  const of = (name: string) => intervalOf(document, node, name, container, depth)
  switch (node.tag) {
    case 'constant':
      return of('value')
    // 8/3 where the whole ball is empty or full
    case 'wl_curvature': {
      const most = 8 / 3
      return inputOf(node, 'side')?.attributes.value === 'both' ? [-most, most] : [0, most]
    }
    // a curve never leaves what its points span
    case 'wl_curve':
    case 'wl_ramp': {
      const all = pointsOf(node).flatMap(p => (p.wired ? [-Infinity, Infinity] : p.value))
      return [Math.min(...all), Math.max(...all)]
    }
    case 'smoothstep':
    case 'circle':
    case 'cellnoise2d':
    case 'cellnoise3d':
    case 'wl_occlusion':
    case 'wl_thickness':
      return [0, 1]
    case 'image':
    case 'tiledimage':
      return hull([0, 1], of('default'))
    case 'facingratio':
    case 'fract':
      return [0, 1]
    case 'clamp': {
      const low = of('low')
      const high = of('high')
      const x = of('in')
      return [Math.max(x[0], low[0]), Math.min(Math.max(x[1], low[0]), high[1])]
    }
    case 'noise2d':
    case 'noise3d':
      return sum(product(of('amplitude'), [-1, 1]), of('pivot'))
    case 'fractal2d':
    case 'fractal3d':
      return product(of('amplitude'), [-2, 2])
    case 'add':
      return sum(of('in1'), of('in2'))
    case 'subtract': {
      const b = of('in2')
      return sum(of('in1'), [-b[1], -b[0]])
    }
    case 'multiply':
      return product(of('in1'), of('in2'))
    case 'invert': {
      const x = of('in')
      return sum(of('amount'), [-x[1], -x[0]])
    }
    case 'min': {
      const a = of('in1')
      const b = of('in2')
      return [Math.min(a[0], b[0]), Math.min(a[1], b[1])]
    }
    case 'max': {
      const a = of('in1')
      const b = of('in2')
      return [Math.max(a[0], b[0]), Math.max(a[1], b[1])]
    }
    case 'absval': {
      const x = of('in')
      return x[0] >= 0 ? x : [0, Math.max(-x[0], x[1])]
    }
    case 'sin':
    case 'cos':
      return [-1, 1]
    case 'mix':
      return within(of('mix'), 0, 1) ? hull(of('fg'), of('bg')) : ANY
    case 'screen': {
      const a = of('fg')
      const b = of('bg')
      return within(a, 0, 1) && within(b, 0, 1) ? [0, 1] : ANY
    }
    case 'range':
      return inputOf(node, 'doclamp')?.attributes.value === 'true' ? hull(of('outlow'), of('outhigh')) : ANY
    case 'ramplr':
      return hull(of('valuel'), of('valuer'))
    case 'ramptb':
      return hull(of('valuet'), of('valueb'))
    case 'randomfloat':
      return hull(of('min'), of('max'))
    case 'convert':
    case 'extract':
    case 'dot':
      return of('in')
    default:
      return ANY
  }
}
