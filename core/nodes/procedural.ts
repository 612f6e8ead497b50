import { at, results, type Emitter, type NodeEntry } from './emit'

const AMPLITUDE = (c: Parameters<Emitter>[0], base: string[]) => {
  const a = c.arg('amplitude')
  const p = c.arg('pivot')
  return base.map((x, i) => `(${at(a, i)} * ${x} + ${at(p, i)})`)
}
/** Calls a vector function and takes three components out of `memory.result`. */
const three = (c: Parameters<Emitter>[0], call: string): string[] => {
  c.line(call + ';')
  return results(c, 3)
}
/** Where a further component of a noise is read, so that it is like none of the others (the standard's offsets). */
const NOISE_APART = [19, 73, 29]
const FRACTAL_APART = [19, 193, 17]
const apart = (p: string[], by: number[]) => p.map((x, k) => `${x} + ${by[k]}`)

/** Gradient noise of as many components as are asked for. */
const noise = (c: Parameters<Emitter>[0], dimension: 2 | 3, p: string[]): string[] => {
  const single = (q: string[]) => c.local(`noise${dimension}(${q.join(', ')})`)
  if (c.size === 1) return [single(p)]
  const base = three(c, `noise${dimension}v(${p.join(', ')})`)
  return c.size === 4 ? [...base, single(apart(p, NOISE_APART))] : base.slice(0, c.size)
}

/** Octaves of it: two components are two noises, three one of three, four one of three and one more. */
const fractal = (c: Parameters<Emitter>[0], dimension: 2 | 3, p: string[]): string[] => {
  const args = (q: string[]) =>
    [...q, c.arg('octaves')[0], c.arg('lacunarity')[0], c.arg('diminish')[0]].join(', ')
  const single = (q: string[]) => c.local(`fractal${dimension}(${args(q)})`)
  const base = c.size > 2 ? three(c, `fractal${dimension}v(${args(p)})`) : [single(p)]
  const all = c.size === 2 || c.size === 4 ? [...base, single(apart(p, FRACTAL_APART))] : base
  const a = c.arg('amplitude')
  return all.map((x, i) => `(${at(a, i)} * ${x})`)
}

const worley = (c: Parameters<Emitter>[0], dimension: 2 | 3, p: string[]): string[] => {
  const args = `(${p.join(', ')}, ${c.arg('jitter')[0]});`
  if (c.fixed('style') === 1) {
    c.line((c.size === 1 ? `worley${dimension}` : `solid${dimension}`) + args)
    return c.size === 1 ? [c.local('result[3]')] : results(c, c.size)
  }
  c.line(`worley${dimension}` + args)
  return Array.from({ length: c.size }, (_, k) => c.local(`Math.sqrt(result[${k}])`))
}

/** Procedural patterns and ramps (MaterialX specification, "Procedural nodes"). */
export const entries: Record<string, NodeEntry> = {
  noise2d: {
    about: 'Smooth noise over two coordinates.',
    emit: c => AMPLITUDE(c, noise(c, 2, c.arg('texcoord'))),
  },
  noise3d: {
    about: 'Smooth noise through space.',
    emit: c => AMPLITUDE(c, noise(c, 3, c.arg('position'))),
  },
  fractal2d: {
    about: 'Noises of ever smaller size, added, over two coordinates.',
    emit: c => fractal(c, 2, c.arg('texcoord')),
  },
  fractal3d: {
    about: 'Noises of ever smaller size, added, through space.',
    emit: c => fractal(c, 3, c.arg('position')),
  },
  cellnoise2d: {
    about: 'One random number for each square.',
    emit: c => [c.local(`cell2(${c.arg('texcoord').join(', ')})`)],
  },
  cellnoise3d: {
    about: 'One random number for each cube.',
    emit: c => [c.local(`cell3(${c.arg('position').join(', ')})`)],
  },
  worleynoise2d: {
    about: 'Distance to scattered points over two coordinates.',
    emit: c => worley(c, 2, c.arg('texcoord')),
  },
  worleynoise3d: {
    about: 'Distance to scattered points in space.',
    emit: c => worley(c, 3, c.arg('position')),
  },
  ramplr: {
    about: 'Fades from left to right.',
    emit: c => {
      const l = c.arg('valuel')
      const r = c.arg('valuer')
      const t = c.local(`Math.min(1, Math.max(0, ${c.arg('texcoord')[0]}))`)
      return l.map((x, i) => `(${x} + (${r[i]} - ${x}) * ${t})`)
    },
  },
  ramp4: {
    about: 'Fades between four corners; the top is v = 0.',
    emit: c => {
      const [tl, tr, bl, br] = ['valuetl', 'valuetr', 'valuebl', 'valuebr'].map(n => c.arg(n)) as [
        string[],
        string[],
        string[],
        string[],
      ]
      const uv = c.arg('texcoord')
      const [s, t] = uv.map(x => c.local(`Math.min(1, Math.max(0, ${x}))`))
      return tl.map(
        (x, i) =>
          `((${x} + (${tr[i]} - ${x}) * ${s}) * (1 - ${t}) + (${bl[i]} + (${br[i]} - ${bl[i]}) * ${s}) * ${t})`,
      )
    },
  },
  splitlr: {
    about: 'Changes at a vertical line.',
    emit: c =>
      c
        .arg('valuel')
        .map((x, i) => `(${c.arg('texcoord')[0]} < ${c.arg('center')[0]} ? ${x} : ${c.arg('valuer')[i]})`),
  },
  splittb: {
    about: 'Changes at a horizontal line; the top is v = 0.',
    emit: c =>
      c
        .arg('valuet')
        .map((x, i) => `(${c.arg('texcoord')[1]} < ${c.arg('center')[0]} ? ${x} : ${c.arg('valueb')[i]})`),
  },
  /** color2 in the field at the origin. */
  checkerboard: {
    about: 'Squares in turns.',
    emit: c => {
      const uv = c.arg('texcoord')
      const tiling = c.arg('uvtiling')
      const offset = c.arg('uvoffset')
      const b = c.arg('color2')
      const [u, v] = [0, 1].map(k => c.local(`Math.floor(${uv[k]} * ${tiling[k]} - ${offset[k]})`))
      const odd = c.local(`((${u} + ${v}) % 2) !== 0`)
      return c.arg('color1').map((x, i) => `(${odd} ? ${x} : ${b[i]})`)
    },
  },
  circle: {
    about: '1 within a circle, 0 outside.',
    emit: c => {
      const uv = c.arg('texcoord')
      const centre = c.arg('center')
      const [x, y] = [0, 1].map(k => c.local(`${uv[k]} - ${centre[k]}`))
      const r = c.arg('radius')[0]
      return [`(${x} * ${x} + ${y} * ${y} > ${r} * ${r} ? 0 : 1)`]
    },
  },
  /** A number between min and max for each input and seed, by cell noise. */
  randomfloat: {
    about: 'One random number for each value that comes in.',
    emit: c => {
      const low = c.arg('min')[0]
      const high = c.arg('max')[0]
      const x = c.arg('in')[0]!
      const cell = c.local(`cell2(${c.typeOf('in') === 'integer' ? x : `${x} * 4096`}, ${c.arg('seed')[0]})`)
      // clamped, so that ends the wrong way round give the high one where the low one is passed
      return [`Math.min(Math.max(${low} + (${high} - ${low}) * ${cell}, ${low}), ${high})`]
    },
  },
  ramptb: {
    about: 'Fades from top, which is v = 0, to bottom, v = 1.',
    emit: c => {
      const top = c.arg('valuet')
      const bottom = c.arg('valueb')
      const t = c.local(`Math.min(1, Math.max(0, ${c.arg('texcoord')[1]}))`)
      return top.map((x, i) => `(${x} + (${bottom[i]} - ${x}) * ${t})`)
    },
  },
}
