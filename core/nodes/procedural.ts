import {
  above,
  add,
  between,
  differ,
  dot,
  fade,
  floor,
  least,
  most,
  multiply,
  remainder,
  select,
  squareRoot,
  subtract,
} from '../expression/arithmetic'
import type { Expression } from '../expression/expression'
import { at, type EmitContext, type NodeEntry } from './emit'
import { call, several } from './functions'

type Dimension = 2 | 3

/** Where a further component of a noise is read, so that it is like none of the others (the standard's offsets). */
const NOISE_APART = [19, 73, 29]
const FRACTAL_APART = [19, 193, 17]
const apart = (p: Expression[], by: number[]) => p.map((x, k) => add(x, by[k]!))

/** Gradient noise of as many components as are asked for, about a pivot. */
function noise(c: EmitContext, dimension: Dimension, p: Expression[]): Expression[] {
  const single = (q: Expression[]) => call(`noise${dimension}`, q)
  const all = () => {
    if (c.size === 1) return [single(p)]
    const base = several(`noise${dimension}v`, p, 3)
    return c.size === 4 ? [...base, single(apart(p, NOISE_APART))] : base.slice(0, c.size)
  }
  const amplitude = c.arg('amplitude')
  const pivot = c.arg('pivot')
  return all().map((x, i) => add(multiply(at(amplitude, i), x), at(pivot, i)))
}

/** Octaves of it: two components are two noises, three one of three, four one of three and one more. */
function fractal(c: EmitContext, dimension: Dimension, p: Expression[]): Expression[] {
  const octaves = ['octaves', 'lacunarity', 'diminish'].map(name => c.arg(name)[0]!)
  const single = (q: Expression[]) => call(`fractal${dimension}`, [...q, ...octaves])
  const base = c.size > 2 ? several(`fractal${dimension}v`, [...p, ...octaves], 3) : [single(p)]
  const all = c.size === 2 || c.size === 4 ? [...base, single(apart(p, FRACTAL_APART))] : base
  const amplitude = c.arg('amplitude')
  return all.map((x, i) => multiply(at(amplitude, i), x))
}

/** Distances to the nearest points, or by style 1 the random numbers of the nearest one. */
function worley(c: EmitContext, dimension: Dimension, p: Expression[]): Expression[] {
  const asked = [...p, c.arg('jitter')[0]!]
  if (c.fixed('style') !== 1) return several(`worley${dimension}`, asked, c.size).map(squareRoot)
  return c.size === 1
    ? several(`worley${dimension}`, asked, 4).slice(3)
    : several(`solid${dimension}`, asked, c.size)
}

const inUnit = (x: Expression): Expression => least(1, most(0, x))

/** Procedural patterns and ramps (MaterialX specification, "Procedural nodes"). */
export const entries: Record<string, NodeEntry> = {
  noise2d: {
    about: 'Smooth noise over two coordinates.',
    emit: c => noise(c, 2, c.arg('texcoord')),
  },
  noise3d: {
    about: 'Smooth noise through space.',
    emit: c => noise(c, 3, c.arg('position')),
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
    emit: c => [call('cell2', c.arg('texcoord'))],
  },
  cellnoise3d: {
    about: 'One random number for each cube.',
    emit: c => [call('cell3', c.arg('position'))],
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
      const right = c.arg('valuer')
      const t = inUnit(c.arg('texcoord')[0]!)
      return c.arg('valuel').map((left, i) => fade(left, right[i]!, t))
    },
  },
  ramptb: {
    about: 'Fades from top, which is v = 0, to bottom, v = 1.',
    emit: c => {
      const bottom = c.arg('valueb')
      const t = inUnit(c.arg('texcoord')[1]!)
      return c.arg('valuet').map((top, i) => fade(top, bottom[i]!, t))
    },
  },
  ramp4: {
    about: 'Fades between four corners; the top is v = 0.',
    emit: c => {
      const [tl, tr, bl, br] = ['valuetl', 'valuetr', 'valuebl', 'valuebr'].map(n => c.arg(n)) as [
        Expression[],
        Expression[],
        Expression[],
        Expression[],
      ]
      const [s, t] = c.arg('texcoord').map(inUnit) as [Expression, Expression]
      return tl.map((x, i) =>
        add(multiply(fade(x, tr[i]!, s), subtract(1, t)), multiply(fade(bl[i]!, br[i]!, s), t)),
      )
    },
  },
  splitlr: {
    about: 'Changes at a vertical line.',
    emit: c => {
      const left = above(c.arg('center')[0]!, c.arg('texcoord')[0]!)
      const right = c.arg('valuer')
      return c.arg('valuel').map((x, i) => select(left, x, right[i]!))
    },
  },
  splittb: {
    about: 'Changes at a horizontal line; the top is v = 0.',
    emit: c => {
      const top = above(c.arg('center')[0]!, c.arg('texcoord')[1]!)
      const bottom = c.arg('valueb')
      return c.arg('valuet').map((x, i) => select(top, x, bottom[i]!))
    },
  },
  /** color2 in the field at the origin. */
  checkerboard: {
    about: 'Squares in turns.',
    emit: c => {
      const uv = c.arg('texcoord')
      const tiling = c.arg('uvtiling')
      const offset = c.arg('uvoffset')
      const other = c.arg('color2')
      const [u, v] = [0, 1].map(k => floor(subtract(multiply(uv[k]!, tiling[k]!), offset[k]!))) as [
        Expression,
        Expression,
      ]
      const odd = differ(remainder(add(u, v), 2), 0)
      return c.arg('color1').map((x, i) => select(odd, x, other[i]!))
    },
  },
  circle: {
    about: '1 within a circle, 0 outside.',
    emit: c => {
      const centre = c.arg('center')
      const d = c.arg('texcoord').map((x, k) => subtract(x, centre[k]!))
      const r = c.arg('radius')[0]!
      return [select(above(dot(d, d), multiply(r, r)), 0, 1)]
    },
  },
  /** A number between min and max for each input and seed, by cell noise. */
  randomfloat: {
    about: 'One random number for each value that comes in.',
    emit: c => {
      const low = c.arg('min')[0]!
      const high = c.arg('max')[0]!
      const x = c.arg('in')[0]!
      const seed = c.arg('seed')[0]!
      const cell = call('cell2', [c.typeOf('in') === 'integer' ? x : multiply(x, 4096), seed])
      // ends the wrong way round give the high one where the low one is passed
      return [between(fade(low, high, cell), low, high)]
    },
  },
}
