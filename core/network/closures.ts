/**
 * Code for the closures of a network: which lobes are pushed under which layers, with what weight.
 *
 * Mixes only move weight: all surfaces that mixes reach under one layer are visited once each, with the sum of
 * their shares, so a layer that a cut lays bare costs no more than itself. A coat opens a new layer for what lies
 * below it.
 */
import { CONDUCTOR_NAMES, conductorByName } from '../optics/conductors'
import { GLASS_NAMES } from '../optics/glasses'
import { AT, ONLY_WITH, OPENPBR_INPUTS, type OpenPbrInput } from '../surface/openpbr-inputs'
import { childOf, emitFilm, emitScattering } from './closures-scattering'
import { createBlock, type Block } from './blocks'
import type { ClosureCompiler } from './closure-compiler'
import type { Op } from './resolve'

/** Writes the closures from `root` (material, surface, BSDF or EDF) into `block`. */
export function emitClosures(root: Op, block: Block, c: ClosureCompiler): void {
  if (root.type === 'material') {
    const surface = childOf(root, 'surfaceshader')
    if (surface) emitSurface(surface, block, '-1', '1', c)
    else c.fault(root, 'no surface is connected to the material')
  } else if (root.type === 'surfaceshader') emitSurface(root, block, '-1', '1', c)
  else if (root.type === 'BSDF') emitScattering(root, block, { above: '-1', chain: '-1', weight: '1' }, c)
  else if (root.type === 'EDF') emitEmission(root, block, '-1', '1', c)
  else c.fault(root, `${root.type} cannot be shown`)
}

/** Surfaces that mixes reach, each before what it mixes. */
function throughMixes(root: Op): Op[] {
  const done = new Set<Op>()
  const order: Op[] = []
  const waiting = [root]
  while (waiting.length) {
    const op = waiting.at(-1)!
    const child =
      op.category === 'mix' && !done.has(op)
        ? (['fg', 'bg'] as const).map(name => childOf(op, name)).find(c => c && !done.has(c))
        : undefined
    if (child) {
      waiting.push(child)
      continue
    }
    waiting.pop()
    if (done.has(op)) continue
    done.add(op)
    order.push(op)
  }
  return order.reverse()
}

function emitSurface(root: Op, block: Block, layer: string, weight: string, c: ClosureCompiler): void {
  const order = throughMixes(root)
  const share = new Map(order.map(op => [op, c.unique('w')]))
  for (const [op, w] of share) block.items.push(op === root ? `let ${w} = ${weight};` : `let ${w} = 0;`)
  for (const op of order) {
    if (!c.afford(op)) return
    const w = share.get(op)!
    const inner = createBlock(block, `if (${w} > 1e-6) {`, '}')
    if (op.category === 'mix') {
      const m = c.unique('m')
      inner.items.push(`const ${m} = unit(${c.arg(op, 'mix', inner)[0]});`)
      const fg = childOf(op, 'fg')
      const bg = childOf(op, 'bg')
      if (fg) inner.items.push(`${share.get(fg)} += ${w} * ${m};`)
      if (bg) inner.items.push(`${share.get(bg)} += ${w} * (1 - ${m});`)
    } else emitLeaf(op, inner, layer, w, c)
  }
}

/** Inputs of an OpenPBR surface that mean something, as far as the document mentions those that they depend on. */
function passed(op: Op, c: ClosureCompiler): Set<OpenPbrInput> {
  const out = new Set<OpenPbrInput>(OPENPBR_INPUTS)
  for (const [master, names] of Object.entries(ONLY_WITH))
    if (!c.mentions(op, master)) for (const name of names) out.delete(name)
  return out
}

function emitLeaf(op: Op, block: Block, layer: string, w: string, c: ClosureCompiler): void {
  const arg = (name: string) => c.arg(op, name, block)
  if (op.category === 'open_pbr_surface') {
    for (const name of passed(op, c))
      arg(name).forEach((expression, k) => block.items.push(`openPbr[${AT[name] + k}] = ${expression};`))
    block.items.push(`pushOpenPbr(${layer}, ${w});`)
  } else if (op.category === 'wl_metal') {
    const name = c.text(op, 'metal')
    const table = conductorByName(name)
    if (table < 0) {
      c.fault(op, `there is no measured metal of that name; known are ${CONDUCTOR_NAMES.join(', ')}`)
      return
    }
    block.items.push(
      `setSpec(${w}, ${w}, ${w}, unit(${arg('roughness')[0]}) ** 2, 1, ${arg('normal').join(', ')});`,
    )
    emitGrain(op, block, c)
    emitFilm(op, block, c)
    block.items.push(
      `pushConductor(${layer}, ${table}, metalRGB[${table * 3}], metalRGB[${table * 3 + 1}], ` +
        `metalRGB[${table * 3 + 2}]);`,
    )
  } else if (op.category === 'wl_glass') {
    const name = c.text(op, 'glass')
    const table = GLASS_NAMES.indexOf(name)
    if (table < 0) {
      c.fault(op, `there is no measured glass of that name; known are ${GLASS_NAMES.join(', ')}`)
      return
    }
    block.items.push(
      `setSpec(${w}, ${w}, ${w}, unit(${arg('roughness')[0]}) ** 2, glassIndex[${table}], ` +
        `${arg('normal').join(', ')});`,
    )
    emitFilm(op, block, c)
    const spreads = c.mentions(op, 'dispersion') ? `${arg('dispersion')[0]} > 0.5` : 'true'
    const colour = arg('color')
      .map(x => `unit(${x})`)
      .join(', ')
    const push = (tint: string) =>
      `if (${spreads}) pushMeasuredGlass(${layer}, ${table}, ${tint}); else pushGlass(${layer}, ${tint}, 0);`
    if (c.mentions(op, 'depth')) {
      const depth = c.unique('d')
      block.items.push(
        `const ${depth} = ${arg('depth')[0]};`,
        `if (${depth} > 0) { ${push('1, 1, 1')} setInterior(${colour}, ${depth}); }`,
        `else { ${push(colour)} }`,
      )
    } else block.items.push(push(colour))
  } else if (op.category === 'wl_coat_over') {
    const base = childOf(op, 'base')
    const under = c.unique('y')
    const first = c.unique('f')
    const coverage = c.unique('c')
    block.items.push(
      `const ${coverage} = unit(${arg('coat_weight')[0]});`,
      `const ${under} = pushCoatOver(${layer}, ${w}, ${coverage}, ` +
        `${[...arg('coat_color'), arg('coat_roughness')[0], arg('coat_ior')[0], ...arg('normal')].join(', ')});`,
      `const ${first} = now.lobes;`,
    )
    if (base) emitSurface(base, block, under, w, c)
    else c.fault(op, 'nothing lies under this coat')
    block.items.push(
      `if (${under} !== ${layer}) darkenFrom(${first}, ${under}, ${w}, ${coverage} * ` +
        `unit(${arg('coat_darkening')[0]}));`,
    )
  } else if (op.category === 'surface') {
    const bsdf = childOf(op, 'bsdf')
    const edf = childOf(op, 'edf')
    let weight = w
    if (c.mentions(op, 'opacity')) {
      const o = c.unique('o')
      weight = c.unique('w')
      block.items.push(
        `const ${o} = unit(${arg('opacity')[0]});`,
        `pushThrough(${w} * (1 - ${o}));`,
        `const ${weight} = ${w} * ${o};`,
      )
    }
    if (c.mentions(op, 'thin_walled'))
      block.items.push(`now.thin = ${arg('thin_walled')[0]} > 0.5;`, 'if (now.thin) now.outside = true;')
    if (bsdf) emitScattering(bsdf, block, { above: layer, chain: layer, weight }, c)
    if (edf) emitEmission(edf, block, layer, weight, c)
  } else if (op.category === 'surface_unlit') {
    const o = c.unique('o')
    block.items.push(
      `const ${o} = unit(${arg('opacity')[0]});`,
      `pushThrough(${w} * (1 - ${o} + ${o} * unit(${arg('transmission')[0]}) * (${arg('transmission_color')
        .map(x => `unit(${x})`)
        .join(' + ')}) / 3));`,
      `pushEmission(${layer}, ${arg('emission_color')
        .map(x => `${w} * ${o} * ${arg('emission')[0]} * ${x}`)
        .join(', ')});`,
    )
  } else c.fault(op, `the surface ${op.category} is not computed`)
}

/** Grain of a surface of ours: anisotropy and tangent into Q, as far as the document mentions them. */
function emitGrain(op: Op, block: Block, c: ClosureCompiler): void {
  if (!c.mentions(op, 'anisotropy')) return
  const t = c.arg(op, 'tangent', block)
  block.items.push(`setAnisotropy(unit(${c.arg(op, 'anisotropy', block)[0]}), ${t.join(', ')});`)
}

function emitEmission(
  op: Op,
  block: Block,
  layer: string,
  weight: string,
  c: ClosureCompiler,
  tint: readonly string[] = [],
): void {
  if (!c.afford(op)) return
  const arg = (name: string) => c.arg(op, name, block)
  const coloured = (names: string[]) =>
    names.map((x, k) => `${weight} * ${x}${tint[k] ? ` * ${tint[k]}` : ''}`).join(', ')
  if (op.category === 'uniform_edf') block.items.push(`pushEmission(${layer}, ${coloured(arg('color'))});`)
  else if (op.category === 'conical_edf')
    block.items.push(
      `pushConicalEmission(${layer}, ${coloured(arg('color'))}, ` +
        `${[...arg('normal'), arg('inner_angle')[0], arg('outer_angle')[0]].join(', ')});`,
    )
  else if (op.category === 'mix') {
    const m = c.unique('m')
    const fg = childOf(op, 'fg')
    const bg = childOf(op, 'bg')
    block.items.push(`const ${m} = unit(${arg('mix')[0]});`)
    if (fg) emitEmission(fg, block, layer, `${weight} * ${m}`, c, tint)
    if (bg) emitEmission(bg, block, layer, `${weight} * (1 - ${m})`, c, tint)
  } else if (op.category === 'add')
    for (const name of ['in1', 'in2']) {
      const child = childOf(op, name)
      if (child) emitEmission(child, block, layer, weight, c, tint)
    }
  else if (op.category === 'multiply') {
    const child = childOf(op, 'in1')
    const by = arg('in2').map(x => {
      const f = c.unique('f')
      block.items.push(`const ${f} = Math.max(0, ${x});`)
      return f
    })
    if (!child) return
    if (by.length === 1) emitEmission(child, block, layer, `${weight} * ${by[0]}`, c, tint)
    else
      emitEmission(
        child,
        block,
        layer,
        weight,
        c,
        by.map((f, k) => (tint[k] ? `${tint[k]} * ${f}` : f)),
      )
  } else c.fault(op, `the emission ${op.category} is not computed`)
}
