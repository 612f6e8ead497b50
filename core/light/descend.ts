/** Which light of a tree is drawn at a point, and the chance with which it is. */
import { lit } from './memory'
import { received } from './receiver'
import { NODE, PANEL } from './slots'
import type { LightTree } from './tree'
import { weighPanel } from './weigh-panel'

/** The leaf that was drawn, and its chance given the node above. */
export const descended = { leaf: 0, chance: 0.5 }

/**
 * What a node may give at the point that begins at `at`: its power over the squared distance, which is never less than
 * its own radius, times what the receiver's cosine leaves, times the cosine of the nearest of the ways that its lights
 * face (Conty Estévez & Kulla 2018, eq. 3). Never less than what any of its lights could give.
 */
export function importance(nodes: Float64Array, node: number, point: Float64Array, at: number): number {
  const o = node * NODE.stride
  const dx = nodes[o]! - point[at]!
  const dy = nodes[o + 1]! - point[at + 1]!
  const dz = nodes[o + 2]! - point[at + 2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const r2 = nodes[o + NODE.radius2]!
  const power = nodes[o + NODE.power]!
  if (!(d2 > r2)) return power / r2
  const given = (power * received(dx, dy, dz, d2, r2)) / d2
  const sides = nodes[o + NODE.sides]!
  if (sides === 0) return given * nodes[o + NODE.shown]!
  const per = 1 / Math.sqrt(d2)
  let cosine =
    -(dx * nodes[o + NODE.axis]! + dy * nodes[o + NODE.axis + 1]! + dz * nodes[o + NODE.axis + 2]!) * per
  if (sides === 2 && cosine < 0) cosine = -cosine
  // the cone is widened by the angle that the sphere fills
  const sineOf = Math.sqrt(r2) * per
  const cosineOf = Math.sqrt(1 - sineOf * sineOf)
  const wide = nodes[o + NODE.sin]! * cosineOf + nodes[o + NODE.cos]! * sineOf
  const narrow = nodes[o + NODE.cos]! * cosineOf - nodes[o + NODE.sin]! * sineOf
  if (wide <= 0 || cosine >= narrow) return given
  const nearest = cosine * narrow + Math.sqrt(Math.max(0, 1 - cosine * cosine)) * wide
  return nearest > 0 ? given * nearest : 0
}

/** What a node may give; of a leaf over panels it is the panel's own estimate. */
export function weighNode(
  { nodes }: LightTree,
  node: number,
  panels: Float64Array | null,
  point: Float64Array,
  at: number,
): number {
  const leaf = nodes[node * NODE.stride + NODE.leaf]!
  if (panels === null || nodes[node * NODE.stride + NODE.child]! >= 0) return importance(nodes, node, point, at)
  weighPanel(panels, leaf * PANEL.stride, point, at)
  return lit.estimate
}

/**
 * Draws a leaf below a node into {@link descended}.
 * @param panels words of the panels that the tree stands over; null for triangles
 * @param u its first number chooses, and is one anew after it
 * @returns false where nothing below it gives anything
 */
export function drawLeaf(
  tree: LightTree,
  from: number,
  panels: Float64Array | null,
  point: Float64Array,
  at: number,
  u: Float64Array,
): boolean {
  const { nodes } = tree
  let pick = u[0]!
  let node = from
  let chance = 1
  for (let child = nodes[node * NODE.stride + NODE.child]!; child >= 0;) {
    const a = weighNode(tree, child, panels, point, at)
    const b = weighNode(tree, child + 1, panels, point, at)
    if (!(a + b > 0)) return false
    const share = a / (a + b)
    if (pick < share) {
      node = child
      pick /= share
      chance *= share
    } else {
      node = child + 1
      pick = (pick - share) / (1 - share)
      chance *= 1 - share
    }
    child = nodes[node * NODE.stride + NODE.child]!
  }
  u[0] = Math.min(1 - 2 ** -53, pick)
  descended.leaf = nodes[node * NODE.stride + NODE.leaf]!
  descended.chance = chance
  return true
}

/** Chance with which {@link drawLeaf} gives a leaf below the node `top`. */
export function chanceOf(
  tree: LightTree,
  leaf: number,
  top: number,
  panels: Float64Array | null,
  point: Float64Array,
  at: number,
): number {
  const { nodes } = tree
  let chance = 1
  for (let node = leaf; node !== top;) {
    const up = nodes[node * NODE.stride + NODE.parent]!
    const first = nodes[up * NODE.stride + NODE.child]!
    const a = weighNode(tree, first, panels, point, at)
    const b = weighNode(tree, first + 1, panels, point, at)
    if (!(a + b > 0)) return 0
    chance *= (node === first ? a : b) / (a + b)
    node = up
  }
  return chance
}
