import { perComponent, type Emitter, type NodeEntry } from './emit'

/** Fades from the background to a blend of it with the foreground. */
const faded = (blend: (f: string, b: string) => string): Emitter =>
  perComponent(['fg', 'bg', 'mix'], (f, b, mix) => `(${b} + (${blend(f, b)} - ${b}) * ${mix})`)
const EPSILON = '1e-8'

/**
 * Blends and masks (MaterialX specification, "Compositing nodes": blend nodes on each channel, masking nodes).
 * Nothing is clamped.
 */
export const entries: Record<string, NodeEntry> = {
  plus: {
    about: 'Adds the foreground to the background, as far as mix says.',
    emit: faded((f, b) => `(${b} + ${f})`),
  },
  minus: { about: 'Takes the foreground from the background.', emit: faded((f, b) => `(${b} - ${f})`) },
  difference: { about: 'Distance of both.', emit: faded((f, b) => `Math.abs(${b} - ${f})`) },
  screen: {
    about: 'Brightens: what both keep dark is multiplied.',
    emit: faded((f, b) => `(1 - (1 - ${f}) * (1 - ${b}))`),
  },
  overlay: {
    about: 'Multiplies where the background is dark, screens where it is bright.',
    emit: faded((f, b) => `(${b} < 0.5 ? 2 * ${f} * ${b} : 1 - 2 * (1 - ${f}) * (1 - ${b}))`),
  },
  // where the division has no value the standard gives 0
  burn: {
    about: 'Darkens the background by the foreground.',
    emit: perComponent(
      ['fg', 'bg', 'mix'],
      (f, b, mix) => `(Math.abs(${f}) < ${EPSILON} ? 0 : ${b} + (1 - (1 - ${b}) / ${f} - ${b}) * ${mix})`,
    ),
  },
  dodge: {
    about: 'Brightens the background by the foreground.',
    emit: perComponent(
      ['fg', 'bg', 'mix'],
      (f, b, mix) => `(Math.abs(1 - ${f}) < ${EPSILON} ? 0 : ${b} + (${b} / (1 - ${f}) - ${b}) * ${mix})`,
    ),
  },
  inside: {
    about: 'Keeps what lies in the mask.',
    emit: perComponent(['in', 'mask'], (x, mask) => `(${x} * ${mask})`),
  },
  outside: {
    about: 'Keeps what lies outside of the mask.',
    emit: perComponent(['in', 'mask'], (x, mask) => `(${x} * (1 - ${mask}))`),
  },
}
