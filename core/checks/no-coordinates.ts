import { inputOf, type Element } from '../network/document'
import { definitionOf } from '../network/edit'
import { allNodes } from '../network/groups'
import { geometricDefault } from '../nodes/definition'
import { needs } from './part-rule'

/** Paths of nodes that read the first coordinates of the part: told to, or because nothing is wired to them. */
function reading(document: Element): string[] {
  return allNodes(document)
    .filter(
      ({ node }) =>
        (node.tag === 'texcoord' && Number(inputOf(node, 'index')?.attributes.value ?? 0) === 0) ||
        definitionOf(node)?.inputs.some(i => geometricDefault(i) === 'UV0' && !inputOf(node, i.name)),
    )
    .map(({ path }) => path)
}

/** Parts without coordinates (UV) that wear something which asks for them: all of a picture is one colour there. */
export const noCoordinates = needs('mapped', reading, (p, nodes) => ({
  rule: 'no coordinates',
  severity: 'warning',
  where: p.name,
  message:
    `${p.name} has no UV, but ${nodes.join(', ')} of ${p.material} places by it: ` +
    `all of the picture or pattern is one value there.`,
  fix: 'Unwrap the mesh, or place it from six sides (triplanarprojection) or by position',
}))
