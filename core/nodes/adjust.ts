import { perComponent, results, type Emitter, type NodeEntry } from './emit'
import { memory } from './memory'

const { result } = memory

/**
 * Adjustments and mixing of numbers (MaterialX specification, "Adjustment nodes", "Compositing nodes"). Formulae
 * to the letter: remap and contrast do not clamp.
 */
export const entries: Record<string, NodeEntry> = {
  remap: {
    about: 'Moves numbers from one range to another, in a straight line and without clamping.',
    emit: perComponent(
      ['in', 'inlow', 'inhigh', 'outlow', 'outhigh'],
      (x, a, b, c, d) => `(${c} + (${x} - ${a}) * (${d} - ${c}) / (${b} - ${a}))`,
    ),
  },
  clamp: {
    about: 'Keeps numbers between low and high.',
    emit: perComponent(['in', 'low', 'high'], (x, low, high) => `Math.min(Math.max(${x}, ${low}), ${high})`),
  },
  smoothstep: {
    about: 'Rises softly from 0 at low to 1 at high.',
    emit: perComponent(['in', 'low', 'high'], (x, low, high) => `smoothstep(${x}, ${low}, ${high})`),
  },
  contrast: {
    about: 'Stretches the distance from a pivot.',
    emit: perComponent(
      ['in', 'amount', 'pivot'],
      (x, amount, pivot) => `((${x} - ${pivot}) * ${amount} + ${pivot})`,
    ),
  },
  invert: {
    about: 'What is missing to the amount.',
    emit: perComponent(['in', 'amount'], (x, amount) => `(${amount} - ${x})`),
  },
  /** remap with a power between its two steps (of the magnitude, sign kept), clamped on request. */
  range: {
    about: 'Levels: from one range to another through a power, clamped on request.',
    emit: perComponent(
      ['in', 'inlow', 'inhigh', 'gamma', 'outlow', 'outhigh', 'doclamp'],
      (x, a, b, gamma, c, d, clamped) => `range(${x}, ${a}, ${b}, ${gamma}, ${c}, ${d}, ${clamped})`,
    ),
  },
  luminance: {
    about: 'Weighed sum of the components, as grey.',
    emit: c => {
      const v = c.arg('in')
      const y = weighed(c, v)
      return Array.from({ length: c.size }, (_, i) => (i === 3 ? v[3]! : y))
    },
  },
  saturate: {
    about: 'Fades between grey and the colour, and beyond it.',
    emit: c => {
      const v = c.arg('in')
      const y = weighed(c, v)
      const amount = c.arg('amount')[0]!
      return v.map((x, i) => (i === 3 ? x : `(${y} + (${x} - ${y}) * ${amount})`))
    },
  },
  rgbtohsv: {
    about: 'Hue 0..1, saturation and value of a colour.',
    emit: c => {
      const v = c.arg('in')
      c.line(`rgbToHsv(${v.slice(0, 3).join(', ')});`)
      return withAlpha(c)
    },
  },
  hsvtorgb: {
    about: 'Colour of hue 0..1, saturation and value.',
    emit: c => {
      const v = c.arg('in')
      c.line(`hsvToRgb(${v.slice(0, 3).join(', ')});`)
      return withAlpha(c)
    },
  },
  /** Hue is added to; saturation and value are multiplied. */
  hsvadjust: {
    about: 'Adds to the hue, multiplies saturation and value.',
    emit: c => {
      const v = c.arg('in')
      const amount = c.arg('amount')
      c.line(`rgbToHsv(${v.slice(0, 3).join(', ')});`)
      c.line(`hsvToRgb(result[0] + ${amount[0]}, result[1] * ${amount[1]}, result[2] * ${amount[2]});`)
      return withAlpha(c)
    },
  },
  mix: {
    about: 'Fades from the background to the foreground; 0..1 is meant, and beyond it the straight line goes on.',
    emit: perComponent(['bg', 'fg', 'mix'], (bg, fg, mix) => `(${bg} + (${fg} - ${bg}) * ${mix})`),
  },
}

/** Three components out of `memory.result`; of four the last is 1, as the standard's library has it. */
const withAlpha = (c: Parameters<Emitter>[0]): string[] => [...results(c, 3), '1'].slice(0, c.size)

const weighed = (c: Parameters<Emitter>[0], v: string[]): string => {
  const w = c.arg('lumacoeffs')
  return c.local(`${v[0]} * ${w[0]} + ${v[1]} * ${w[1]} + ${v[2]} * ${w[2]}`)
}

/** Levels: from inlow..inhigh through a power 1/gamma to outlow..outhigh. */
export function range(
  x: number,
  inLow: number,
  inHigh: number,
  gamma: number,
  outLow: number,
  outHigh: number,
  clamped: number,
): number {
  const t = (x - inLow) / (inHigh - inLow)
  const p = gamma === 1 ? t : Math.sign(t) * Math.pow(Math.abs(t), 1 / gamma)
  const y = outLow + p * (outHigh - outLow)
  return clamped === 0 ? y : Math.min(Math.max(outLow, outHigh), Math.max(Math.min(outLow, outHigh), y))
}

/**
 * Hue 0..1, saturation and value of a colour, into `memory.result` (Smith 1978); without light it has neither hue
 * nor saturation.
 */
export function rgbToHsv(r: number, g: number, b: number): void {
  const v = Math.max(r, g, b)
  const d = v - Math.min(r, g, b)
  const h = d <= 0 ? 0 : v === r ? (g - b) / d / 6 : v === g ? (2 + (b - r) / d) / 6 : (4 + (r - g) / d) / 6
  result[0] = v <= 0 ? 0 : h < 0 ? h + 1 : h
  result[1] = v > 0 ? d / v : 0
  result[2] = v
}

/** Below it the standard's library takes a colour for grey. */
const LEAST_SATURATION = 1e-4

/** Colour of hue (any number, of which the fraction counts), saturation and value, into `memory.result`. */
export function hsvToRgb(h: number, s: number, v: number): void {
  if (s < LEAST_SATURATION) s = 0
  const k = (h - Math.floor(h)) * 6
  for (let i = 0; i < 3; i++) {
    // distance of the hue from the channel's own, in sixths of the circle
    const d = Math.abs(i === 0 ? (k > 3 ? 6 - k : k) : k - 2 * i)
    result[i] = v * (1 - s * Math.min(1, Math.max(0, d - 1)))
  }
}

/** Hermite step: 0 up to low, 1 from high on, which goes before where they are the wrong way round. */
export function smoothstep(x: number, low: number, high: number): number {
  if (x >= high) return 1
  if (x <= low) return 0
  const t = (x - low) / (high - low)
  return t * t * (3 - 2 * t)
}
