import { EmitFault, at, type Emitter } from './emit'

const AMPLITUDE = (c: Parameters<Emitter>[0], base: string[]) => {
  const a = c.arg('amplitude'), p = c.arg('pivot')
  return base.map((x, i) => `(${at(a, i)} * ${x} + ${at(p, i)})`)
}
/** Calls a vector function and takes its components out of T. */
const vector = (c: Parameters<Emitter>[0], call: string): string[] => {
  if (c.size > 3) throw new EmitFault('four-component noise is not computed; combine a color3 with a float')
  c.line(call + ';')
  return Array.from({ length: c.size }, (_, k) => c.local(`T[${k}]`))
}
const worley = (c: Parameters<Emitter>[0], call: string): string[] => {
  c.line(call + ';')
  if (c.fixed('style') === 1) {
    if (c.size > 1) throw new EmitFault('the solid style gives a float')
    return [c.local('T[3]')]
  }
  return Array.from({ length: c.size }, (_, k) => c.local(`Math.sqrt(T[${k}])`))
}

/** Procedural patterns and ramps (MaterialX specification, "Procedural nodes"). */
export const emitters: Record<string, Emitter> = {
  noise2d: (c) => {
    const p = c.arg('texcoord').join(', ')
    return AMPLITUDE(c, c.size === 1 ? [c.local(`noise2(${p})`)] : vector(c, `noise2v(${p})`))
  },
  noise3d: (c) => {
    const p = c.arg('position').join(', ')
    return AMPLITUDE(c, c.size === 1 ? [c.local(`noise3(${p})`)] : vector(c, `noise3v(${p})`))
  },
  fractal2d: (c) => {
    if (c.size > 1) throw new EmitFault('two-dimensional fractal noise is computed as a float')
    const args = [...c.arg('texcoord'), c.arg('octaves')[0], c.arg('lacunarity')[0], c.arg('diminish')[0]].join(', ')
    return [`(${c.arg('amplitude')[0]} * ${c.local(`fractal2(${args})`)})`]
  },
  fractal3d: (c) => {
    const args = [...c.arg('position'), c.arg('octaves')[0], c.arg('lacunarity')[0], c.arg('diminish')[0]].join(', '), a = c.arg('amplitude')
    const base = c.size === 1 ? [c.local(`fractal3(${args})`)] : vector(c, `fractal3v(${args})`)
    return base.map((x, i) => `(${at(a, i)} * ${x})`)
  },
  cellnoise2d: c => [c.local(`cell2(${c.arg('texcoord').join(', ')})`)],
  cellnoise3d: c => [c.local(`cell3(${c.arg('position').join(', ')})`)],
  worleynoise2d: c => worley(c, `worley2(${c.arg('texcoord').join(', ')}, ${c.arg('jitter')[0]})`),
  worleynoise3d: c => worley(c, `worley3(${c.arg('position').join(', ')}, ${c.arg('jitter')[0]})`),
  ramplr: (c) => {
    const l = c.arg('valuel'), r = c.arg('valuer'), t = c.local(`Math.min(1, Math.max(0, ${c.arg('texcoord')[0]}))`)
    return l.map((x, i) => `(${x} + (${r[i]} - ${x}) * ${t})`)
  },
  ramptb: (c) => {
    const top = c.arg('valuet'), bottom = c.arg('valueb'), t = c.local(`Math.min(1, Math.max(0, ${c.arg('texcoord')[1]}))`)
    return bottom.map((x, i) => `(${x} + (${top[i]} - ${x}) * ${t})`)
  },
}
