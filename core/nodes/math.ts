import {
  above,
  absolute,
  add,
  angle,
  arcCosine,
  arcSine,
  atLeast,
  both,
  ceil,
  cosine,
  differ,
  divide,
  dot,
  either,
  equal,
  exponential,
  floor,
  least,
  length,
  logarithm,
  most,
  multiply,
  negate,
  power,
  select,
  sign,
  sine,
  squareRoot,
  subtract,
  tangent,
} from '../expression/arithmetic'
import type { Expression } from '../expression/expression'
import { at, components, perComponent, type EmitContext, type Emitter, type NodeEntry } from './emit'

const each = (f: (x: Expression) => Expression): Emitter => perComponent(['in'], f)
const pair = (f: (a: Expression, b: Expression) => Expression): Emitter => perComponent(['in1', 'in2'], f)
const RADIANS = Math.PI / 180
const isTrue = (x: Expression): Expression => differ(x, 0)
const asNumber = (so: Expression): Expression => select(so, 1, 0)

/** Turns x, y by an angle in degrees, clockwise where x goes right and y up (the standard's library). */
export function turned(x: Expression, y: Expression, degrees: Expression): [Expression, Expression] {
  const a = multiply(degrees, RADIANS)
  const cos = cosine(a)
  const sin = sine(a)
  return [add(multiply(x, cos), multiply(y, sin)), subtract(multiply(y, cos), multiply(x, sin))]
}

const cross = (a: Expression[], b: Expression[], i: number): Expression =>
  subtract(multiply(a[(i + 1) % 3]!, b[(i + 2) % 3]!), multiply(a[(i + 2) % 3]!, b[(i + 1) % 3]!))

/** Arithmetic (MaterialX specification, "Math nodes"). */
export const entries: Record<string, NodeEntry> = {
  add: { about: 'Sum of both.', emit: pair(add) },
  subtract: { about: 'First less second.', emit: pair(subtract) },
  multiply: { about: 'Product of both.', emit: pair(multiply) },
  divide: { about: 'First over second.', emit: pair(divide) },
  modulo: {
    about: 'What is left of the first after whole seconds, with the sign of the second.',
    emit: pair((a, b) => subtract(a, multiply(b, floor(divide(a, b))))),
  },
  power: {
    about: 'First to the power of the second.',
    emit: pair(power),
  },
  safepower: {
    about: 'The same of the magnitude, with the sign kept.',
    emit: pair((a, b) => multiply(sign(a), power(absolute(a), b))),
  },
  absval: { about: 'Magnitude.', emit: each(absolute) },
  sign: { about: '−1, 0 or 1.', emit: each(sign) },
  floor: { about: 'Next whole number below.', emit: each(floor) },
  ceil: { about: 'Next whole number above.', emit: each(ceil) },
  round: { about: 'Nearest whole number.', emit: each(x => floor(add(x, 0.5))) },
  fract: { about: 'What is above the next whole number below.', emit: each(x => subtract(x, floor(x))) },
  sin: { about: 'Sine of radians.', emit: each(sine) },
  cos: { about: 'Cosine of radians.', emit: each(cosine) },
  tan: { about: 'Tangent of radians.', emit: each(tangent) },
  asin: { about: 'Arc sine, radians.', emit: each(arcSine) },
  acos: { about: 'Arc cosine, radians.', emit: each(arcCosine) },
  atan2: {
    about: 'Angle of the direction (x, y), radians.',
    emit: perComponent(['iny', 'inx'], angle),
  },
  sqrt: { about: 'Square root.', emit: each(squareRoot) },
  ln: { about: 'Natural logarithm.', emit: each(logarithm) },
  exp: { about: 'e to the power of it.', emit: each(exponential) },
  min: { about: 'The lesser one.', emit: pair(least) },
  max: { about: 'The greater one.', emit: pair(most) },
  magnitude: { about: 'Length of a vector.', emit: c => [length(c.arg('in'))] },
  normalize: {
    about: 'The vector of length 1.',
    emit: c => {
      const v = c.arg('in')
      const l = length(v)
      const k = select(above(l, 0), divide(1, l), 0)
      return v.map(x => multiply(x, k))
    },
  },
  dotproduct: { about: 'Sum of products of components.', emit: c => [dot(c.arg('in1'), c.arg('in2'))] },
  crossproduct: {
    about: 'Vector square to both.',
    emit: c => [0, 1, 2].map(i => cross(c.arg('in1'), c.arg('in2'), i)),
  },
  distance: {
    about: 'Length between two points.',
    emit: c => {
      const b = c.arg('in2')
      return [length(c.arg('in1').map((x, i) => subtract(x, b[i]!)))]
    },
  },
  reflect: {
    about: 'Direction mirrored at a normal.',
    emit: c => {
      const v = c.arg('in')
      const n = c.arg('normal')
      const d = multiply(2, dot(v, n))
      return v.map((x, i) => subtract(x, multiply(d, n[i]!)))
    },
  },
  rotate2d: {
    about: 'Turned by degrees, clockwise.',
    emit: c => {
      const [x, y] = c.arg('in') as [Expression, Expression]
      return turned(x, y, c.arg('amount')[0]!)
    },
  },
  /** Rodrigues' formula; left-handed about the axis, as the standard's library has it. */
  rotate3d: {
    about: 'Turned by degrees about an axis, clockwise as seen from its tip.',
    emit: c => {
      const v = c.arg('in')
      const axis = c.arg('axis')
      const l = most(1e-12, length(axis))
      const k = axis.map(x => divide(x, l))
      const a = multiply(c.arg('amount')[0]!, RADIANS)
      const cos = cosine(a)
      const sin = negate(sine(a))
      const along = multiply(dot(k, v), subtract(1, cos))
      return [0, 1, 2].map(i =>
        add(add(multiply(v[i]!, cos), multiply(cross(k, v, i), sin)), multiply(k[i]!, along)),
      )
    },
  },
  /** Texture coordinates placed: scaled, turned, moved about a pivot; order 1 moves first. */
  place2d: {
    about: 'Texture coordinates scaled, turned clockwise and moved about a pivot.',
    emit: c => {
      const pivot = c.arg('pivot')
      const scale = c.arg('scale')
      const offset = c.arg('offset')
      const rotate = c.arg('rotate')[0]!
      const [x, y] = c.arg('texcoord').map((t, i) => subtract(t, pivot[i]!)) as [Expression, Expression]
      if (c.fixed('operationorder') === 1)
        return turned(subtract(x, offset[0]!), subtract(y, offset[1]!), rotate).map((p, i) =>
          add(divide(p, scale[i]!), pivot[i]!),
        )
      return turned(divide(x, scale[0]!), divide(y, scale[1]!), rotate).map((p, i) =>
        add(subtract(p, offset[i]!), pivot[i]!),
      )
    },
  },
  and: { about: 'Whether both are true.', emit: pair((a, b) => asNumber(both(isTrue(a), isTrue(b)))) },
  or: { about: 'Whether one of them is true.', emit: pair((a, b) => asNumber(either(isTrue(a), isTrue(b)))) },
  xor: {
    about: 'Whether they differ.',
    emit: pair((a, b) => asNumber(differ(asNumber(isTrue(a)), asNumber(isTrue(b))))),
  },
  not: { about: 'Whether it is false.', emit: each(a => select(isTrue(a), 0, 1)) },
  ifgreater: { about: 'in1 where value1 is above value2, else in2.', emit: c => choose(c, above) },
  ifgreatereq: { about: 'in1 where value1 is at least value2, else in2.', emit: c => choose(c, atLeast) },
  ifequal: { about: 'in1 where value1 is value2, else in2.', emit: c => choose(c, equal) },
  /** Input number ⌊which⌋ + 1; the first below 0, the last above what there is. */
  switch: {
    about: 'One of the inputs by its number.',
    emit: c => {
      const which = floor(c.arg('which')[0]!)
      const all = Array.from({ length: 10 }, (_, i) => `in${i + 1}`)
        .filter(name => c.typeOf(name))
        .map(name => c.arg(name))
      return components(c, k =>
        all
          .slice(0, -1)
          .reduceRight((rest, a, i) => select(atLeast(i, which), at(a, k), rest), at(all.at(-1)!, k)),
      )
    },
  },
}

/** One of two inputs by a comparison; definitions without those inputs give the truth itself. */
function choose(c: EmitContext, compare: (a: Expression, b: Expression) => Expression): Expression[] {
  const so = compare(c.arg('value1')[0]!, c.arg('value2')[0]!)
  if (!c.typeOf('in1')) return [asNumber(so)]
  const a = c.arg('in1')
  const b = c.arg('in2')
  return components(c, i => select(so, at(a, i), at(b, i)))
}
