/** The displacement of a material: one for all of its layers, named by the material itself. */
import { childNamed, inputOf, nameOf, type Element } from './document'

/** Path of the node that displaces a material; undefined where nothing does. */
export function displacementOf(document: Element, material: string): string | undefined {
  const input = inputOf(childNamed(document, material) ?? document, 'displacementshader')
  if (!input) return undefined
  const { nodename, nodegraph, output } = input.attributes
  if (nodegraph === undefined) return nodename
  const outputs = childNamed(document, nodegraph)?.children.filter(c => c.tag === 'output') ?? []
  const named = output === undefined ? outputs[0] : outputs.find(o => nameOf(o) === output)
  const node = named?.attributes.nodename
  return node === undefined ? undefined : `${nodegraph}/${node}`
}

/** Whether a document has a material that is displaced. */
export const displaces = (document: Element): boolean =>
  document.children.some(c => c.tag === 'surfacematerial' && displacementOf(document, nameOf(c)) !== undefined)
