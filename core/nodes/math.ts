import { perComponent, type Emitter } from './emit'

/** Arithmetic (MaterialX specification, "Math nodes"). */
export const emitters: Record<string, Emitter> = {
  add: perComponent(['in1', 'in2'], (a, b) => `(${a} + ${b})`),
  subtract: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b})`),
  multiply: perComponent(['in1', 'in2'], (a, b) => `(${a} * ${b})`),
  divide: perComponent(['in1', 'in2'], (a, b) => `(${a} / ${b})`),
  modulo: perComponent(['in1', 'in2'], (a, b) => `(${a} - ${b} * Math.floor(${a} / ${b}))`),
  power: perComponent(['in1', 'in2'], (a, b) => `Math.pow(${a}, ${b})`),
}
