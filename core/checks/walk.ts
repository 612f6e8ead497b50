import { isNode, nameOf, type Element } from '../network/document'

/**
 * A place where a value ends: an input of a surface, or of a node that reads it as something else than a colour to
 * pass on.
 */
export interface Sink {
  path: string
  node: Element
  input: string
}

/** Nodes that hand on what they read, so that what they drive is what their source drives. */
const PASSING = new Set([
  'convert',
  'extract',
  'separate2',
  'separate3',
  'separate4',
  'mix',
  'add',
  'subtract',
  'multiply',
  'divide',
  'invert',
  'contrast',
  'remap',
  'range',
  'clamp',
  'smoothstep',
  'saturate',
  'hsvadjust',
  'power',
  'combine3',
  'luminance',
  'plus',
  'minus',
  'screen',
  'overlay',
  'difference',
])

/** What a node at the top of a document drives, followed through nodes that only adjust. */
export function sinksOf(document: Element, name: string, seen = new Set<string>()): Sink[] {
  if (seen.has(name)) return []
  seen.add(name)
  return document.children
    .filter(isNode)
    .flatMap(node =>
      node.children
        .filter(i => i.tag === 'input' && i.attributes.nodename === name)
        .flatMap((i): Sink[] =>
          PASSING.has(node.tag) && node.attributes.type !== 'surfaceshader' && nameOf(i) !== 'mix'
            ? sinksOf(document, nameOf(node), seen)
            : [{ path: nameOf(node), node, input: nameOf(i) }],
        ),
    )
}
