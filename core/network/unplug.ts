import { definitionsOf } from '../nodes/definitions'
import { COMPONENTS, formatValue } from '../nodes/types'
import { findElement, inputOf, type Element } from './document'
import { clearInput, definitionOf, setValue } from './edit'
import { isGroup } from './groups'

/**
 * Takes the wire out of an input. Where the node's category takes several types there, the input keeps its type: it
 * states the value that it has by itself, without which another signature would be read.
 */
export function unplug(document: Element, path: string, input: string): Element {
  const node = findElement(document, path)
  const type = node && inputOf(node, input)?.attributes.type
  if (!node || type === undefined || isGroup(node)) return clearInput(document, path, input)
  const bare = clearInput(document, path, input)
  const now = definitionOf(findElement(bare, path)!)?.inputs.find(i => i.name === input)
  const count = COMPONENTS[type]
  if (now === undefined || now.type === type || count === undefined) return bare
  const own = definitionsOf(node.tag)
    .flatMap(d => d.inputs)
    .find(i => i.name === input && i.type === type)
  return setValue(bare, path, input, type, own?.default || formatValue(type, new Array(count).fill(0)))
}
