import { inputOf, nameOf, type Element } from '../network/document'
import { allNodes } from '../network/groups'
import { needs } from './part-rule'

/**
 * Nodes of a document that fill the inside of what wears it: glass with a depth, or scattering below the surface.
 */
function filling(document: Element): string[] {
  const on = (node: Element, input: string) => {
    const a = inputOf(node, input)?.attributes
    return a !== undefined && (a.value === undefined || Number(a.value) > 0)
  }
  return allNodes(document)
    .filter(
      ({ node }) =>
        inputOf(node, 'geometry_thin_walled')?.attributes.value !== 'true' &&
        ((node.tag === 'open_pbr_surface' &&
          ((on(node, 'transmission_weight') && on(node, 'transmission_depth')) ||
            on(node, 'subsurface_weight'))) ||
          (node.tag === 'wl_glass' && on(node, 'depth')) ||
          node.tag === 'subsurface_bsdf' ||
          /_vdf$/.test(node.tag)),
    )
    .map(({ node }) => nameOf(node))
}

/**
 * Parts whose surface does not close, though what they wear fills their inside: light that goes in has nowhere to
 * come out, and is lost or never absorbed.
 */
export const openShell = needs('closed', filling, (p, nodes) => ({
  rule: 'open shell',
  severity: 'warning',
  where: p.name,
  message:
    `${p.name} is not closed, but ${nodes.join(', ')} of ${p.material} fills its inside: ` +
    `light that goes in has nowhere to come out.`,
  fix: 'Close the mesh, or make it a thin sheet',
}))
