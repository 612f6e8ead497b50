/**
 * Arithmetic of expressions: what each operation computes, and how a back end writes it. How it changes with its
 * operands is said in `change.ts`.
 */
export interface ArithmeticOperation {
  gives: 'number' | 'truth'
  /** Value of known operands; what is a truth comes and goes as 0 or 1. */
  run(a: number, b: number, c: number): number | boolean
  /** The same in JavaScript; what stands within is closed in itself. */
  script(a: string, b: string, c: string): string
}

const infix = (
  sign: string,
  gives: ArithmeticOperation['gives'],
  run: ArithmeticOperation['run'],
): ArithmeticOperation => ({ gives, run, script: (a, b) => `(${a} ${sign} ${b})` })

const named = (name: string, run: ArithmeticOperation['run'], count = 1): ArithmeticOperation => ({
  gives: 'number',
  run,
  script: (...all) => `Math.${name}(${all.slice(0, count).join(', ')})`,
})

export const OPERATIONS = {
  add: infix('+', 'number', (a, b) => a + b),
  subtract: infix('-', 'number', (a, b) => a - b),
  multiply: infix('*', 'number', (a, b) => a * b),
  divide: infix('/', 'number', (a, b) => a / b),
  remainder: infix('%', 'number', (a, b) => a % b),
  negate: { gives: 'number', run: a => -a, script: a => `(-${a})` },
  min: named('min', Math.min, 2),
  max: named('max', Math.max, 2),
  power: named('pow', Math.pow, 2),
  abs: named('abs', Math.abs),
  sign: named('sign', Math.sign),
  floor: named('floor', Math.floor),
  ceil: named('ceil', Math.ceil),
  sqrt: named('sqrt', Math.sqrt),
  sin: named('sin', Math.sin),
  cos: named('cos', Math.cos),
  tan: named('tan', Math.tan),
  asin: named('asin', Math.asin),
  acos: named('acos', Math.acos),
  atan2: named('atan2', Math.atan2, 2),
  log: named('log', Math.log),
  exp: named('exp', Math.exp),
  above: infix('>', 'truth', (a, b) => a > b),
  atLeast: infix('>=', 'truth', (a, b) => a >= b),
  equal: infix('===', 'truth', (a, b) => a === b),
  differ: infix('!==', 'truth', (a, b) => a !== b),
  and: infix('&&', 'truth', (a, b) => a !== 0 && b !== 0),
  or: infix('||', 'truth', (a, b) => a !== 0 || b !== 0),
  select: { gives: 'number', run: (a, b, c) => (a ? b : c), script: (a, b, c) => `(${a} ? ${b} : ${c})` },
} satisfies Record<string, ArithmeticOperation>

export type Arithmetic = keyof typeof OPERATIONS
