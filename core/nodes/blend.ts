import { above, absolute, add, divide, fade, multiply, select, subtract } from '../expression/arithmetic'
import type { Expression } from '../expression/expression'
import { perComponent, type Emitter, type NodeEntry } from './emit'

/** Fades from the background to a blend of it with the foreground. */
const faded = (blend: (f: Expression, b: Expression) => Expression): Emitter =>
  perComponent(['fg', 'bg', 'mix'], (f, b, mix) => fade(b, blend(f, b), mix))
/** 0 where what would be divided by is next to nothing, as the standard has it. */
const divided = (
  by: (f: Expression) => Expression,
  blend: (by: Expression, b: Expression) => Expression,
): Emitter =>
  perComponent(['fg', 'bg', 'mix'], (f, b, mix) =>
    select(above(1e-8, absolute(by(f))), 0, fade(b, blend(by(f), b), mix)),
  )
const without = (x: Expression): Expression => subtract(1, x)
const screened = (f: Expression, b: Expression): Expression => subtract(1, multiply(without(f), without(b)))

/**
 * Blends and masks (MaterialX specification, "Compositing nodes": blend nodes on each channel, masking nodes).
 * Nothing is clamped.
 */
export const entries: Record<string, NodeEntry> = {
  plus: {
    about: 'Adds the foreground to the background, as far as mix says.',
    emit: faded((f, b) => add(b, f)),
  },
  minus: { about: 'Takes the foreground from the background.', emit: faded((f, b) => subtract(b, f)) },
  difference: { about: 'Distance of both.', emit: faded((f, b) => absolute(subtract(b, f))) },
  screen: {
    about: 'Brightens: what both keep dark is multiplied.',
    emit: faded(screened),
  },
  overlay: {
    about: 'Multiplies where the background is dark, screens where it is bright.',
    emit: faded((f, b) =>
      select(
        above(0.5, b),
        multiply(multiply(2, f), b),
        subtract(1, multiply(multiply(2, without(f)), without(b))),
      ),
    ),
  },
  burn: {
    about: 'Darkens the background by the foreground.',
    emit: divided(
      f => f,
      (f, b) => subtract(1, divide(without(b), f)),
    ),
  },
  dodge: {
    about: 'Brightens the background by the foreground.',
    emit: divided(without, (f, b) => divide(b, f)),
  },
  inside: {
    about: 'Keeps what lies in the mask.',
    emit: perComponent(['in', 'mask'], multiply),
  },
  outside: {
    about: 'Keeps what lies outside of the mask.',
    emit: perComponent(['in', 'mask'], (x, mask) => multiply(x, without(mask))),
  },
}
