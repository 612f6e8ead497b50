import { perComponent, type Emitter } from './emit'

/** Adjustments and mixing of numbers (MaterialX specification, "Adjustment nodes", "Compositing nodes"). Formulae to the letter: remap and contrast do not clamp. */
export const emitters: Record<string, Emitter> = {
  remap: perComponent(['in', 'inlow', 'inhigh', 'outlow', 'outhigh'], (x, a, b, c, d) => `(${c} + (${x} - ${a}) * (${d} - ${c}) / (${b} - ${a}))`),
  clamp: perComponent(['in', 'low', 'high'], (x, low, high) => `Math.min(Math.max(${x}, ${low}), ${high})`),
  smoothstep: perComponent(['in', 'low', 'high'], (x, low, high) => `smoothstep(${x}, ${low}, ${high})`),
  contrast: perComponent(['in', 'amount', 'pivot'], (x, amount, pivot) => `((${x} - ${pivot}) * ${amount} + ${pivot})`),
  invert: perComponent(['in', 'amount'], (x, amount) => `(${amount} - ${x})`),
  mix: perComponent(['bg', 'fg', 'mix'], (bg, fg, mix) => `(${bg} + (${fg} - ${bg}) * ${mix})`),
}

/** Hermite step: 0 up to low, 1 from high. */
export function smoothstep(x: number, low: number, high: number): number {
  if (x <= low) return 0
  if (x >= high) return 1
  const t = (x - low) / (high - low)
  return t * t * (3 - 2 * t)
}
