import { displacementPlaces } from '../network/displace'
import { findElement, inputOf, materialsOf, nameOf, type Element } from '../network/document'
import { intervalOf } from './interval'
import type { PartRule } from './part-rule'

/** Share of a part's longest side that its surface may move without being said. */
const SAID = 0.5

/** How far a document's displacement may move a surface, metres; 0 where nothing is known. */
function furthest(document: Element): { metres: number; amount: number } {
  const first = materialsOf(document)[0]
  const places = first && displacementPlaces(document, nameOf(first))
  const node = places && findElement(document, places.amount.node)
  if (!node) return { metres: 0, amount: 0 }
  const amount = Math.abs(Number(inputOf(node, 'scale')?.attributes.value ?? 1))
  const [low, high] = intervalOf(document, node, 'displacement')
  const height = Math.max(Math.abs(low), Math.abs(high))
  return { metres: amount * (height < Infinity ? height : 1), amount }
}

const inMillimetres = (metres: number): string => `${+(metres * 1000).toPrecision(3)} mm`

/** Surfaces that are moved by more than half of their part: percent that was taken for a length, most often. */
export const beyondAmount: PartRule = {
  run(part, document, facts) {
    const extent = facts.sizes.get(part.name)?.extent
    const { metres, amount } = furthest(document)
    if (extent === undefined || metres <= SAID * extent) return undefined
    return {
      rule: 'displaced beyond the part',
      severity: 'warning',
      where: part.name,
      message:
        `${part.material} moves the surface of ${part.name} by up to ${inMillimetres(metres)}; ` +
        `the part is ${inMillimetres(extent)} long.`,
      fix: `Set its amount to ${inMillimetres((0.02 * extent * amount) / metres)}: amounts are lengths`,
    }
  },
}
