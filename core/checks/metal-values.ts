import { childNamed, inputOf } from '../network/document'
import { parseValue } from '../nodes/types'
import type { Finding } from './finding'
import type { Rule } from './rule'

const NAME = 'metal with dielectric values'

/**
 * Metals reflect half or more at normal incidence and are never half metal; dielectrics have an IOR below about
 * 2.5 (common practice).
 */
export const metalValues: Rule = {
  name: NAME,
  run: ({ document, nodes }) =>
    nodes
      .filter(n => n.node.tag === 'open_pbr_surface')
      .flatMap(({ path, node }): Finding[] => {
        const number = (name: string) => {
          const a = inputOf(node, name)?.attributes
          return a?.nodename !== undefined
            ? undefined
            : Number(a?.value ?? { specular_ior: 1.5, base_metalness: 0 }[name] ?? 1)
        }
        const metal = number('base_metalness')
        const ior = number('specular_ior')
        const out: Finding[] = []
        const find = (message: string, fix: string) =>
          out.push({ rule: NAME, severity: 'warning', where: path, message, fix })
        if (metal !== undefined && metal > 0.05 && metal < 0.95)
          find(
            `${path} is ${Math.round(metal * 100)} % metal; matter is one or the other.`,
            'Make it 0 or 1, or mix two layers by a mask',
          )
        const given = inputOf(node, 'base_color')?.attributes
        const from = given?.nodename !== undefined ? childNamed(document, given.nodename) : undefined
        const colour =
          given?.value !== undefined
            ? parseValue('color3', given.value)
            : from?.tag === 'constant'
              ? parseValue('color3', inputOf(from, 'value')?.attributes.value ?? '')
              : given
                ? undefined
                : [0.8, 0.8, 0.8]
        if (metal !== undefined && metal >= 0.95 && colour && Math.max(...colour) < 0.45)
          find(
            `${path} is a metal that reflects only ${Math.round(Math.max(...colour) * 100)} %; bare metals ` +
              `reflect half or more.`,
            'Brighten it, or lay tarnish or paint over it',
          )
        if (metal !== undefined && metal <= 0.05 && ior !== undefined && ior > 2.6)
          find(
            `${path} has an IOR of ${ior} without being a metal; diamond has 2.42.`,
            'Lower the IOR, or make it a metal',
          )
        return out
      }),
}
