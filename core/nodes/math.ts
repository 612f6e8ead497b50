import { at, perComponent, type Emitter, type NodeEntry } from './emit'

const each = (f: (x: string) => string): Emitter => perComponent(['in'], f)
const sumOf = (c: Parameters<Emitter>[0], a: string[], b: string[]) =>
  c.local(a.map((x, i) => `${x} * ${b[i]}`).join(' + '))

/** Turns x, y by an angle in degrees, clockwise where x goes right and y up (the standard's library). */
export function turned(c: Parameters<Emitter>[0], x: string, y: string, degrees: string): [string, string] {
  const a = c.local(`${degrees} * ${Math.PI / 180}`)
  const cos = c.local(`Math.cos(${a})`)
  const sin = c.local(`Math.sin(${a})`)
  return [c.local(`${x} * ${cos} + ${y} * ${sin}`), c.local(`${y} * ${cos} - ${x} * ${sin}`)]
}

/** Arithmetic (MaterialX specification, "Math nodes"). */
export const entries: Record<string, NodeEntry> = {
  add: { about: 'Sum of both.', emit: perComponent(['in1', 'in2'], (a, b) => `(${a} + ${b})`) },
  subtract: { about: 'First less second.', emit: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b})`) },
  multiply: { about: 'Product of both.', emit: perComponent(['in1', 'in2'], (a, b) => `(${a} * ${b})`) },
  divide: { about: 'First over second.', emit: perComponent(['in1', 'in2'], (a, b) => `(${a} / ${b})`) },
  modulo: {
    about: 'What is left of the first after whole seconds, with the sign of the second.',
    emit: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b} * Math.floor(${a} / ${b}))`),
  },
  power: {
    about: 'First to the power of the second.',
    emit: perComponent(['in1', 'in2'], (a, b) => `Math.pow(${a}, ${b})`),
  },
  safepower: {
    about: 'The same of the magnitude, with the sign kept.',
    emit: perComponent(['in1', 'in2'], (a, b) => `(Math.sign(${a}) * Math.pow(Math.abs(${a}), ${b}))`),
  },
  absval: { about: 'Magnitude.', emit: each(x => `Math.abs(${x})`) },
  sign: { about: '−1, 0 or 1.', emit: each(x => `Math.sign(${x})`) },
  floor: { about: 'Next whole number below.', emit: each(x => `Math.floor(${x})`) },
  ceil: { about: 'Next whole number above.', emit: each(x => `Math.ceil(${x})`) },
  round: { about: 'Nearest whole number.', emit: each(x => `Math.floor(${x} + 0.5)`) },
  fract: { about: 'What is above the next whole number below.', emit: each(x => `(${x} - Math.floor(${x}))`) },
  sin: { about: 'Sine of radians.', emit: each(x => `Math.sin(${x})`) },
  cos: { about: 'Cosine of radians.', emit: each(x => `Math.cos(${x})`) },
  tan: { about: 'Tangent of radians.', emit: each(x => `Math.tan(${x})`) },
  asin: { about: 'Arc sine, radians.', emit: each(x => `Math.asin(${x})`) },
  acos: { about: 'Arc cosine, radians.', emit: each(x => `Math.acos(${x})`) },
  atan2: {
    about: 'Angle of the direction (x, y), radians.',
    emit: perComponent(['iny', 'inx'], (y, x) => `Math.atan2(${y}, ${x})`),
  },
  sqrt: { about: 'Square root.', emit: each(x => `Math.sqrt(${x})`) },
  ln: { about: 'Natural logarithm.', emit: each(x => `Math.log(${x})`) },
  exp: { about: 'e to the power of it.', emit: each(x => `Math.exp(${x})`) },
  min: { about: 'The lesser one.', emit: perComponent(['in1', 'in2'], (a, b) => `Math.min(${a}, ${b})`) },
  max: { about: 'The greater one.', emit: perComponent(['in1', 'in2'], (a, b) => `Math.max(${a}, ${b})`) },
  magnitude: {
    about: 'Length of a vector.',
    emit: c => {
      const v = c.arg('in')
      return [`Math.sqrt(${sumOf(c, v, v)})`]
    },
  },
  normalize: {
    about: 'The vector of length 1.',
    emit: c => {
      const v = c.arg('in')
      const l = c.local(`Math.sqrt(${sumOf(c, v, v)})`)
      const k = c.local(`${l} > 0 ? 1 / ${l} : 0`)
      return v.map(x => `(${x} * ${k})`)
    },
  },
  dotproduct: { about: 'Sum of products of components.', emit: c => [sumOf(c, c.arg('in1'), c.arg('in2'))] },
  crossproduct: {
    about: 'Vector square to both.',
    emit: c => {
      const a = c.arg('in1')
      const b = c.arg('in2')
      return [0, 1, 2].map(i => `(${a[(i + 1) % 3]} * ${b[(i + 2) % 3]} - ${a[(i + 2) % 3]} * ${b[(i + 1) % 3]})`)
    },
  },
  distance: {
    about: 'Length between two points.',
    emit: c => {
      const a = c.arg('in1')
      const b = c.arg('in2')
      const d = a.map((x, i) => c.local(`${x} - ${b[i]}`))
      return [`Math.sqrt(${sumOf(c, d, d)})`]
    },
  },
  reflect: {
    about: 'Direction mirrored at a normal.',
    emit: c => {
      const v = c.arg('in')
      const n = c.arg('normal')
      const d = sumOf(c, v, n)
      return v.map((x, i) => `(${x} - 2 * ${d} * ${n[i]})`)
    },
  },
  rotate2d: {
    about: 'Turned by degrees, clockwise.',
    emit: c => {
      const v = c.arg('in')
      return turned(c, v[0]!, v[1]!, c.arg('amount')[0]!)
    },
  },
  /** Rodrigues' formula; left-handed about the axis, as the standard's library has it. */
  rotate3d: {
    about: 'Turned by degrees about an axis, clockwise as seen from its tip.',
    emit: c => {
      const v = c.arg('in')
      const axis = c.arg('axis')
      const l = c.local(`Math.max(1e-12, Math.sqrt(${sumOf(c, axis, axis)}))`)
      const k = axis.map(x => c.local(`${x} / ${l}`))
      const a = c.local(`${c.arg('amount')[0]} * ${Math.PI / 180}`)
      const cos = c.local(`Math.cos(${a})`)
      const sin = c.local(`-Math.sin(${a})`)
      const along = c.local(`(${sumOf(c, k, v)}) * (1 - ${cos})`)
      return [0, 1, 2].map(
        i =>
          `(${v[i]} * ${cos} + (${k[(i + 1) % 3]} * ${v[(i + 2) % 3]} - ${k[(i + 2) % 3]} * ${v[(i + 1) % 3]}) ` +
          `* ${sin} + ${k[i]} * ${along})`,
      )
    },
  },
  /** Texture coordinates placed: scaled, turned, moved about a pivot; order 1 moves first. */
  place2d: {
    about: 'Texture coordinates scaled, turned clockwise and moved about a pivot.',
    emit: c => {
      const uv = c.arg('texcoord')
      const pivot = c.arg('pivot')
      const scale = c.arg('scale')
      const offset = c.arg('offset')
      const rotate = c.arg('rotate')[0]!
      let p = uv.map((x, i) => c.local(`${x} - ${pivot[i]}`)) as [string, string]
      if (c.fixed('operationorder') === 1) {
        p = turned(c, c.local(`${p[0]} - ${offset[0]}`), c.local(`${p[1]} - ${offset[1]}`), rotate)
        return p.map((x, i) => `(${x} / ${scale[i]} + ${pivot[i]})`)
      }
      p = turned(c, c.local(`${p[0]} / ${scale[0]}`), c.local(`${p[1]} / ${scale[1]}`), rotate)
      return p.map((x, i) => `(${x} - ${offset[i]} + ${pivot[i]})`)
    },
  },
  and: {
    about: 'Whether both are true.',
    emit: perComponent(['in1', 'in2'], (a, b) => `(${a} !== 0 && ${b} !== 0 ? 1 : 0)`),
  },
  or: {
    about: 'Whether one of them is true.',
    emit: perComponent(['in1', 'in2'], (a, b) => `(${a} !== 0 || ${b} !== 0 ? 1 : 0)`),
  },
  xor: {
    about: 'Whether they differ.',
    emit: perComponent(['in1', 'in2'], (a, b) => `((${a} !== 0) !== (${b} !== 0) ? 1 : 0)`),
  },
  not: { about: 'Whether it is false.', emit: perComponent(['in'], a => `(${a} !== 0 ? 0 : 1)`) },
  ifgreater: { about: 'in1 where value1 is above value2, else in2.', emit: c => choose(c, '>') },
  ifgreatereq: { about: 'in1 where value1 is at least value2, else in2.', emit: c => choose(c, '>=') },
  ifequal: { about: 'in1 where value1 is value2, else in2.', emit: c => choose(c, '===') },
  /** Input number ⌊which⌋ + 1; the first below 0, the last above what there is. */
  switch: {
    about: 'One of the inputs by its number.',
    emit: c => {
      const which = c.local(`Math.floor(${c.arg('which')[0]})`)
      const all = Array.from({ length: 10 }, (_, i) =>
        c.typeOf(`in${i + 1}`) ? c.arg(`in${i + 1}`) : undefined,
      ).filter(a => a !== undefined)
      return Array.from({ length: c.size }, (_, k) =>
        all
          .slice(0, -1)
          .reduceRight((rest, a, i) => `(${which} <= ${i} ? ${at(a, k)} : ${rest})`, at(all.at(-1)!, k)),
      )
    },
  },
}

/** One of two inputs by a comparison; definitions without those inputs give the truth itself. */
function choose(c: Parameters<Emitter>[0], operator: string): string[] {
  const test = c.local(`${c.arg('value1')[0]} ${operator} ${c.arg('value2')[0]}`)
  if (!c.typeOf('in1')) return [`(${test} ? 1 : 0)`]
  const a = c.arg('in1')
  const b = c.arg('in2')
  return Array.from({ length: c.size }, (_, i) => `(${test} ? ${at(a, i)} : ${at(b, i)})`)
}
