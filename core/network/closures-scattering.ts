/** Statements for the standard's BSDF and VDF nodes. */
import {
  above,
  divide,
  most,
  multiply,
  select,
  squareRoot,
  add,
  least,
  subtract,
  sum,
} from '../expression/arithmetic'
import type { Block } from '../expression/block'
import { call, number, type Expression } from '../expression/expression'
import { run, runFor, type ClosureCompiler } from './closure-compiler'
import type { Op } from './resolve'

/** What a wire brings to an input. */
export const childOf = (op: Op, name: string): Op | undefined => {
  const s = op.inputs.get(name)
  return s?.kind === 'op' ? s.op : undefined
}

/** Kept in 0..1. */
export const unit = (x: Expression): Expression => call('unit', [x])

/** Something, coloured where there is a tint. */
const tinted = (x: Expression, tint: readonly Expression[], k: number): Expression =>
  tint[k] ? multiply(x, tint[k]) : x

/**
 * Where a BSDF goes: the layer its lobes lie under, the parent of the layer that its base lies under, its share
 * and what colours it (empty: nothing).
 */
export interface Place {
  above: Expression
  chain: Expression
  weight: Expression
  tint?: readonly Expression[]
  /** Whether something lies below. */ covers?: boolean
}

/**
 * Writes a BSDF.
 * @returns the layer that a base of it lies under
 */
export function emitScattering(op: Op, block: Block, at: Place, c: ClosureCompiler): Expression {
  const { above: layer, chain, weight, tint = [], covers } = at
  if (!c.afford(op)) return chain
  const arg = (name: string) => c.arg(op, name)
  const on = (child: Op | undefined, place: Place) =>
    child ? emitScattering(child, block, place, c) : place.chain
  if (op.category === 'layer') {
    const base = childOf(op, 'base')
    const under = on(childOf(op, 'top'), { ...at, covers: true })
    if (base?.type === 'VDF') {
      emitVolume(base, block, c)
      return under
    }
    return on(base, { above: under, chain: under, weight, tint, covers })
  }
  if (op.category === 'mix') {
    const m = unit(arg('mix')[0]!)
    const under = on(childOf(op, 'fg'), { above: layer, chain, weight: multiply(weight, m), tint, covers })
    const rest = multiply(weight, subtract(1, m))
    return on(childOf(op, 'bg'), { above: layer, chain: under, weight: rest, tint, covers })
  }
  if (op.category === 'add')
    return on(childOf(op, 'in2'), { above: layer, chain: on(childOf(op, 'in1'), at), weight, tint, covers })
  if (op.category === 'multiply') {
    const by = arg('in2').map(unit)
    return on(
      childOf(op, 'in1'),
      by.length === 1
        ? { above: layer, chain, weight: multiply(weight, by[0]!), tint, covers }
        : { above: layer, chain, weight, covers, tint: by.map((f, k) => (tint[k] ? multiply(tint[k], f) : f)) },
    )
  }
  if (c.want === 'passage' && OPAQUE.has(op.category)) return layer
  return emitLobe(op, block, at, c)
}

/** Scattering that nothing passes straight, and that lets all light to what lies below. */
const OPAQUE: ReadonlySet<string> = new Set([
  'oren_nayar_diffuse_bsdf',
  'burley_diffuse_bsdf',
  'conductor_bsdf',
  'subsurface_bsdf',
  'translucent_bsdf',
])

function emitLobe(
  op: Op,
  block: Block,
  { above: layer, chain, weight, tint = [], covers }: Place,
  c: ClosureCompiler,
): Expression {
  const arg = (name: string) => c.arg(op, name)
  const w = multiply(weight, unit(arg('weight')[0]!))
  const n = arg('normal')
  const share = select(above(weight, 0), divide(w, weight), 0)
  /** A colour input in 0..1, with what colours the whole. */
  const colour = (name: string) => arg(name).map((x, k) => tinted(unit(x), tint, k))
  /**
   * A layer of what the lobe of index eta lets through, for its base. Coverage is relative to the share of the
   * surface this lies in.
   */
  const letThrough = (
    eta: Expression,
    alpha: Expression,
    open: readonly [string, Expression[]] = ['pushLayer', [chain]],
  ) => {
    run(block, 'setCover', [alpha, eta, share])
    return runFor(block, ...open, c)
  }
  /** Says weights, roughness along and across the tangent, index, normal and film of the lobe that follows. */
  const facets = (weights: readonly Expression[], eta: Expression) => {
    const r = arg('roughness') as [Expression, Expression?]
    const alpha = r[1] ? squareRoot(most(0, multiply(r[0], r[1]))) : multiply(r[0], r[0])
    run(block, 'setSpec', [...weights, alpha, eta, ...n])
    if (r[1] && c.mentions(op, 'roughness')) run(block, 'setGrain', [r[0], r[1], ...arg('tangent')])
    emitFilm(op, block, c)
    return alpha
  }
  const plain = [0, 1, 2].map(k => tinted(w, tint, k))
  switch (op.category) {
    case 'oren_nayar_diffuse_bsdf':
    case 'burley_diffuse_bsdf': {
      if (op.category === 'burley_diffuse_bsdf' && c.mentions(op, 'roughness'))
        c.fault(
          op,
          'rough diffuse reflection is computed in its energy-preserving form for this node too',
          'warning',
        )
      const rough = c.mentions(op, 'roughness') ? unit(arg('roughness')[0]!) : number(0)
      run(block, 'pushRoughDiffuse', [layer, w, ...colour('color'), rough, ...n])
      return layer
    }
    case 'dielectric_bsdf': {
      const eta = most(1.0001, arg('ior')[0]!)
      const mode = c.text(op, 'scatter_mode')
      const colours = colour('tint')
      if (mode === 'R') {
        const alpha = facets(
          colours.map(t => multiply(w, t)),
          eta,
        )
        run(block, 'pushReflection', [layer])
        return letThrough(eta, alpha)
      }
      if (mode === 'T')
        c.fault(op, 'a dielectric that only transmits reflects here too: light would be lost otherwise', 'warning')
      facets([w, w, w], eta)
      run(block, 'pushInterface', [layer, ...colours])
      return layer
    }
    case 'conductor_bsdf': {
      const n3 = arg('ior')
      const k3 = arg('extinction')
      // Three-component indices are what the standard has; spectra come from the facing and edge colours they
      // give.
      const facing = n3.map((x, i) => call('fresnelConductor', [number(1), x, k3[i]!]))
      const edge = n3.map((x, i) => call('edgeTint', [x, k3[i]!]))
      facets(plain, number(1))
      run(block, 'pushMetal', [layer, ...facing, ...edge])
      return layer
    }
    case 'generalized_schlick_bsdf': {
      const f0 = arg('color0').map(unit) as [Expression, Expression, Expression]
      const f82 = arg('color82').map(unit)
      // which code is written depends on what is mentioned, not on values: they may be dragged
      const RISE = ['color90', 'exponent']
      const mentioned = RISE.some(name => c.mentions(op, name))
      const shaped = mentioned && RISE.some(name => !c.untouched(op, name))
      const passes = c.text(op, 'scatter_mode') !== 'R'
      if (shaped && passes)
        c.fault(op, 'what also transmits reflects as a dielectric, whatever color90 and exponent say', 'warning')
      if (shaped && !passes && covers) c.fault(op, 'over something, the exponent is at least 5', 'warning')
      const s = squareRoot(least(0.98, divide(sum(f0), 3)))
      const eta = divide(add(1, s), subtract(1, s))
      if (passes) {
        facets([w, w, w], eta)
        run(block, 'pushInterface', [layer, number(1), number(1), number(1)])
        return layer
      }
      const alpha = facets(plain, number(1))
      const f90 = arg('color90').map(unit) as [Expression, Expression, Expression]
      if (mentioned) run(block, 'setRise', [...f90, most(covers ? 5 : 0.1, arg('exponent')[0]!)])
      run(block, 'pushMetal', [layer, ...f0, ...f82])
      return letThrough(eta, alpha, ['pushRiseLayer', [chain, highest(f0), highest(f90)]])
    }
    case 'sheen_bsdf': {
      const rough = unit(arg('roughness')[0]!)
      run(block, 'pushFuzz', [layer, w, ...colour('color'), rough, ...n])
      return runFor(block, 'pushFuzzLayer', [chain, share, rough, ...n], c)
    }
    case 'subsurface_bsdf':
      run(block, 'pushWalk', [layer, w, ...colour('color'), ...arg('radius'), arg('anisotropy')[0]!, ...n])
      return layer
    case 'translucent_bsdf':
      run(block, 'pushTranslucent', [layer, ...colour('color').map(x => multiply(w, x)), ...n])
      return layer
  }
  c.fault(op, `the scattering ${op.category} is not computed`)
  return layer
}

const highest = ([r, g, b]: readonly [Expression, Expression, Expression]): Expression => most(most(r, g), b)

/** Writes what fills the inside. */
function emitVolume(op: Op, block: Block, c: ClosureCompiler): void {
  const arg = (name: string) => c.arg(op, name)
  if (op.category === 'absorption_vdf')
    run(block, 'setCoefficients', [...arg('absorption'), ...[0, 0, 0, 0].map(number)])
  else if (op.category === 'anisotropic_vdf')
    run(block, 'setCoefficients', [...arg('absorption'), ...arg('scattering'), arg('anisotropy')[0]!])
  else c.fault(op, `the volume ${op.category} is not computed`)
}

/** Film of a surface of ours or a closure of the standard, thickness in nanometres. */
export function emitFilm(op: Op, block: Block, c: ClosureCompiler): void {
  const [thickness, ior] = op.category.startsWith('wl_')
    ? (['film_thickness', 'film_ior'] as const)
    : (['thinfilm_thickness', 'thinfilm_ior'] as const)
  if (!c.mentions(op, thickness)) return
  run(block, 'setFilm', [c.arg(op, thickness)[0]!, c.arg(op, ior)[0]!])
}
