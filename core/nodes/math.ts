import { at, perComponent, type Emitter } from './emit'

const each = (f: (x: string) => string): Emitter => perComponent(['in'], f)
const sumOf = (c: Parameters<Emitter>[0], a: string[], b: string[]) =>
  c.local(a.map((x, i) => `${x} * ${b[i]}`).join(' + '))

/** Turns x, y by an angle in degrees, counterclockwise (specification's text, from memory). */
export function turned(c: Parameters<Emitter>[0], x: string, y: string, degrees: string): [string, string] {
  const a = c.local(`${degrees} * ${Math.PI / 180}`)
  const cos = c.local(`Math.cos(${a})`)
  const sin = c.local(`Math.sin(${a})`)
  return [c.local(`${x} * ${cos} - ${y} * ${sin}`), c.local(`${x} * ${sin} + ${y} * ${cos}`)]
}

/** Arithmetic (MaterialX specification, "Math nodes"). */
export const emitters: Record<string, Emitter> = {
  add: perComponent(['in1', 'in2'], (a, b) => `(${a} + ${b})`),
  subtract: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b})`),
  multiply: perComponent(['in1', 'in2'], (a, b) => `(${a} * ${b})`),
  divide: perComponent(['in1', 'in2'], (a, b) => `(${a} / ${b})`),
  modulo: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b} * Math.floor(${a} / ${b}))`),
  power: perComponent(['in1', 'in2'], (a, b) => `Math.pow(${a}, ${b})`),
  safepower: perComponent(['in1', 'in2'], (a, b) => `(Math.sign(${a}) * Math.pow(Math.abs(${a}), ${b}))`),
  absval: each(x => `Math.abs(${x})`),
  sign: each(x => `Math.sign(${x})`),
  floor: each(x => `Math.floor(${x})`),
  ceil: each(x => `Math.ceil(${x})`),
  round: each(x => `Math.floor(${x} + 0.5)`),
  fract: each(x => `(${x} - Math.floor(${x}))`),
  sin: each(x => `Math.sin(${x})`),
  cos: each(x => `Math.cos(${x})`),
  tan: each(x => `Math.tan(${x})`),
  asin: each(x => `Math.asin(${x})`),
  acos: each(x => `Math.acos(${x})`),
  atan2: perComponent(['iny', 'inx'], (y, x) => `Math.atan2(${y}, ${x})`),
  sqrt: each(x => `Math.sqrt(${x})`),
  ln: each(x => `Math.log(${x})`),
  exp: each(x => `Math.exp(${x})`),
  min: perComponent(['in1', 'in2'], (a, b) => `Math.min(${a}, ${b})`),
  max: perComponent(['in1', 'in2'], (a, b) => `Math.max(${a}, ${b})`),
  magnitude: c => {
    const v = c.arg('in')
    return [`Math.sqrt(${sumOf(c, v, v)})`]
  },
  normalize: c => {
    const v = c.arg('in')
    const l = c.local(`Math.sqrt(${sumOf(c, v, v)})`)
    const k = c.local(`${l} > 0 ? 1 / ${l} : 0`)
    return v.map(x => `(${x} * ${k})`)
  },
  dotproduct: c => [sumOf(c, c.arg('in1'), c.arg('in2'))],
  crossproduct: c => {
    const a = c.arg('in1')
    const b = c.arg('in2')
    return [0, 1, 2].map(i => `(${a[(i + 1) % 3]} * ${b[(i + 2) % 3]} - ${a[(i + 2) % 3]} * ${b[(i + 1) % 3]})`)
  },
  distance: c => {
    const a = c.arg('in1')
    const b = c.arg('in2')
    const d = a.map((x, i) => c.local(`${x} - ${b[i]}`))
    return [`Math.sqrt(${sumOf(c, d, d)})`]
  },
  reflect: c => {
    const v = c.arg('in')
    const n = c.arg('normal')
    const d = sumOf(c, v, n)
    return v.map((x, i) => `(${x} - 2 * ${d} * ${n[i]})`)
  },
  rotate2d: c => {
    const v = c.arg('in')
    return turned(c, v[0]!, v[1]!, c.arg('amount')[0]!)
  },
  /** Rodrigues' formula, right-handed about the axis. */
  rotate3d: c => {
    const v = c.arg('in')
    const axis = c.arg('axis')
    const l = c.local(`Math.max(1e-12, Math.sqrt(${sumOf(c, axis, axis)}))`)
    const k = axis.map(x => c.local(`${x} / ${l}`))
    const a = c.local(`${c.arg('amount')[0]} * ${Math.PI / 180}`)
    const cos = c.local(`Math.cos(${a})`)
    const sin = c.local(`Math.sin(${a})`)
    const along = c.local(`(${sumOf(c, k, v)}) * (1 - ${cos})`)
    return [0, 1, 2].map(
      i =>
        `(${v[i]} * ${cos} + (${k[(i + 1) % 3]} * ${v[(i + 2) % 3]} - ${k[(i + 2) % 3]} * ${v[(i + 1) % 3]}) ` +
        `* ${sin} + ${k[i]} * ${along})`,
    )
  },
  /** Texture coordinates placed: scaled, turned, moved about a pivot; order 1 moves first. */
  place2d: c => {
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
  and: perComponent(['in1', 'in2'], (a, b) => `(${a} !== 0 && ${b} !== 0 ? 1 : 0)`),
  or: perComponent(['in1', 'in2'], (a, b) => `(${a} !== 0 || ${b} !== 0 ? 1 : 0)`),
  xor: perComponent(['in1', 'in2'], (a, b) => `((${a} !== 0) !== (${b} !== 0) ? 1 : 0)`),
  not: perComponent(['in'], a => `(${a} !== 0 ? 0 : 1)`),
  ifgreater: c => choose(c, '>'),
  ifgreatereq: c => choose(c, '>='),
  ifequal: c => choose(c, '==='),
  /** Input number ⌊which⌋ + 1; the first below 0, the last above what there is. */
  switch: c => {
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
}

/** One of two inputs by a comparison; definitions without those inputs give the truth itself. */
function choose(c: Parameters<Emitter>[0], operator: string): string[] {
  const test = c.local(`${c.arg('value1')[0]} ${operator} ${c.arg('value2')[0]}`)
  if (!c.typeOf('in1')) return [`(${test} ? 1 : 0)`]
  const a = c.arg('in1')
  const b = c.arg('in2')
  return Array.from({ length: c.size }, (_, i) => `(${test} ? ${at(a, i)} : ${at(b, i)})`)
}
