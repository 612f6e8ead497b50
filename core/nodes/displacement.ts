import { multiply } from '../expression/arithmetic'
import { number } from '../expression/expression'
import type { NodeEntry } from './emit'

/**
 * Displacements give three numbers: along tangent, bitangent and normal, metres (MaterialX specification, "PBS shader
 * nodes"). The text names dPdu and dPdv; directions of length one are common practice.
 */
export const entries: Record<string, NodeEntry> = {
  displacement: {
    about: 'Moves the surface of a material before it is traced: along its normal, or by a vector.',
    emit: c => {
      const by = c.arg('displacement')
      const scale = c.arg('scale')[0]!
      const moved = by.map(x => multiply(x, scale))
      return moved.length === 1 ? [number(0), number(0), moved[0]!] : moved
    },
  },
}
