import { inputOf, type Element } from '../network/document'
import { allNodes } from '../network/groups'
import { layersOf } from '../network/layers'
import { unitScale } from '../nodes/types'
import type { PartRule } from './part-rule'

/** Lengths that a document states, in metres: radii of what looks about a point, and thicknesses of layers. */
function lengths(document: Element): { what: string; metres: number }[] {
  const radii = allNodes(document).flatMap(({ path, node }) => {
    const radius = inputOf(node, 'radius')?.attributes
    return radius?.value !== undefined && radius.type === 'float'
      ? [{ what: `the radius of ${path}`, metres: Number(radius.value) * (unitScale(radius.unit) ?? 1) }]
      : []
  })
  const layers = layersOf(document).flatMap(l =>
    l.thickness !== undefined ? [{ what: `the thickness of ${l.title}`, metres: l.thickness }] : [],
  )
  return [...radii, ...layers]
}

const inMillimetres = (metres: number): string => `${+(metres * 1000).toPrecision(3)} mm`

/** Radii and thicknesses that are larger than the part itself: a unit was mistaken, most often. */
export const beyondPart: PartRule = {
  run(part, document, facts) {
    const extent = facts.sizes.get(part.name)?.extent ?? Infinity
    const beyond = lengths(document).filter(l => l.metres > extent)
    if (beyond.length === 0) return undefined
    return {
      rule: 'beyond the part',
      severity: 'warning',
      where: part.name,
      message:
        `${beyond.map(l => `${l.what} (${inMillimetres(l.metres)})`).join(', ')} of ${part.material} ` +
        `is beyond ${part.name}, which is ${inMillimetres(extent)} long.`,
      fix: 'Make it smaller, or the part larger',
    }
  },
}
