import type { Element } from '../network/document'
import { EditError } from '../network/edit'
import { colorSpace } from './color-space'
import type { Finding } from './finding'
import { metalValues } from './metal-values'
import { missingFile } from './missing-file'
import { mixFactor } from './mix-factor'
import { noCoordinates } from './no-coordinates'
import { openShell } from './open-shell'
import type { MeshFacts, PartRule } from './part-rule'
import type { Rule } from './rule'
import { valueRange } from './value-range'
import { allNodes } from '../network/groups'
import { beyondAmount } from './beyond-amount'
import { beyondPart } from './beyond-part'
import { clippedHeight } from './clipped-height'

/** Every rule; a new one is a file of its own and a word here. */
export const rules: Rule[] = [clippedHeight, colorSpace, metalValues, missingFile, mixFactor, valueRange]

/** Every rule about parts; a new one is a file of its own and a word here. */
const partRules: readonly PartRule[] = [openShell, noCoordinates, beyondAmount, beyondPart]

/** Checks what parts wear against what their meshes are; a fact that is not known of a part finds nothing. */
export function checkParts(
  parts: readonly { name: string; material: string }[],
  documents: ReadonlyMap<string, Element>,
  facts: MeshFacts,
): Finding[] {
  return partRules.flatMap(rule =>
    parts.flatMap((p): Finding[] => {
      const document = documents.get(p.material)
      const found = document && rule.run(p, document, facts)
      return found ? [found] : []
    }),
  )
}

/** Adds a rule from outside. */
export const registerRule = (rule: Rule): unknown => rules.push(rule)

const ORDER = { error: 0, warning: 1, info: 2 }

/** Checks a material document, worst first. @param hasFile whether a picture that it names is there */
export function checkDocument(document: Element, hasFile?: (file: string) => boolean): Finding[] {
  const context = { document, nodes: allNodes(document), ...(hasFile ? { hasFile } : {}) }
  return rules.flatMap(r => r.run(context)).sort((a, b) => ORDER[a.severity] - ORDER[b.severity])
}

const mended = (document: Element, finding: Finding): Element | undefined =>
  rules.find(r => r.name === finding.rule)?.mend?.(document, finding)

/** Whether what was found can be mended without a decision of the artist. */
export const canMend = (document: Element, finding: Finding): boolean => mended(document, finding) !== undefined

/** Mends what was found. @throws EditError where the rule cannot */
export function mend(document: Element, finding: Finding): Element {
  const result = mended(document, finding)
  if (!result) throw new EditError('this can only be decided by hand')
  return result
}
