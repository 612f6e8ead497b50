import { COMPONENTS, formatValue, parseValue } from '../nodes/types'
import type { NodeDefinition } from '../nodes/definition'
import { definitionsOf, outputTypeOf } from '../nodes/definitions'
import { findElement, type Element } from './document'
import { changeElement, EditError } from './edit'

/** What is offered first. */
const ORDER = ['float', 'color3', 'vector3', 'vector2']
const rank = (type: string) => (ORDER.includes(type) ? ORDER.indexOf(type) : ORDER.length)

/** Output types that a category can give, the most usual first. */
export const typesOf = (category: string): string[] =>
  [...new Set(definitionsOf(category).map(outputTypeOf))].sort((a, b) => rank(a) - rank(b))

/** A value with as many components as another type has: one number stands for all, what is missing is 0, a fourth 1. */
function fitted(from: string, to: string, value: string): string | undefined {
  const v = parseValue(from, value)
  const wanted = COMPONENTS[to]
  if (!v || wanted === undefined) return undefined
  const numbers = Array.from({ length: wanted }, (_, k) =>
    v.length === 1 ? v.at(0)! : (v[k] ?? (k === 3 ? 1 : 0)),
  )
  return formatValue(to, numbers)
}

/**
 * Gives a node another output type. Its inputs are those of the definition that keeps most of what was stated: values
 * are fitted, wires stay (one that does not fit is a fault on the node), inputs that the type does not have go.
 * @throws EditError where its category has no such type
 */
export function retype(document: Element, path: string, type: string): Element {
  const node = findElement(document, path)
  const stated = node?.children.filter(c => c.tag === 'input') ?? []
  const candidates = definitionsOf(node?.tag ?? '').filter(d => outputTypeOf(d) === type)
  const kept = (d: (typeof candidates)[number]) =>
    stated.filter(i => d.inputs.some(x => x.name === i.attributes.name && x.type === i.attributes.type)).length
  const definition = candidates.sort((a, b) => kept(b) - kept(a)).at(0)
  if (!node || !definition) throw new EditError(`${node?.tag ?? path} does not come as ${type}`)
  return takeDefinition(document, path, definition)
}

/** Gives a node another definition of its category: values are fitted, wires stay, inputs that it does not have go. */
export function takeDefinition(document: Element, path: string, definition: NodeDefinition): Element {
  return changeElement(document, path, e => ({
    ...e,
    attributes: { ...e.attributes, type: outputTypeOf(definition) },
    children: e.children.flatMap(i => {
      if (i.tag !== 'input') return [i]
      const wanted = definition.inputs.find(x => x.name === i.attributes.name)?.type
      const was = i.attributes.type ?? 'float'
      if (wanted === undefined) return []
      if (wanted === was) return [i]
      const { value, ...rest } = i.attributes
      if (value === undefined) return [{ ...i, attributes: { ...rest, type: wanted } }]
      const fits = fitted(was, wanted, value)
      return fits === undefined ? [] : [{ ...i, attributes: { ...rest, type: wanted, value: fits } }]
    }),
  }))
}
