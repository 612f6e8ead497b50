import { perComponent, type Emitter } from './emit'

/** Fades from the background to a blend of it with the foreground. */
const faded = (blend: (f: string, b: string) => string): Emitter =>
  perComponent(['fg', 'bg', 'mix'], (f, b, mix) => `(${b} + (${blend(f, b)} - ${b}) * ${mix})`)
const EPSILON = '1e-8'

/**
 * Blends and masks (MaterialX specification, "Compositing nodes": blend nodes on each channel, masking nodes).
 * Nothing is clamped.
 */
export const emitters: Record<string, Emitter> = {
  plus: faded((f, b) => `(${b} + ${f})`),
  minus: faded((f, b) => `(${b} - ${f})`),
  difference: faded((f, b) => `Math.abs(${b} - ${f})`),
  screen: faded((f, b) => `(1 - (1 - ${f}) * (1 - ${b}))`),
  overlay: faded((f, b) => `(${b} < 0.5 ? 2 * ${f} * ${b} : 1 - 2 * (1 - ${f}) * (1 - ${b}))`),
  // where the division has no value the standard gives 0
  burn: perComponent(
    ['fg', 'bg', 'mix'],
    (f, b, mix) => `(Math.abs(${f}) < ${EPSILON} ? 0 : ${b} + (1 - (1 - ${b}) / ${f} - ${b}) * ${mix})`,
  ),
  dodge: perComponent(
    ['fg', 'bg', 'mix'],
    (f, b, mix) => `(Math.abs(1 - ${f}) < ${EPSILON} ? 0 : ${b} + (${b} / (1 - ${f}) - ${b}) * ${mix})`,
  ),
  inside: perComponent(['in', 'mask'], (x, mask) => `(${x} * ${mask})`),
  outside: perComponent(['in', 'mask'], (x, mask) => `(${x} * (1 - ${mask}))`),
}
