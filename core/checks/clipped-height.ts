import { displacementPlaces } from '../network/displace'
import { findElement, inputOf, materialsOf, nameOf, type Element } from '../network/document'
import { setNumbers } from '../network/edit'
import { intervalOf } from './interval'
import type { Finding } from './finding'
import type { Rule } from './rule'

const NAME = 'height that is clipped'
/** Share of what a height may span that has to be cut off to be said. */
const SAID = 0.5

interface Clipped {
  finding: Finding
  low: number
  high: number
}

/** A material whose heights go far beyond their bounds. */
function clipped(document: Element, material: string): Clipped | undefined {
  const places = displacementPlaces(document, material)
  const node = places?.low && findElement(document, places.low.node)
  if (!node) return undefined
  const [low, high] = intervalOf(document, node, 'in')
  const bound = (name: string, otherwise: number) => Number(inputOf(node, name)?.attributes.value ?? otherwise)
  const kept = Math.max(0, Math.min(high, bound('high', 1)) - Math.max(low, bound('low', 0)))
  if (!(high - low < Infinity) || !(high - low > 0) || 1 - kept / (high - low) <= SAID) return undefined
  const said = (x: number) => +x.toPrecision(3)
  return {
    low,
    high,
    finding: {
      rule: NAME,
      severity: 'warning',
      where: places!.low!.node,
      message:
        `The height of ${material} goes from ${said(low)} to ${said(high)}; its bounds keep ` +
        `${Math.round((100 * kept) / (high - low))} % of that, and flatten the rest.`,
      fix: `Set the bounds to ${said(low)} and ${said(high)}`,
    },
  }
}

/** Heights of a displacement of which the bounds leave less than half. */
export const clippedHeight: Rule = {
  name: NAME,
  run: ({ document }) => materialsOf(document).flatMap(m => clipped(document, nameOf(m))?.finding ?? []),
  mend(document, finding) {
    const found = materialsOf(document)
      .map(m => clipped(document, nameOf(m)))
      .find(c => c?.finding.where === finding.where)
    if (!found) return undefined
    const lower = setNumbers(document, finding.where, 'low', 'float', [found.low])
    return setNumbers(lower, finding.where, 'high', 'float', [found.high])
  },
}
