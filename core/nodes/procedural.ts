import { EmitFault, at, type Emitter, type NodeEntry } from './emit'

const AMPLITUDE = (c: Parameters<Emitter>[0], base: string[]) => {
  const a = c.arg('amplitude')
  const p = c.arg('pivot')
  return base.map((x, i) => `(${at(a, i)} * ${x} + ${at(p, i)})`)
}
/** Calls a vector function and takes its components out of `memory.result`. */
const vector = (c: Parameters<Emitter>[0], call: string): string[] => {
  if (c.size > 3) throw new EmitFault('four-component noise is not computed; combine a color3 with a float')
  c.line(call + ';')
  return Array.from({ length: c.size }, (_, k) => c.local(`result[${k}]`))
}
const worley = (c: Parameters<Emitter>[0], call: string): string[] => {
  c.line(call + ';')
  if (c.fixed('style') === 1) {
    if (c.size > 1) throw new EmitFault('the solid style gives a float')
    return [c.local('result[3]')]
  }
  return Array.from({ length: c.size }, (_, k) => c.local(`Math.sqrt(result[${k}])`))
}

/** Procedural patterns and ramps (MaterialX specification, "Procedural nodes"). */
export const entries: Record<string, NodeEntry> = {
  noise2d: {
    about: 'Smooth noise over two coordinates.',
    emit: c => {
      const p = c.arg('texcoord').join(', ')
      return AMPLITUDE(c, c.size === 1 ? [c.local(`noise2(${p})`)] : vector(c, `noise2v(${p})`))
    },
  },
  noise3d: {
    about: 'Smooth noise through space.',
    emit: c => {
      const p = c.arg('position').join(', ')
      return AMPLITUDE(c, c.size === 1 ? [c.local(`noise3(${p})`)] : vector(c, `noise3v(${p})`))
    },
  },
  fractal2d: {
    about: 'Noises of ever smaller size, added, over two coordinates.',
    emit: c => {
      if (c.size > 1) throw new EmitFault('two-dimensional fractal noise is computed as a float')
      const args = [...c.arg('texcoord'), c.arg('octaves')[0], c.arg('lacunarity')[0], c.arg('diminish')[0]].join(
        ', ',
      )
      return [`(${c.arg('amplitude')[0]} * ${c.local(`fractal2(${args})`)})`]
    },
  },
  fractal3d: {
    about: 'Noises of ever smaller size, added, through space.',
    emit: c => {
      const args = [...c.arg('position'), c.arg('octaves')[0], c.arg('lacunarity')[0], c.arg('diminish')[0]].join(
        ', ',
      )
      const a = c.arg('amplitude')
      const base = c.size === 1 ? [c.local(`fractal3(${args})`)] : vector(c, `fractal3v(${args})`)
      return base.map((x, i) => `(${at(a, i)} * ${x})`)
    },
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
    emit: c => worley(c, `worley2(${c.arg('texcoord').join(', ')}, ${c.arg('jitter')[0]})`),
  },
  worleynoise3d: {
    about: 'Distance to scattered points in space.',
    emit: c => worley(c, `worley3(${c.arg('position').join(', ')}, ${c.arg('jitter')[0]})`),
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
    about: 'Fades between four corners.',
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
          `((${bl[i]} + (${br[i]} - ${bl[i]}) * ${s}) * (1 - ${t}) + (${x} + (${tr[i]} - ${x}) * ${s}) * ${t})`,
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
    about: 'Changes at a horizontal line.',
    emit: c =>
      c
        .arg('valueb')
        .map((x, i) => `(${c.arg('texcoord')[1]} < ${c.arg('center')[0]} ? ${x} : ${c.arg('valuet')[i]})`),
  },
  /** color1 in the field at the origin. */
  checkerboard: {
    about: 'Squares in turns.',
    emit: c => {
      const uv = c.arg('texcoord')
      const tiling = c.arg('uvtiling')
      const offset = c.arg('uvoffset')
      const b = c.arg('color2')
      const [u, v] = [0, 1].map(k => c.local(`Math.floor(${uv[k]} * ${tiling[k]} - ${offset[k]})`))
      const odd = c.local(`((${u} + ${v}) % 2) !== 0`)
      return c.arg('color1').map((x, i) => `(${odd} ? ${b[i]} : ${x})`)
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
  /**
   * A number between min and max for each input and seed, by cell noise (the standard's nodegraph, from memory).
   */
  randomfloat: {
    about: 'One random number for each value that comes in.',
    emit: c => {
      const low = c.arg('min')[0]
      const high = c.arg('max')[0]
      const x = c.arg('in')[0]!
      const cell = c.local(`cell2(${c.typeOf('in') === 'integer' ? x : `${x} * 4096`}, ${c.arg('seed')[0]})`)
      return [`(${low} + (${high} - ${low}) * ${cell})`]
    },
  },
  ramptb: {
    about: 'Fades from top to bottom.',
    emit: c => {
      const top = c.arg('valuet')
      const bottom = c.arg('valueb')
      const t = c.local(`Math.min(1, Math.max(0, ${c.arg('texcoord')[1]}))`)
      return bottom.map((x, i) => `(${x} + (${top[i]} - ${x}) * ${t})`)
    },
  },
}
