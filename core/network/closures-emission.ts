/** Statements for the standard's EDF nodes. */
import { most, multiply, subtract } from '../expression/arithmetic'
import type { Block } from '../expression/block'
import type { Expression } from '../expression/expression'
import { run, type ClosureCompiler } from './closure-compiler'
import { childOf, unit } from './closures-scattering'
import type { Op } from './resolve'

/**
 * Writes light sent out from under a layer.
 * @param weight share of the surface
 * @param tint what colours it; empty: nothing
 */
export function emitEmission(
  op: Op,
  block: Block,
  layer: Expression,
  weight: Expression,
  c: ClosureCompiler,
  tint: readonly Expression[] = [],
): void {
  if (!c.afford(op)) return
  const arg = (name: string) => c.arg(op, name)
  const coloured = (rgb: Expression[]) =>
    rgb.map((x, k) => (tint[k] ? multiply(multiply(weight, x), tint[k]) : multiply(weight, x)))
  const on = (name: string, w = weight, t = tint) => {
    const child = childOf(op, name)
    if (child) emitEmission(child, block, layer, w, c, t)
  }
  if (op.category === 'uniform_edf') run(block, 'pushEmission', [layer, ...coloured(arg('color'))])
  else if (op.category === 'conical_edf')
    run(block, 'pushConicalEmission', [
      layer,
      ...coloured(arg('color')),
      ...arg('normal'),
      arg('inner_angle')[0]!,
      arg('outer_angle')[0]!,
    ])
  else if (op.category === 'mix') {
    const m = unit(arg('mix')[0]!)
    on('fg', multiply(weight, m))
    on('bg', multiply(weight, subtract(1, m)))
  } else if (op.category === 'add') {
    on('in1')
    on('in2')
  } else if (op.category === 'multiply') {
    const by = arg('in2').map(x => most(0, x))
    if (by.length === 1) on('in1', multiply(weight, by[0]!))
    else
      on(
        'in1',
        weight,
        by.map((f, k) => (tint[k] ? multiply(tint[k], f) : f)),
      )
  } else c.fault(op, `the emission ${op.category} is not computed`)
}
