import { findElement, type Element } from './document'
import { addNode, connect, setNumbers, splitPath } from './edit'
import { connectAcross } from './groups'

/**
 * Wires a node into an input by levels of their own, which take 0..1 to a span.
 * @param to path of the node with the input
 * @param span what 0 and 1 become, in the document's own numbers
 * @returns the new document and the path of the levels
 * @throws EditError where the ends do not fit
 */
export function wireByLevels(
  document: Element,
  from: string,
  to: string,
  input: string,
  span: { low: number; high: number },
  output?: string,
): { document: Element; levels: string } {
  const [group] = splitPath(to)
  const place = (path: string, axis: 'xpos' | 'ypos') => Number(findElement(document, path)?.attributes[axis] ?? 0)
  const { document: added, path } = addNode(
    document,
    group,
    'range',
    'float',
    place(to, 'xpos') - 1,
    +((place(from, 'ypos') + place(to, 'ypos')) / 2 + 0.4).toFixed(3),
  )
  const low = setNumbers(added, path, 'outlow', 'float', [span.low])
  const high = setNumbers(low, path, 'outhigh', 'float', [span.high])
  return { document: connect(connectAcross(high, from, path, 'in', output), path, to, input), levels: path }
}
