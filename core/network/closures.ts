/**
 * Statements for the closures of a network: which lobes are pushed under which layers, with what weight.
 *
 * Mixes only move weight: all surfaces that mixes reach under one layer are visited once each, with the sum of
 * their shares, so a layer that a cut lays bare costs no more than itself. A coat opens a new layer for what lies
 * below it.
 */
import { CONDUCTOR_NAMES, conductorByName } from '../optics/conductors'
import { GLASS_NAMES, glassIndex } from '../optics/glasses'
import { above, add, differ, divide, multiply, power, subtract, sum } from '../expression/arithmetic'
import { blockIf, type Block } from '../expression/block'
import { number, type Expression } from '../expression/expression'
import { AT, ONLY_WITH, OPENPBR_INPUTS, type OpenPbrInput } from '../surface/openpbr-inputs'
import { run, runFor, type ClosureCompiler } from './closure-compiler'
import { childOf, emitFilm, emitScattering, unit } from './closures-scattering'
import { emitEmission } from './closures-emission'
import type { Op } from './resolve'

/** The layer of what nothing covers. */
const BARE = number(-1)
/** Share of a surface below which it is left out. */
const LEAST_SHARE = 1e-6

/** Writes the closures from `root` (material, surface, BSDF or EDF) into `block`. */
export function emitClosures(root: Op, block: Block, c: ClosureCompiler): void {
  const whole = number(1)
  if (root.type === 'material') {
    const surface = childOf(root, 'surfaceshader')
    if (surface) emitSurface(surface, block, BARE, whole, c)
    else c.fault(root, 'no surface is connected to the material')
  } else if (root.type === 'surfaceshader') emitSurface(root, block, BARE, whole, c)
  else if (root.type === 'BSDF' && c.want === 'light') return
  else if (root.type === 'BSDF') emitScattering(root, block, { above: BARE, chain: BARE, weight: whole }, c)
  else if (root.type === 'EDF' && c.want === 'passage') return
  else if (root.type === 'EDF') emitEmission(root, block, BARE, whole, c)
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

function emitSurface(root: Op, block: Block, layer: Expression, weight: Expression, c: ClosureCompiler): void {
  const order = throughMixes(root)
  const share = new Map(order.map(op => [op, c.variable()]))
  for (const [op, variable] of share)
    block.items.push({ kind: 'let', variable, value: op === root ? weight : number(0) })
  for (const op of order) {
    if (!c.afford(op)) return
    const w = share.get(op)!
    const inner = blockIf(block, above(w, LEAST_SHARE))
    if (op.category === 'mix') {
      const m = unit(c.arg(op, 'mix')[0]!)
      const give = (child: Op | undefined, value: Expression) => {
        if (child) inner.items.push({ kind: 'increase', variable: share.get(child)!, value })
      }
      give(childOf(op, 'fg'), multiply(w, m))
      give(childOf(op, 'bg'), multiply(w, subtract(1, m)))
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

type Leaf = (op: Op, block: Block, layer: Expression, w: Expression, c: ClosureCompiler) => void

/** Surfaces by category. */
const LEAVES = new Map<string, Leaf>([
  ['open_pbr_surface', emitOpenPbr],
  ['wl_metal', emitMetal],
  ['wl_glass', emitGlass],
  ['wl_coat_over', emitCoat],
  ['surface', emitStandardSurface],
  ['surface_unlit', emitUnlit],
])

function emitLeaf(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const leaf = LEAVES.get(op.category)
  if (leaf) leaf(op, block, layer, w, c)
  else c.fault(op, `the surface ${op.category} is not computed`)
}

/** Inputs of an OpenPBR surface that light which it sends out depends on. */
const LIGHT = /^(?:emission|coat|fuzz|geometry)_/
/** Inputs of an OpenPBR surface that nothing which passes it straight depends on. */
const DULL = /^(?:emission|subsurface)_|^base_(?!metalness)|^specular_color$/

function emitOpenPbr(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  if (c.want === 'light' && !c.mentions(op, 'emission_luminance')) return
  if (c.want === 'passage' && !['geometry_opacity', 'transmission_weight'].some(name => c.mentions(op, name)))
    return
  for (const name of passed(op, c)) {
    if (c.want === 'light' ? !LIGHT.test(name) : c.want === 'passage' && DULL.test(name)) continue
    block.items.push({ kind: 'store', into: 'openPbr', at: AT[name], values: c.arg(op, name) })
  }
  run(block, c.want === 'light' ? 'pushOpenPbrLight' : 'pushOpenPbr', [layer, w])
}

/** α of a roughness. */
const alphaOf = (roughness: Expression): Expression => power(unit(roughness), 2)

function emitMetal(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const table = conductorByName(c.text(op, 'metal'))
  if (table < 0) {
    c.fault(op, `there is no measured metal of that name; known are ${CONDUCTOR_NAMES.join(', ')}`)
    return
  }
  if (c.want !== 'all') return
  run(block, 'setSpec', [w, w, w, alphaOf(c.arg(op, 'roughness')[0]!), number(1), ...c.arg(op, 'normal')])
  if (c.mentions(op, 'anisotropy'))
    run(block, 'setAnisotropy', [unit(c.arg(op, 'anisotropy')[0]!), ...c.arg(op, 'tangent')])
  emitFilm(op, block, c)
  run(block, 'pushConductor', [layer, number(table)])
}

function emitGlass(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const table = GLASS_NAMES.indexOf(c.text(op, 'glass'))
  if (table < 0) {
    c.fault(op, `there is no measured glass of that name; known are ${GLASS_NAMES.join(', ')}`)
    return
  }
  if (c.want === 'light') return
  const index = number(glassIndex[table]!)
  run(block, 'setSpec', [w, w, w, alphaOf(c.arg(op, 'roughness')[0]!), index, ...c.arg(op, 'normal')])
  emitFilm(op, block, c)
  const spreads = c.mentions(op, 'dispersion') ? c.arg(op, 'dispersion')[0]! : number(1)
  const depth = c.mentions(op, 'depth') ? c.arg(op, 'depth')[0]! : number(0)
  run(block, 'pushGlassBody', [layer, number(table), spreads, ...c.arg(op, 'color').map(unit), depth])
}

function emitCoat(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const arg = (name: string) => c.arg(op, name)
  const base = childOf(op, 'base')
  const coverage = unit(arg('coat_weight')[0]!)
  const coat = [...arg('coat_color'), arg('coat_roughness')[0]!, arg('coat_ior')[0]!, ...arg('normal')]
  const under = runFor(block, 'pushCoatOver', [layer, w, coverage, ...coat], c)
  const first = runFor(block, 'lobesSoFar', [], c)
  if (base) emitSurface(base, block, under, w, c)
  else c.fault(op, 'nothing lies under this coat')
  run(block, 'endCoat', [])
  if (c.want === 'light') return
  const covered = blockIf(block, differ(under, layer))
  run(covered, 'darkenFrom', [first, under, w, multiply(coverage, unit(arg('coat_darkening')[0]!))])
}

function emitStandardSurface(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const bsdf = childOf(op, 'bsdf')
  const edf = childOf(op, 'edf')
  let weight = w
  if (c.mentions(op, 'opacity')) {
    const opacity = unit(c.arg(op, 'opacity')[0]!)
    if (c.want !== 'light') run(block, 'pushThrough', [multiply(w, subtract(1, opacity))])
    weight = multiply(w, opacity)
  }
  if (c.mentions(op, 'thin_walled')) run(block, 'setThin', [c.arg(op, 'thin_walled')[0]!])
  if (bsdf && c.want !== 'light') emitScattering(bsdf, block, { above: layer, chain: layer, weight }, c)
  if (edf && c.want !== 'passage') emitEmission(edf, block, layer, weight, c)
}

function emitUnlit(...[op, block, layer, w, c]: Parameters<Leaf>): void {
  const arg = (name: string) => c.arg(op, name)
  const opacity = unit(arg('opacity')[0]!)
  const grey = divide(sum(arg('transmission_color').map(unit)), 3)
  const passes = multiply(multiply(opacity, unit(arg('transmission')[0]!)), grey)
  if (c.want !== 'light') run(block, 'pushThrough', [multiply(w, add(subtract(1, opacity), passes))])
  if (c.want === 'passage') return
  const shown = multiply(multiply(w, opacity), arg('emission')[0]!)
  run(block, 'pushEmission', [layer, ...arg('emission_color').map(x => multiply(shown, x))])
}
