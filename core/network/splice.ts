import { clearInput, connect, definitionOf, EditError, outputType } from './edit'
import { childNamed, inputOf, type Element } from './document'
import { wireBetween } from '../nodes/types'

/**
 * Puts a node into the wire that drives an input: what drove it drives the node's first fitting input instead (one
 * of the same type before one that needs a convert).
 * @throws EditError where there is no wire, or the node fits neither end
 */
export function insertOnWire(document: Element, node: string, target: string, input: string): Element {
  const n = childNamed(document, node)
  const wire = childNamed(document, target) && inputOf(childNamed(document, target)!, input)
  const from = wire?.attributes.nodename
  if (!n || from === undefined) throw new EditError(`there is no wire at ${input} of ${target}`)
  if (node === target || node === from) throw new EditError(`${node} stands at an end of this wire already`)
  const source = childNamed(document, from)
  const given = source ? outputType(source, wire!.attributes.output) : ''
  const free = (definitionOf(n)?.inputs ?? []).filter(i => inputOf(n, i.name)?.attributes.nodename === undefined)
  const best =
    free.find(i => wireBetween(given, i.type) === 'same') ??
    free.find(i => wireBetween(given, i.type) !== 'impossible')
  if (!best) throw new EditError(`${node} has no free input that takes ${given}`)
  return connect(
    connect(clearInput(document, target, input), from, node, best.name, wire!.attributes.output),
    node,
    target,
    input,
  )
}
