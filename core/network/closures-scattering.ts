/** Code for the standard's BSDF and VDF nodes. */
import type { Block } from './blocks'
import type { ClosureCompiler } from './closure-compiler'
import type { Op } from './resolve'

/** What a wire brings to an input. */
export const childOf = (op: Op, name: string): Op | undefined => {
  const s = op.inputs.get(name)
  return s?.kind === 'op' ? s.op : undefined
}

/**
 * Where a BSDF goes: the layer its lobes lie under, the parent of the layer that its base lies under, its share
 * and what colours it (empty: nothing).
 */
export interface Place {
  above: string
  chain: string
  weight: string
  tint?: readonly string[]
  /** Whether something lies below. */ covers?: boolean
}

/**
 * Writes a BSDF.
 * @returns the layer that a base of it lies under
 */
export function emitScattering(op: Op, block: Block, at: Place, c: ClosureCompiler): string {
  const { above, chain, weight, tint = [], covers } = at
  if (!c.afford(op)) return chain
  const arg = (name: string) => c.arg(op, name, block)
  const local = (expression: string) => {
    const w = c.unique('w')
    block.items.push(`const ${w} = ${expression};`)
    return w
  }
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
    const m = local(`unit(${arg('mix')[0]})`)
    const under = on(childOf(op, 'fg'), { above, chain, weight: local(`${weight} * ${m}`), tint, covers })
    return on(childOf(op, 'bg'), { above, chain: under, weight: local(`${weight} * (1 - ${m})`), tint, covers })
  }
  if (op.category === 'add')
    return on(childOf(op, 'in2'), { above, chain: on(childOf(op, 'in1'), at), weight, tint, covers })
  if (op.category === 'multiply') {
    const by = arg('in2').map(x => local(`unit(${x})`))
    return on(
      childOf(op, 'in1'),
      by.length === 1
        ? { above, chain, weight: local(`${weight} * ${by[0]}`), tint, covers }
        : { above, chain, weight, covers, tint: by.map((f, k) => (tint[k] ? local(`${tint[k]} * ${f}`) : f)) },
    )
  }
  return emitLobe(op, block, at, c, local)
}

function emitLobe(
  op: Op,
  block: Block,
  { above, chain, weight, tint = [], covers }: Place,
  c: ClosureCompiler,
  local: (expression: string) => string,
): string {
  const arg = (name: string) => c.arg(op, name, block)
  const w = local(`${weight} * unit(${arg('weight')[0]})`)
  const n = arg('normal').join(', ')
  /** A colour input in 0..1, with what colours the whole. */
  const colour = (name: string) => arg(name).map((x, k) => local(`unit(${x})${tint[k] ? ` * ${tint[k]}` : ''}`))
  /**
   * A layer of what the lobe of index eta lets through, for its base. Coverage is relative to the share of the
   * surface this lies in.
   */
  const letThrough = (eta: string, alpha: string, open = `pushLayer(${chain})`) => {
    const under = c.unique('y')
    block.items.push(
      `setCover(${alpha}, ${eta}, ${weight} > 0 ? ${w} / ${weight} : 0);`,
      `const ${under} = ${open};`,
    )
    return under
  }
  /** Fills Q with weights, roughness along and across the tangent, index, normal and film. */
  const facets = (weights: readonly string[], eta: string) => {
    const r = arg('roughness')
    const alpha = local(r.length > 1 ? `Math.sqrt(Math.max(0, ${r[0]} * ${r[1]}))` : `${r[0]} * ${r[0]}`)
    block.items.push(`setSpec(${weights.join(', ')}, ${alpha}, ${eta}, ${n});`)
    if (r.length > 1 && c.mentions(op, 'roughness'))
      block.items.push(`if (${r[0]} !== ${r[1]}) setGrain(${r[0]}, ${r[1]}, ${arg('tangent').join(', ')});`)
    emitFilm(op, block, c)
    return alpha
  }
  const plain = [0, 1, 2].map(k => (tint[k] ? local(`${w} * ${tint[k]}`) : w))
  switch (op.category) {
    case 'oren_nayar_diffuse_bsdf':
    case 'burley_diffuse_bsdf':
      if (op.category === 'burley_diffuse_bsdf' && c.mentions(op, 'roughness'))
        c.fault(
          op,
          'rough diffuse reflection is computed in its energy-preserving form for this node too',
          'warning',
        )
      block.items.push(
        `pushRoughDiffuse(${above}, ${w}, ${colour('color').join(', ')}, ` +
          `${c.mentions(op, 'roughness') ? `unit(${arg('roughness')[0]})` : '0'}, ${n});`,
      )
      return above
    case 'dielectric_bsdf': {
      const eta = local(`Math.max(1.0001, ${arg('ior')[0]})`)
      const mode = c.text(op, 'scatter_mode')
      const colours = colour('tint')
      if (mode === 'R') {
        const alpha = facets(
          colours.map(t => `${w} * ${t}`),
          eta,
        )
        block.items.push(`pushReflection(${above});`)
        return letThrough(eta, alpha)
      }
      if (mode === 'T')
        c.fault(op, 'a dielectric that only transmits reflects here too: light would be lost otherwise', 'warning')
      facets([w, w, w], eta)
      block.items.push(
        `if (now.thin) pushSheet(${above}, ${colours.join(', ')}); else pushGlass(${above}, ${colours.join(', ')}, 0);`,
      )
      return above
    }
    case 'conductor_bsdf': {
      const n3 = arg('ior').map(local)
      const k3 = arg('extinction').map(local)
      // Three-component indices are what the standard has; spectra come from the facing and edge colours they
      // give.
      const facing = n3.map((x, i) => local(`fresnelConductor(1, ${x}, ${k3[i]})`))
      const edge = n3.map((x, i) => local(`edgeTint(${x}, ${k3[i]})`))
      facets(plain, '1')
      block.items.push(`pushMetal(${above}, ${[...facing, ...edge].join(', ')});`)
      return above
    }
    case 'generalized_schlick_bsdf': {
      const f0 = arg('color0').map(x => local(`unit(${x})`))
      const f82 = arg('color82').map(x => local(`unit(${x})`))
      // which code is written depends on what is mentioned, not on values: they may be dragged
      const RISE = ['color90', 'exponent']
      const mentioned = RISE.some(name => c.mentions(op, name))
      const shaped = mentioned && RISE.some(name => !c.untouched(op, name))
      const passes = c.text(op, 'scatter_mode') !== 'R'
      if (shaped && passes)
        c.fault(op, 'what also transmits reflects as a dielectric, whatever color90 and exponent say', 'warning')
      if (shaped && !passes && covers) c.fault(op, 'over something, the exponent is at least 5', 'warning')
      const eta = local(`(s => (1 + s) / (1 - s))(Math.sqrt(Math.min(0.98, (${f0.join(' + ')}) / 3)))`)
      if (passes) {
        facets([w, w, w], eta)
        block.items.push(`if (now.thin) pushSheet(${above}, 1, 1, 1); else pushGlass(${above}, 1, 1, 1, 0);`)
        return above
      }
      const alpha = facets(plain, '1')
      const f90 = arg('color90').map(x => local(`unit(${x})`))
      const exponent = `Math.max(${covers ? 5 : 0.1}, ${arg('exponent')[0]})`
      if (mentioned) block.items.push(`setRise(${[...f90, exponent].join(', ')});`)
      block.items.push(`pushMetal(${above}, ${[...f0, ...f82].join(', ')});`)
      return letThrough(
        eta,
        alpha,
        `pushRiseLayer(${chain}, Math.max(${f0.join(', ')}), Math.max(${f90.join(', ')}))`,
      )
    }
    case 'sheen_bsdf': {
      const rough = local(`unit(${arg('roughness')[0]})`)
      const under = c.unique('y')
      block.items.push(
        `pushFuzz(${above}, ${w}, ${colour('color').join(', ')}, ${rough}, ${n});`,
        `const ${under} = pushFuzzLayer(${chain}, ${weight} > 0 ? ${w} / ${weight} : 0, ${rough}, ${n});`,
      )
      return under
    }
    case 'subsurface_bsdf':
      block.items.push(
        `pushWalk(${above}, ${w}, ${[...colour('color'), ...arg('radius'), arg('anisotropy')[0]].join(', ')}, ${n});`,
      )
      return above
    case 'translucent_bsdf':
      block.items.push(
        `pushTranslucent(${above}, ${colour('color')
          .map(x => `${w} * ${x}`)
          .join(', ')}, ${n});`,
      )
      return above
  }
  c.fault(op, `the scattering ${op.category} is not computed`)
  return above
}

/** Writes what fills the inside. */
function emitVolume(op: Op, block: Block, c: ClosureCompiler): void {
  const arg = (name: string) => c.arg(op, name, block)
  if (op.category === 'absorption_vdf')
    block.items.push(`setCoefficients(${arg('absorption').join(', ')}, 0, 0, 0, 0);`)
  else if (op.category === 'anisotropic_vdf')
    block.items.push(
      `setCoefficients(${[...arg('absorption'), ...arg('scattering'), arg('anisotropy')[0]].join(', ')});`,
    )
  else c.fault(op, `the volume ${op.category} is not computed`)
}

/** Film of a surface of ours or a closure of the standard, thickness in nanometres. */
export function emitFilm(op: Op, block: Block, c: ClosureCompiler): void {
  const [thickness, ior] = op.category.startsWith('wl_')
    ? (['film_thickness', 'film_ior'] as const)
    : (['thinfilm_thickness', 'thinfilm_ior'] as const)
  if (!c.mentions(op, thickness)) return
  block.items.push(`setFilm(${c.arg(op, thickness, block)[0]}, ${c.arg(op, ior, block)[0]});`)
}
