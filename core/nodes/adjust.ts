import { add, between, divide, dot, fade, multiply, subtract } from '../expression/arithmetic'
import { number, type Expression } from '../expression/expression'
import { perComponent, type EmitContext, type NodeEntry } from './emit'
import { call, several } from './functions'

/**
 * Adjustments and mixing of numbers (MaterialX specification, "Adjustment nodes", "Compositing nodes"). Formulae
 * to the letter: remap and contrast do not clamp.
 */
export const entries: Record<string, NodeEntry> = {
  remap: {
    about: 'Moves numbers from one range to another, in a straight line and without clamping.',
    emit: perComponent(['in', 'inlow', 'inhigh', 'outlow', 'outhigh'], (x, a, b, c, d) =>
      add(c, divide(multiply(subtract(x, a), subtract(d, c)), subtract(b, a))),
    ),
  },
  clamp: {
    about: 'Keeps numbers between low and high.',
    emit: perComponent(['in', 'low', 'high'], between),
  },
  smoothstep: {
    about: 'Rises softly from 0 at low to 1 at high.',
    emit: perComponent(['in', 'low', 'high'], (...all) => call('smoothstep', all)),
  },
  contrast: {
    about: 'Stretches the distance from a pivot.',
    emit: perComponent(['in', 'amount', 'pivot'], (x, amount, pivot) =>
      add(multiply(subtract(x, pivot), amount), pivot),
    ),
  },
  invert: {
    about: 'What is missing to the amount.',
    emit: perComponent(['in', 'amount'], (x, amount) => subtract(amount, x)),
  },
  /** remap with a power between its two steps (of the magnitude, sign kept), clamped on request. */
  range: {
    about: 'Levels: from one range to another through a power, clamped on request.',
    emit: perComponent(['in', 'inlow', 'inhigh', 'gamma', 'outlow', 'outhigh', 'doclamp'], (...all) =>
      call('range', all),
    ),
  },
  luminance: {
    about: 'Weighed sum of the components, as grey.',
    emit: c => {
      const v = c.arg('in')
      const y = weighed(c, v)
      return v.map((x, i) => (i === 3 ? x : y))
    },
  },
  saturate: {
    about: 'Fades between grey and the colour, and beyond it.',
    emit: c => {
      const v = c.arg('in')
      const y = weighed(c, v)
      const amount = c.arg('amount')[0]!
      return v.map((x, i) => (i === 3 ? x : fade(y, x, amount)))
    },
  },
  rgbtohsv: {
    about: 'Hue 0..1, saturation and value of a colour.',
    emit: c => withAlpha(c, several('rgbToHsv', c.arg('in').slice(0, 3), 3)),
  },
  hsvtorgb: {
    about: 'Colour of hue 0..1, saturation and value.',
    emit: c => withAlpha(c, several('hsvToRgb', c.arg('in').slice(0, 3), 3)),
  },
  /** Hue is added to; saturation and value are multiplied. */
  hsvadjust: {
    about: 'Adds to the hue, multiplies saturation and value.',
    emit: c => {
      const amount = c.arg('amount')
      const hsv = several('rgbToHsv', c.arg('in').slice(0, 3), 3)
      const adjusted = hsv.map((x, k) => (k === 0 ? add(x, amount[0]!) : multiply(x, amount[k]!)))
      return withAlpha(c, several('hsvToRgb', adjusted, 3))
    },
  },
  mix: {
    about: 'Fades from the background to the foreground; 0..1 is meant, and beyond it the straight line goes on.',
    emit: perComponent(['bg', 'fg', 'mix'], fade),
  },
}

/** Of four components the last is 1, as the standard's library has it. */
const withAlpha = (c: EmitContext, three: Expression[]): Expression[] => [...three, number(1)].slice(0, c.size)

const weighed = (c: EmitContext, v: Expression[]): Expression => dot(v.slice(0, 3), c.arg('lumacoeffs'))
