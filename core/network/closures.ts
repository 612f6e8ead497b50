/**
 * Code for the closures of a network: which lobes are pushed under which layers, with what weight.
 *
 * Mixes only move weight: all surfaces that mixes reach under one layer are visited once each, with the sum of their shares, so a layer that a
 * cut lays bare costs no more than itself. A coat opens a new layer for what lies below it.
 */
import { CONDUCTOR_NAMES, conductorByName } from '../optics/conductors'
import { OPENPBR_INPUTS } from '../surface/openpbr-inputs'
import { createBlock, type Block } from './blocks'
import type { ClosureCompiler } from './compile'
import type { Op } from './resolve'

const childOf = (op: Op, name: string): Op | undefined => { const s = op.inputs.get(name); return s?.kind === 'op' ? s.op : undefined }

/** Writes the closures from `root` (material, surface, BSDF or EDF) into `block`. */
export function emitClosures(root: Op, block: Block, c: ClosureCompiler): void {
  if (root.type === 'material') {
    const surface = childOf(root, 'surfaceshader')
    if (surface) emitSurface(surface, block, '-1', '1', c)
    else c.fault(root, 'no surface is connected to the material')
  }
  else if (root.type === 'surfaceshader') emitSurface(root, block, '-1', '1', c)
  else if (root.type === 'BSDF') emitScattering(root, block, '-1', '-1', '1', c)
  else if (root.type === 'EDF') emitEmission(root, block, '-1', '1', c)
  else c.fault(root, `${root.type} cannot be shown`)
}

/** Surfaces that mixes reach, each before what it mixes. */
function throughMixes(root: Op): Op[] {
  const order: Op[] = [], seen = new Set<Op>()
  const visit = (op: Op) => {
    if (seen.has(op)) return
    seen.add(op)
    if (op.category === 'mix') for (const name of ['fg', 'bg']) { const child = childOf(op, name); if (child) visit(child) }
    order.unshift(op)
  }
  visit(root)
  return order
}

function emitSurface(root: Op, block: Block, layer: string, weight: string, c: ClosureCompiler): void {
  const order = throughMixes(root)
  const share = new Map(order.map(op => [op, c.unique('w')]))
  for (const [op, w] of share) block.items.push(op === root ? `let ${w} = ${weight};` : `let ${w} = 0;`)
  for (const op of order) {
    const w = share.get(op)!
    const inner = createBlock(block, `if (${w} > 1e-6) {`, '}')
    if (op.category === 'mix') {
      const m = c.unique('m')
      inner.items.push(`const ${m} = unit(${c.arg(op, 'mix', inner)[0]});`)
      const fg = childOf(op, 'fg'), bg = childOf(op, 'bg')
      if (fg) inner.items.push(`${share.get(fg)} += ${w} * ${m};`)
      if (bg) inner.items.push(`${share.get(bg)} += ${w} * (1 - ${m});`)
    }
    else emitLeaf(op, inner, layer, w, c)
  }
}

function emitLeaf(op: Op, block: Block, layer: string, w: string, c: ClosureCompiler): void {
  const arg = (name: string) => c.arg(op, name, block)
  if (op.category === 'open_pbr_surface') {
    let o = 0
    for (const name of OPENPBR_INPUTS) for (const expression of arg(name)) block.items.push(`P[${o++}] = ${expression};`)
    block.items.push(`pushOpenPbr(${layer}, ${w});`)
    for (const input of op.definition.inputs) {
      if (!(OPENPBR_INPUTS as readonly string[]).includes(input.name) && !input.defaultgeomprop && !c.untouched(op, input.name))
        c.fault(op, `${input.name} is kept, but not computed yet`, 'warning')
    }
  }
  else if (op.category === 'wl_metal') {
    const name = c.text(op, 'metal'), table = conductorByName(name)
    if (table < 0) { c.fault(op, `there is no measured metal of that name; known are ${CONDUCTOR_NAMES.join(', ')}`); return }
    block.items.push(`pushNamedConductor(${layer}, ${w}, ${table}, metalRGB, ${arg('roughness')[0]}, ${arg('normal').join(', ')});`)
  }
  else if (op.category === 'wl_coat_over') {
    const base = childOf(op, 'base'), under = c.unique('y'), first = c.unique('f'), coverage = c.unique('c')
    block.items.push(`const ${coverage} = unit(${arg('coat_weight')[0]});`,
      `const ${under} = pushCoatOver(${layer}, ${w}, ${coverage}, ${[...arg('coat_color'), arg('coat_roughness')[0], arg('coat_ior')[0], ...arg('normal')].join(', ')});`,
      `const ${first} = now.lobes;`)
    if (base) emitSurface(base, block, under, w, c)
    else c.fault(op, 'nothing lies under this coat')
    block.items.push(`if (${under} !== ${layer}) darkenFrom(${first}, ${under}, ${w}, ${coverage} * unit(${arg('coat_darkening')[0]}));`)
  }
  else if (op.category === 'surface') {
    const bsdf = childOf(op, 'bsdf'), edf = childOf(op, 'edf')
    if (bsdf) emitScattering(bsdf, block, layer, layer, w, c)
    if (edf) emitEmission(edf, block, layer, w, c)
    if (!c.untouched(op, 'opacity')) c.fault(op, 'opacity is kept, but not computed yet', 'warning')
  }
  else c.fault(op, `the surface ${op.category} is not computed`)
}

/**
 * Writes a BSDF. `above` is the layer its lobes lie under; what it transmits lies under a layer whose parent is `chain`.
 * @returns the layer that a base of it lies under
 */
function emitScattering(op: Op, block: Block, above: string, chain: string, weight: string, c: ClosureCompiler): string {
  const arg = (name: string) => c.arg(op, name, block)
  const share = (expression: string) => { const w = c.unique('w'); block.items.push(`const ${w} = ${expression};`); return w }
  if (op.category === 'layer') {
    const top = childOf(op, 'top'), base = childOf(op, 'base')
    const under = top ? emitScattering(top, block, above, chain, weight, c) : chain
    return base ? emitScattering(base, block, under, under, weight, c) : under
  }
  if (op.category === 'mix') {
    const m = share(`unit(${arg('mix')[0]})`), fg = childOf(op, 'fg'), bg = childOf(op, 'bg')
    let under = chain
    if (fg) under = emitScattering(fg, block, above, under, share(`${weight} * ${m}`), c)
    if (bg) under = emitScattering(bg, block, above, under, share(`${weight} * (1 - ${m})`), c)
    return under
  }
  const w = share(`${weight} * unit(${arg('weight')[0]})`)
  const n = arg('normal').join(', ')
  const rough = () => { const r = arg('roughness'); return r.length > 1 ? `Math.sqrt(Math.max(0, ${r[0]} * ${r[1]}))` : `${r[0]} * ${r[0]}` }
  if (op.category === 'oren_nayar_diffuse_bsdf') {
    if (!c.untouched(op, 'roughness')) c.fault(op, 'the roughness of a diffuse reflection is kept, but not computed yet', 'warning')
    block.items.push(`pushDiffuse(${above}, ${arg('color').map(x => `${w} * unit(${x})`).join(', ')}, ${n});`)
    return above
  }
  if (op.category === 'dielectric_bsdf') {
    const alpha = share(rough()), eta = share(`Math.max(1.0001, ${arg('ior')[0]})`), tint = arg('tint').map(x => share(`unit(${x})`)), mode = c.text(op, 'scatter_mode')
    if (!c.untouched(op, 'thinfilm_thickness')) c.fault(op, 'thin films are kept, but not computed yet', 'warning')
    if (mode === 'R') {
      block.items.push(`pushReflect(${above}, ${tint.map(t => `${w} * ${t}`).join(', ')}, ${alpha}, ${eta}, ${n});`)
      const under = c.unique('y')
      // Coverage is relative to the share of the surface this lies in.
      block.items.push(`const ${under} = pushLayer(${chain}, ${weight} > 0 ? ${w} / ${weight} : 0, 1, 1, 1, ${alpha}, ${eta}, ${n});`)
      return under
    }
    if (mode === 'RT') block.items.push(`pushGlass(${above}, ${w}, ${tint.join(', ')}, ${alpha}, ${eta}, ${n});`)
    else c.fault(op, 'a dielectric that only transmits is not computed', 'warning')
    return above
  }
  if (op.category === 'conductor_bsdf') {
    const n3 = arg('ior').map(x => share(x)), k3 = arg('extinction').map(x => share(x))
    // Three-component indices are what the standard has; spectra come from the facing and edge colours they give.
    const facing = n3.map((x, i) => share(`fresnelConductor(1, ${x}, ${k3[i]})`))
    const edge = n3.map((x, i) => share(`edgeTint(${x}, ${k3[i]})`))
    block.items.push(`pushMetal(${above}, ${w}, ${rough()}, ${[...facing, ...edge].join(', ')}, ${n});`)
    return above
  }
  c.fault(op, `the scattering ${op.category} is not computed`)
  return above
}

function emitEmission(op: Op, block: Block, layer: string, weight: string, c: ClosureCompiler): void {
  if (op.category !== 'uniform_edf') { c.fault(op, `the emission ${op.category} is not computed`); return }
  block.items.push(`pushEmission(${layer}, ${c.arg(op, 'color', block).map(x => `${weight} * ${x}`).join(', ')});`)
}
